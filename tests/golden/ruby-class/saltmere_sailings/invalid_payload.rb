# frozen_string_literal: true

module SaltmereSailings
  # JSON that is not of the shape that was asked for.
  class InvalidPayload < JSON::ParserError
    def initialize(problem, path = "")
      @problem = problem
      @path = path
      super(path.empty? ? problem : "#{path}: #{problem}")
    end

    # The same error, seen from the object or list around it.
    def within(step) = InvalidPayload.new(@problem, "/#{step.to_s.gsub("~", "~0").gsub("/", "~1")}#{@path}")
  end
end
