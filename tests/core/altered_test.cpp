// A proof reads the posted text: whatever is left out of it, or moved in it, must be seen.

#include "body_support.h"

#include "base/error.h"
#include "proof/rs274.h"

#include <sstream>

#include <fmt/format.h>

using namespace wren;
using namespace wren::test;

namespace {

/// One stay in the wood: lines from the first feed after a rapid to the last before the next.
struct Stay {
    int first = 0, last = 0;
    Vec3 end;
    double feed = 0;
};

std::vector<Stay> staysOf(const Program& program, const Setup& setup) {
    std::vector<Stay> stays;
    bool in = false;
    const std::vector<RunProgram> read = readBack({program}, setup);
    for (const Move& m : read[0].path) {
        if (!m.cuts()) {
            in = false;
            continue;
        }
        if (!in) {
            stays.push_back({m.line, 0, {}, 0});
            in = true;
        }
        stays.back().last = m.line;
        stays.back().end = m.to;
        stays.back().feed = m.feed;
    }
    return stays;
}

/// The program with every line put through `change(number, line)`.
template <typename Change>
Program changed(Program program, Change change) {
    std::istringstream in(program.text);
    std::string out;
    int number = 0;
    for (std::string line; std::getline(in, line);) {
        out += change(++number, line);
    }
    program.text = out;
    return program;
}

/// Without that stay: over to where it would have ended.
Program without(const Program& program, const Stay& stay, double above) {
    return changed(program, [&](int number, const std::string& line) {
        const bool gone = number >= stay.first && number <= stay.last;
        return !gone                  ? line + "\n"
               : number == stay.first ? fmt::format("G0 Z{:.4f}\nX{:.4f} Y{:.4f} F{:.2f}\n", above,
                                                    stay.end.x, stay.end.y, stay.feed)
                                      : std::string();
    });
}

/// With what it cuts in one stay moved aside.
Program movedAside(const Program& program, const Stay& stay, double by) {
    return changed(program, [&](int number, std::string line) {
        const std::size_t x = line.find('X');
        if (number > stay.first && number < stay.last && x != std::string::npos) {
            std::size_t used = 0;
            const double at = std::stod(line.substr(x + 1), &used);
            line.replace(x + 1, used, fmt::format("{:.4f}", at + by));
        }
        return line + "\n";
    });
}

std::string codesOf(const Findings& findings) {
    std::string out;
    for (const Finding& f : findings) {
        out += f.weight == Weight::stop ? f.code + " " : "";
    }
    return out;
}

struct Posted {
    Setup setup;
    std::vector<Program> programs;
};

/// Every program of a part's sides in turn altered; `prove` gives the stops' codes.
template <typename Prove>
void alterEach(const std::vector<Posted>& sides, Prove prove) {
    REQUIRE(prove(sides) == "");
    for (std::size_t side = 0; side < sides.size(); ++side) {
        for (std::size_t i = 0; i < sides[side].programs.size(); ++i) {
            const Program& program = sides[side].programs[i];
            const std::vector<Stay> stays = staysOf(program, sides[side].setup);
            REQUIRE_FALSE(stays.empty());
            std::vector<Posted> bad = sides;
            INFO(program.file);
            // Its first half of stays gone: no roughing, or whole features missing.
            const double above = sides[side].setup.topZ() + 6;
            Program& altered = bad[side].programs[i];
            for (std::size_t k = stays.size(); k-- > stays.size() / 2;) {
                altered = without(altered, stays[k], above);
            }
            CHECK(prove(bad) != "");
        }
    }
}

} // namespace

TEST_CASE("A piece of a body is not proved by a text something was left out of",
          "[body][altered][long]") {
    const Project p = bodyWith();
    const Derived d = drawnBody(p);
    const Role role = GENERATE(Role::body, Role::lid);
    const PartJob* found = d.job(role);
    REQUIRE(found);
    const PartJob& job = *found;
    const Panel& panel = *job.panel;
    PanelPlan plan = planPanel(panel, job.held, p.bits, p.machine, p.bodyCut);
    easePart(plan, sidesOf(d, job, asPrograms(plan)), p.machine);
    std::vector<Posted> sides;
    for (const SidePlan& side : plan.sides) {
        if (!side.cuts.empty()) {
            sides.push_back(
                {side.setup, postPrograms({{&side.setup, &side.cuts}}, p.machine, {"test", ""})});
        }
    }
    const auto proofOf = [&](const std::vector<Posted>& posted) {
        SidePrograms programs;
        for (std::size_t s = 0; s < posted.size(); ++s) {
            programs[s] = readBack(posted[s].programs, posted[s].setup);
        }
        return provePanel({{job.held, programs}, panel}, plan, p.bodyCut, p.machine);
    };
    const auto codes = [&](const std::vector<Posted>& posted) {
        const PartProof proof = proofOf(posted);
        return codesOf(proof.sides[0].findings) + codesOf(proof.sides[1].findings);
    };
    alterEach(sides, codes);
    // Walls and outline: the last lap of what cuts them, a tenth of a millimetre aside.
    for (std::size_t side = 0; side < sides.size(); ++side) {
        for (std::size_t i = 0; i < sides[side].programs.size(); ++i) {
            const Program& program = sides[side].programs[i];
            if (program.file.find("outline") == std::string::npos) {
                continue;
            }
            std::vector<Posted> bad = sides;
            bad[side].programs[i] =
                movedAside(program, staysOf(program, sides[side].setup).back(), 0.1);
            INFO(program.file << " moved aside");
            std::string seen;
            try {
                seen = codes(bad);
            } catch (const Error& e) { // an arc begun elsewhere no longer ends on its circle
                seen = e.what();
            }
            CHECK_THAT(seen,
                       Catch::Contains("wall") || Catch::Contains("distance from the centre"));
        }
    }
}

TEST_CASE("A neck is not proved by a text something was left out of", "[neck][altered][long]") {
    const Project p = neckWith({{"neck.nut_slot", "1.5"}, {"rod.carbon_width", "3.2"}});
    Derived d = deriveDrawing(p);
    derivePrograms(d);
    REQUIRE(d.neck);
    const auto& plans = d.job(Role::neck)->plan().sides;
    std::vector<Posted> sides{{plans[0].setup, {}}, {plans[1].setup, {}}};
    for (std::size_t i = 0; i < d.programs.size(); ++i) {
        const ProgramPlace at = d.placeOf(i);
        if (at.job->id == Role::neck) {
            sides[at.side].programs.push_back(d.programs[i].program);
        }
    }
    alterEach(sides, [&](const std::vector<Posted>& posted) {
        const PartProof proof = provedNeck(d,
                                           {readBack(posted[0].programs, posted[0].setup),
                                            readBack(posted[1].programs, posted[1].setup)},
                                           0.4);
        return codesOf(proof.sides[0].findings) + codesOf(proof.sides[1].findings);
    });
}

TEST_CASE("A board is not proved by a text something was left out of", "[altered]") {
    const Project p = plainWith({{"markers.frets", "3 5 7 9 12"}, {"board.nut_shelf", "5"}});
    Derived d = deriveDrawing(p);
    derivePrograms(d);
    REQUIRE(d.boardPlan());
    std::vector<Posted> sides{{d.boardPlan()->face().setup, {}}};
    for (std::size_t i = 0; i < d.programs.size(); ++i) {
        if (d.placeOf(i).job->id == Role::board) {
            sides[0].programs.push_back(d.programs[i].program);
        }
    }
    alterEach(sides, [&](const std::vector<Posted>& posted) {
        return codesOf(
            test::provedBoard(d, readBack(posted[0].programs, posted[0].setup)).findings);
    });
}
