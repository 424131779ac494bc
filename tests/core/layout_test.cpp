// The flow of includes: leftward only, and no Qt in the core.

#include "base/files.h"

#include "support.h"

#include <map>

using namespace wren;

TEST_CASE("Includes of the core go only leftward along the flow", "[layout]") {
    const std::map<std::string, int> place = {
        {"base", 0}, {"geom", 1},     {"design", 2}, {"part", 3},  {"shop", 3},
        {"hold", 4}, {"cut", 5},      {"post", 6},   {"proof", 7}, {"run", 8},
        {"book", 8}, {"exchange", 8}, {"job", 9}};
    int seen = 0;
    const std::filesystem::path core = WREN_SOURCE "/src/core";
    for (const auto& entry : std::filesystem::recursive_directory_iterator(core)) {
        const std::string ending = entry.path().extension().string();
        if (ending != ".h" && ending != ".cpp") {
            continue;
        }
        const std::string folder = entry.path().parent_path().filename().string();
        INFO(entry.path().string());
        REQUIRE(place.count(folder));
        const std::string text = readFile(entry.path());
        CHECK(text.find("#include <Q") == std::string::npos);
        for (std::size_t at = 0; (at = text.find("#include \"", at)) != std::string::npos; ++at) {
            const std::size_t from = at + 10;
            const std::string other = text.substr(from, text.find('/', from) - from);
            INFO("includes " << other);
            REQUIRE(place.count(other));
            const bool leftward = place.at(other) < place.at(folder) || other == folder;
            CHECK(leftward);
            ++seen;
        }
    }
    CHECK(seen > 100);
}
