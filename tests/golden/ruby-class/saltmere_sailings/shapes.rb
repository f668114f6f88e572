# frozen_string_literal: true

module SaltmereSailings
  # What types of fields are declared with.
  module Shapes
    private

    def list(*types) = Type::List.new(*types)
  end
end
