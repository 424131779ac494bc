#include "proof/proof.h"

#include "proof/holding.h"
#include "proof/surface.h"
#include "proof/travel.h"
#include "proof/walls.h"

#include <algorithm>

#include <fmt/format.h>

namespace wren {
namespace {

Finding collisionFinding(const Collision& c, const RunProgram& program, const Setup& setup) {
    const Move& move = program.path[c.move];
    Finding f;
    f.weight = Weight::stop;
    f.part = setup.part;
    f.program = program.file;
    f.line = move.line;
    f.value = c.depth;
    f.atX = setup.fromInstrument.toInstrument(move.to).x;
    if (c.kind == Collision::Kind::rapidInWood) {
        f.code = "rapid-through-stock";
        f.message = fmt::format("{}, line {}: a rapid move goes {:.2f} mm into the wood.",
                                program.file, move.line, c.depth);
    } else {
        f.code = "flutes-too-short";
        f.limit = program.bit.fluteLength;
        f.value = program.bit.fluteLength + c.depth;
        f.message = fmt::format("{}, line {}: {} works {:.2f} mm deep but its flutes are only "
                                "{:.2f} mm long.",
                                program.file, move.line, program.bit.name, f.value, f.limit);
    }
    return f;
}

void append(Findings& to, Findings from) {
    to.insert(to.end(), std::make_move_iterator(from.begin()), std::make_move_iterator(from.end()));
}

} // namespace

ProofReport proveBoard(const BoardPart& board, const BoardPlan& plan, const CutSettings& cut,
                       const Machine& machine, const std::vector<RunProgram>& programs, double cell,
                       const std::stop_token& stop) {
    ProofReport report;
    report.part = plan.setup.part;
    report.setup = plan.setup.name;
    report.cell = cell;
    const Simulation run = simulate(plan.setup, programs, cell, {}, stop);
    for (const Collision& c : run.collisions) {
        report.findings.push_back(collisionFinding(c, programs[c.program], plan.setup));
    }
    append(report.findings, judgeTravel(plan.setup, machine, programs));
    SurfaceReport surface = compareSurface(board, plan.setup, cut, programs, run.stock);
    append(report.findings, std::move(surface.findings));
    WallReport walls = judgeWalls(board, plan, programs);
    append(report.findings, std::move(walls.findings));
    append(report.findings, judgeHolding(board, plan, cut, programs, run.stock));
    report.gougeMax = surface.gougeMax;
    report.excessMax = surface.excessMax;
    report.excessRms = surface.excessRms;
    report.deviation = std::move(surface.deviation);
    report.wallMax = walls.worst;
    report.passed = !hasStop(report.findings);
    return report;
}

} // namespace wren
