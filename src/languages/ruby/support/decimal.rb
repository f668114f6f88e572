# frozen_string_literal: true

module __module__
  # A number with more digits than a Float holds. What is computed with it is a Rational.
  class Decimal < Numeric
    # For JSON.parse: a Float where it holds all digits.
    def self.try_convert(text)
      float = text.to_f
      shortest = float.to_s
      text == shortest || digits(text) == digits(shortest) ? float : new(text)
    end

    def self.digits(text) = text[/[\d.]+/].to_s.delete(".").gsub(/\A0+|0+\z/, "")
    private_class_method :digits

    attr_reader :to_s

    alias inspect to_s

    def initialize(text)
      super()
      @to_s = text
      freeze
    end

    def to_f = to_s.to_f

    def to_r = to_s.to_r

    def to_i = to_r.to_i

    def to_json(*) = to_s

    def coerce(other) = [other.to_r, to_r]

    def +(other) = to_r + other

    def -(other) = to_r - other

    def *(other) = to_r * other

    def /(other) = to_r / other

    def <=>(other) = to_r <=> other

    def ==(other) = other.is_a?(Decimal) ? other.to_s == to_s : super

    alias eql? ==

    def hash = to_s.hash
  end
end
