#include "classes/__file__"

#include <iostream>
#include <string>
#include <vector>

using Payload = __namespace__::__Root__;

static std::string encoded(const Payload& payload) { return nlohmann::json(payload).dump(); }

static Payload decoded(const std::string& line) { return nlohmann::json::parse(line).get<Payload>(); }

static std::string library(const std::string& line) { return encoded(decoded(line)); }

struct Host {
    int before;
    Payload payload;
    int after;
};

NLOHMANN_DEFINE_TYPE_NON_INTRUSIVE(Host, before, payload, after)

static std::string in_field(const std::string& line) {
    const Host host = nlohmann::json::parse("{\"before\":1,\"payload\":" + line + ",\"after\":2}").get<Host>();
    if (host.before != 1 || host.after != 2) throw std::runtime_error("the fields beside the payload are lost");
    return nlohmann::json(host).at("payload").dump();
}

static std::string elements(const std::string& line) {
    const auto list = nlohmann::json::parse("[" + line + "]").get<std::vector<Payload>>();
    return nlohmann::json(list).at(0).dump();
}

//: if record
static std::string built(const std::string& line) {
    const Payload value = decoded(line);
    Payload again{};
    //: each fields
    again.__Field__ = value.__Field__;
    //: end
    //: if extra
    again.__extra__ = value.__extra__;
    //: end
    if (!(again == value)) throw std::runtime_error("what was built is not equal to what was decoded");
    return encoded(again);
}

//: end
//: if setters
static std::string changed(const std::string& field, const std::string& line, const std::string& from) {
    Payload value = decoded(line);
    const Payload other = decoded(from);
    switch (std::stoi(field)) {
        //: each setters
        case __i__: value.__Field__ = other.__Field__; break;
        //: end
        default: throw std::runtime_error("there is no such field");
    }
    return encoded(value);
}

//: end
using Way = std::string (*)(const std::string&);

static const std::vector<Way> ways{
    library,
    in_field,
    elements,
    //: if record
    built,
    //: end
};

template <typename Make>
static std::string said(const Make& make) {
    try {
        return make();
    } catch (const std::exception& error) {
        std::string message = std::string("!") + error.what();
        for (char& each : message)
            if (each == '\n' || each == '\r' || each == '\x1e') each = ' ';
        return message;
    }
}

static std::string answer(const std::string& line) {
    //: if setters
    if (!line.empty() && line.front() == '\x1e') {
        const auto second = line.find('\x1e', 1);
        const auto third = line.find('\x1e', second + 1);
        return said([&] {
            return changed(line.substr(1, second - 1), line.substr(second + 1, third - second - 1), line.substr(third + 1));
        });
    }
    //: end
    std::string answers;
    std::string first;
    for (const Way way : ways) {
        const std::string own = said([&] { return way(line); });
        if (way == library) answers = first = own;
        else answers += "\x1e" + (own == first ? "=" : own);
    }
    return answers;
}

int main() {
    std::ios::sync_with_stdio(false);
    for (std::string line; std::getline(std::cin, line);) std::cout << answer(line) << '\n' << std::flush;
}
