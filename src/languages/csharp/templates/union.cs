__doc__
[JsonConverter(typeof(__Union__Converter))]
public interface __Union__
{
}

//: each wrapped
[JsonConverter(typeof(__Union__Converter))]
public sealed class __Arm__ : __Union__, IHolder
{
    public __Arm__(__Type__ value)
    {
        Value = value;
    }

    public __Type__ Value { get; private set; }

    object IHolder.Held { get { return Value; } }
}

//: end
internal sealed class __Union__Converter : UnionConverter<__Union__>
{
    protected override __Union__ Read(JToken token)
    {
        //: each arms
        if (__test__)
            return __value__;
        //: end
        throw new JsonSerializationException(__expected__);
    }
}
