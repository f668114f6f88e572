//: if backed
private __Type__ __backing____start__;

//: end
__doc__
[JsonProperty(__attributes__)]
//: if backed
public __Type__ __Name__
{
    get { return __backing__; }
    set
    {
        if (__value__ != null && __value__ != __word__)
            throw new ArgumentException(__wrong__ + __value__);
        __backing__ = value;
    }
}
//: else
public __Type__ __Name__ { get; set; }
//: end
