/// <summary>How the types of this namespace are read and written, whatever settings an application has.</summary>
internal static class Json
{
    /// <summary>Texts stay texts, and no key means anything to the library.</summary>
    internal static readonly JsonSerializer Serializer = JsonSerializer.Create(new JsonSerializerSettings
    {
        ContractResolver = new DefaultContractResolver(),
        DateParseHandling = DateParseHandling.None,
        MetadataPropertyHandling = MetadataPropertyHandling.Ignore,
        Converters = new List<JsonConverter> { new TextConverter(), new ScalarConverter() },
    });

    internal const int MostLevels = 2000;

    internal static T Decode<T>(string text)
    {
        using (var reader = new JsonTextReader(new StringReader(text)))
        {
            reader.DateParseHandling = DateParseHandling.None;
            return Only<T>(reader);
        }
    }

    /// <summary>What a reader holds, and nothing behind it.</summary>
    internal static T Only<T>(JsonReader reader)
    {
        reader.MaxDepth = MostLevels;
        Next(reader);
        var value = (T)Read(reader, typeof(T));
        if (reader.Read()) throw new JsonReaderException("there is more behind the payload");
        return value;
    }

    internal static string Encode<T>(T value)
    {
        var text = new StringWriter(CultureInfo.InvariantCulture);
        using (var writer = new JsonTextWriter(text)) Write(writer, value);
        return text.ToString();
    }

    internal static object Read(JsonReader reader, Type type)
    {
        if (ScalarConverter.Takes(type)) return ScalarConverter.Read(reader, type);
        return RecordShape.Has(type) ? RecordConverter.Read(reader, type) : Serializer.Deserialize(reader, type);
    }

    internal static void Write(JsonWriter writer, object value)
    {
        if (value == null) writer.WriteNull();
        else if (ScalarConverter.Takes(value.GetType())) ScalarConverter.Write(writer, value);
        else if (RecordShape.Has(value.GetType())) RecordConverter.Write(writer, value);
        else Serializer.Serialize(writer, value);
    }

    /// <summary>Goes on to the next token of a value.</summary>
    internal static void Next(JsonReader reader)
    {
        if (!reader.Read()) throw new JsonReaderException("the text ends before it is whole");
        if (reader.TokenType == JsonToken.Comment) throw new JsonReaderException("JSON has no comments");
        if (reader.Depth > MostLevels)
            throw new JsonReaderException("the text nests deeper than " + MostLevels + " levels");
    }

    internal static JsonSerializationException Unexpected(JsonReader reader, string expected)
    {
        return new JsonSerializationException(
            "at " + Place(reader) + ": expected " + expected + ", found " + Found(reader));
    }

    private static string Found(JsonReader reader)
    {
        switch (reader.TokenType)
        {
            case JsonToken.StartObject:
                return "an object";
            case JsonToken.StartArray:
                return "a list";
            case JsonToken.Null:
                return "null";
            case JsonToken.String:
                return "the text \"" + reader.Value + "\"";
            default:
                return Convert.ToString(reader.Value, CultureInfo.InvariantCulture);
        }
    }

    internal static string Place(JsonReader reader)
    {
        return reader.Path == "" ? "the top" : reader.Path;
    }
}

/// <summary>What may be absent, which is not the same as null.</summary>
public struct Field<T> : IField
{
    /// <summary>A field that is there, with a value that may be null.</summary>
    public Field(T value) : this()
    {
        Value = value;
        IsPresent = true;
    }

    /// <summary>Whether the key is there.</summary>
    public bool IsPresent { get; private set; }

    /// <summary>The value; what a type is by default where it is absent.</summary>
    public T Value { get; private set; }

    object IField.Held { get { return Value; } }

    public static implicit operator Field<T>(T value)
    {
        return new Field<T>(value);
    }

    public override string ToString()
    {
        return IsPresent ? Convert.ToString(Value, CultureInfo.InvariantCulture) : "absent";
    }
}

internal interface IField
{
    bool IsPresent { get; }

    object Held { get; }
}

/// <summary>A property of a class, and the key that it has.</summary>
internal sealed class Member
{
    internal readonly JsonProperty Property;
    internal readonly int Position;
    internal readonly bool IsField;

    /// <summary>The type of its values, whether or not it may be absent.</summary>
    internal readonly Type Type;

    internal Member(JsonProperty property, int position)
    {
        Property = property;
        Position = position;
        IsField = typeof(IField).IsAssignableFrom(property.PropertyType);
        Type = IsField ? property.PropertyType.GetGenericArguments()[0] : property.PropertyType;
    }

    internal bool IsRequired { get { return Property.Required != Required.Default; } }

    internal bool MayBeNull { get { return IsField || Property.Required == Required.AllowNull; } }
}

/// <summary>What the generated properties of a class say of its keys.</summary>
internal sealed class RecordShape
{
    private static readonly ConcurrentDictionary<Type, RecordShape> Known =
        new ConcurrentDictionary<Type, RecordShape>();

    internal readonly Func<object> Create;

    internal readonly IReadOnlyList<Member> Members;

    internal readonly Dictionary<string, Member> ByKey;

    /// <summary>The property of all other keys; null where there is none.</summary>
    internal readonly PropertyInfo Others;

    private RecordShape(Type type)
    {
        var contract = (JsonObjectContract)Json.Serializer.ContractResolver.ResolveContract(type);
        Create = contract.DefaultCreator;
        Members = contract.Properties.Where(each => !each.Ignored).Select((each, i) => new Member(each, i)).ToList();
        ByKey = Members.ToDictionary(each => each.Property.PropertyName);
        Others = type.GetProperties().FirstOrDefault(each => each.IsDefined(typeof(OtherKeysAttribute), false));
    }

    /// <summary>Whether a type is read and written by its properties.</summary>
    internal static bool Has(Type type)
    {
        return Of(type) != null;
    }

    internal static RecordShape Of(Type type)
    {
        return Known.GetOrAdd(type, each =>
            Json.Serializer.ContractResolver.ResolveContract(each).Converter is RecordConverter
                ? new RecordShape(each)
                : null);
    }
}

/// <summary>Marks the property that holds the keys that have none of their own.</summary>
[AttributeUsage(AttributeTargets.Property)]
internal sealed class OtherKeysAttribute : Attribute
{
}

/// <summary>Reads and writes a class by what its properties say, not by the settings of an application.</summary>
internal sealed class RecordConverter : JsonConverter
{
    public override bool CanConvert(Type type)
    {
        return false;
    }

    public override object ReadJson(JsonReader reader, Type type, object existing, JsonSerializer serializer)
    {
        return Read(reader, type);
    }

    internal static object Read(JsonReader reader, Type type)
    {
        if (reader.TokenType == JsonToken.Null) return null;
        if (reader.TokenType != JsonToken.StartObject) throw Json.Unexpected(reader, "an object");
        DateParseHandling dates = reader.DateParseHandling;
        //: if numbers
        FloatParseHandling fractions = reader.FloatParseHandling;
        //: end
        reader.DateParseHandling = DateParseHandling.None;
        try
        {
            return Members(reader, RecordShape.Of(type));
        }
        finally
        {
            reader.DateParseHandling = dates;
            //: if numbers
            reader.FloatParseHandling = fractions;
            //: end
        }
    }

    private static object Members(JsonReader reader, RecordShape shape)
    {
        object record = shape.Create();
        var found = new bool[shape.Members.Count];
        IDictionary others = null;
        for (Json.Next(reader); reader.TokenType != JsonToken.EndObject; Json.Next(reader))
        {
            var key = (string)reader.Value;
            Member member;
            if (shape.ByKey.TryGetValue(key, out member))
            {
                found[member.Position] = true;
                Set(reader, record, member, ValueOf(reader, member));
                continue;
            }
            if (shape.Others == null)
            {
                //: if reject
                throw new JsonSerializationException("at " + reader.Path + ": the schema does not know this key");
                //: else
                Json.Next(reader);
                reader.Skip();
                continue;
                //: end
            }
            others = others ?? (IDictionary)Activator.CreateInstance(shape.Others.PropertyType);
            //: if numbers
            reader.FloatParseHandling = NumberConverter.Reading(shape.Others.PropertyType);
            //: end
            Json.Next(reader);
            others[key] = Json.Read(reader, shape.Others.PropertyType.GetGenericArguments()[1]);
        }
        foreach (Member member in shape.Members)
        {
            if (member.IsRequired && !found[member.Position])
                throw new JsonSerializationException(
                    "at " + Json.Place(reader) + ": there is no " + member.Property.PropertyName);
        }
        if (others != null) shape.Others.SetValue(record, others, null);
        return record;
    }

    private static object ValueOf(JsonReader reader, Member member)
    {
        //: if numbers
        reader.FloatParseHandling = NumberConverter.Reading(member.Type);
        //: end
        Json.Next(reader);
        object value = Json.Read(reader, member.Type);
        if (member.IsField) return Activator.CreateInstance(member.Property.PropertyType, new[] { value });
        if (value == null && !member.MayBeNull) throw Json.Unexpected(reader, "a value");
        return value;
    }

    private static void Set(JsonReader reader, object record, Member member, object value)
    {
        try
        {
            member.Property.ValueProvider.SetValue(record, value);
        }
        catch (JsonException error)
        {
            string why = error.GetBaseException().Message;
            throw new JsonSerializationException("at " + Json.Place(reader) + ": " + why, error);
        }
    }

    public override void WriteJson(JsonWriter writer, object value, JsonSerializer serializer)
    {
        Write(writer, value);
    }

    internal static void Write(JsonWriter writer, object record)
    {
        RecordShape shape = RecordShape.Of(record.GetType());
        writer.WriteStartObject();
        foreach (Member member in shape.Members)
        {
            object value = member.Property.ValueProvider.GetValue(record);
            if (member.IsField)
            {
                var field = (IField)value;
                if (!field.IsPresent) continue;
                value = field.Held;
            }
            else if (value == null && !member.IsRequired) continue;
            if (value == null && !member.MayBeNull)
                throw new JsonSerializationException(
                    "there is no " + member.Property.PropertyName + " in " + record.GetType().Name);
            writer.WritePropertyName(member.Property.PropertyName);
            Json.Write(writer, value);
        }
        if (shape.Others != null)
        {
            var others = (IDictionary)shape.Others.GetValue(record, null) ?? new Dictionary<string, object>();
            foreach (DictionaryEntry each in others)
            {
                writer.WritePropertyName((string)each.Key);
                Json.Write(writer, each.Value);
            }
        }
        writer.WriteEndObject();
    }
}

/// <summary>Takes no number for text. The library writes texts itself: it asks for raw numbers as if they were some.</summary>
internal sealed class TextConverter : JsonConverter
{
    public override bool CanWrite { get { return false; } }

    public override bool CanConvert(Type type)
    {
        return type == typeof(string);
    }

    public override object ReadJson(JsonReader reader, Type type, object existing, JsonSerializer serializer)
    {
        return ScalarConverter.Read(reader, type);
    }

    public override void WriteJson(JsonWriter writer, object value, JsonSerializer serializer)
    {
        throw new NotSupportedException();
    }
}

/// <summary>Takes scalars only for what they are: no number for text, no text for a number.</summary>
internal sealed class ScalarConverter : JsonConverter
{
    public override bool CanConvert(Type type)
    {
        return Takes(type);
    }

    private static readonly Dictionary<Type, string> Names = new Dictionary<Type, string>
    {
        { typeof(string), "text" },
        { typeof(bool), "true or false" },
        { typeof(int), "a 32-bit integer" },
        { typeof(long), "a 64-bit integer" },
        { typeof(double), "a number" },
    };

    internal static bool Takes(Type type)
    {
        return Names.ContainsKey(Nullable.GetUnderlyingType(type) ?? type);
    }

    public override object ReadJson(JsonReader reader, Type type, object existing, JsonSerializer serializer)
    {
        return Read(reader, type);
    }

    internal static object Read(JsonReader reader, Type type)
    {
        Type plain = Nullable.GetUnderlyingType(type) ?? type;
        if (reader.TokenType == JsonToken.Null && (plain != type || type == typeof(string))) return null;
        if (plain == typeof(string) && reader.TokenType == JsonToken.String) return reader.Value;
        if (plain == typeof(bool) && reader.TokenType == JsonToken.Boolean) return reader.Value;
        double fraction;
        if (plain == typeof(double) && IsNumber(reader) && Fraction(reader, out fraction)) return fraction;
        if ((plain == typeof(long) || plain == typeof(int)) && IsNumber(reader))
        {
            long whole;
            bool isWhole = Whole(reader, out whole);
            if (isWhole && plain == typeof(long)) return whole;
            if (isWhole && whole >= int.MinValue && whole <= int.MaxValue) return (int)whole;
        }
        throw Json.Unexpected(reader, Names[plain]);
    }

    private static bool IsNumber(JsonReader reader)
    {
        return reader.TokenType == JsonToken.Integer || reader.TokenType == JsonToken.Float
            || reader.TokenType == JsonToken.Raw;
    }

    private static bool Fraction(JsonReader reader, out double fraction)
    {
        if (reader.Value is double || reader.Value is decimal || reader.Value is long)
        {
            fraction = Convert.ToDouble(reader.Value, CultureInfo.InvariantCulture);
            return true;
        }
        string text = Convert.ToString(reader.Value, CultureInfo.InvariantCulture);
        // Older frameworks throw for what is too large, newer ones say that it is infinite.
        return double.TryParse(text, NumberStyles.Float, CultureInfo.InvariantCulture, out fraction)
            && !double.IsInfinity(fraction);
    }

    /// <summary>1.0 and 1e2 are whole numbers too.</summary>
    private static bool Whole(JsonReader reader, out long whole)
    {
        whole = 0;
        if (reader.Value is long)
        {
            whole = (long)reader.Value;
            return true;
        }
        if (reader.TokenType == JsonToken.Integer) return false;
        double value;
        if (!Fraction(reader, out value)) return false;
        if (Math.Floor(value) != value || Math.Abs(value) > 9007199254740991) return false;
        whole = (long)value;
        return true;
    }

    public override void WriteJson(JsonWriter writer, object value, JsonSerializer serializer)
    {
        Write(writer, value);
    }

    internal static void Write(JsonWriter writer, object value)
    {
        if (value is double && (double.IsNaN((double)value) || double.IsInfinity((double)value)))
            throw new JsonSerializationException("JSON has no number for " + value);
        writer.WriteValue(value);
    }
}
