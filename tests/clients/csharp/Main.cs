using System;
using System.Collections.Generic;
using System.IO;
using System.Linq;
using System.Text;
using Newtonsoft.Json;
using Newtonsoft.Json.Linq;
using Newtonsoft.Json.Serialization;
using Saltmere.Sailings;

/// <summary>An application over the payloads of the ferries, with the library's own calls under its own settings.</summary>
public static class Application
{
    public static void Main(string[] arguments)
    {
        Console.OutputEncoding = new UTF8Encoding(false);
        JsonConvert.DefaultSettings = () => new JsonSerializerSettings
        {
            NullValueHandling = NullValueHandling.Ignore,
            ContractResolver = new CamelCasePropertyNamesContractResolver(),
        };
        Sailings(arguments[0]);
        Notices(arguments[0]);
        Built();
        Refused("seq", "{\"page\":1,\"pages\":1,\"next\":null,\"results\":[{\"id\":1}]}");
        Refused("pages", "{\"page\":1,\"pages\":\"one\",\"next\":null,\"results\":[]}");
        Refused("next", "{\"page\":1,\"pages\":1,\"results\":[]}");
        Refused("page", "{\"page\":1,\"pages\":1,\"next\":null,");
    }

    private static void Sailings(string demo)
    {
        string text = File.ReadAllText(demo + "/sailings/page-1.json");
        var page = JsonConvert.DeserializeObject<SailingPage>(text);
        Console.WriteLine("page {0} of {1}", page.Page, page.Pages);
        foreach (SailingPageItem sailing in page.Results)
        {
            Field<int?> minutes = sailing.DelayMinutes;
            string delay = minutes.Value != null ? minutes.Value + " minutes late" : minutes.IsPresent ? "some time" : "on time";
            IEnumerable<string> gates = sailing.Legs.Select(leg => leg.Gate.Value).Where(gate => gate != null);
            Console.WriteLine("{0} {1}, gates {2}", sailing.Code, delay, string.Join(" ", gates));
        }
        SailingPageItem first = page.Results[0];
        first.DelayMinutes = 3;
        first.Remarks = null;
        JObject changed = JObject.Parse(JsonConvert.SerializeObject(first));
        Console.WriteLine("{0} {1}", changed["delay_minutes"], changed["remarks"].ToString(Formatting.None));
        first.DelayMinutes = default(Field<int?>);
        string cleared = JsonConvert.SerializeObject(first);
        Console.WriteLine(cleared.Contains("delay_minutes") ? "true" : "false");
        string again = JsonConvert.SerializeObject(JsonConvert.DeserializeObject<SailingPage>(JsonConvert.SerializeObject(page)));
        Console.WriteLine(again == JsonConvert.SerializeObject(page) ? "true" : "false");
        Console.WriteLine("{0} vessels", page.Results.Select(each => each.Vessel.Id).Distinct().Count());
    }

    private static void Notices(string demo)
    {
        for (int number = 1; number <= 4; number++)
        {
            string text = File.ReadAllText(demo + "/notices/notice-" + number + ".json");
            var notice = JsonConvert.DeserializeObject<Notice>(text);
            Console.WriteLine("{0}, {1} comments", About(notice), Comments(notice).Count);
        }
    }

    private static string About(Notice notice)
    {
        var closure = notice as ClosureNotice;
        if (closure != null)
            return closure.Title + ": " + closure.Berth + " is closed" + (closure.Until == null ? "" : " until " + closure.Until);
        var delay = notice as DelayNotice;
        if (delay != null) return delay.Title + ": " + delay.Sailing + " is " + delay.Minutes + " late";
        var weather = (WeatherNotice)notice;
        return weather.Title + ": wind " + weather.Wind.From + " of " + weather.Wind.Force;
    }

    private static List<Comment> Comments(Notice notice)
    {
        var closure = notice as ClosureNotice;
        var delay = notice as DelayNotice;
        return closure != null ? closure.Comments : delay != null ? delay.Comments : ((WeatherNotice)notice).Comments;
    }

    private static void Built()
    {
        var notice = new ClosureNotice
        {
            Id = 1,
            Issued = "2031-05-01T07:30:00+01:00",
            Title = "Berth N2",
            Berth = "N2",
            Comments = new List<Comment>
            {
                new Comment { By = "clerk a", At = "2031-05-01T08:00:00+01:00", Text = "Seen.", Replies = new List<Comment>() },
            },
            Audience = new AudienceListOrTextText("crew"),
        };
        string text = JsonConvert.SerializeObject(notice);
        JObject value = JObject.Parse(text);
        Console.WriteLine(string.Join(" ", new[] { "kind", "until", "audience" }.Select(key => value[key].ToString(Formatting.None))));
        string again = JsonConvert.SerializeObject(JsonConvert.DeserializeObject<Notice>(text));
        Console.WriteLine("{0} {1}", again == text ? "true" : "false", new HashSet<string> { text, again }.Count);
    }

    private static void Refused(string what, string text)
    {
        string said;
        try
        {
            JsonConvert.DeserializeObject<SailingPage>(text);
            said = "decoded";
        }
        catch (JsonException error)
        {
            said = error.Message == "" ? "silent" : "refused";
        }
        Console.WriteLine("{0}: {1}", what, said);
    }
}
