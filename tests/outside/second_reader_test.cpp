// The posted files against a reader that shares no line with the product (second_reader.py).

#include "base/files.h"

#include "support.h"

#include <nlohmann/json.hpp>

using namespace wren;
using nlohmann::json;

TEST_CASE("A second reader finds the same extents, lengths and slots", "[outside][reader]") {
    for (const char* unit : {"mm", "inch"}) {
        INFO(unit);
        const test::Folder folder;
        const std::string file = (folder / "p.wren").string();
        saveProject(test::plainWith({{"machine.units", unit}}), file);
        REQUIRE(test::wren("make " + file + " --out " + folder.str()).code == 0);
        const json report = json::parse(readFile(folder / "report.json"));
        const double nutX = report["setups"][0]["setup_from_instrument"][0][3];
        for (const json& p : report["programs"]) {
            const std::string path = (folder / "programs" / p["file"].get<std::string>()).string();
            const test::Ran r =
                test::run("python3 " WREN_SOURCE "/tests/outside/second_reader.py " + path);
            INFO(r.err);
            REQUIRE(r.code == 0);
            const json second = json::parse(r.out);
            for (int i = 0; i < 3; ++i) {
                CHECK(second["min"][i].get<double>() ==
                      Approx(p["extents_mm"]["min"][i].get<double>()).margin(0.001));
                CHECK(second["max"][i].get<double>() ==
                      Approx(p["extents_mm"]["max"][i].get<double>()).margin(0.001));
            }
            CHECK(second["cut_mm"].get<double>() ==
                  Approx(p["cut_mm"].get<double>()).epsilon(1e-4));
            if (p["file"].get<std::string>().find("slots") != std::string::npos) {
                REQUIRE(second["across"].size() == 22);
                for (int n = 1; n <= 22; ++n) {
                    // Equal temperament written out here, from the nut's place in the report.
                    const double x = nutX + 620 - 620 / std::pow(2.0, n / 12.0);
                    CHECK(second["across"][static_cast<std::size_t>(n - 1)].get<double>() ==
                          Approx(x).margin(0.002));
                }
            }
        }
    }
}
