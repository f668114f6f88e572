# frozen_string_literal: true

module __module__
  # For a module that stands for a type which is no record.
  module TypeAlias
    #: if shapes
    include Shapes

    #: end
    # Reads JSON text; the options are those of JSON.parse.
    #: if allExact
    def from_json(text, **options) = read(JSON.parse(text, decimal_class: Decimal, **options))
    #: else
    def from_json(text, **options) = read(JSON.parse(text, **options))
    #: end

    # Writes a value of the type as JSON text; the options are those of JSON.generate.
    def generate(value, **options)
      raise TypeError, "expected #{name}, found #{value.inspect}" unless ruby?(value)

      JSON.generate(write(value), **options)
    end

    def read(json) = @type.read(json)

    def write(value) = @type.write(value)

    def json?(value) = @type.json?(value)

    def ruby?(value) = @type.ruby?(value)

    private

    # Declares the type.
    def stands_for(*types)
      @type = Type.any(*types)
    end
  end
end
