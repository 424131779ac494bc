#include "cut/panel_tasks.h"

#include "cut/panel_bits.h"

#include <algorithm>

#include <fmt/format.h>

namespace wren {

std::optional<OpenTask> holesTask(const PanelWork& work, const std::vector<Hole>& holes,
                                  BitChooser& chooser) {
    const Hole& one = holes.front();
    const double d = one.diameter;
    const double surface = work.setup.topZ() - work.setup.faced;
    double deep = 0;
    double reach = 0;
    for (const Hole& h : holes) {
        const double bottom = work.z(h.floor) - (h.through ? work.cut.through : 0);
        deep = std::max(deep, work.z(h.mouth) - bottom);
        reach = std::max(reach, surface - bottom);
    }
    const BitJudge judge = makesHole(d, deep, reach, one.through);
    const auto better = [=](const Bit& a, const Bit& b) {
        const bool da = a.kind == BitKind::drill;
        const bool db = b.kind == BitKind::drill;
        return da != db ? da : widestOf(false, deep, false)(a, b);
    };
    const CutOverrides byRecipe;
    std::string why;
    const Bit* bit = chooser.choose(fmt::format("{:.2f} mm {} holes", d, one.what).c_str(),
                                    byRecipe, judge, better, holeWant(d, deep), why);
    if (!bit) {
        return {};
    }
    OpenTask task{CutName(CutKind::holes, one.feature.kind, one.what + "s")};
    task.bit = bit;
    task.why = why;
    task.judge = judge;
    task.path = [work, holes, d](const Bit& b, const Feeds& f) {
        const HoleHeights heights{work.clear(), work.approach(), work.cut.peck};
        const std::vector<Bore> bores = boresOf(work, holes, b);
        return b.kind == BitKind::drill ? drillPath(heights, bores, f)
                                        : borePath(heights, bores, d, b, f);
    };
    return task;
}

std::optional<OpenTask> engraveTask(const PanelWork& work, bool back, BitChooser& chooser) {
    std::vector<PanelLine> lines;
    double deep = 0;
    for (const PanelLine& l : work.panel.engraved) {
        if (l.fromBack == back) {
            lines.push_back(l);
            deep = std::max(deep, l.depth);
        }
    }
    if (lines.empty()) {
        return {};
    }
    const BitJudge judge = drawsLines(deep);
    std::string why;
    const Bit* bit = chooser.choose(
        "engraving", work.cut.engrave, judge, finerLines,
        fmt::format("a V of at least {:.1f} mm height, or a ball of at most {:.1f} mm", deep,
                    widestStroke),
        why);
    if (!bit) {
        return {};
    }
    why += fmt::format(" Lines come out {:.2f} mm wide.", 2 * EndShape::of(*bit).radiusAt(deep));
    OpenTask task{CutKind::engraving};
    task.bit = bit;
    task.own = work.cut.engrave;
    task.why = why;
    task.judge = judge;
    task.path = [work, lines](const Bit&, const Feeds& f) { return engravePath(work, lines, f); };
    return task;
}

std::optional<OpenTask> guideTask(const PanelWork& work, BitChooser& chooser) {
    const double deep = work.cut.guideDepth;
    OpenTask task{CutKind::guide};
    task.own = work.cut.outline;
    task.judge = [deep](const Bit& b) -> Verdict {
        return cutsFlat(b.kind) ? reaches(b, deep, true) : Verdict{};
    };
    task.bit = chooser.choose("the saw's guide", task.own, task.judge, widestOf(false, deep, false),
                              fmt::format("a flat bit that cuts {:.1f} mm deep", deep), task.why);
    if (!task.bit) {
        return {};
    }
    task.path = [work](const Bit& b, const Feeds& f) { return panelGuidePath(work, b, f); };
    return task;
}

} // namespace wren
