/// <summary>A number with all its digits, as JSON writes it, for those that neither long nor double holds.</summary>
[JsonConverter(typeof(NumberConverter))]
public sealed class Number
{
    /// <summary>Makes a number of its text.</summary>
    /// <exception cref="FormatException">when JSON has no such number</exception>
    public Number(string text)
    {
        if (!NumberText.IsNumber(text)) throw new FormatException("this is no number of JSON: " + text);
        Text = text;
    }

    /// <summary>The number as JSON writes it.</summary>
    public string Text { get; private set; }

    public override bool Equals(object other)
    {
        return other is Number && ((Number)other).Text == Text;
    }

    public override int GetHashCode()
    {
        return Text.GetHashCode();
    }

    public override string ToString()
    {
        return Text;
    }
}

/// <summary>What JSON takes for a number.</summary>
internal static class NumberText
{
    private static readonly Regex Form = new Regex(@"^-?(0|[1-9][0-9]*)(\.[0-9]+)?([eE][-+]?[0-9]+)?\z");

    internal static bool IsNumber(string text)
    {
        return Form.IsMatch(text);
    }
}

internal sealed class NumberConverter : JsonConverter
{
    /// <summary>How the library reads the fractions of a type: as decimals, where all their digits count.</summary>
    internal static FloatParseHandling Reading(Type type)
    {
        return Counts(type) ? FloatParseHandling.Decimal : FloatParseHandling.Double;
    }

    private static bool Counts(Type type)
    {
        return type == typeof(Number) || type.GetGenericArguments().Any(Counts);
    }

    public override bool CanConvert(Type type)
    {
        return false;
    }

    public override object ReadJson(JsonReader reader, Type type, object existing, JsonSerializer serializer)
    {
        if (reader.TokenType == JsonToken.Null) return null;
        string text = Convert.ToString(reader.Value, CultureInfo.InvariantCulture);
        if (reader.TokenType == JsonToken.String || !NumberText.IsNumber(text))
            throw Json.Unexpected(reader, "a number");
        return new Number(text);
    }

    public override void WriteJson(JsonWriter writer, object value, JsonSerializer serializer)
    {
        writer.WriteRawValue(((Number)value).Text);
    }
}

/// <summary>Reads JSON with numbers that long does not hold as raw text, so that no digit is lost.</summary>
internal sealed class ExactJson
{
    private readonly string text;
    private int at;
    private int depth;

    private ExactJson(string text)
    {
        this.text = text;
    }

    internal static T Decode<T>(string text)
    {
        using (JsonReader reader = Parse(text).CreateReader()) return Json.Only<T>(reader);
    }

    /// <exception cref="JsonReaderException">when the text is not JSON</exception>
    private static JToken Parse(string text)
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
                    string key = Text();
                    Take(':');
                    members[key] = Value();
                });
                return members;
            case '[':
                var list = new JArray();
                Each(']', () => list.Add(Value()));
                return list;
            case '"':
                return new JValue(Text());
            default:
                return Word();
        }
    }

    private void Each(char close, Action part)
    {
        at++;
        if (++depth > Json.MostLevels)
            throw new JsonReaderException("the text nests deeper than " + Json.MostLevels + " levels");
        if (Peek() == close) at++;
        else
        {
            for (part(); Peek() == ','; part()) at++;
            Take(close);
        }
        depth--;
    }

    private string Text()
    {
        if (Peek() != '"') throw Error();
        int start = at++;
        bool isPlain = true;
        for (; at < text.Length && text[at] != '"'; at++)
        {
            if (text[at] < ' ') throw Error();
            if (text[at] != '\\') continue;
            isPlain = false;
            at++;
        }
        if (++at > text.Length) throw Error();
        if (isPlain) return text.Substring(start + 1, at - start - 2);
        using (var reader = new JsonTextReader(new StringReader(text.Substring(start, at - start))))
        {
            reader.DateParseHandling = DateParseHandling.None;
            reader.Read();
            return (string)reader.Value;
        }
    }

    private JToken Word()
    {
        int start = at;
        while (at < text.Length && ",:]} \t\r\n".IndexOf(text[at]) < 0) at++;
        string word = text.Substring(start, at - start);
        if (word == "null") return new JValue((object)null);
        if (word == "true" || word == "false") return new JValue(word == "true");
        if (!NumberText.IsNumber(word)) throw Error();
        long whole;
        bool isLong = long.TryParse(word, NumberStyles.AllowLeadingSign, CultureInfo.InvariantCulture, out whole);
        return isLong && word != "-0" ? new JValue(whole) : new JRaw(word);
    }

    private void Take(char sign)
    {
        if (Peek() != sign) throw Error();
        at++;
    }

    private char Peek()
    {
        Space();
        return at < text.Length ? text[at] : '\0';
    }

    private void Space()
    {
        while (at < text.Length && " \t\r\n".IndexOf(text[at]) >= 0) at++;
    }

    private JsonReaderException Error()
    {
        return new JsonReaderException("this is not JSON at character " + at);
    }
}
