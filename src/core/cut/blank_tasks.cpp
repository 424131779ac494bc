#include "cut/blank_tasks.h"

#include "cut/facing_cut.h"

#include <fmt/format.h>

namespace wren {

std::optional<OpenTask> facingTask(const Held& setups, const BodyCut& cut, BitChooser& chooser) {
    const double faced = setups.face.faced;
    if (faced <= 0) {
        return {};
    }
    const BitJudge judge = [faced](const Bit& b) -> Verdict {
        return cutsFlat(b.kind) || b.kind == BitKind::surfacing ? reaches(b, faced, false)
                                                                : Verdict{};
    };
    const auto better = [](const Bit& a, const Bit& b) { return a.diameter > b.diameter; };
    std::string why;
    const Bit* bit = chooser.choose("facing", cut.faced, judge, better,
                                    "the widest bit, for the fewest passes", why);
    if (!bit) {
        return {};
    }
    const auto path = [&setups](const Bit& b, const Feeds& f) {
        const double over = b.radius();
        return facingPath(setups.face, {-over, -over},
                          {setups.blank.length + over, setups.blank.width + over}, b, f);
    };
    return OpenTask{CutKind::facing, bit, cut.faced, why, path, judge, {}, 0.7 * bit->diameter};
}

std::optional<OpenTask> notchTask(const PanelWork& work, const Held& setups, BitChooser& chooser) {
    if (!setups.notch) {
        return {};
    }
    const Vec2 mouth = *setups.notch;
    const double surface = work.setup.topZ() - work.setup.faced;
    const double bottom = (surface + work.setup.bottomZ()) / 2;
    const BitJudge judge = [=](const Bit& b) -> Verdict {
        return cutsFlat(b.kind) ? reaches(b, surface - bottom, true) : Verdict{};
    };
    std::string why;
    const Bit* bit = chooser.choose(
        "witness notch", work.cut.outline, judge, widestOf(false, surface - bottom, false),
        fmt::format("any flat bit with flutes of {:.1f} mm, half the blank's thickness",
                    surface - bottom),
        why);
    if (!bit) {
        return {};
    }
    const PanelWork w = work;
    const auto path = [w, mouth, bottom](const Bit& b, const Feeds& f) {
        return panelNotchPath(w, mouth, bottom, b, f);
    };
    OpenTask task{CutKind::notch};
    task.bit = bit;
    task.why = why;
    task.path = path;
    task.judge = judge;
    return task;
}

} // namespace wren
