#include "cut/carve_recipe.h"

#include "cut/trough_paths.h"

#include "design/shape.h"
#include "geom/inset.h"

#include <algorithm>

#include <fmt/format.h>

namespace wren {
namespace {

constexpr double besideBall = 2;     ///< a roughing bit may be so much wider than the ball
constexpr double underChannel = 0.7; ///< of a sheet, for tabs; common practice, no source
constexpr double widestOnArch = 12;  ///< where there is room for more

BitJudge rollsOn(const Panel& panel, const FaceFall& fall, double hollow) {
    return [&panel, &fall, hollow](const Bit& b) -> Verdict {
        if (b.kind != BitKind::ball) {
            return {};
        }
        if (b.radius() > hollow + 1e-6) {
            return {false,
                    fmt::format("its radius of {:.2f} mm does not roll in a hollow of "
                                "{:.2f} mm",
                                b.radius(), hollow),
                    b.radius() - hollow};
        }
        const double under = panel.thickness() - carveDepth(fall, b.radius()) - channelBelowTip;
        if (panel.id.byItself() && under < underChannel) {
            return {false,
                    fmt::format("beside the edge it would leave {:.2f} mm of the sheet, "
                                "{:.1f} mm hold the part",
                                std::max(0.0, under), underChannel),
                    underChannel - under};
        }
        return reaches(b, carveDepth(fall, b.radius()), false);
    };
}

BitJudge goesBeside(double deep, double widest) {
    return [deep, widest](const Bit& b) -> Verdict {
        if (!cutsFlat(b.kind)) {
            return {};
        }
        if (b.diameter > widest) {
            return {false,
                    fmt::format("its {:.1f} mm want a wider channel than the {:.1f} mm "
                                "beside the edge",
                                b.diameter, widest),
                    b.diameter - widest};
        }
        return reaches(b, deep, true);
    };
}

void addRoughing(CarveTasks& out, const CarveAsk& ask, const Bit& ball, BitChooser& chooser) {
    const PanelWork w = ask.work;
    const FaceFall& fall = w.panel.fall(ask.back);
    const double r = ball.radius();
    const double deep = carveDepth(fall, r) + channelBelowTip;
    const double widest = fall.edge().hasArch() ? widestOnArch : ball.diameter + besideBall;
    const BitJudge judge = goesBeside(deep, widest);
    std::string why;
    const Bit* bit = chooser.choose(
        "carving's roughing", w.cut.rough, judge, widestOf(false, deep, false),
        fmt::format("a flat bit of at most {:.1f} mm with flutes of {:.1f} mm", widest, deep), why);
    if (!bit) {
        return;
    }
    std::vector<Hole> pins;
    for (const RegisterPin& pin : ask.pins) {
        pins.push_back({"register", pin.at, ask.pinSize, 0, 0, false, true});
    }
    const bool back = ask.back;
    out.tasks.push_back(
        {CutKind::rough,
         bit,
         w.cut.rough,
         why + " It leaves steps over the stock left for the ball, and a channel beside the edge.",
         [w, &fall, back, r, pins](const Bit& b, const Feeds& f) {
             return carveRoughPath(w, {fall, back}, r, pins, b, f);
         },
         judge,
         {},
         bit->diameter * w.cut.stepover / 100});
}

} // namespace

CarveTasks carveTasks(const CarveAsk& ask, BitChooser& chooser,
                      const std::function<double(const Bit&, const CutOverrides&)>& feedOf) {
    CarveTasks out;
    const PanelWork w = ask.work;
    const FaceFall& fall = w.panel.fall(ask.back);
    if (fall.level()) {
        return out;
    }
    if (fall.trough()) {
        return troughTasks(ask, chooser, feedOf);
    }
    const double ridge = w.cut.carveScallop;
    const double hollow =
        std::min(tightestHollow(clockwise(w.panel.outline)), fall.edge().tightestHollow());
    const auto sooner = [&](const Bit& a, const Bit& b) {
        const auto minutes = [&](const Bit& bit) {
            return carveLength(w.panel, fall, bit.radius(), ridge) / feedOf(bit, w.cut.carve);
        };
        return minutes(a) < minutes(b);
    };
    std::string why;
    const Bit* ball =
        chooser.choose("edges and contours", w.cut.carve, rollsOn(w.panel, fall, hollow), sooner,
                       fmt::format("a ball of at most {:.1f} mm radius that reaches {:.1f} mm deep",
                                   hollow, fall.deepest()),
                       why);
    if (!ball) {
        return out;
    }
    out.ballRadius = ball->radius();
    addRoughing(out, ask, *ball, chooser);
    const bool back = ask.back;
    const std::string name = ball->name;
    out.tasks.push_back(
        {CutKind::carving,
         ball,
         w.cut.carve,
         why + fmt::format(" It touches the surface exactly; scallops of {:.3f} mm stay.", ridge),
         [w, &fall, back](const Bit& b, const Feeds& f) {
             return carveFinishPath(w, {fall, back}, b, f);
         },
         [name](const Bit& b) {
             return b.name == name ? Verdict{true, {}} : Verdict{};
         },
         {},
         0});
    return out;
}

} // namespace wren
