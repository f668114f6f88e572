# frozen_string_literal: true

module SaltmereSailings
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

    # The type of values of any of these types; a class of Ruby stands for its type.
    def self.any(*types)
      types = types.map { |type| SCALARS.fetch(type, type) }
      types.one? ? types.first : Any.new(types)
    end

    class Null < Type
      def name = "null"

      def json?(value) = value.nil?
    end

    class Boolean < Type
      def name = "true or false"

      def json?(value) = value.equal?(true) || value.equal?(false)
    end

    class Text < Type
      def name = "a string"

      def json?(value) = value.is_a?(String) && value.valid_encoding?
    end

    class Whole < Type
      def name = "an integer"

      # 1.0 and 1e2 are integers too; from 2**53 on a Float does not say which.
      def json?(value) = value.is_a?(Integer) || (value.is_a?(Float) && value.abs < 2**53 && value.to_i == value)

      def ruby?(value) = value.is_a?(Integer)

      def read(value) = super.to_i
    end

    class Real < Type
      def name = "a number"

      def json?(value) = value.is_a?(Numeric) && value.to_f.finite?

      def ruby?(value) = value.is_a?(Float) && value.finite?

      def read(value) = super.to_f
    end

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

    SCALARS = {
      nil => Null.new,
      String => Text.new,
      Integer => Whole.new,
      Float => Real.new,
      Time => Moment.new
    }.freeze
  end

  BOOLEAN = Type::Boolean.new
end
