// An application over the payloads of the ferries, with the library's own calls.

#include "sailings.hpp"

#include <nlohmann/json.hpp>

#include <fstream>
#include <iostream>
#include <map>
#include <stdexcept>
#include <string>
#include <type_traits>
#include <variant>
#include <vector>

namespace {

using nlohmann::json;
using namespace saltmere::sailings;

json read(const std::string& path) {
    std::ifstream file(path);
    if (!file) {
        throw std::runtime_error("there is no " + path);
    }
    return json::parse(file);
}

void sailings(const std::string& demo) {
    auto page = read(demo + "/sailings/page-1.json").get<SailingPage>();
    std::cout << "page " << page.page << " of " << page.pages << '\n';
    for (const auto& sailing : page.results) {
        std::string delay = sailing.delay_minutes.is_set() ? "some time" : "on time";
        if (const auto& minutes = sailing.delay_minutes.get()) {
            delay = std::to_string(*minutes) + " minutes late";
        }
        std::cout << sailing.code << ' ' << delay << ", gates ";
        const char* between = "";
        for (const auto& leg : sailing.legs) {
            if (const auto& gate = leg.gate.get()) {
                std::cout << between << *gate;
                between = " ";
            }
        }
        std::cout << '\n';
    }
    auto& first = page.results.front();
    first.delay_minutes = 3;
    first.remarks = std::nullopt;
    const json changed = first;
    std::cout << changed.at("delay_minutes") << ' ' << changed.at("remarks") << '\n';
    first.delay_minutes.clear();
    const json cleared = page;
    std::cout << std::boolalpha << cleared.at("results").at(0).contains("delay_minutes") << '\n';
    std::cout << (cleared.get<SailingPage>() == page) << '\n';
    std::map<std::string, SailingPageItem> by_vessel;
    for (const auto& sailing : page.results) {
        by_vessel[sailing.vessel.id] = sailing;
    }
    std::cout << by_vessel.size() << " vessels\n";
}

void notices(const std::string& demo) {
    for (int number = 1; number <= 4; ++number) {
        const auto notice = read(demo + "/notices/notice-" + std::to_string(number) + ".json").get<Notice>();
        const std::string about = std::visit(
            [](const auto& kind) -> std::string {
                using Kind = std::decay_t<decltype(kind)>;
                if constexpr (std::is_same_v<Kind, ClosureNotice>) {
                    return kind.berth + " is closed" + (kind.until ? " until " + *kind.until : "");
                } else if constexpr (std::is_same_v<Kind, DelayNotice>) {
                    return kind.sailing + " is " + std::to_string(kind.minutes) + " late";
                } else {
                    return "wind " + kind.wind.from + " of " + std::to_string(kind.wind.force);
                }
            },
            notice.kind);
        std::cout << notice.title << ": " << about << ", " << notice.comments.size() << " comments\n";
    }
}

void built() {
    const Notice notice{
        .id = 1,
        .issued = "2031-05-01T07:30:00+01:00",
        .title = "Berth N2",
        .comments = {{.by = "clerk a", .at = "2031-05-01T08:00:00+01:00", .text = "Seen.", .replies = {}}},
        .audience = "crew",
        .kind = ClosureNotice{.berth = "N2", .until = std::nullopt},
    };
    const json value = notice;
    std::cout << value.at("kind") << ' ' << value.at("until") << ' ' << value.at("audience") << '\n';
    const auto again = json::parse(value.dump()).get<Notice>();
    const std::map<std::int64_t, Notice> by_id{{notice.id, notice}, {again.id, again}};
    std::cout << (again == notice) << ' ' << by_id.size() << '\n';
}

void refused() {
    const std::vector<std::pair<std::string, std::string>> payloads{
        {"seq", R"({"page":1,"pages":1,"next":null,"results":[{"id":1}]})"},
        {"pages", R"({"page":1,"pages":"1","next":null,"results":[]})"},
        {"next", R"({"page":1,"pages":1,"results":[]})"},
        {"page", R"({"page":1,"pages":1,"next":null,)"},
    };
    for (const auto& [what, text] : payloads) {
        try {
            static_cast<void>(json::parse(text).get<SailingPage>());
            std::cout << what << ": decoded\n";
        } catch (const json::exception& error) {
            std::cout << what << (std::string(error.what()).empty() ? ": silent\n" : ": refused\n");
        }
    }
}

} // namespace

int main(int count, char** arguments) {
    if (count < 2) {
        std::cerr << "name the folder of the payloads\n";
        return 2;
    }
    sailings(arguments[1]);
    notices(arguments[1]);
    built();
    refused();
}
