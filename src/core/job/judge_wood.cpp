#include "job/judge_wood.h"

#include "hold/wood_seen.h"

#include <algorithm>

#include <fmt/format.h>

namespace wren {
namespace {

/// An edge or a wall of a part, its own frame.
struct Wall {
    std::string what;
    Contour contour;
};

std::vector<Wall> wallsOf(const Derived& d, const PartJob& job) {
    std::vector<Wall> out{{"edge", outlineOf(d, job)}};
    if (job.panel) {
        for (const PanelPocket& p : job.panel->pockets) {
            for (const Contour& border : p.borders) {
                out.push_back({fmt::format("wall of the {}", p.what), border});
            }
        }
    }
    return out;
}

/// How near a mark comes to a wall, where, and how much of it lies that near.
struct Near {
    double least = 1e9;
    Vec2 at;
    double along = 0; ///< mm of it within markClear
};

Near nearTo(const Contour& wall, Vec2 from, Vec2 to, double half) {
    constexpr double step = 1;
    const double way = length(to - from);
    const int n = std::max(1, static_cast<int>(way / step));
    Near out;
    for (int i = 0; i <= n; ++i) {
        const Vec2 p = from + (to - from) * (double(i) / n);
        const double off = distanceTo(wall, p) - half;
        if (off < out.least) {
            out.least = off;
            out.at = p;
        }
        out.along += off < markClear ? way / n : 0;
    }
    return out;
}

void judgeMark(Findings& out, const Derived& d, const PartJob& job, const WoodMark& m,
               std::size_t number) {
    const Setup& face = job.held.face;
    const auto inPart = [&](Vec2 p) { return face.fromInstrument.toInstrument({p.x, p.y, 0}).xy(); };
    const Vec2 from = inPart(m.from), to = inPart(m.to);
    const auto say = [&](const std::string& text, const Near& near) {
        Finding& f = sayOf(job.id, out, Weight::caution, "wood-mark", text, std::max(0.0, near.least),
                           markClear);
        f.atX = near.at.x;
    };
    const std::string name = fmt::format("{} {}", woodMarkName(m.kind), number + 1);
    for (const Wall& wall : wallsOf(d, job)) {
        if (wall.contour.empty()) {
            continue;
        }
        const bool seam = m.kind == WoodMarkKind::seam; // a line, whatever width it once had
        const Near near = nearTo(wall.contour, from, to, seam ? 0 : m.width / 2);
        if (seam ? near.along > seamAlong : near.least < markClear) {
            say(fmt::format("The {} {} the {}'s {} at {}: {:.0f} mm clear of it {} expected, by "
                            "laying the part elsewhere in its blank.",
                            name, seam ? "runs along" : "lies at", job.name(), wall.what,
                            face.told(near.at), markClear, "was"),
                near);
        } else if (m.kind == WoodMarkKind::nail &&
                   inside(pointsOf(outlineOf(d, job), 0.1), (from + to) * 0.5) &&
                   wall.what == "edge") {
            say(fmt::format("The {} lies inside the {}, at {}: look for iron in it before a bit "
                            "does.",
                            name, job.name(), face.told((from + to) * 0.5)),
                near);
        }
    }
}

} // namespace

Findings judgeWoodMarks(const Derived& d) {
    Findings out;
    const auto jobOf = [&](const std::string& part, const std::string& what) -> const PartJob* {
        const std::optional<PartId> id = PartId::named(part);
        const PartJob* job = id ? d.job(*id) : nullptr;
        if (!job) {
            sayOf(id.value_or(Role::board), out, Weight::note, "wood-seen-for-nothing",
                  fmt::format("{} is of the {}, and there is none.", what, part), 0, 0);
        }
        return job && job->placed ? job : nullptr;
    };
    for (std::size_t i = 0; i < d.project.woodMarks.size(); ++i) {
        const WoodMark& m = d.project.woodMarks[i];
        const std::string what = fmt::format("The {} {}", woodMarkName(m.kind), i + 1);
        if (const PartJob* job = jobOf(m.part, what)) {
            judgeMark(out, d, *job, m, i);
        }
    }
    for (std::size_t i = 0; i < d.project.woodPhotos.size(); ++i) {
        jobOf(d.project.woodPhotos[i].part, fmt::format("Photograph {}", i + 1));
    }
    return out;
}

} // namespace wren
