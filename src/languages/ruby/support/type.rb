# frozen_string_literal: true

module __module__
  # What a field may hold: how that is told in JSON and in Ruby, and how the one becomes the other.
  class Type
    def read(value) = json?(value) ? value : mismatch(value)

    def ruby?(value) = json?(value)

    def write(value) = value

    def mismatch(value) = Type.mismatch(name, value)

    def self.mismatch(expected, value)
      found =
        case value
        when Hash then "an object"
        when Array then "a list"
        when nil then "null"
        else value.inspect[0, 60]
        end
      raise InvalidPayload, "expected #{expected}, found #{found}"
    end

    #: if any
    # The type of values of any of these types; a class of Ruby stands for its type.
    def self.any(*types)
      types = types.map { |type| SCALARS.fetch(type, type) }
      types.one? ? types.first : Any.new(types)
    end
    #: else
    # The type that a class of Ruby stands for.
    def self.any(type) = SCALARS.fetch(type, type)
    #: end

    #: if anything
    class Anything < Type
      def name = "anything"

      def json?(_value) = true
    end

    #: end
    #: if null
    class Null < Type
      def name = "null"

      def json?(value) = value.nil?
    end

    #: end
    #: if boolean
    class Boolean < Type
      def name = "true or false"

      def json?(value) = value.equal?(true) || value.equal?(false)
    end

    #: end
    #: if text
    class Text < Type
      def name = "a string"

      def json?(value) = value.is_a?(String) && value.valid_encoding?
    end

    #: end
    #: if words
    class Words < Type
      def initialize(words)
        super()
        @words = words
      end

      def name = @words.map(&:inspect).join(" or ")

      def json?(value) = @words.include?(value)
    end

    #: end
    #: if integer
    class Whole < Type
      def name = "an integer"

      # 1.0 and 1e2 are integers too; from 2**53 on a Float does not say which.
      def json?(value) = value.is_a?(Integer) || (value.is_a?(Float) && value.abs < 2**53 && value.to_i == value)

      def ruby?(value) = value.is_a?(Integer)

      def read(value) = super.to_i
    end

    #: end
    #: if float
    class Real < Type
      def name = "a number"

      def json?(value) = value.is_a?(Numeric) && value.to_f.finite?

      def ruby?(value) = value.is_a?(Float) && value.finite?

      def read(value) = super.to_f
    end

    #: end
    #: if exact
    # A Float where it holds all digits, and an Integer or a Decimal where it does not.
    class Exact < Type
      def name = "a number"

      def json?(value) = value.is_a?(Numeric)

      def ruby?(value) = value.is_a?(Integer) || value.is_a?(Decimal) || (value.is_a?(Float) && value.finite?)

      def read(value) = super.is_a?(Integer) && value.abs <= 2**53 ? value.to_f : value
    end

    #: end
    #: if time
    class Moment < Type
      RFC3339 = /\A(\d{4})-(\d\d)-(\d\d)T([01]\d|2[0-3]):([0-5]\d):([0-5]\d(?:\.\d+)?)
                (Z|[+-](?:[01]\d|2[0-3]):[0-5]\d)\z/x

      def name = "a date-time"

      def json?(value) = value.is_a?(String) && value.match?(RFC3339)

      def ruby?(value) = value.is_a?(Time)

      # Time.iso8601 takes text without an offset, and three times as long in Ruby 3.1.
      def read(value)
        *date, hour, minute, second, zone = RFC3339.match(super).captures
        mismatch(value) unless Date.valid_date?(*date.map(&:to_i))

        Time.new(*date, hour, minute, second.to_r, zone)
      end

      def write(value) = value.subsec.zero? ? value.iso8601 : value.iso8601(9).sub(/0+(?=Z|[+-]\d\d:\d\d\z)/, "")
    end

    #: end
    #: if date
    class Day < Type
      ISO8601 = /\A(\d{4})-(\d\d)-(\d\d)\z/

      def name = "a date"

      def json?(value) = value.is_a?(String) && value.match?(ISO8601)

      def ruby?(value) = value.instance_of?(Date)

      def read(value)
        date = ISO8601.match(super).captures.map(&:to_i)
        Date.valid_date?(*date) ? Date.new(*date) : mismatch(value)
      end

      def write(value) = value.iso8601
    end

    #: end
    #: if any
    class Any < Type
      def initialize(types)
        super()
        @types = types
      end

      def name = @types.map(&:name).join(" or ")

      def json?(value) = @types.any? { |type| type.json?(value) }

      def ruby?(value) = @types.any? { |type| type.ruby?(value) }

      def read(value) = (@types.find { |type| type.json?(value) } || mismatch(value)).read(value)

      def write(value) = @types.find { |type| type.ruby?(value) }.write(value)
    end

    #: end
    #: if list
    class List < Type
      def initialize(*types)
        super()
        @type = Type.any(*types)
      end

      def name = "a list"

      def json?(value) = value.is_a?(Array)

      def ruby?(value) = value.is_a?(Array) && value.all? { |item| @type.ruby?(item) }

      def read(value)
        index = -1
        super.map do |item|
          index += 1
          @type.read(item)
        end
      rescue InvalidPayload => e
        raise index.negative? ? e : e.within(index)
      end

      def write(value) = value.map { |item| @type.write(item) }
    end

    #: end
    #: if tuple
    class Tuple < Type
      def initialize(types)
        super()
        @types = types.map { |type| Type.any(type) }
      end

      def name = "a list of #{@types.size}"

      def json?(value) = value.is_a?(Array)

      def ruby?(value) = size?(value) && value.zip(@types).all? { |item, type| type.ruby?(item) }

      def read(value)
        mismatch(value) unless size?(value)

        value.each_with_index.map do |item, index|
          @types[index].read(item)
        rescue InvalidPayload => e
          raise e.within(index)
        end
      end

      def write(value) = value.zip(@types).map { |item, type| type.write(item) }

      private

      def size?(value) = value.is_a?(Array) && value.size == @types.size
    end

    #: end
    #: if map
    class Map < Type
      def initialize(*types)
        super()
        @type = Type.any(*types)
      end

      def name = "an object"

      def json?(value) = value.is_a?(Hash)

      def ruby?(value)
        value.is_a?(Hash) && value.all? { |key, item| key.is_a?(String) && @type.ruby?(item) }
      end

      def read(value)
        key = nil
        super.to_h do |name, item|
          key = name
          [name, @type.read(item)]
        end
      rescue InvalidPayload => e
        raise key ? e.within(key) : e
      end

      def write(value) = value.transform_values { |item| @type.write(item) }
    end

    #: end
    #: if byKey
    # One of several records, told by a key of its own.
    class ByKey < Type
      def initialize(records)
        super()
        @records = records
      end

      def name = "an object with #{@records.keys.map(&:inspect).join(" or ")}"

      def json?(value) = value.is_a?(Hash)

      def ruby?(value) = @records.each_value.any? { |record| record.ruby?(value) }

      def read(value) = (record_of(super) || mismatch(value)).read(value)

      private

      def record_of(value) = @records.find { |key, _| value.key?(key) }&.last
    end

    #: end
    #: if byTag
    # One of several records, told by the word under a key.
    class ByTag < ByKey
      def initialize(tag, records)
        super(records)
        @tag = tag
      end

      def name = @records.keys.map(&:inspect).join(" or ")

      private

      def record_of(value)
        @records.fetch(value[@tag]) { |word| mismatch(word) }
      rescue InvalidPayload => e
        raise e.within(@tag)
      end
    end

    #: end
    #: if later
    # A type that is declared further on.
    class Later < Type
      def initialize(&type)
        super()
        @declared = type
      end

      def name = type.name

      def json?(value) = type.json?(value)

      def ruby?(value) = type.ruby?(value)

      def read(value) = type.read(value)

      def write(value) = type.write(value)

      private

      def type = @type ||= @declared.call
    end

    #: end
    __scalars__
  end
  #: if hasConstants

  #: each constants
  __name__ = Type::__type__.new
  #: end
  #: end
end
