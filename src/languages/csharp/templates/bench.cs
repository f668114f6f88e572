using System;
using System.Collections.Generic;
using System.IO;
using System.Linq;
using System.Text;
using System.Text.RegularExpressions;
using Newtonsoft.Json;
using Newtonsoft.Json.Serialization;

public static class Bench
{
    private const string Separator = "\u001e";

    private static string Generated(string line)
    {
        return __facade__.Encode(__facade__.Decode(line));
    }

    //: if named
    private static string Library(string line)
    {
        return JsonConvert.SerializeObject(JsonConvert.DeserializeObject<__namespace__.__Root__>(line));
    }

    public sealed class Host
    {
        public int Before { get; set; }
        public __namespace__.__Root__ Payload { get; set; }
        public int After { get; set; }
    }

    private const string Start = "{\"Before\":1,\"Payload\":";
    private const string End = ",\"After\":2}";

    private static string InField(string line)
    {
        var host = JsonConvert.DeserializeObject<Host>(Start + line + End);
        if (host.Before != 1 || host.After != 2) throw new IOException("the fields beside the payload are lost");
        string text = JsonConvert.SerializeObject(host);
        return text.Substring(Start.Length, text.Length - Start.Length - End.Length);
    }

    /// Settings that are common: no nulls, names in camel case.
    private static string UnderSettings(string line)
    {
        JsonConvert.DefaultSettings = () => new JsonSerializerSettings
        {
            NullValueHandling = NullValueHandling.Ignore,
            ContractResolver = new CamelCasePropertyNamesContractResolver(),
        };
        try
        {
            return Library(line);
        }
        finally
        {
            JsonConvert.DefaultSettings = null;
        }
    }

    //: end
    //: if record
    private static string Built(string line)
    {
        var value = __facade__.Decode(line);
        var again = new __namespace__.__Root__
        {
            //: each members
            __Member__ = value.__Member__,
            //: end
        };
        return __facade__.Encode(again);
    }

    //: end
    private static string Changed(string field, string line, string from)
    {
        var value = __facade__.Decode(line);
        var other = __facade__.Decode(from);
        switch (field)
        {
            //: each setters
            case "__i__":
                value.__Field__ = other.__Field__;
                break;
            //: end
            default:
                throw new IOException("there is no such field in " + value + " or " + other);
        }
        //: if setters
        return __facade__.Encode(value);
        //: end
    }

    private static readonly List<Func<string, string>> Ways = new List<Func<string, string>>
    {
        Generated,
        //: if named
        Library,
        InField,
        UnderSettings,
        //: end
        //: if record
        Built,
        //: end
    };

    private static string Said(Func<string> make)
    {
        try
        {
            return make();
        }
        catch (Exception error)
        {
            return "!" + Regex.Replace(error.Message, "[\\s\u001e]+", " ");
        }
    }

    private static string Answer(string line)
    {
        string[] parts = line.Split(Separator[0]);
        if (parts.Length == 4) return Said(() => Changed(parts[1], parts[2], parts[3]));
        var answers = Ways.Select(way => Said(() => way(line))).ToList();
        return string.Join(Separator, answers.Select((own, i) => i > 0 && own == answers[0] ? "=" : own));
    }

    public static void Main()
    {
        var encoding = new UTF8Encoding(false);
        var input = new StreamReader(Console.OpenStandardInput(), encoding);
        var output = new StreamWriter(Console.OpenStandardOutput(), encoding);
        for (string line = input.ReadLine(); line != null; line = input.ReadLine())
        {
            output.Write(Answer(line) + "\n");
            output.Flush();
        }
    }
}
