import type { Helper } from '../kit/helpers.js';

/** What generated C# may need beside its classes. Each stands only where something uses it. */
export const helpers: Readonly<Record<string, Helper>> = {
  StrictConverter: {
    imports: ['System', 'Newtonsoft.Json', 'System.Globalization'],
    text: `/// <summary>Takes scalars only for what they are: no number for text, no text for a number.</summary>
internal sealed class StrictConverter : JsonConverter
{
    public override bool CanWrite { get { return false; } }

    public override bool CanConvert(Type type)
    {
        Type plain = Nullable.GetUnderlyingType(type) ?? type;
        return plain == typeof(string) || plain == typeof(bool) || plain == typeof(int) || plain == typeof(long)
            || plain == typeof(double);
    }

    public override object ReadJson(JsonReader reader, Type type, object existing, JsonSerializer serializer)
    {
        Type plain = Nullable.GetUnderlyingType(type) ?? type;
        bool mayBeNull = plain != type || type == typeof(string);
        if (reader.TokenType == JsonToken.Null && mayBeNull) return null;
        if (plain == typeof(string) && reader.TokenType == JsonToken.String) return reader.Value;
        if (plain == typeof(bool) && reader.TokenType == JsonToken.Boolean) return reader.Value;
        if (plain == typeof(double))
        {
            string text = reader.TokenType == JsonToken.Raw ? (string)reader.Value : null;
            if (text != null) return double.Parse(text, NumberStyles.Float, CultureInfo.InvariantCulture);
            if (reader.TokenType == JsonToken.Float || reader.TokenType == JsonToken.Integer)
                return Convert.ToDouble(reader.Value, CultureInfo.InvariantCulture);
        }
        if (reader.TokenType == JsonToken.Integer && reader.Value is long)
        {
            long value = (long)reader.Value;
            if (plain == typeof(long)) return value;
            if (plain == typeof(int) && value >= int.MinValue && value <= int.MaxValue) return (int)value;
        }
        string found = reader.TokenType.ToString().ToLowerInvariant();
        throw new JsonSerializationException(
            "at " + (reader.Path == "" ? "the top" : reader.Path) + ": expected " + plain.Name + ", found " + found + " " + reader.Value);
    }

    public override void WriteJson(JsonWriter writer, object value, JsonSerializer serializer)
    {
        throw new NotSupportedException();
    }
}`,
  },
  Words: {
    imports: ['System', 'Newtonsoft.Json', 'System.Collections.Generic'],
    text: `/// <summary>Reads and writes the words of a choice.</summary>
internal sealed class WordConverter<T> : JsonConverter
{
    private readonly Dictionary<string, T> values;
    private readonly Func<T, string> word;
    private readonly Func<string, T> other;

    /// <param name="other">what another word becomes; null where there is no other</param>
    internal WordConverter(Dictionary<string, T> values, Func<T, string> word, Func<string, T> other)
    {
        this.values = values;
        this.word = word;
        this.other = other;
    }

    public override bool CanConvert(Type type)
    {
        return (Nullable.GetUnderlyingType(type) ?? type) == typeof(T);
    }

    public override object ReadJson(JsonReader reader, Type type, object existing, JsonSerializer serializer)
    {
        T value;
        if (reader.TokenType == JsonToken.Null) return null;
        if (reader.TokenType == JsonToken.String)
        {
            if (values.TryGetValue((string)reader.Value, out value)) return value;
            if (other != null) return other((string)reader.Value);
        }
        throw new JsonSerializationException("at " + reader.Path + ": expected a known word, found " + reader.Value);
    }

    public override void WriteJson(JsonWriter writer, object value, JsonSerializer serializer)
    {
        writer.WriteValue(word((T)value));
    }
}`,
  },
  Union: {
    imports: ['System', 'Newtonsoft.Json', 'Newtonsoft.Json.Linq'],
    text: `/// <summary>An alternative of a union that is no record.</summary>
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
internal sealed class UnionConverter<T> : JsonConverter
{
    private readonly Func<JToken, JsonSerializer, T> read;

    internal UnionConverter(Func<JToken, JsonSerializer, T> read)
    {
        this.read = read;
    }

    public override bool CanConvert(Type type)
    {
        return type == typeof(T) || (typeof(T).IsAssignableFrom(type) && typeof(IHolder).IsAssignableFrom(type));
    }

    public override object ReadJson(JsonReader reader, Type type, object existing, JsonSerializer serializer)
    {
        if (reader.TokenType == JsonToken.Null) return null;
        string path = reader.Path;
        try
        {
            return read(Load(reader), serializer);
        }
        catch (JsonException error)
        {
            throw new JsonSerializationException("at " + path + ": " + error.Message, error);
        }
    }

    /// <summary>A value as a token; the library's own way refuses raw numbers.</summary>
    private static JToken Load(JsonReader reader)
    {
        switch (reader.TokenType)
        {
            case JsonToken.StartObject:
                var members = new JObject();
                for (Next(reader); reader.TokenType != JsonToken.EndObject; Next(reader))
                {
                    string key = (string)reader.Value;
                    Next(reader);
                    members[key] = Load(reader);
                }
                return members;
            case JsonToken.StartArray:
                var list = new JArray();
                for (Next(reader); reader.TokenType != JsonToken.EndArray; Next(reader)) list.Add(Load(reader));
                return list;
            case JsonToken.Raw:
                return new JRaw(reader.Value);
            default:
                return new JValue(reader.Value);
        }
    }

    private static void Next(JsonReader reader)
    {
        if (!reader.Read()) throw new JsonReaderException("the text ends before it is whole");
        if (reader.Depth > 2000) throw new JsonReaderException("the text nests deeper than 2000 levels");
    }

    public override void WriteJson(JsonWriter writer, object value, JsonSerializer serializer)
    {
        var holder = value as IHolder;
        serializer.Serialize(writer, holder == null ? value : holder.Held);
    }
}`,
  },
  Number: {
    imports: ['System', 'Newtonsoft.Json', 'Newtonsoft.Json.Linq'],
    text: `/// <summary>A number with all its digits, as JSON writes it, for those that neither long nor double holds.</summary>
[JsonConverter(typeof(NumberConverter))]
public sealed class Number
{
    /// <summary>Makes a number of its text.</summary>
    public Number(string text)
    {
        Text = text;
    }

    /// <summary>The number as JSON writes it.</summary>
    public string Text { get; private set; }
}

internal sealed class NumberConverter : JsonConverter
{
    public override bool CanConvert(Type type)
    {
        return type == typeof(Number);
    }

    public override object ReadJson(JsonReader reader, Type type, object existing, JsonSerializer serializer)
    {
        if (reader.TokenType == JsonToken.Null) return null;
        if (reader.TokenType == JsonToken.Raw || reader.TokenType == JsonToken.Integer)
            return new Number(Convert.ToString(reader.Value, System.Globalization.CultureInfo.InvariantCulture));
        throw new JsonSerializationException("at " + reader.Path + ": expected a number, found " + reader.Value);
    }

    public override void WriteJson(JsonWriter writer, object value, JsonSerializer serializer)
    {
        writer.WriteRawValue(((Number)value).Text);
    }
}`,
  },
  ExactJson: {
    imports: [
      'System',
      'System.Collections.Generic',
      'System.Globalization',
      'Newtonsoft.Json',
      'Newtonsoft.Json.Linq',
    ],
    needs: ['Number'],
    text: `/// <summary>Reads JSON with numbers that long does not hold as raw text, so that no digit is lost.</summary>
internal sealed class ExactJson
{
    private readonly string text;
    private int at;
    private int depth;

    private ExactJson(string text)
    {
        this.text = text;
    }

    /// <exception cref="JsonReaderException">when the text is not JSON</exception>
    internal static JToken Parse(string text)
    {
        var json = new ExactJson(text);
        JToken value = json.Value();
        json.Space();
        if (json.at < text.Length) throw json.Error();
        return value;
    }

    private JToken Value()
    {
        switch (Peek())
        {
            case '{':
                var members = new JObject();
                Each('}', () =>
                {
                    Space();
                    string key = (string)((JValue)Scalar()).Value;
                    Take(':');
                    members[key] = Value();
                });
                return members;
            case '[':
                var list = new JArray();
                Each(']', () => list.Add(Value()));
                return list;
            default:
                return Scalar();
        }
    }

    private void Each(char close, Action part)
    {
        at++;
        if (++depth > 2000) throw new JsonReaderException("the text nests deeper than 2000 levels");
        if (Peek() == close) at++;
        else
        {
            for (part(); Peek() == ','; part()) at++;
            Take(close);
        }
        depth--;
    }

    private JToken Scalar()
    {
        int start = at;
        if (Peek() == '"')
        {
            start = at;
            for (at++; at < text.Length && text[at] != '"'; at++)
                if (text[at] == '\\\\') at++;
            at++;
            if (at > text.Length) throw Error();
            return new JValue(Literal(text.Substring(start, at - start)));
        }
        start = at;
        while (at < text.Length && ",:]} \\t\\r\\n".IndexOf(text[at]) < 0) at++;
        string word = text.Substring(start, at - start);
        if (word == "null") return new JValue((object)null);
        if (word == "true" || word == "false") return new JValue(word == "true");
        long whole;
        if (long.TryParse(word, NumberStyles.AllowLeadingSign, CultureInfo.InvariantCulture, out whole) && word != "-0")
            return new JValue(whole);
        double ignored;
        if (word == "" || !double.TryParse(word.Length > 300 ? "0" : word, NumberStyles.Float, CultureInfo.InvariantCulture, out ignored) && word.IndexOfAny(new[] { 'e', 'E' }) < 0)
            throw Error();
        return new JRaw(word);
    }

    private static string Literal(string quoted)
    {
        using (var reader = new JsonTextReader(new System.IO.StringReader(quoted)) { DateParseHandling = DateParseHandling.None })
        {
            reader.Read();
            return (string)reader.Value;
        }
    }

    private void Take(char sign)
    {
        if (Peek() != sign) throw Error();
        at++;
    }

    private char Peek()
    {
        Space();
        return at < text.Length ? text[at] : '\\0';
    }

    private void Space()
    {
        while (at < text.Length && " \\t\\r\\n".IndexOf(text[at]) >= 0) at++;
    }

    private JsonReaderException Error()
    {
        return new JsonReaderException("this is not JSON at character " + at);
    }
}`,
  },
};

/** A list of fixed length, each position of a type of its own. */
export function tuple(size: number): string {
  const letters = 'ABCDEFGH'.slice(0, size).split('');
  const type = `Tuple${size}<${letters.join(', ')}>`;
  return `/// <summary>A list of ${size} elements, each of a type of its own.</summary>
[JsonConverter(typeof(TupleConverter))]
public sealed class ${type} : ITuple
{
${letters.map((letter, i) => `    /// <summary>Element ${i + 1}.</summary>\n    public ${letter} Item${i + 1} { get; set; }`).join('\n\n')}

    object[] ITuple.Items
    {
        get { return new object[] { ${letters.map((_, i) => `Item${i + 1}`).join(', ')} }; }
        set
        {
${letters.map((letter, i) => `            Item${i + 1} = (${letter})value[${i}];`).join('\n')}
        }
    }
}`;
}

export const tupleConverter = `internal interface ITuple
{
    object[] Items { get; set; }
}

internal sealed class TupleConverter : JsonConverter
{
    public override bool CanConvert(Type type)
    {
        return typeof(ITuple).IsAssignableFrom(type);
    }

    public override object ReadJson(JsonReader reader, Type type, object existing, JsonSerializer serializer)
    {
        if (reader.TokenType == JsonToken.Null) return null;
        Type[] types = type.GetGenericArguments();
        if (reader.TokenType != JsonToken.StartArray)
            throw new JsonSerializationException("at " + reader.Path + ": expected a list of " + types.Length);
        var items = new object[types.Length];
        int i = 0;
        for (reader.Read(); reader.TokenType != JsonToken.EndArray; reader.Read(), i++)
        {
            if (i == types.Length) break;
            items[i] = serializer.Deserialize(reader, types[i]);
        }
        if (i != types.Length || reader.TokenType != JsonToken.EndArray)
            throw new JsonSerializationException("at " + reader.Path + ": expected a list of " + types.Length);
        var tuple = (ITuple)Activator.CreateInstance(type);
        tuple.Items = items;
        return tuple;
    }

    public override void WriteJson(JsonWriter writer, object value, JsonSerializer serializer)
    {
        serializer.Serialize(writer, ((ITuple)value).Items);
    }
}`;
