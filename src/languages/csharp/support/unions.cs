/// <summary>Reads and writes the words of a choice.</summary>
internal abstract class WordConverter<T> : JsonConverter
{
    private readonly Dictionary<string, T> values;

    protected WordConverter(Dictionary<string, T> values)
    {
        this.values = values;
    }

    /// <summary>The word of a value.</summary>
    protected abstract string Word(T value);

    /// <summary>What another word becomes.</summary>
    protected virtual T Other(string word)
    {
        throw new JsonSerializationException("expected a known word, found " + word);
    }

    public override bool CanConvert(Type type)
    {
        return false;
    }

    public override object ReadJson(JsonReader reader, Type type, object existing, JsonSerializer serializer)
    {
        if (reader.TokenType == JsonToken.Null && (Nullable.GetUnderlyingType(type) != null || default(T) == null))
            return null;
        if (reader.TokenType != JsonToken.String) throw Json.Unexpected(reader, "a word");
        T value;
        return values.TryGetValue((string)reader.Value, out value) ? value : Other((string)reader.Value);
    }

    public override void WriteJson(JsonWriter writer, object value, JsonSerializer serializer)
    {
        writer.WriteValue(Word((T)value));
    }
}

/// <summary>An alternative of a union that is no record.</summary>
internal interface IHolder
{
    object Held { get; }
}

/// <summary>Looks at what tells records apart.</summary>
internal static class Tag
{
    internal static string Of(JToken token, string key)
    {
        JToken tag = token is JObject ? token[key] : null;
        return tag is JValue ? ((JValue)tag).Value as string : null;
    }
}

/// <summary>Tells the alternatives of a union apart.</summary>
internal abstract class UnionConverter<T> : JsonConverter
{
    protected abstract T Read(JToken token);

    protected static U As<U>(JToken token)
    {
        using (JsonReader reader = token.CreateReader()) return Json.Only<U>(reader);
    }

    public override bool CanConvert(Type type)
    {
        return false;
    }

    public override object ReadJson(JsonReader reader, Type type, object existing, JsonSerializer serializer)
    {
        if (reader.TokenType == JsonToken.Null) return null;
        string place = Json.Place(reader);
        DateParseHandling dates = reader.DateParseHandling;
        reader.DateParseHandling = DateParseHandling.None;
        try
        {
            return Read(Load(reader));
        }
        catch (JsonException error)
        {
            throw new JsonSerializationException("at " + place + ": " + error.Message, error);
        }
        finally
        {
            reader.DateParseHandling = dates;
        }
    }

    /// <summary>A value as a token; the library's own way refuses raw numbers.</summary>
    private static JToken Load(JsonReader reader)
    {
        switch (reader.TokenType)
        {
            case JsonToken.StartObject:
                var members = new JObject();
                for (Json.Next(reader); reader.TokenType != JsonToken.EndObject; Json.Next(reader))
                {
                    var key = (string)reader.Value;
                    Json.Next(reader);
                    members[key] = Load(reader);
                }
                return members;
            case JsonToken.StartArray:
                var list = new JArray();
                for (Json.Next(reader); reader.TokenType != JsonToken.EndArray; Json.Next(reader))
                    list.Add(Load(reader));
                return list;
            case JsonToken.Raw:
                return new JRaw(reader.Value);
            default:
                return new JValue(reader.Value);
        }
    }

    public override void WriteJson(JsonWriter writer, object value, JsonSerializer serializer)
    {
        Json.Write(writer, ((IHolder)value).Held);
    }
}
