internal interface ITuple
{
    object[] Items { get; set; }
}

internal sealed class TupleConverter : JsonConverter
{
    public override bool CanConvert(Type type)
    {
        return false;
    }

    public override object ReadJson(JsonReader reader, Type type, object existing, JsonSerializer serializer)
    {
        if (reader.TokenType == JsonToken.Null) return null;
        Type[] types = type.GetGenericArguments();
        string expected = "a list of " + types.Length;
        if (reader.TokenType != JsonToken.StartArray) throw Json.Unexpected(reader, expected);
        var items = new List<object>();
        for (Json.Next(reader); reader.TokenType != JsonToken.EndArray; Json.Next(reader))
        {
            if (items.Count == types.Length) throw Json.Unexpected(reader, expected);
            items.Add(Json.Read(reader, types[items.Count]));
        }
        if (items.Count != types.Length) throw Json.Unexpected(reader, expected);
        var tuple = (ITuple)Activator.CreateInstance(type);
        tuple.Items = items.ToArray();
        return tuple;
    }

    public override void WriteJson(JsonWriter writer, object value, JsonSerializer serializer)
    {
        writer.WriteStartArray();
        foreach (object item in ((ITuple)value).Items) Json.Write(writer, item);
        writer.WriteEndArray();
    }
}
