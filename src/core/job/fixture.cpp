#include "job/fixture.h"

#include "base/digest.h"
#include "base/error.h"
#include "base/files.h"
#include "cut/bit_chooser.h"
#include "job/store.h"
#include "proof/load.h"
#include "proof/travel.h"
#include "shop/wood.h"

#include <algorithm>
#include <cmath>

#include <fmt/format.h>

namespace wren {
namespace {

constexpr double deepest = 12;  ///< a pin stands no deeper than this
constexpr double underHole = 4; ///< of fixture board left under it

Setup fixtureSetup(const Held& setups, double thickness) {
    Setup s = setups.face;
    s.part = Role::fixture;
    s.name = "pins";
    s.blank.thickness = thickness;
    s.zZero = ZZero::top;
    s.datum = "blank's front left corner, where both sides of the neck have it";
    const Vec3 origin = setups.face.fromInstrument.toSetup({0, 0, 0});
    s.fromInstrument = SetupFromInstrument::faceUp({origin.x, origin.y, s.topZ()});
    s.places = {s.fromInstrument};
    return s;
}

/// Every pin has its hole, there and that deep, in the text as it will be sent.
void judgeHoles(const Fixture& f, const Held& setups, const RunProgram& run, Findings& out) {
    constexpr double allowed = 0.02;
    for (const RegisterPin& pin : setups.pins) {
        const Vec2 at = f.setup.fromInstrument.toSetup({pin.at.x, pin.at.y, 0}).xy();
        double low = 0;
        for (const Move& m : run.path) {
            const double off = length(m.to.xy() - at) + run.bit.radius() - setups.pinSize / 2;
            if (std::abs(off) <= allowed) {
                low = std::min(low, m.to.z);
            }
        }
        const double reached = -low - run.bit.tipHeight();
        if (std::abs(reached - f.holes) > allowed) {
            sayOf(Role::neck, out, Weight::stop, "pin-hole",
                  fmt::format("{}: the pin's hole {:.1f} mm from the nut is {:.2f} mm deep; {:.2f} "
                              "mm was expected.",
                              run.file, pin.at.x, reached, f.holes),
                  reached, f.holes);
        }
    }
}

/// The board holds nothing but those holes, and they are open.
void judgeBoard(const Fixture& f, const Held& setups, const Stock& stock, double point,
                const std::string& file, Findings& out) {
    const double play = 1.5 * stock.cell(); // beside a wall a cell is neither
    double gone = 0;
    double left = 0;
    Vec2 goneAt;
    Vec2 leftAt;
    for (int r = 0; r < stock.rows(); ++r) {
        for (int c = 0; c < stock.columns(); ++c) {
            const Vec2 p{stock.x(c), stock.y(r)};
            double inside = -1e9;
            for (const RegisterPin& pin : setups.pins) {
                const Vec2 at = f.setup.fromInstrument.toSetup({pin.at.x, pin.at.y, 0}).xy();
                inside = std::max(inside, setups.pinSize / 2 - length(p - at));
            }
            const double depth = f.setup.topZ() - stock.high(c, r);
            if (inside < -play && depth > gone) {
                gone = depth;
                goneAt = p;
            }
            const double wrong = std::max(f.holes - depth, depth - f.holes - point);
            if (inside > play && wrong > left) {
                left = wrong;
                leftAt = p;
            }
        }
    }
    constexpr double allowed = 0.02;
    if (gone > allowed) {
        sayOf(Role::neck, out, Weight::stop, "fixture-cut",
              fmt::format("{}: the board is cut {:.2f} mm deep at X {:.1f}, Y {:.1f}, where no pin "
                          "stands.",
                          file, gone, goneAt.x, goneAt.y),
              gone, allowed);
    }
    if (left > allowed) {
        sayOf(Role::neck, out, Weight::stop, "pin-hole",
              fmt::format("{}: the pin's hole at X {:.1f}, Y {:.1f} is wrong by {:.2f} mm of wood.",
                          file, leftAt.x, leftAt.y, left),
              left, allowed);
    }
}

} // namespace

Findings judgeFixture(const Fixture& f, const Held& setups, const Machine& machine,
                      const Program& program) {
    constexpr double cell = 0.3; // mm
    Findings out;
    const std::vector<RunProgram> read = readBack({program}, f.setup);
    judgeHoles(f, setups, read[0], out);
    const Simulation cut =
        simulateOn(Stock(f.setup.blank, f.setup.bottomZ(), cell), read, {}, {}, {}, Loads::traced);
    judgeBoard(f, setups, cut.stock, read[0].bit.tipHeight(), read[0].file, out);
    const Wood& wood = woodById(setups.blank.wood);
    const OwnPass own = ownPass(read[0].bit, wood, machine);
    const Findings loads =
        judgeLoads(f.setup, read, {loadOf(read[0], cut.loads.front(), own, wood)});
    out.insert(out.end(), loads.begin(), loads.end());
    const Findings travel = judgeTravel(f.setup, machine, read);
    out.insert(out.end(), travel.begin(), travel.end());
    return out;
}

Fixture deriveFixture(const Project& p) {
    Fixture f;
    const Derived d = deriveDrawing(p);
    const PartJob* neck = d.job(Role::neck);
    if (!neck || !neck->placed || neck->held.pins.empty()) {
        sayOf(
            Role::neck, f.findings, Weight::stop, "no-pins",
            "There are no pins to drill for: a neck that its blank can hold, turned over by pins, "
            "was expected.",
            0, 1);
        return f;
    }
    const Held& setups = neck->held;
    const double size = setups.pinSize;
    f.setup = fixtureSetup(setups, p.neckHold.fixture);
    const double depth = std::min(deepest, p.neckHold.fixture - underHole);
    f.holes = depth;
    BitChooser chooser(p.bits, f.findings, Role::neck);
    const auto judge = [&](const Bit& b) -> Verdict {
        if (b.kind == BitKind::drill) {
            return std::abs(b.diameter - size) > 0.06
                       ? Verdict{false, fmt::format("{:.2f} mm is not {:.2f} mm", b.diameter, size)}
                       : reaches(b, depth + b.tipHeight(), true);
        }
        const bool bores = cutsFlat(b.kind) && b.diameter <= 0.9 * size && b.diameter >= size / 2;
        return bores ? reaches(b, depth, true) : Verdict{};
    };
    const auto drillsFirst = [](const Bit& a, const Bit& b) {
        const bool drill = a.kind == BitKind::drill;
        return drill != (b.kind == BitKind::drill) ? drill : a.diameter > b.diameter;
    };
    std::string why;
    const Bit* bit = chooser.choose(
        "fixture's pin holes", {}, judge, drillsFirst,
        fmt::format("a {:.2f} mm drill, or a flat bit that bores it, {:.1f} mm deep", size, depth),
        why);
    if (!bit) {
        return f;
    }
    Cut cut;
    cut.what = "pins";
    cut.bit = *bit;
    cut.why = why;
    cut.handBefore =
        "Fix the fixture board to the bed. It is the blank of this program: Z is zeroed on its "
        "face, and no neck lies on it yet.";
    cut.feeds = feedsFor(*bit, woodById(setups.blank.wood), p.machine, {});
    std::vector<Hole> holes;
    for (const RegisterPin& pin : setups.pins) {
        holes.push_back({"register", pin.at, size, 0, -(depth + bit->tipHeight()), false, false});
    }
    const NeckWork work{d.neck->part, f.setup, p.neckCut, p.machine.spoilDepth};
    cut.path = bit->kind == BitKind::drill ? drillPath(work, holes, *bit, cut.feeds)
                                           : borePath(work, holes, *bit, cut.feeds);
    const std::vector<Cut> cuts{cut};
    Program program = postPrograms({{&f.setup, &cuts}}, p.machine, {p.name, designHash(p), {}})[0];
    program.file = "fixture-pins.nc";
    const std::vector<RunProgram> read = readBack({program}, f.setup);
    const Findings wrong = judgeFixture(f, setups, p.machine, program);
    f.findings.insert(f.findings.end(), wrong.begin(), wrong.end());
    f.program = PostedProgram::of(program, read[0], p.machine);
    return f;
}

void postFixture(const Fixture& f, const std::filesystem::path& dir) {
    const auto stopping = std::find_if(f.findings.begin(), f.findings.end(),
                                       [](const Finding& g) { return g.weight == Weight::stop; });
    if (!f.program || stopping != f.findings.end()) {
        throw Error(stopping == f.findings.end() ? "There is no program for the fixture to write."
                                                 : stopping->message);
    }
    makeFolder(dir);
    writeFilesSafely({{dir / "fixture-pins.nc", f.program->program.text}});
}

} // namespace wren
