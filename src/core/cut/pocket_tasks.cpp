#include "cut/pocket_tasks.h"

#include "cut/panel_bits.h"
#include "geom/inset.h"

#include <fmt/format.h>

namespace wren {
namespace {

constexpr double smallestPlug = 10; ///< mm from its edge to its middle

/// A wider bit takes the middle, the finer one follows.
OpenTask clearingTask(const PanelWork& work, const PanelPocket& p, const Bit& wide,
                      const PocketBit& chosen) {
    OpenTask task{cutNameOf(p)};
    task.bit = &wide;
    task.own = work.cut.rough;
    task.why =
        fmt::format("{}: clears it; {} follows into the corners.", wide.name, chosen.bit->name);
    task.path = [work, &p](const Bit& b, const Feeds& f) { return clearPocketPath(work, p, b, f); };
    task.judge = [&wide](const Bit& b) { return b == wide ? Verdict{true, {}} : Verdict{}; };
    task.stepover = wide.diameter * work.cut.stepover / 100;
    return task;
}

/// Down to the floor and along the walls.
Path finishPocket(const PanelWork& work, const PanelPocket& p, bool cleared, const Bit& bit,
                  const Feeds& feeds) {
    Path path;
    const bool slender = inset(p.borders, bit.radius() + work.cut.stockToLeave).empty();
    if (!cleared && !slender) {
        append(path, clearPocketPath(work, p, bit, feeds));
    }
    if (p.slope != 0) {
        append(path, slopePath(work, p, bit, feeds));
    }
    append(path, pocketWallPath(work, p, bit, feeds, cleared || slender));
    return path;
}

} // namespace

CutName cutNameOf(const PanelPocket& p) {
    return {CutKind::pocket, p.feature.kind, p.cut};
}

PocketBit choosePocketBit(const PanelWork& work, const PanelPocket& p, BitChooser& chooser) {
    const PocketDepth d = depthOf(work, p);
    const double deep = d.top - d.bottom;
    const double reach = work.setup.topZ() - work.setup.faced - d.bottom;
    const double hollow = hollowOf(p);
    PocketBit out;
    out.fits = goesInto(p, deep, reach, hollow);
    out.bit =
        chooser.choose(p.what.c_str(), work.cut.walls.bit.empty() ? work.cut.rough : work.cut.walls,
                       out.fits, widestOf(p.visible, deep, p.through),
                       hollow < 1e6 ? fmt::format("a flat bit that goes into corners of {:.1f} "
                                                  "mm and {:.1f} mm deep",
                                                  hollow, deep)
                                    : fmt::format("a flat bit that cuts {:.1f} mm deep", deep),
                       out.why);
    if (out.bit) {
        out.why += whyKind(*out.bit, p.visible);
    }
    return out;
}

std::vector<OpenTask> pocketTasks(const PanelWork& work, const PanelPocket& p,
                                  const PocketBit& chosen, const Drawer& drawer) {
    const PocketDepth d = depthOf(work, p);
    const PocketReach depth{d.top - d.bottom, work.setup.topZ() - work.setup.faced - d.bottom};
    const Bit* wide = widerFor(p, *chosen.bit, depth, drawer, work.cut.stockToLeave);
    std::vector<OpenTask> tasks;
    if (wide) {
        tasks.push_back(clearingTask(work, p, *wide, chosen));
    }
    OpenTask last{wide ? CutName(CutKind::corners) : cutNameOf(p)};
    last.bit = chosen.bit;
    last.own = wide ? work.cut.walls : work.cut.rough;
    last.why = chosen.why;
    last.path = [work, &p, cleared = wide != nullptr](const Bit& b, const Feeds& f) {
        return finishPocket(work, p, cleared, b, f);
    };
    last.judge = chosen.fits;
    last.stepover = chosen.bit->diameter * work.cut.stepover / 100;
    tasks.push_back(std::move(last));
    return tasks;
}

double plugBegins(const Bit& bit, const BodyCut& cut) {
    return bit.diameter + cut.stockToLeave;
}

bool leavesPlug(const PanelPocket& p, const Bit& bit, const BodyCut& cut) {
    return p.through && p.borders.size() == 1 && cut.plugTabs > 0 &&
           !inset(p.borders, plugBegins(bit, cut) + smallestPlug).empty();
}

OpenTask plugTask(const PanelWork& work, const PanelPocket& p, const std::vector<PanelTab>& tabs,
                  const PocketBit& chosen) {
    OpenTask task{cutNameOf(p)};
    task.bit = chosen.bit;
    task.own = work.cut.rough;
    task.why = chosen.why +
               fmt::format(" Its plug stays on {} tabs, to be sawn out by hand.", tabs.size());
    task.path = [work, &p, tabs](const Bit& b, const Feeds& f) {
        return plugPath(work, p, tabs, b, f);
    };
    task.judge = chosen.fits;
    return task;
}

} // namespace wren
