# frozen_string_literal: true

module __module__
  # For a record that has more than its fields: what stands under other keys is in extra.
  module KeepsOthers
    attr_reader :extra

    def initialize(extra: {}, **values)
      type = self.class.others
      raise TypeError, "extra: expected #{type.name}, found #{extra.inspect}" unless type.ruby?(extra)

      @extra = extra
      super(**values)
    end

    def to_h = super.merge(extra: @extra)

    def deconstruct_keys(names) = names.nil? || names.include?(:extra) ? super.merge(extra: @extra) : super

    def as_json(*) = self.class.others.write(@extra).merge(super)

    private

    def read_fields(json)
      @extra = self.class.others.read(json.except(*self.class.keys))
      super
    end
    #: if reject

    def refuse_others(_json); end
    #: end
  end
end
