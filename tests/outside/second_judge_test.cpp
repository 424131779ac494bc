// Posted programs of random designs, cut again by a judge of its own and compared with the exported
// solids: what is said to be proved must also be right to one who shares no code with us.

#include "second_judge.h"

#include "base/files.h"

#include "support.h"

#include <cstdlib>
#include <random>

#include <nlohmann/json.hpp>

using namespace wren;
using nlohmann::json;

namespace {

constexpr double cell = 0.5;

/// A design a maker might type, by `wren new` and `wren set`.
struct Wish {
    std::string fresh;
    std::vector<std::string> sets;

    std::string text() const {
        std::string out = fresh;
        for (const std::string& s : sets) {
            out += " '" + s + "'";
        }
        return out;
    }
};

Wish wishOf(unsigned seed) {
    std::mt19937 random(seed);
    const auto whole = [&](int a, int b) {
        return std::uniform_int_distribution<int>(a, b)(random);
    };
    const auto one = [&](std::vector<const char*> of) {
        return std::string(of[std::size_t(whole(0, int(of.size()) - 1))]);
    };
    Wish w;
    const int strings = whole(4, 9);
    const double scale = strings < 6 ? whole(760, 880) : whole(600, 690);
    w.fresh = "--strings " + std::to_string(strings) + " --scale " + std::to_string(scale) +
              " --frets " + std::to_string(whole(20, 24)) + (whole(0, 1) ? " --left" : "");
    w.sets = {"machine.like=Long router",
              "neck.joint=" + one({"bolt-on", "set"}),
              "head.like=" + one({"sickle", "keel", "paddle"}),
              "tuners.bass_side=" + std::to_string(whole(0, strings)),
              "neck.stations=1 " + one({"20.5", "21", "22"}) + " " + one({"C", "D", "U", "V"}) +
                  ", 12 " + one({"22.5", "23.5"}) + " " + one({"C", "D", "U"}),
              "neck_hold.turn=" + one({"side-for-side", "end-for-end"})};
    if (whole(0, 2) == 0) {
        w.sets.push_back("head.kind=tilted"); // from a block: the judge knows no scarfs
        w.sets.push_back("head.stock=thick");
        w.sets.push_back("head.angle=4");
        w.sets.push_back("neck_blank.thickness=38");
    }
    if (whole(0, 2) == 0) {
        w.sets.push_back("neck_cut.finish_way=" + one({"across", "split"}));
    }
    if (whole(0, 3) == 0) {
        w.sets.push_back("machine.units=inch");
    }
    if (whole(0, 1) == 0) {
        w.sets.insert(w.sets.end(),
                      {"body.build=one-piece", "body.like=" + one({"fell", "tarn", "scree"}),
                       "body.thickness=" + one({"40", "42", "1 3/4in"}), "pickup1.kind=single",
                       "pickup1.from_bridge=" + std::to_string(whole(40, 90)),
                       "bridge.kind=" + one({"fixed", "through-body"})});
        if (whole(0, 1) == 0) {
            w.sets.push_back("body.front_edge=round");
            w.sets.push_back("body.back_edge=" + one({"round", "chamfer"}));
        }
        if (whole(0, 3) == 0) {
            w.sets.push_back("body.front_slopes=20 -128 116 -40 14 40");
        }
    }
    return w;
}

/// What the second judge finds in one setup of a posted part.
struct Verdict {
    double gouge = 0, left = 0;
    long cells = 0;
    double rapid = 0; ///< deepest a rapid enters wood
    int still = 0;    ///< cuts while the spindle stands
    double flute = 0; ///< most by which wood stands over a bit's flutes
};

Verdict judged(const json& report, const std::string& folder, const std::string& part,
               const std::string& setup) {
    const json* lies = nullptr;
    for (const json& s : report["setups"]) {
        lies = s["part"] == part && s["name"] == setup ? &s : lies;
    }
    REQUIRE(lies);
    const auto blank = (*lies)["blank_mm"].get<std::array<double, 3>>();
    const double bottom = (*lies)["z_zero"] == "bed" ? 0 : -blank[2];
    judge::Field field(blank[0], blank[1], bottom + blank[2], cell);
    Verdict v;
    for (const json& p : report["programs"]) {
        if (p["part"] != part || p["setup"] != setup) {
            continue;
        }
        judge::Tool tool;
        tool.kind = p["bit"]["kind"];
        tool.diameter = p["bit"]["diameter_mm"];
        tool.corner = p["bit"].value("corner_mm", 0.0);
        tool.angle = p["bit"].value("angle_deg", 118.0);
        const double flutes = p["bit"]["flute_length_mm"];
        const std::string text = readFile(folder + "/programs/" + p["file"].get<std::string>());
        for (const judge::Step& s : judge::readProgram(text, {0, 0, bottom + blank[2] + 6})) {
            if (s.rapid) {
                v.rapid = std::max(v.rapid, field.woodOver(s.to, tool));
            } else {
                v.still += s.spindle ? 0 : 1;
                v.flute = std::max(v.flute, field.woodOver(s.to, tool) - flutes);
                field.cut(s, tool);
            }
        }
    }
    std::array<std::array<double, 4>, 3> place{};
    for (std::size_t r = 0; r < 3; ++r) {
        place[r] = (*lies)["setup_from_instrument"][r].get<std::array<double, 4>>();
    }
    const judge::Heights design =
        judge::heightsOf(judge::readStl(folder + "/models/" + part + ".stl"), place, field);
    const auto index = [&](int i, int j) {
        return std::size_t(j) * std::size_t(field.nx()) + std::size_t(i);
    };
    constexpr int clear = 4; // cells: walls are another matter
    for (int j = clear; j + clear < field.ny(); ++j) {
        for (int i = clear; i + clear < field.nx(); ++i) {
            double low = 1e9;
            double high = -1e9;
            for (int b = -clear; b <= clear; ++b) {
                for (int a = -clear; a <= clear; ++a) {
                    const double z = design.high[index(i + a, j + b)];
                    low = std::min(low, z);
                    high = std::max(high, z);
                }
            }
            if (low < -1e8 || high - low > 1.2) {
                continue;
            }
            const double off = field.at(i, j) - design.high[index(i, j)];
            v.gouge = std::max(v.gouge, -off);
            v.left = std::max(v.left, off);
            ++v.cells;
        }
    }
    return v;
}

} // namespace

TEST_CASE("Random instruments, cut again by a judge of its own", "[outside][judge]") {
    const char* many = std::getenv("WREN_JUDGE_DESIGNS");
    const unsigned designs = many ? unsigned(std::atoi(many)) : 2;
    const char* first = std::getenv("WREN_JUDGE_FIRST");
    const unsigned from = first ? unsigned(std::atoi(first)) : 1;
    int proved = 0;
    for (unsigned seed = from; seed < from + designs; ++seed) {
        const test::Folder folder;
        const std::string file = (folder / "p.wren").string();
        const Wish wish = wishOf(seed);
        INFO(seed << ": " << wish.text());
        REQUIRE(test::wren("new " + file + " " + wish.fresh).code == 0);
        for (const std::string& change : wish.sets) {
            REQUIRE(test::wren("set " + file + " '" + change + "'").code == 0);
        }
        const test::Ran made = test::wren("make " + file + " --out " + folder.str());
        const json report = json::parse(readFile(folder / "report.json"));
        for (const json& f : report["findings"]) {
            if (f["weight"] == "stop") { // refused: said, to be read, and not posted
                WARN(seed << ": " << f["message"].get<std::string>());
            }
        }
        for (const json& lies : report["setups"]) {
            const std::string part = lies["part"];
            const std::string setup = lies["name"];
            const bool posted = std::any_of(
                report["programs"].begin(), report["programs"].end(),
                [&](const json& p) { return p["part"] == part && p["setup"] == setup; });
            const bool modelled = std::filesystem::exists(folder / ("models/" + part + ".stl"));
            if (!posted || !modelled) {
                continue;
            }
            ++proved;
            INFO(part << ", " << setup);
            const Verdict v = judged(report, folder.str(), part, setup);
            CHECK(v.cells > 5000);
            CHECK(v.gouge < 0.12); // its cells and steps, not ours
            CHECK(v.left < 0.2);
            CHECK(v.rapid < 0.1);
            CHECK(v.still == 0);
            CHECK(v.flute < 0.6);
        }
    }
    CHECK(proved > 0);
}
