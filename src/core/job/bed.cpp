#include "job/bed.h"

#include "base/error.h"
#include "base/files.h"
#include "cut/facing_cut.h"
#include "cut/path_builder.h"
#include "cut/settings.h"
#include "job/store.h"
#include "job/tidy.h"
#include "proof/spindle_room.h"
#include "proof/travel.h"

#include <algorithm>

#include <fmt/format.h>
#include <nlohmann/json.hpp>

namespace wren {
namespace {

constexpr double fromStops = 2; ///< mm a bit's middle keeps from the travel's ends

Setup bedSetup(const Machine& m) {
    Setup s;
    s.part = Role::bed;
    s.name = "spoil board";
    s.blank.length = m.travel.x;
    s.blank.width = m.travel.y;
    s.blank.thickness = m.spoil.thickness;
    s.blank.wood = "mdf";
    s.zZero = ZZero::top;
    s.datum = "front left corner of the travel";
    s.fromInstrument = SetupFromInstrument::faceUp({0, 0, 0});
    s.places = {s.fromInstrument};
    s.zeroOnMachine = m.lowCorner();
    return s;
}

Finding& stop(Findings& out, const char* code, std::string message, double value, double limit) {
    Finding& f = sayOf(Role::bed, out, Weight::stop, code, std::move(message), value, limit);
    f.overridable = false;
    return f;
}

const Bit* widest(const Drawer& bits, bool (*serves)(const Bit&)) {
    const Bit* best = nullptr;
    for (const Bit& b : bits) {
        if (serves(b) && (!best || b.diameter > best->diameter)) {
            best = &b;
        }
    }
    return best;
}

/// A point, or what comes nearest to one.
const Bit* finest(const Drawer& bits) {
    const auto tipOf = [](const Bit& b) {
        return b.kind == BitKind::vee || b.kind == BitKind::taperedBall ? b.tip : b.diameter;
    };
    const Bit* best = nullptr;
    for (const Bit& b : bits) {
        if (b.kind != BitKind::drill && (!best || tipOf(b) < tipOf(*best))) {
            best = &b;
        }
    }
    return best;
}

void finish(BedProgram& bed, const Project& p, Cut cut, const char* file) {
    const std::vector<Cut> cuts{std::move(cut)};
    Program program =
        postPrograms({{&bed.setup, &cuts}}, p.machine, {p.name, designHash(p), {}}).front();
    program.file = file;
    const std::vector<RunProgram> read = readBack({program}, bed.setup);
    Machine m = p.machine;
    m.spoilDepth = 0; // of what lies under the spoil board nothing may be cut
    for (const Findings& found :
         {judgeTravel(bed.setup, m, read), judgeSpindleRoom(bed.setup, m, 0, {})}) {
        bed.findings.insert(bed.findings.end(), found.begin(), found.end());
    }
    bed.program = PostedProgram::of(std::move(program), read.front(), p.machine);
}

bool asked(BedProgram& bed, const char* what, double depth, double most, double thickness) {
    if (!(depth > 0 && depth <= most)) {
        stop(bed.findings, "bed-depth",
             fmt::format("{:.3f} mm cannot be {}; more than 0 and at most {:.1f} mm was expected.",
                         depth, what, most),
             depth, most);
        return false;
    }
    if (depth >= thickness) {
        stop(bed.findings, "bed-through",
             fmt::format("{:.1f} mm would go through the spoil board, which is {:.1f} mm thick.",
                         depth, thickness),
             depth, thickness);
        return false;
    }
    return true;
}

} // namespace

std::vector<double> batchLinesOf(const Project& p) {
    if (!p.batchLines || p.batch.size() < 2) {
        return {0};
    }
    std::vector<double> out;
    for (std::size_t i = 0; i < p.batch.size(); ++i) {
        out.push_back((double(i) - double(p.batch.size() - 1) / 2) * *p.batchLines);
    }
    return out;
}

BedProgram deriveSurfacing(const Project& p, double depth) {
    BedProgram bed;
    bed.setup = bedSetup(p.machine);
    const SpoilBoard& board = p.machine.spoil;
    if (!asked(bed, "taken off a spoil board at a time", depth, mostSurfaced, board.thickness)) {
        return bed;
    }
    if (board.thickness - depth < board.least) {
        sayOf(Role::bed, bed.findings, Weight::caution, "spoil-board-worn",
              fmt::format("{:.1f} mm of spoil board would be left, and below {:.1f} mm it is to be "
                          "replaced.",
                          board.thickness - depth, board.least),
              board.thickness - depth, board.least);
    }
    const Bit* bit = widest(p.bits, [](const Bit& b) {
        return cutsFlat(b.kind) || b.kind == BitKind::surfacing || b.kind == BitKind::bullNose;
    });
    if (!bit) {
        stop(bed.findings, "no-bit", "The drawer has no bit that leaves a flat floor.", 0, 1);
        return bed;
    }
    bed.setup.faced = depth;
    Cut cut{CutKind::facing};
    cut.bit = *bit;
    cut.why = fmt::format("{}: the widest that leaves a flat floor.", bit->name);
    cut.feeds = feedsFor(*bit, bed.setup.blank.species(), p.machine);
    const Vec2 reach{p.machine.travel.x - fromStops, p.machine.travel.y - fromStops};
    cut.path = facingPath(bed.setup, {fromStops, fromStops - bit->radius()},
                          {reach.x, reach.y + bit->radius()}, *bit, cut.feeds);
    finish(bed, p, std::move(cut), "bed-surface.nc");
    return bed;
}

BedProgram deriveBedLines(const Project& p, double depth) {
    BedProgram bed;
    bed.setup = bedSetup(p.machine);
    if (!asked(bed, "engraved", depth, mostEngraved, p.machine.spoil.thickness)) {
        return bed;
    }
    const Bit* bit = finest(p.bits);
    if (!bit) {
        stop(bed.findings, "no-bit", "The drawer has no bit that lines could be engraved with.", 0,
             1);
        return bed;
    }
    const Vec2 cross = p.machine.crossing - p.machine.lowCorner();
    const Vec2 end{p.machine.travel.x - fromStops, p.machine.travel.y - fromStops};
    const auto within = [&](double v, double last) { return v > fromStops && v < last; };
    std::vector<double> along{cross.y};
    for (double off : batchLinesOf(p)) {
        if (off != 0) {
            along.push_back(cross.y + off);
        }
    }
    for (double y : along) {
        if (!within(y, end.y) || !within(cross.x, end.x)) {
            stop(bed.findings, "line-off-bed",
                 fmt::format("A line at X {:.1f}, Y {:.1f} mm from the travel's corner lies off "
                             "the bed, which reaches to {:.1f}, {:.1f} mm.",
                             cross.x, y, end.x, end.y),
                 y, end.y);
            return bed;
        }
    }
    Cut cut{CutKind::engraving};
    cut.bit = *bit;
    cut.why = fmt::format("{}: the finest point.", bit->name);
    cut.feeds = feedsFor(*bit, bed.setup.blank.species(), p.machine);
    const double clear = clearanceHeight;
    PathBuilder path({0, 0, clear});
    const auto line = [&](Vec2 from, Vec2 to) {
        path.travelTo(from, clear, approachHeight);
        path.feed({from.x, from.y, -depth}, cut.feeds.plunge);
        path.feed({to.x, to.y, -depth}, cut.feeds.feed);
        path.rapid({to.x, to.y, clear});
    };
    for (double y : along) {
        line({fromStops, y}, {end.x, y});
    }
    line({cross.x, fromStops}, {cross.x, end.y});
    cut.path = path.take();
    finish(bed, p, std::move(cut), "bed-lines.nc");
    return bed;
}

std::string postBedProgram(const BedProgram& bed, const std::filesystem::path& dir) {
    const auto stopping = std::find_if(bed.findings.begin(), bed.findings.end(),
                                       [](const Finding& f) { return f.weight == Weight::stop; });
    if (!bed.program || stopping != bed.findings.end()) {
        throw Error(stopping == bed.findings.end() ? "There is no program for the bed to write."
                                                   : stopping->message);
    }
    makeFolder(dir);
    writeFilesSafely({{dir / bed.program->program.file, bed.program->program.text}});
    return bed.program->program.file;
}

Findings judgeSpoilBoard(const Project& p) {
    Findings out;
    const SpoilBoard& board = p.machine.spoil;
    if (board.thickness < board.least) {
        sayOf(Role::bed, out, Weight::caution, "spoil-board-worn",
              fmt::format("The spoil board is {:.1f} mm thick, and below {:.1f} mm it is to be "
                          "replaced.",
                          board.thickness, board.least),
              board.thickness, board.least);
    }
    const double least =
        std::min({p.cut.through, p.neckCut.through, p.bodyCut.through, p.machine.spoilDepth});
    if (board.uneven > least) {
        sayOf(Role::bed, out, Weight::caution, "spoil-board-uneven",
              fmt::format("The spoil board is uneven by {:.2f} mm and through cuts go {:.2f} mm "
                          "into it: a skin may be left where it is low. Surface it first.",
                          board.uneven, least),
              board.uneven, least);
    }
    return out;
}

namespace {

/// The program that needs most room under the spindle.
std::optional<Tightest> tightest(const Derived& d) {
    std::optional<Tightest> out;
    for (const PartJob& job : d.parts) {
        for (std::size_t side = 0; side < job.held.sides(); ++side) {
            const auto own =
                tightestOf(job.held.side(side), d.project.machine, job.held.under, job.read[side]);
            if (own && (!out || own->sum.total() > out->sum.total())) {
                out = own;
            }
        }
    }
    return out;
}

} // namespace

std::string bedJson(const Derived& d) {
    using json = nlohmann::ordered_json;
    const Machine& m = d.project.machine;
    json lines = json::array();
    for (double off : batchLinesOf(d.project)) {
        lines.push_back(tidy(m.crossing.y + off));
    }
    json doc{{"machine", m.name},
             {"travel_mm", {tidy(m.travel.x), tidy(m.travel.y), tidy(m.travel.z)}},
             {"crossing_mm", {tidy(m.crossing.x), tidy(m.crossing.y)}},
             {"long_lines_y_mm", lines},
             {"spoil_board",
              {{"thickness_mm", tidy(m.spoil.thickness)},
               {"least_mm", tidy(m.spoil.least)},
               {"left_mm", tidy(std::max(0.0, m.spoil.thickness - m.spoil.least))},
               {"uneven_mm", tidy(m.spoil.uneven)},
               {"hold", bedHoldNames[std::size_t(m.spoil.hold)]}}},
             {"gap_mm", m.end.gap ? json(tidy(*m.end.gap)) : json()}};
    if (const auto t = tightest(d)) {
        doc["most_room"] = {{"program", t->program},           {"fixture_mm", tidy(t->sum.fixture)},
                            {"blank_mm", tidy(t->sum.blank)},  {"lift_mm", tidy(t->sum.lift)},
                            {"bit_mm", tidy(t->sum.bit)},      {"nut_mm", tidy(t->sum.nut)},
                            {"total_mm", tidy(t->sum.total())}};
    }
    return doc.dump(2) + "\n";
}

std::string bedText(const Derived& d) {
    const Machine& m = d.project.machine;
    std::string out = fmt::format(
        "{}: travels {:.0f} x {:.0f} x {:.0f} mm; the engraved lines cross at machine "
        "X {:.2f} Y {:.2f}\n"
        "spoil board: {:.1f} mm thick, {:.1f} mm of it to be surfaced away, uneven by "
        "{:.2f} mm\n",
        m.name, m.travel.x, m.travel.y, m.travel.z, m.crossing.x, m.crossing.y, m.spoil.thickness,
        std::max(0.0, m.spoil.thickness - m.spoil.least), m.spoil.uneven);
    if (const auto t = tightest(d)) {
        const SpindleSum& s = t->sum;
        out += fmt::format("most room is wanted by {}: fixture {:.1f} + blank {:.1f} + lift {:.1f} "
                           "+ bit {:.1f} + collet nut {:.1f} = {:.1f} mm; {}\n",
                           t->program, s.fixture, s.blank, s.lift, s.bit, s.nut, s.total(),
                           m.end.gap ? fmt::format("there are {:.1f} mm", *m.end.gap)
                                     : std::string("the gap under the spindle is not measured"));
    }
    return out;
}

} // namespace wren
