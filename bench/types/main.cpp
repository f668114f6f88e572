// Times the library on a file of a list: as anything, and as the generated types, in turn. Giving back the memory of the
// library's tree, which takes as long as parsing it, counts in neither.

#include "sailings.hpp"

#include <nlohmann/json.hpp>

#include <chrono>
#include <fstream>
#include <iostream>
#include <sstream>
#include <string>
#include <utility>
#include <vector>

using nlohmann::json;
using namespace saltmere::sailings;

using Clock = std::chrono::steady_clock;

static double since(Clock::time_point start) { return std::chrono::duration<double>(Clock::now() - start).count(); }

static std::pair<double, double> plain(const std::string& text) {
    auto start = Clock::now();
    const json value = json::parse(text);
    const double decode = since(start);
    start = Clock::now();
    const bool empty = value.dump().empty();
    return {decode, empty ? 0 : since(start)};
}

template <typename T>
static std::pair<double, double> timed(const std::string& text) {
    auto start = Clock::now();
    const json tree = json::parse(text);
    const auto value = tree.get<T>();
    const double decode = since(start);
    start = Clock::now();
    const json again = value;
    const bool empty = again.dump().empty();
    return {decode, empty ? 0 : since(start)};
}

int main(int, char** arguments) {
    for (const std::string name : {"notices", "sailings"}) {
        std::ifstream file(std::string(arguments[1]) + "/" + name + ".json");
        std::stringstream read;
        read << file.rdbuf();
        const std::string text = read.str();
        for (int i = 0; i < 9; ++i) {
            const auto [plain_decode, plain_encode] = plain(text);
            const auto [decode, encode] =
                name == "notices" ? timed<std::vector<Notice>>(text) : timed<std::vector<SailingPageItem>>(text);
            std::cout << name << ' ' << plain_decode << ' ' << plain_encode << ' ' << decode << ' ' << encode << std::endl;
        }
    }
}
