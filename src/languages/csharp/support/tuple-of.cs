/// <summary>A list of __size__ elements, each of a type of its own.</summary>
[JsonConverter(typeof(TupleConverter))]
public sealed class Tuple__size__<__letters__> : ITuple
{
    //: each elements
    /// <summary>Element __i__.</summary>
    public __Letter__ Item__i__ { get; set; }

    //: end
    object[] ITuple.Items
    {
        get { return new object[] { __items__ }; }
        set
        {
            //: each elements
            Item__i__ = (__Letter__)value[__k__];
            //: end
        }
    }
}
