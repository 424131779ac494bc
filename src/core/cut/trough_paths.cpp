#include "cut/trough_paths.h"

#include "cut/path_builder.h"
#include "cut/settings.h"

#include <algorithm>
#include <cmath>

#include <fmt/format.h>

namespace wren {
namespace {

constexpr double chord = 0.002; ///< straight runs stay so close to the tip's true way
constexpr double look = 20;     ///< mm between places a line is looked at first
constexpr double beyondEnd = 1; ///< the ball's touch runs out so far past the board's ends
constexpr double widest = 13;   ///< of the flat bit, mm

double stepFor(double ridge, double radius) {
    return std::sqrt(8 * ridge * radius); // a hollow only makes the ridges lower
}

/// Shares of the lines, rim to rim: the places touched nowhere further apart than `step`.
std::vector<double> sharesOf(const Trough& trough, double step) {
    const auto apart = [&](double a, double b) {
        double most = 0;
        for (double x = trough.from(); x <= trough.to(); x += look) {
            const Vec3 way = trough.touch(x, b).at - trough.touch(x, a).at;
            most = std::max(most, length(way));
        }
        return most;
    };
    std::vector<double> out{-1};
    while (out.back() < 1) {
        double near = out.back(), far = std::min(1.0, out.back() + 0.5);
        if (apart(out.back(), far) > step) {
            for (int i = 0; i < 24; ++i) {
                const double middle = (near + far) / 2;
                (apart(out.back(), middle) <= step ? near : far) = middle;
            }
            far = near;
        }
        out.push_back(far);
    }
    return out;
}

/// Where the tip stands in the setup when the ball touches at x and a share.
class Tips {
public:
    Tips(const PanelWork& work, const Trough& trough, double radius)
        : work_(work), trough_(trough), radius_(radius) {}

    Vec3 at(double x, double share) const {
        const Trough::Touch t = trough_.touch(x, share);
        const double past = x - std::clamp(x, trough_.from(), trough_.to());
        const Vec3 tip = t.at + t.up * radius_ + Vec3{past, 0, -radius_};
        return work_.setup.fromInstrument.toSetup(tip);
    }

private:
    const PanelWork& work_;
    const Trough& trough_;
    double radius_;
};

void follow(PathBuilder& path, const Tips& tips, double share, double from, double to,
            double feed) {
    const std::function<void(double, Vec3, double, Vec3, int)> go =
        [&](double a, Vec3 first, double b, Vec3 last, int n) {
            const double m = (a + b) / 2;
            const Vec3 middle = tips.at(m, share);
            if (n > 0 && length(middle - (first + last) * 0.5) > chord) {
                go(a, first, m, middle, n - 1);
                go(m, middle, b, last, n - 1);
                return;
            }
            path.feed(last, feed);
        };
    const int parts = std::max(1, int(std::abs(to - from) / look));
    for (int i = 0; i < parts; ++i) {
        const double a = from + (to - from) * i / parts;
        const double b = from + (to - from) * (i + 1) / parts;
        go(a, tips.at(a, share), b, tips.at(b, share), 12);
    }
}

/// What of the trough is so deep, out beyond its ends by what a bit needs.
Contour regionAt(const Trough& trough, double depth, double past) {
    constexpr double step = 4;
    std::vector<Vec2> low, high;
    const auto add = [&](double x, double shownAt) {
        const std::array<double, 2> y = trough.across(x, depth);
        if (y[1] > y[0] + 0.1) {
            low.push_back({shownAt, y[0]});
            high.push_back({shownAt, y[1]});
        }
    };
    add(trough.from(), trough.from() - past);
    const int n = std::max(1, int((trough.to() - trough.from()) / step));
    for (int i = 0; i <= n; ++i) {
        const double x = trough.from() + (trough.to() - trough.from()) * i / n;
        add(x, x);
    }
    add(trough.to(), trough.to() + past);
    Contour out;
    std::vector<Vec2> ring = low;
    ring.insert(ring.end(), high.rbegin(), high.rend());
    for (std::size_t i = 0; ring.size() > 3 && i < ring.size(); ++i) {
        out.push_back({ContourPiece::Kind::line, ring[i], ring[(i + 1) % ring.size()], {}});
    }
    return out;
}

} // namespace

Path troughRoughPath(const PanelWork& work, const Trough& trough, const Bit& bit,
                     const Feeds& feeds) {
    BodyCut level = work.cut;
    level.floorStock = 0;
    level.stockToLeave = 0.1;
    const PanelWork each{work.panel, work.setup, level, work.spoilDepth};
    const double deep = trough.deepest() - work.cut.carveStock;
    const int levels = std::max(1, int(std::ceil(deep / feeds.depthPerPass - 1e-9)));
    Path path;
    for (int i = 1; i <= levels; ++i) {
        PanelPocket p;
        const Contour region =
            regionAt(trough, deep * i / levels + work.cut.carveStock, bit.diameter + 1);
        if (region.empty()) {
            continue;
        }
        p.borders = {region};
        p.mouth = work.panel.top - deep * (i - 1) / levels;
        p.floor = work.panel.top - deep * i / levels;
        append(path, clearPocketPath(each, p, bit, feeds));
    }
    return path;
}

Path troughFinishPath(const PanelWork& work, const Trough& trough, const Bit& bit,
                      const Feeds& feeds) {
    const Tips tips(work, trough, bit.radius());
    PathBuilder path({0, 0, work.clear()});
    double from = trough.from() - beyondEnd;
    double to = trough.to() + beyondEnd;
    bool first = true;
    for (double share : sharesOf(trough, stepFor(work.cut.carveScallop, bit.radius()))) {
        const Vec3 start = tips.at(from, share);
        if (first) {
            path.travelTo(start.xy(), work.clear(), work.approach());
            path.feed(start, feeds.plunge);
            first = false;
        } else {
            path.feed(start, feeds.feed); // the way between two tips lies in the hollow's air
        }
        follow(path, tips, share, from, to, feeds.feed);
        std::swap(from, to);
    }
    path.rapid({path.at().x, path.at().y, work.clear()});
    return path.take();
}

CarveTasks troughTasks(const CarveAsk& ask, BitChooser& chooser,
                       const std::function<double(const Bit&, const CutOverrides&)>& feedOf) {
    CarveTasks out;
    const PanelWork w = ask.work;
    const Trough& trough = *w.panel.fall(ask.back).trough();
    const BitJudge rolls = [&trough](const Bit& b) -> Verdict {
        if (b.kind != BitKind::ball) {
            return {};
        }
        if (b.radius() > trough.tightest() + 1e-6) {
            return {false,
                    fmt::format("its radius of {:.2f} mm does not roll in a hollow of {:.2f} mm",
                                b.radius(), trough.tightest()),
                    b.radius() - trough.tightest()};
        }
        return reaches(b, trough.deepest(), false);
    };
    std::string why;
    const Bit* ball = chooser.choose(
        "trough", w.cut.carve, rolls,
        [&](const Bit& a, const Bit& b) {
            const auto pace = [&](const Bit& bit) {
                return feedOf(bit, w.cut.carve) * stepFor(w.cut.carveScallop, bit.radius());
            };
            return pace(a) > pace(b);
        },
        fmt::format("a ball of at most {:.1f} mm radius that reaches {:.1f} mm deep",
                    trough.tightest(), trough.deepest()),
        why);
    if (!ball) {
        return out;
    }
    out.ballRadius = ball->radius();
    const BitJudge clears = [&trough](const Bit& b) -> Verdict {
        if (!cutsFlat(b.kind)) {
            return {};
        }
        return b.diameter > widest
                   ? Verdict{false, fmt::format("its {:.1f} mm are wide for a trough", b.diameter),
                             b.diameter - widest}
                   : reaches(b, trough.deepest(), true);
    };
    std::string whyRough;
    const Bit* flat = chooser.choose(
        "trough's roughing", w.cut.rough, clears, widestOf(false, trough.deepest(), false),
        fmt::format("a flat bit with flutes of {:.1f} mm", trough.deepest()), whyRough);
    if (!flat) {
        return out;
    }
    const auto same = [](const std::string& name) {
        return [name](const Bit& b) { return b.name == name ? Verdict{true, {}} : Verdict{}; };
    };
    const bool back = ask.back;
    out.tasks.push_back({CutKind::rough,
                         flat,
                         w.cut.rough,
                         whyRough,
                         [w, back](const Bit& b, const Feeds& f) {
                             return troughRoughPath(w, *w.panel.fall(back).trough(), b, f);
                         },
                         same(flat->name),
                         {},
                         flat->diameter * w.cut.stepover / 100});
    out.tasks.push_back(
        {CutKind::carving,
         ball,
         w.cut.carve,
         why + fmt::format(" It touches the surface exactly; scallops of {:.3f} mm stay.",
                           w.cut.carveScallop),
         [w, back](const Bit& b, const Feeds& f) {
             return troughFinishPath(w, *w.panel.fall(back).trough(), b, f);
         },
         same(ball->name),
         {},
         0});
    return out;
}

} // namespace wren
