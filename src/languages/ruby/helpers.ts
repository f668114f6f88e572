import type { Helper } from '../kit/helpers.js';

/** What generated Ruby may need beside its classes, inside their module. */
export const helpers: Readonly<Record<string, Helper>> = {
  ABSENT: {
    text: `# Stands for a key that is not there, where nil stands for null.
ABSENT = :absent`,
  },
  DecodeError: {
    text: `# A payload does not have the declared shape.
class DecodeError < StandardError
  # @return [String] JSON Pointer of the value
  attr_reader :path

  def initialize(expected, found, path = "")
    @expected = expected
    @found = found
    @path = path
    super("at #{path.empty? ? "the top" : path}: expected #{expected}, found #{found}")
  end

  # The same error, seen from the object or list around it.
  def within(step)
    token = step.to_s.gsub("~", "~0").gsub("/", "~1")
    DecodeError.new(@expected, @found, "/#{token}#{@path}")
  end
end`,
  },
  Read: {
    needs: ['DecodeError'],
    text: `# Reads values of parsed JSON, and refuses what is not as declared.
module Read
  ANYTHING = ->(value) { value }
  NULL = ->(value) { value.nil? ? nil : Read.refuse("null", value) }
  BOOLEAN = ->(value) { [true, false].include?(value) ? value : Read.refuse("true or false", value) }
  STRING = ->(value) { value.is_a?(String) ? value : Read.refuse("a string", value) }
  INTEGER = ->(value) { value.is_a?(Integer) ? value : Read.refuse("an integer", value) }
  FLOAT = ->(value) { value.is_a?(Numeric) ? value.to_f : Read.refuse("a number", value) }
  NUMBER = ->(value) { value.is_a?(Numeric) ? value : Read.refuse("a number", value) }

  module_function

  def object(value)
    value.is_a?(Hash) ? value : refuse("an object", value)
  end

  def required(fields, key, read)
    within(key) { fields.key?(key) ? read.call(fields[key]) : raise(DecodeError.new("a value", "nothing")) }
  end

  def optional(fields, key, read, absent = nil)
    fields.key?(key) ? required(fields, key, read) : absent
  end

  def nullable(read)
    ->(value) { value.nil? ? nil : read.call(value) }
  end

  def literal(expected)
    ->(value) { value == expected ? value : refuse(expected.inspect, value) }
  end

  def word(words)
    ->(value) { words.include?(value) ? value : refuse("a known word", value) }
  end

  def list(read)
    lambda do |value|
      refuse("a list", value) unless value.is_a?(Array)
      value.each_with_index.map { |item, i| within(i) { read.call(item) } }
    end
  end

  def tuple(*reads)
    lambda do |value|
      refuse("a list of #{reads.size}", value) unless value.is_a?(Array) && value.size == reads.size
      value.each_with_index.map { |item, i| within(i) { reads[i].call(item) } }
    end
  end

  def map(read)
    ->(value) { object(value).to_h { |key, member| [key, within(key) { read.call(member) }] } }
  end

  def within(step)
    yield
  rescue DecodeError => e
    raise e.within(step)
  end

  def refuse(expected, found)
    described =
      case found
      when nil then "null"
      when Hash then "an object"
      when Array then "a list"
      else found.inspect.then { |text| text.size > 40 ? "#{text[0, 39]}…" : text }
      end
    raise DecodeError.new(expected, described)
  end
end
private_constant :Read`,
  },
  only: {
    needs: ['Read'],
    text: `module Read
  # Refuses fields that are not known.
  def self.only(fields, *known)
    key, value = fields.except(*known).first
    within(key) { refuse("no such field", value) } unless key.nil?
  end
end`,
  },
  Write: {
    text: `# Turns records into what the JSON library writes.
module Write
  module_function

  def plain(value)
    case value
    when Array then value.map { |item| plain(item) }
    when Hash then value.transform_values { |member| plain(member) }
    else value.respond_to?(:to_fields) ? plain(value.to_fields) : value
    end
  end
end
private_constant :Write`,
  },
  WriteExact: {
    text: `# Writes JSON with all digits of decimals.
module WriteExact
  module_function

  def text(value)
    case value
    when BigDecimal then value.to_s
    when Array then "[#{value.map { |item| text(item) }.join(",")}]"
    when Hash then "{#{value.map { |key, member| "#{JSON.generate(key)}:#{text(member)}" }.join(",")}}"
    else JSON.generate(value)
    end
  end
end
private_constant :WriteExact`,
  },
};
