# frozen_string_literal: true

module __module__
  # What types of fields are declared with.
  module Shapes
    private

    __shapes__
  end
end
