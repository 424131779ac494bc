#include "proof/proof.h"

#include "proof/ease.h"
#include "proof/holding.h"
#include "proof/surface.h"
#include "proof/travel.h"
#include "proof/walls.h"

#include <algorithm>
#include <limits>

#include <fmt/format.h>

namespace wren {
namespace {

void append(Findings& to, Findings from) {
    to.insert(to.end(), std::make_move_iterator(from.begin()), std::make_move_iterator(from.end()));
}

} // namespace

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
    } else if (c.kind == Collision::Kind::holderInWood) {
        f.code = "holder-in-wood";
        f.limit = program.bit.reachOrUsual();
        f.value = program.bit.reachOrUsual() + c.depth;
        f.message =
            fmt::format("{}, line {}: the collet nut would go {:.2f} mm into the wood; {} "
                        "stands {:.1f} mm out of it and {:.1f} mm are wanted.",
                        program.file, move.line, c.depth, program.bit.name, f.limit, f.value);
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

void addLoads(ProofReport& report, const Setup& setup, const Machine& machine,
              const std::vector<Cut>& cuts, const std::vector<RunProgram>& programs,
              const std::vector<LoadTrace>& traces) {
    const Wood& wood = setup.blank.species();
    for (std::size_t i = 0; i < traces.size(); ++i) {
        const OwnPass own = ownPass(programs[i].bit, wood, machine, cuts);
        report.loads.push_back(loadOf(programs[i], traces[i], own, wood));
    }
    append(report.findings, judgeLoads(setup, programs, report.loads));
}

PartSides boardSides(const BoardPart& board, const Held& held, const SidePrograms& programs) {
    return {held, programs, {fillingsOf(board, held.face, programs[0]), {}}};
}

PartProof proveBoard(const BoardPart& board, const PartSides& sides, const BoardPlan& plan,
                     const CutSettings& cut, const Machine& machine, double cell,
                     const std::stop_token& stop) {
    PartProof proof;
    ProofReport& report = proof.sides[0];
    const Setup& face = sides.held.face;
    const std::vector<RunProgram>& programs = sides.programs[0];
    report.part = face.part;
    report.setup = face.name;
    report.cell = cell;
    const PartRun run = runPart(sides, cell, stop);
    const Stock& stock = *run.whole;
    for (const Collision& c : run.collisions[0]) {
        report.findings.push_back(collisionFinding(c, programs[c.program], face));
    }
    append(report.findings, judgeTravel(face, machine, programs));
    append(report.findings, judgeFilledFloors(report.part, sides.fillings[0], run.floors[0]));
    addLoads(report, face, machine, plan.face().cuts, programs, run.loads[0]);
    report.deviation = emptyDeviation(stock);
    double squares = 0;
    const CuttingPieces pieces(programs);
    for (std::size_t i = 0; i < face.places.size(); ++i) {
        const Setup setup = face.at(i);
        SurfaceReport surface =
            compareSurface(board, setup, plan, cut, programs, stock, report.deviation);
        append(report.findings, std::move(surface.findings));
        WallReport walls = judgeWalls(board, setup, pieces, programs);
        append(report.findings, std::move(walls.findings));
        if (plan.face().cutOf(CutKind::outline)) { // else nothing is to come free
            append(report.findings, judgeHolding(board, setup, plan.tabs, cut, programs, stock));
        }
        if (i == 0 || surface.gougeMax > report.gougeMax) {
            report.gougeMax = std::max(0.0, surface.gougeMax);
            report.gougeAt = surface.gougeAt;
        }
        if (i == 0 || surface.excessMax > report.excessMax) {
            report.excessMax = std::max(0.0, surface.excessMax);
            report.excessAt = surface.excessAt;
        }
        squares += surface.excessRms * surface.excessRms;
        report.wallMax = std::max(report.wallMax, walls.worst);
    }
    report.excessRms = std::sqrt(squares / static_cast<double>(face.places.size()));
    report.passed = !hasStop(report.findings);
    proof.sides[1].part = face.part;
    proof.sides[1].passed = true;
    proof.stock = run.whole;
    return proof;
}

} // namespace wren
