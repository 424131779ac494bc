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

#include <fmt/format.h>

namespace wren {
namespace {

/// A pocket's walls so much further out.
std::vector<Contour> widened(const std::vector<Contour>& borders, double by) {
    std::vector<Contour> turned;
    turned.reserve(borders.size());
    for (const Contour& c : borders) {
        turned.push_back(reversed(c));
    }
    std::vector<Contour> out;
    for (const Contour& c : inset(turned, by)) {
        out.push_back(reversed(c));
    }
    return out;
}

/// Pockets of one name and face in a piece of the body, and the bit that cut each.
struct Tried {
    const PartJob* job = nullptr;
    const Panel* panel = nullptr;
    std::vector<std::size_t> pockets;
    std::size_t side() const { return panel->pockets[pockets.front()].fromBack ? 1 : 0; }
};

/// The finished body first: what is tried in it was cut last. Then its layers, then what is fitted
/// into it.
std::vector<const PartJob*> latestFirst(const Derived& d) {
    std::vector<const PartJob*> out;
    for (bool fitted : {false, true}) {
        for (auto job = d.parts.rbegin(); job != d.parts.rend(); ++job) {
            if (job->panel && job->panel->id.byItself() == fitted) {
                out.push_back(&*job);
            }
        }
    }
    return out;
}

Tried pocketsNamed(const Derived& d, const std::string& what) {
    for (const PartJob* job : latestFirst(d)) {
        Tried t{job, job->panel.get(), {}};
        for (std::size_t i = 0; job->placed && i < t.panel->pockets.size(); ++i) {
            const PanelPocket& p = t.panel->pockets[i];
            if (p.what == what && p.stage != PocketStage::before &&
                job->panelPlan().halved.count(i) == 0 &&
                (t.pockets.empty() || p.fromBack == t.panel->pockets[t.pockets.front()].fromBack)) {
                t.pockets.push_back(i);
            }
        }
        if (!t.pockets.empty()) {
            return t;
        }
    }
    throw Error(fmt::format("The body has no pocket \"{}\"; it has: {}.", what,
                            fmt::join(fitNames(d), ", ")));
}

const Bit& bitOf(const Tried& tried, const std::string& what, const Drawer& drawer) {
    for (const PanelTask& task : tried.job->panelPlan().tasks) {
        const Bit* bit =
            task.feature == tried.pockets.front() ? findBit(drawer, task.bit) : nullptr;
        if (bit) {
            return *bit;
        }
    }
    throw Error(fmt::format("No bit cuts the {}, so it cannot be fitted.", what));
}

/// The piece with nothing but those pockets, so much wider.
Panel widerPanel(const Tried& tried, double by) {
    Panel wider = *tried.panel;
    wider.pockets.clear();
    wider.holes.clear();
    wider.engraved.clear();
    wider.frontFall = {};
    wider.backFall = {};
    wider.outlined = false;
    for (std::size_t i : tried.pockets) {
        wider.pockets.push_back(tried.panel->pockets[i]);
        wider.pockets.back().borders = widened(tried.panel->pockets[i].borders, by);
    }
    return wider;
}

Path lapsOf(const PanelWork& work, const Cut& lap) {
    Path path;
    for (const PanelPocket& p : work.panel.pockets) {
        Path more = pocketWallPath(work, p, lap.bit, lap.feeds, false);
        if (!path.empty() && !more.empty()) {
            more.front().from = path.back().to;
        }
        path.insert(path.end(), more.begin(), more.end());
    }
    return path;
}

/// The station a path lies in with all of it. Throws Error.
std::size_t stationOf(const Path& path, const Setup& setup, const std::string& what) {
    for (std::size_t k = 0; k < setup.stations.size(); ++k) {
        const SlideStation& s = setup.stations[k];
        if (std::all_of(path.begin(), path.end(), [&](const Move& m) {
                return !m.cuts() || (m.to.x >= s.from && m.to.x <= s.to);
            })) {
            return k;
        }
    }
    if (!setup.stations.empty()) {
        throw Error(fmt::format("The {} reaches over both stations, so it is not fitted in one "
                                "program.",
                                what));
    }
    return 0;
}

} // namespace

std::vector<std::string> fitNames(const Derived& d) {
    std::vector<std::string> names;
    for (const PartJob* job : latestFirst(d)) {
        const std::vector<PanelPocket>& pockets = job->panel->pockets;
        for (std::size_t i = 0; i < pockets.size(); ++i) {
            const bool known =
                std::find(names.begin(), names.end(), pockets[i].what) != names.end();
            if (!known &&
                job->panelPlan().halved.count(i) == 0) { // one cut from each face is no fit
                names.push_back(pockets[i].what);
            }
        }
    }
    return names;
}

FitPass deriveFitPass(const Project& project, const std::string& what, double by) {
    if (!(by >= leastFitPass && by <= mostFitPass)) {
        throw Error(fmt::format("{:.3f} mm cannot be taken off in a fit pass; {:.2f} to {:.2f} mm "
                                "was expected.",
                                by, leastFitPass, mostFitPass));
    }
    Derived d = deriveDrawing(project);
    derivePrograms(d);
    if (!d.job(Role::body) || !d.job(Role::body)->placed) {
        throw Error("There is no body that can be made, so none of its pockets can be fitted.");
    }
    const Tried tried = pocketsNamed(d, what);
    FitPass pass;
    pass.what = what;
    pass.by = by;
    const std::size_t side = tried.side();
    pass.setup = tried.job->plan().sides[side].setup;
    const Panel wider = widerPanel(tried, by);
    Cut lap{CutKind::fit};
    lap.bit = bitOf(tried, what, project.bits);
    lap.why = fmt::format("{}: it cut the walls before.", lap.bit.name);
    lap.feeds =
        feedsFor(lap.bit, pass.setup.blank.species(), project.machine, project.bodyCut.walls);
    lap.handBefore = fmt::format(
        "Lay the {} back as it lay for this side, on the same pins and zero.", wider.name());
    lap.path = lapsOf({wider, pass.setup, project.bodyCut, project.machine.spoilDepth}, lap);
    lap.station = stationOf(lap.path, pass.setup, what);
    if (const int number = pass.setup.numberOf(lap.station); number > 0) {
        lap.handBefore += fmt::format(" In station {}.", number);
    }
    const std::vector<Cut> cuts{lap};
    Program program = postPrograms({{&pass.setup, &cuts}}, project.machine,
                                   {project.name, designHash(project), {}})[0];
    std::string name = what;
    std::replace(name.begin(), name.end(), ' ', '-');
    program.file = fmt::format("fit-{}.nc", name);
    const std::vector<RunProgram> read = readBack({program}, pass.setup);
    // Judged as the walls of pockets that much wider.
    PanelPlan plan;
    plan.sides[side] = {pass.setup, cuts};
    for (std::size_t i = 0; i < wider.pockets.size(); ++i) {
        plan.tasks.push_back({i, side, 0, lap.bit.name});
    }
    const WallReport walls =
        judgePanelWalls(wider, pass.setup, plan, project.bodyCut, read, side == 1);
    pass.wallMax = walls.worst;
    pass.findings = walls.findings;
    const Findings travel = judgeTravel(pass.setup, project.machine, read);
    pass.findings.insert(pass.findings.end(), travel.begin(), travel.end());
    pass.program = PostedProgram::of(program, read[0], project.machine);
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
