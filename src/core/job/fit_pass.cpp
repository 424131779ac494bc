#include "job/fit_pass.h"

#include "base/digest.h"
#include "base/error.h"
#include "base/files.h"
#include "geom/inset.h"
#include "job/store.h"
#include "proof/panel_walls.h"
#include "proof/travel.h"
#include "shop/wood.h"

#include <algorithm>

namespace wren {
namespace {

/// A pocket's walls so much further out.
std::vector<Contour> widened(const std::vector<Contour>& borders, double by) {
    std::vector<Contour> turned;
    for (const Contour& c : borders) {
        turned.push_back(reversed(c));
    }
    std::vector<Contour> out;
    for (const Contour& c : inset(turned, by)) {
        out.push_back(reversed(c));
    }
    return out;
}

std::size_t pocketNamed(const Panel& panel, const std::string& what) {
    std::vector<std::string> names;
    for (std::size_t i = 0; i < panel.pockets.size(); ++i) {
        if (panel.pockets[i].what == what) {
            return i;
        }
        if (std::find(names.begin(), names.end(), panel.pockets[i].what) == names.end()) {
            names.push_back(panel.pockets[i].what);
        }
    }
    throw Error(
        fmt::format("The body has no pocket \"{}\"; it has: {}.", what, fmt::join(names, ", ")));
}

} // namespace

FitPass deriveFitPass(const Project& project, const std::string& what, double by) {
    if (!(by >= leastFitPass && by <= mostFitPass)) {
        throw Error(fmt::format("{:.3f} mm cannot be taken off in a fit pass; {:.2f} to {:.2f} mm "
                                "was expected.",
                                by, leastFitPass, mostFitPass));
    }
    Derived d = deriveDrawing(project);
    derivePrograms(d);
    if (!d.body || !d.body->named("body")->placed) {
        throw Error("There is no body that can be made, so none of its pockets can be fitted.");
    }
    const PanelJob& job = *d.body->named("body");
    const Panel& cut = d.body->panelOf(job);
    const std::size_t index = pocketNamed(cut, what);
    const auto task = std::find_if(job.plan.tasks.begin(), job.plan.tasks.end(),
                                   [&](const PanelTask& t) { return t.feature == index; });
    const Bit* bit = task == job.plan.tasks.end() ? nullptr : findBit(project.bits, task->bit);
    if (!bit) {
        throw Error(fmt::format("No bit cuts the {}, so it cannot be fitted.", what));
    }
    FitPass pass;
    pass.what = what;
    pass.by = by;
    const std::size_t side = cut.pockets[index].fromBack ? 1 : 0;
    pass.setup = job.plan.sides[side].setup;
    Panel wider = cut;
    wider.pockets = {cut.pockets[index]};
    wider.holes.clear();
    wider.outlined = false;
    wider.pockets[0].borders = widened(cut.pockets[index].borders, by);
    const PanelWork work{wider, pass.setup, project.bodyCut, project.machine.spoilDepth};
    Cut lap;
    lap.what = "fit";
    lap.bit = *bit;
    lap.why = fmt::format("{}: it cut the walls before.", bit->name);
    lap.feeds = feedsFor(*bit, woodById(cut.wood), project.machine, project.bodyCut.walls);
    lap.handBefore = "Lay the body back as it lay for this side, on the same pins and zero.";
    lap.path = pocketWallPath(work, wider.pockets[0], *bit, lap.feeds, false);
    const std::vector<Cut> cuts{lap};
    Program program = postPrograms({{&pass.setup, &cuts}}, project.machine,
                                   {project.name, designHash(project), {}})[0];
    std::string name = what;
    std::replace(name.begin(), name.end(), ' ', '-');
    program.file = fmt::format("fit-{}.nc", name);
    const std::vector<RunProgram> read = readBack({program}, pass.setup);
    // Judged as the walls of a pocket that much wider.
    PanelPlan plan;
    plan.sides[side] = {pass.setup, cuts};
    plan.tasks = {{"fit", bit->name, 0}};
    const WallReport walls =
        judgePanelWalls(wider, pass.setup, plan, project.bodyCut, read, side == 1);
    pass.wallMax = walls.worst;
    pass.findings = walls.findings;
    const Findings travel = judgeTravel(pass.setup, project.machine, read);
    pass.findings.insert(pass.findings.end(), travel.begin(), travel.end());
    pass.program = PostedProgram{program, timeOf(read[0].path, project.machine),
                                 extentsOf(read[0].path), sha256(program.text)};
    return pass;
}

std::string postFitPass(const FitPass& pass, const std::filesystem::path& dir) {
    const auto stopping = std::find_if(pass.findings.begin(), pass.findings.end(),
                                       [](const Finding& f) { return f.weight == Weight::stop; });
    if (!pass.program || stopping != pass.findings.end()) {
        throw Error(stopping == pass.findings.end() ? "There is no program for the fit to write."
                                                    : stopping->message);
    }
    makeFolder(dir);
    writeFilesSafely({{dir / pass.program->program.file, pass.program->program.text}});
    return pass.program->program.file;
}

} // namespace wren
