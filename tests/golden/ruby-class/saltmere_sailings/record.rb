# frozen_string_literal: true

module SaltmereSailings
  # A frozen value of named fields, which is an object in JSON.
  class Record
    Field = Struct.new(:name, :key, :type, :optional, :variable)
    private_constant :Field

    class << self
      include Shapes

      # Reads JSON text; the options are those of JSON.parse.
      def from_json(text, **options) = read(JSON.parse(text, **options))

      # Reads what JSON.parse makes of an object.
      def read(json)
        Type.mismatch("an object", json) unless json?(json)

        allocate.tap { |record| record.__send__(:read_fields, json) }
      end

      def write(record) = record

      def json?(value) = value.is_a?(Hash)

      def ruby?(value) = value.is_a?(self)

      def fields = @fields ||= equal?(Record) ? {} : superclass.fields.dup

      # The keys that its JSON may have of its own.
      def keys = @keys ||= fields.each_value.map(&:key)

      private

      def field(name, *types, key: name.to_s, optional: false)
        attr_reader name

        fields[name] = Field.new(name, key, Type.any(*types), optional, :"@#{name}")
      end
    end

    def initialize(**values)
      self.class.fields.each_value do |field|
        raise ArgumentError, "missing keyword: :#{field.name}" unless field.optional || values.key?(field.name)
      end
      values.each { |name, value| set_field(name, value) }
      freeze
    end

    # Whether the field is there, be it nil.
    def key?(name) = instance_variable_defined?(:"@#{name}")

    # A copy with the given fields changed.
    def with(**changes) = self.class.new(**to_h, **changes)

    # A copy without the given fields, which must be optional.
    def without(*names) = self.class.new(**to_h.except(*names))

    # The fields that are there.
    def to_h
      self.class.fields.keys.select { |name| key?(name) }.to_h { |name| [name, public_send(name)] }
    end

    def deconstruct_keys(names)
      fields = self.class.fields.keys
      (names ? fields & names : fields).to_h { |name| [name, public_send(name)] }
    end

    def ==(other) = other.class == self.class && other.to_h == to_h

    alias eql? ==

    def hash = [self.class, to_h].hash

    def inspect
      "#<#{self.class} #{to_h.map { |name, value| "#{name}=#{value.inspect}" }.join(", ")}>"
    end

    def as_json(*)
      json = {}
      self.class.fields.each_value do |field|
        value = instance_variable_get(field.variable)
        next if value.nil? && !instance_variable_defined?(field.variable)

        json[field.key] = field.type.write(value)
      end
      json
    end

    def to_json(*args) = as_json.to_json(*args)

    private

    def set_field(name, value)
      field = self.class.fields.fetch(name) { raise ArgumentError, "unknown keyword: :#{name}" }
      if field.type.ruby?(value)
        instance_variable_set(field.variable, value)
      elsif !(value.nil? && field.optional)
        raise TypeError, "#{name}: expected #{field.type.name}, found #{value.inspect}"
      end
    end

    def read_fields(json)
      self.class.fields.each_value { |field| read_field(field, json) }
      freeze
    end

    def read_field(field, json)
      value = json[field.key]
      if value.nil? && !json.key?(field.key)
        raise InvalidPayload, "missing" unless field.optional
      else
        instance_variable_set(field.variable, field.type.read(value))
      end
    rescue InvalidPayload => e
      raise e.within(field.key)
    end
  end
end
