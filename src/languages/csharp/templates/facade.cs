__doc__
public static class __Facade__
{
    /// <summary>Reads one payload from JSON text.</summary>
    /// <exception cref="JsonException">when it does not have the declared shape</exception>
    public static __Type__ Decode(string text)
    {
        //: if nullable
        return __Reader__.Decode<__Type__>(text);
        //: else
        __Type__ payload = __Reader__.Decode<__Type__>(text);
        if (payload == null)
            throw new JsonSerializationException("at the top: expected a value, found null");
        return payload;
        //: end
    }

    /// <summary>Writes one payload as JSON text.</summary>
    public static string Encode(__Type__ payload)
    {
        return Json.Encode(payload);
    }
}
