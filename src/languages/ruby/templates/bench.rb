# frozen_string_literal: true

require_relative "classes/__file__"

SEPARATOR = "\x1e"

def decoded(line) = __module__::__Root__.from_json(line)

#: if isOwn
def encoded(value) = value.to_json

# In an array of the caller's own, under settings of the caller's own.
def inside(value) = JSON.generate([value], space: " ").delete_prefix("[").delete_suffix("]")
#: else
def encoded(value) = __module__::__Root__.generate(value)

def inside(value) = __module__::__Root__.generate(value, space: " ")
#: end

WAYS = [
  ->(line) { encoded(decoded(line)) },
  ->(line) { encoded(__module__::__Root__.read(JSON.parse(line))) },
  ->(line) { inside(decoded(line)) },
  #: if record
  lambda do |line|
    value = decoded(line)
    there = FIELDS.select { |name| value.key?(name) }
    again = __module__::__Root__.new(**there.to_h { |name| [name, value.public_send(name)] })
    raise "what was built is not equal to what was decoded" unless again == value && again.hash == value.hash

    encoded(again)
  end,
  #: end
].freeze

#: if record
FIELDS = %i[
  #: each fields
  __Field__
  #: end
].freeze

def changed(field, line, from)
  other = decoded(from)
  name = FIELDS[field.to_i]
  value = decoded(line)
  encoded(other.key?(name) ? value.with(name => other.public_send(name)) : value.without(name))
end

#: end
def said
  yield
rescue StandardError => e
  "!#{e.message.scrub.split(/[\s\x1e]+/).join(" ")}"
end

def answer(line)
  #: if record
  parts = line.split(SEPARATOR)
  return said { changed(*parts[1..]) } if parts.size == 4

  #: end
  first, *others = WAYS.map { |way| said { way.call(line) } }
  [first, *others.map { |own| own == first ? "=" : own }].join(SEPARATOR)
end

$stdin.set_encoding(Encoding::UTF_8)
$stdout.sync = true
while (line = $stdin.gets)
  $stdout.write(answer(line.chomp), "\n")
end
