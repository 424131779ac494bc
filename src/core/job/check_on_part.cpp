#include "job/check_on_part.h"

#include "base/error.h"
#include "job/clamps.h"
#include "part/definition.h"
#include "proof/part_run.h"
#include "proof/rs274.h"
#include "proof/spindle_room.h"
#include "proof/travel.h"

#include <algorithm>
#include <cmath>

#include <fmt/format.h>
#include <fmt/ranges.h>

namespace wren {
namespace {

constexpr double allowed = 0.05;  ///< mm into the part, and past a wall
constexpr std::size_t parts = 64; ///< the program is run on in, to find where it strays

Definition designOf(const Derived& d, const PartJob& job) {
    if (job.panel) {
        return definitionOf(*job.panel);
    }
    return job.id == Role::neck ? definitionOf(d.neck->part) : definitionOf(*d.board);
}

/// The part in its setup, as the wood's cells see it.
class Design {
public:
    Design(const Derived& d, const PartJob& job, const Setup& setup)
        : wood_(designOf(d, job)), to_(setup.fromInstrument) {}

    /// Whether what stood over a place is the part's, clear of its walls.
    bool over(Vec3 at) const {
        const double z = at.z + allowed;
        return std::all_of(around.begin(), around.end(), [&](Vec2 off) {
            return wood_(to_.toInstrument({at.x + off.x, at.y + off.y, z}));
        });
    }
    /// How much of it, up to where the wood stood.
    double deepOver(Vec3 at, double top) const {
        double z = at.z + allowed;
        while (z < top && wood_(to_.toInstrument({at.x, at.y, z}))) {
            z += allowed;
        }
        return z - at.z;
    }

private:
    static constexpr std::array<Vec2, 5> around{
        {{0, 0}, {allowed, 0}, {-allowed, 0}, {0, allowed}, {0, -allowed}}};
    Definition wood_;
    SetupFromInstrument to_;
};

struct Cell {
    int column, row;
};

/// Cells that lost wood of the part.
std::vector<Cell> strayedCells(const Stock& before, const Stock& after, const Design& design) {
    std::vector<Cell> out;
    for (int r = 0; r < after.rows(); ++r) {
        for (int c = 0; c < after.columns(); ++c) {
            const double z = after.high(c, r);
            if (z < before.high(c, r) && design.over({after.x(c), after.y(r), z})) {
                out.push_back({c, r});
            }
        }
    }
    return out;
}

std::vector<Cell> strayedOf(const std::vector<Cell>& cells, const Stock& stock,
                            const Design& design) {
    std::vector<Cell> out;
    std::copy_if(cells.begin(), cells.end(), std::back_inserter(out), [&](const Cell& c) {
        return design.over({stock.x(c.column), stock.y(c.row), stock.high(c.column, c.row)});
    });
    return out;
}

RunProgram sliceOf(const RunProgram& program, std::size_t from, std::size_t to) {
    RunProgram out = program;
    out.path.assign(program.path.begin() + std::ptrdiff_t(from),
                    program.path.begin() + std::ptrdiff_t(to));
    return out;
}

/// The move by which the first of `cells` is strayed into: the program is run on part by part, and
/// the part that does it halved.
std::size_t firstStraying(const Stock& start, const RunProgram& program,
                          const std::vector<Cell>& cells, const Design& design,
                          const std::stop_token& stop) {
    std::size_t from = 0;
    std::size_t to = program.path.size();
    Stock wood = start;
    std::size_t step = std::max<std::size_t>(1, to / parts);
    while (from + 1 < to) {
        const std::size_t next = std::min(from + step, to);
        Stock after = simulateOn(wood, {sliceOf(program, from, next)}, {}, stop).stock;
        if (strayedOf(cells, after, design).empty()) {
            wood = std::move(after);
            from = next;
        } else {
            to = next;
            step = std::max<std::size_t>(1, (to - from) / 2);
        }
    }
    return std::min(from, program.path.size() - 1);
}

void judgeStraying(ProgramCheck& check, const PartJob& job, const Setup& setup, const Stock& start,
                   const Stock& end, const RunProgram& program, const Design& design,
                   const std::stop_token& stop) {
    const std::vector<Cell> cells = strayedCells(start, end, design);
    if (cells.empty()) {
        return;
    }
    const std::size_t move = firstStraying(start, program, cells, design, stop);
    double deep = 0;
    Vec3 worst;
    for (const Cell& c : cells) {
        const Vec3 at{end.x(c.column), end.y(c.row), end.high(c.column, c.row)};
        const double by = design.deepOver(at, start.high(c.column, c.row));
        if (by > deep) {
            deep = by;
            worst = at;
        }
    }
    const Move& m = program.path[move];
    Finding& f = sayOf(
        job.id, check.findings, Weight::stop, "strays",
        fmt::format("{}, line {}: here it first takes wood off the {}; at worst {:.2f} mm of it, "
                    "at {}.",
                    check.file, m.line, job.name(), deep,
                    setup.told(setup.fromInstrument.toInstrument(worst).xy())),
        deep, allowed);
    f.program = check.file;
    f.line = m.line;
}

} // namespace

WhereRun setupNamed(const PartJob& job, const std::string& name) {
    std::vector<std::string> names;
    for (std::size_t side = 0; side < job.held.sides(); ++side) {
        const Setup& setup = job.held.side(side);
        for (std::size_t k = 0; k < std::max<std::size_t>(1, setup.stations.size()); ++k) {
            names.push_back(setup.nameIn(k));
            if (name.empty() || name == names.back()) {
                return {side, k};
            }
        }
    }
    throw Error(fmt::format("The {} has no setup \"{}\"; one of {} was expected.", job.name(), name,
                            fmt::join(names, "; ")));
}

ProgramCheck checkOnPart(const Derived& d, const PartJob& job, WhereRun where,
                         const std::string& text, const std::string& name, const Bit& bit,
                         const std::stop_token& stop) {
    const Setup& setup = job.held.side(where.side);
    ProgramCheck check = checkProgram(text, name, d.project.machine.travel);
    std::erase_if(check.findings, [](const Finding& f) { return f.code == "outside-travel"; });
    Program posted;
    posted.file = name;
    posted.bit = bit;
    posted.text = text;
    posted.station = where.station;
    posted.zero = setup.zeroOf(where.station);
    const RunProgram program = readBack({posted}, setup).front();
    for (const Finding& f : judgeTravel(setup, d.project.machine, {program})) {
        if (f.code == "outside-travel" || f.code == "into-bed") {
            check.findings.push_back(f);
        }
    }
    for (const Findings& found :
         {judgeClampsOf(d, job, where.side, program),
          judgeSpindleRoom(setup, d.project.machine, job.held.under, {program})}) {
        check.findings.insert(check.findings.end(), found.begin(), found.end());
    }
    Moment nothingYet;
    nothingYet.program = 0;
    const Stock start = stockAt(sidesOf(d, job), where.side, nothingYet, proofCell, stop);
    const Simulation run = simulateOn(start, {program}, {}, stop);
    for (const Collision& c : run.collisions) {
        check.findings.push_back(collisionFinding(c, program, setup));
    }
    judgeStraying(check, job, setup, start, run.stock, program, Design(d, job, setup), stop);
    std::stable_sort(check.findings.begin(), check.findings.end(),
                     [](const Finding& a, const Finding& b) { return a.line < b.line; });
    return check;
}

const Bit* bitInHeader(const std::string& text, const Drawer& drawer) {
    const std::size_t at = text.find("(Bit ");
    if (at == std::string::npos) {
        return nullptr;
    }
    const std::size_t from = at + 5;
    const std::size_t end = text.find_first_of(":)\n", from);
    return findBit(drawer, text.substr(from, end - from));
}

} // namespace wren
