# frozen_string_literal: true

module __module__
  # For a class of records whose subclasses are told apart by the word under a key.
  module Tagged
    def new(...)
      raise NoMethodError, "#{self} has subclasses to make" unless @words

      super
    end

    def read(json)
      return super unless json?(json)

      word = json[tag_key]
      return super if @words&.include?(word)

      subclass(word).read(json)
    end

    def keys = @keys ||= [tag_key, *super]

    def tag_key = @tag_key || superclass.tag_key

    def tag_name = @tag_name || superclass.tag_name

    def subclasses_by_word = @subclasses_by_word ||= {}

    private

    def subclass(word)
      words = @words || subclasses_by_word.keys
      subclasses_by_word.fetch(word) { Type.mismatch(words.map(&:inspect).join(" or "), word) }
    rescue InvalidPayload => e
      raise e.within(tag_key)
    end

    # Declares the key by which subclasses are told.
    def tagged_by(name, key: name.to_s)
      @tag_name = name
      @tag_key = key
    end

    # Declares the words of this subclass.
    def tag(*words)
      key = tag_key
      @words = words
      words.each { |word| superclass.subclasses_by_word[word] = self }
      return if words.size > 1

      word = words.first
      define_method(tag_name) { word }
      define_method(:as_json) { |*| { key => word }.merge(super()) }
    end
  end
end
