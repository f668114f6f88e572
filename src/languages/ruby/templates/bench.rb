# frozen_string_literal: true

require_relative "classes/__file__"

SEPARATOR = "\x1e"

WAYS = [
  ->(line) { __module__.__encode__(__module__.__decode__(line)) },
  #: if named
  ->(line) { __module__.__decode__(line).to_json },
  ->(line) { JSON.generate({ "payload" => __module__.__decode__(line) })['{"payload":'.size...-1] },
  #: end
  #: if record
  lambda do |line|
    value = __module__.__decode__(line)
    again = __module__::__Root__.new(
      #: each fields
      __Field__: value.__Field__,
      #: end
    )
    raise "what was built is not equal to what was decoded" unless again == value

    __module__.__encode__(again)
  end,
  #: end
].freeze

FIELDS = %w[
  #: each fields
  __Field__
  #: end
].freeze

def changed(field, line, from)
  value = __module__.__decode__(line)
  other = __module__.__decode__(from)
  name = FIELDS[field.to_i]
  value.public_send("#{name}=", other.public_send(name))
  __module__.__encode__(value)
end

def said
  yield
rescue StandardError => e
  "!#{e.message.scrub.split(/[\s\x1e]+/).join(" ")}"
end

def answer(line)
  parts = line.split(SEPARATOR)
  return said { changed(*parts[1..]) } if parts.size == 4

  first, *others = WAYS.map { |way| said { way.call(line) } }
  [first, *others.map { |own| own == first ? "=" : own }].join(SEPARATOR)
end

$stdin.set_encoding(Encoding::UTF_8)
$stdout.sync = true
while (line = $stdin.gets)
  $stdout.write(answer(line.chomp), "\n")
end
