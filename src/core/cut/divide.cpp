#include "cut/divide.h"

#include <algorithm>
#include <cmath>
#include <numeric>
#include <optional>

#include <fmt/format.h>

namespace wren {
namespace {

constexpr double near = 2.5; ///< mm: the next run of a finishing pass begins so near
constexpr double hop = 1;    ///< over the higher end of both, on the way there

using Run = std::pair<std::size_t, std::size_t>; ///< first move and one past the last

/// As high as a path goes: over everything.
double safeHeight(const Path& path) {
    double z = path.front().from.z;
    for (const Move& m : path) {
        z = std::max({z, m.from.z, m.to.z});
    }
    return z;
}

/// What is cut between two times up there.
std::vector<Run> runsOf(const Path& path, double safe) {
    std::vector<Run> out;
    std::optional<std::size_t> first;
    for (std::size_t i = 0; i < path.size(); ++i) {
        if (path[i].cuts() || path[i].to.z < safe) {
            first = first.value_or(i);
        }
        const bool up = path[i].to.z >= safe - 1e-9;
        if (first && (up || i + 1 == path.size())) {
            out.push_back({*first, i + 1});
            first.reset();
        }
    }
    return out;
}

/// The lowest and highest X a tip comes to.
std::array<double, 2> spanOf(const Path& path, Run run) {
    std::array<double, 2> out{1e300, -1e300};
    for (std::size_t i = run.first; i < run.second; ++i) {
        const int parts = path[i].isArc() ? 32 : 1;
        for (int k = 0; k <= parts && path[i].cuts(); ++k) {
            const double x = path[i].at(double(k) / parts).x;
            out = {std::min(out[0], x), std::max(out[1], x)};
        }
    }
    return out;
}

/// The stretches of a move, from fraction to fraction, whose X lies between two.
std::vector<std::array<double, 2>> within(const Move& m, double from, double to) {
    const auto off = [&](double f) { // positive inside
        const double x = m.at(f).x;
        return std::min(x - from, to - x);
    };
    constexpr int parts = 64;
    const int steps = m.isArc() ? parts : 2; // of a line, both borders may be met
    std::vector<double> edges{0};
    for (int k = 0; k < steps; ++k) {
        double a = double(k) / steps;
        double b = double(k + 1) / steps;
        if ((off(a) >= 0) == (off(b) >= 0)) {
            continue;
        }
        const bool in = off(a) >= 0;
        for (int i = 0; i < 60; ++i) {
            const double middle = (a + b) / 2;
            ((off(middle) >= 0) == in ? a : b) = middle;
        }
        edges.push_back(in ? a : b);
    }
    edges.push_back(1);
    std::vector<std::array<double, 2>> out;
    for (std::size_t i = 0; i + 1 < edges.size(); ++i) {
        if (edges[i + 1] > edges[i] && off((edges[i] + edges[i + 1]) / 2) >= 0) {
            out.push_back({edges[i], edges[i + 1]});
        }
    }
    return out;
}

/// One cut's path in one station.
class Share {
public:
    Share(const Path& path, const SlideStation& station, double plunge)
        : path_(path), station_(station), plunge_(plunge), safe_(safeHeight(path)) {}

    void whole(Run run) {
        const Move& first = path_[run.first];
        goTo(first.from);
        for (std::size_t i = run.first; i < run.second; ++i) {
            append(path_[i]);
        }
        up();
    }

    void inside(Run run) {
        for (std::size_t i = run.first; i < run.second; ++i) {
            if (!path_[i].cuts()) {
                continue; // the way to where it cuts again is found anew
            }
            for (const auto& [a, b] : within(path_[i], station_.from, station_.to)) {
                Move m = path_[i];
                m.from = path_[i].at(a);
                m.to = path_[i].at(b);
                goTo(m.from);
                append(m);
            }
        }
        up();
    }

    Path take() { return std::move(out_); }

private:
    /// Before the first move: where the whole path begins, and over everything.
    Vec3 at() const {
        const Vec3 start = path_.front().from;
        return out_.empty() ? Vec3{start.x, start.y, safe_} : out_.back().to;
    }
    bool down() const { return !out_.empty() && at().z < safe_ - 1e-9; }

    void append(Move m) {
        m.from = at();
        if (!(m.from == m.to) || m.isArc() || m.dwell > 0) {
            out_.push_back(m);
        }
    }

    void go(Motion motion, Vec3 to, double feed) {
        Move m;
        m.motion = motion;
        m.to = to;
        m.feed = feed;
        append(m);
    }

    void up() {
        if (down()) {
            go(Motion::rapid, {at().x, at().y, safe_}, 0);
        }
    }

    /// To where a run begins: at once, by a hop to the next line of a pass, or over the work.
    void goTo(Vec3 to) {
        if (down()) {
            const double away = length(to.xy() - at().xy());
            if (away < 1e-6 && std::abs(to.z - at().z) < 1e-6) {
                return;
            }
            if (away <= near) {
                const double high = std::min(safe_, std::max(to.z, at().z) + hop);
                go(Motion::line, {at().x, at().y, high}, plunge_);
                go(Motion::line, {to.x, to.y, high}, plunge_);
                go(Motion::line, to, plunge_);
                return;
            }
        }
        up();
        go(Motion::rapid, {to.x, to.y, safe_}, 0);
        if (to.z < safe_) {
            go(Motion::line, to, plunge_);
        }
    }

    const Path& path_;
    const SlideStation& station_;
    double plunge_;
    double safe_;
    Path out_;
};

bool holds(const SlideStation& s, const std::array<double, 2>& span) {
    return span[0] >= s.from && span[1] <= s.to;
}

/// Roughing reaches further over the seam than what is finished in its room: it clears a bit's
/// radius and a step less than its tips come to.
SlideStation reachOf(SlideStation station, const Cut& cut) {
    const double more = cut.kind == CutKind::rough ? cut.bit.diameter : 0;
    station.from -= more;
    station.to += more;
    return station;
}

/// A cut's path in the station that comes `turn`th in an order; empty where nothing is cut there.
Path shareOf(const Cut& cut, const std::vector<SlideStation>& stations,
             const std::vector<std::size_t>& order, std::size_t turn) {
    if (cut.of == FeatureKind::registerPin) { // what it slides on is drilled first
        return turn == 0 ? cut.path : Path();
    }
    const SlideStation station = reachOf(stations[order[turn]], cut);
    Share share(cut.path, station, cut.feeds.plunge);
    for (const Run& run : runsOf(cut.path, safeHeight(cut.path))) {
        const std::array<double, 2> span = spanOf(cut.path, run);
        bool done = false;
        for (std::size_t k = 0; k < turn; ++k) {
            done = done || holds(reachOf(stations[order[k]], cut), span);
        }
        if (done || span[1] < station.from || span[0] > station.to) {
            continue;
        }
        if (holds(station, span)) {
            share.whole(run);
        } else {
            share.inside(run);
        }
    }
    return share.take();
}

/// The cuts of one side among its stations. `number` of the one it lies in goes along.
class Divided {
public:
    Divided(const SidePlan& side, double pitch, int& number)
        : side_(side), stations_(side.setup.stations), pitch_(pitch), number_(number),
          shares_(side.cuts.size(), std::size_t(-1)) {}

    std::vector<Cut> cuts() {
        const std::vector<Cut>& all = side_.cuts;
        for (std::size_t first = 0; first < all.size();) {
            // What waits for work by hand, as for a strip glued in, waits for it in every station.
            std::size_t end = first + 1;
            while (end < all.size() && all[end].handBefore.empty()) {
                ++end;
            }
            share(first, end);
            first = end;
        }
        return std::move(out_);
    }
    const std::vector<std::size_t>& shares() const { return shares_; }

private:
    /// The station it lies in comes first.
    std::vector<std::size_t> order() const {
        std::vector<std::size_t> out(stations_.size());
        std::iota(out.begin(), out.end(), std::size_t{0});
        std::stable_partition(out.begin(), out.end(),
                              [&](std::size_t k) { return stations_[k].number == number_; });
        return out;
    }

    /// The work by hand comes before whatever is cut first after it, wherever that lies.
    void share(std::size_t first, std::size_t end) {
        const std::vector<std::size_t> stations = order();
        const Cut* waits = &side_.cuts[first];
        for (std::size_t turn = 0; turn < stations.size(); ++turn) {
            for (std::size_t i = first; i < end; ++i) {
                const Cut& cut = side_.cuts[i];
                Path path = cut.path.empty() ? Path() : shareOf(cut, stations_, stations, turn);
                if (!path.empty()) {
                    shares_[i] = std::min(shares_[i], out_.size());
                    add(cut, std::move(path), stations[turn], waits);
                    waits = nullptr;
                }
            }
        }
    }

    void add(Cut cut, Path path, std::size_t station, const Cut* waits) {
        cut.handBefore = waits ? waits->handBefore : std::string();
        cut.handMinutes = waits ? waits->handMinutes : 0;
        cut.path = std::move(path);
        cut.station = station;
        const SlideStation& to = stations_[station];
        if (to.number != number_) {
            constexpr double minutes = 4; // common practice, no source
            const std::string slide = fmt::format(
                "Lift the blank off its pins, slide it {:.2f} mm to the {} and set the same holes "
                "on the pins' other places; clamp it again",
                pitch_, to.number > number_ ? "left" : "right");
            const std::string& hand = cut.handBefore;
            const bool ends = hand.empty() || hand.back() == '.';
            cut.handBefore = hand + (hand.empty() ? "" : ends ? " " : ". ") + slide;
            cut.handMinutes += minutes;
            number_ = to.number;
        }
        out_.push_back(std::move(cut));
    }

    const SidePlan& side_;
    const std::vector<SlideStation>& stations_;
    double pitch_;
    int& number_;
    std::vector<Cut> out_;
    std::vector<std::size_t> shares_; ///< the first of each cut; beyond the end: none
};

} // namespace

std::array<std::vector<std::size_t>, 2> divideAmongStations(PartPlan& plan, double pitch) {
    std::array<std::vector<std::size_t>, 2> shares;
    int number = plan.face().setup.stations.empty() ? 1 : plan.face().setup.stations[0].number;
    for (std::size_t i = 0; i < plan.sides.size(); ++i) {
        SidePlan& side = plan.sides[i];
        shares[i].resize(side.cuts.size());
        std::iota(shares[i].begin(), shares[i].end(), std::size_t{0});
        if (!side.setup.stations.empty()) {
            Divided divided(side, pitch, number);
            std::vector<Cut> cuts = divided.cuts();
            shares[i] = divided.shares();
            side.cuts = std::move(cuts);
        }
    }
    return shares;
}

} // namespace wren
