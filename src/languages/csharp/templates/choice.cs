__doc__
[JsonConverter(typeof(__Choice__Converter))]
//: if open
public sealed class __Choice__
{
    //: each words
    public static readonly __Choice__ __Name__ = new __Choice__(__word__);
    //: end

    public __Choice__(string word)
    {
        if (word == null) throw new ArgumentNullException("word");
        Word = word;
    }

    public string Word { get; private set; }

    public override bool Equals(object other)
    {
        return other is __Choice__ && ((__Choice__)other).Word == Word;
    }

    public override int GetHashCode()
    {
        return Word.GetHashCode();
    }

    public override string ToString()
    {
        return Word;
    }
}
//: else
public enum __Choice__
{
    //: each words
    __Name__,
    //: end
}
//: end

internal sealed class __Choice__Converter : WordConverter<__Choice__>
{
    private static readonly Dictionary<string, __Choice__> Words = new Dictionary<string, __Choice__>
    {
        //: each words
        { __word__, __Choice__.__Name__ },
        //: end
    };

    public __Choice__Converter() : base(Words)
    {
    }

    //: if open
    protected override string Word(__Choice__ value)
    {
        return value.Word;
    }

    protected override __Choice__ Other(string word)
    {
        return new __Choice__(word);
    }
    //: else
    protected override string Word(__Choice__ value)
    {
        switch (value)
        {
            //: each words
            case __Choice__.__Name__:
                return __word__;
            //: end
            default:
                throw new JsonSerializationException("there is no word for " + value);
        }
    }
    //: end
}
