#include "proof/ease.h"

#include "cut/plain_time.h"
#include "proof/ease_ways.h"

#include <algorithm>
#include <cmath>
#include <limits>

namespace wren {
namespace {

/// Times the bit's own pass from which a stretch is cut down; less than the proof allows, since the
/// wood here has coarser cells.
constexpr double heavy = 1.06;
/// mm of way before a heavy place that are gone over as well.
constexpr double leadIn = 2.5;
constexpr int rounds = 5;
constexpr double worthIt = 0.4; ///< seconds a hop must save
/// Cells across the narrowest bit whose load these cells can tell.
constexpr double finest = 5;

/// Runs one cut, and what was heavy in it again with passes over it.
class Easing {
public:
    Easing(Cut& cut, const OwnPass& own, const Machine& machine, double top,
           const std::vector<Filling>& fillings, const std::stop_token& stop)
        : cut_(cut), own_(own), machine_(machine), top_(top), fillings_(fillings), stop_(stop) {
        for (const Move& m : cut.path) {
            clear_ = std::max({clear_, m.from.z, m.to.z});
        }
    }

    Stock run(Stock stock) {
        const auto [from, to] = rowsOf(stock);
        for (int round = 0;; ++round) {
            const Stock::Heights before = stock.heights(from, to);
            Simulation run = simulateOn(std::move(stock), {programOf(cut_.path)}, {}, stop_,
                                        fillings_, Loads::tracedNear);
            stock = std::move(run.stock);
            const std::vector<PathStretch> stretches =
                round < rounds ? heavyIn(run.loads[0]) : std::vector<PathStretch>();
            if (stretches.empty()) {
                slowDown(run.loads[0]);
                hopOverAir(run.loads[0]);
                return stock;
            }
            stock.putBack(before);
            stock = rewrite(std::move(stock), stretches);
            stock.putBack(before);
        }
    }

private:
    RunProgram programOf(Path path) const {
        return {"", {cut_.kind}, cut_.bit, std::move(path), true, true};
    }

    /// The rows the cut or what is poured before it can change: first, and one past the last.
    std::pair<int, int> rowsOf(const Stock& stock) const {
        if (!fillings_.empty() || cut_.path.empty()) {
            return {0, stock.rows()};
        }
        double low = std::numeric_limits<double>::infinity();
        double high = -low;
        for (const Move& m : cut_.path) {
            const double bulge = m.isArc() ? 2 * m.radius() : 0; // an arc may leave its ends' box
            low = std::min({low, m.from.y - bulge, m.to.y - bulge});
            high = std::max({high, m.from.y + bulge, m.to.y + bulge});
        }
        const double r = cut_.bit.radius();
        return {std::clamp(static_cast<int>(stock.row(low - r)) - 1, 0, stock.rows()),
                std::clamp(static_cast<int>(stock.row(high + r)) + 2, 0, stock.rows())};
    }

    /// Heavy ways and deep plunges, in order.
    std::vector<PathStretch> heavyIn(const LoadTrace& trace) const {
        const RunProgram program = programOf(cut_.path);
        std::vector<PathStretch> out = heavierThan(heavy, program, trace, own_);
        for (std::size_t i : plungesDeeperThan(heavy, program, trace, own_)) {
            out.push_back({i, 0, i, 1});
        }
        std::sort(out.begin(), out.end(), [](const PathStretch& a, const PathStretch& b) {
            return std::pair(a.firstMove, a.firstFraction) <
                   std::pair(b.firstMove, b.firstFraction);
        });
        return out;
    }

    /// No end is driven into wood faster than it may plunge. Moves shorter than a few cells tell
    /// little of themselves, so they go with their neighbours.
    void slowDown(const LoadTrace& trace) {
        constexpr double tooShort = 1;
        Path& path = cut_.path;
        std::vector<char> slowed(path.size(), 0);
        for (std::size_t i = 0; i < path.size(); ++i) {
            slowed[i] = path[i].cuts() && feedAllowed(path[i], trace.whole(i), own_) < path[i].feed;
        }
        const auto follow = [&](std::size_t i, std::size_t neighbour) {
            slowed[i] = slowed[i] || (slowed[neighbour] && path[i].length() < tooShort);
        };
        for (std::size_t i = 1; i < path.size(); ++i) {
            follow(i, i - 1);
        }
        for (std::size_t i = path.size(); i-- > 1;) {
            follow(i - 1, i);
        }
        for (std::size_t i = 0; i < path.size(); ++i) {
            if (slowed[i]) {
                path[i].feed = feedDown(path[i], own_);
            }
        }
    }

    /// Long ways through air are hopped over at rapid, where not even a wider tool would have met
    /// wood: cells are too coarse to tell a skim from nothing.
    void hopOverAir(const LoadTrace& trace) {
        const Path path = std::move(cut_.path);
        Path out;
        bool hopped = false;
        for (std::size_t i = 0; i < path.size();) {
            std::size_t end = i;
            double seconds = 0;
            while (end < path.size() && path[end].cuts() && path[end].dwell == 0 &&
                   trace.whole(end).footprint == 0 && !trace.near(end)) {
                seconds += path[end].length() / path[end].feed * 60;
                ++end;
            }
            if (end > i) {
                const Path hop = hopTo(path[i].from, path[end - 1].to);
                if (seconds > plainSeconds(hop, machine_) + worthIt) {
                    out.insert(out.end(), hop.begin(), hop.end());
                    hopped = true;
                } else {
                    out.insert(out.end(), path.begin() + static_cast<std::ptrdiff_t>(i),
                               path.begin() + static_cast<std::ptrdiff_t>(end));
                }
                i = end;
            } else {
                out.push_back(path[i++]);
            }
        }
        cut_.path = hopped ? withSlowEntries(out) : std::move(out);
    }

    /// Where something was hopped over, a splinter as high as a pass may stand that these cells are
    /// too coarse to show: whoever comes down there later goes the last pass's depth at a feed.
    Path withSlowEntries(const Path& path) const {
        Path out;
        for (const Move& m : path) {
            const bool down = !m.cuts() && m.to.z < m.from.z - 1e-6 &&
                              length(m.to.xy() - m.from.xy()) < 1e-6 && m.to.z < top_;
            const double above = std::min(m.from.z, m.to.z + own_.depth);
            if (!down) {
                out.push_back(m);
                continue;
            }
            const Vec3 stop{m.to.x, m.to.y, above};
            if (above < m.from.z - 1e-6) {
                Move first = m;
                first.to = stop;
                out.push_back(first);
            }
            out.push_back(straightMove(Motion::line, stop, m.to, cut_.feeds.plunge));
        }
        return out;
    }

    Path hopTo(Vec3 from, Vec3 to) const {
        // Down at rapid as far as nothing can stand: a splinter may be finer than these cells.
        const double over = std::max(top_ + approachHeight, to.z);
        Path hop;
        Vec3 at = from;
        for (Vec3 next :
             {Vec3{from.x, from.y, clear_}, Vec3{to.x, to.y, clear_}, Vec3{to.x, to.y, over}}) {
            if (!(next == at)) {
                hop.push_back(straightMove(Motion::rapid, at, next, 0));
                at = next;
            }
        }
        if (!(at == to)) {
            hop.push_back(straightMove(Motion::line, at, to, cut_.feeds.plunge));
        }
        return hop;
    }

    /// Returns the wood as it comes of it.
    Stock rewrite(Stock stock, const std::vector<PathStretch>& stretches) {
        stock = simulateOn(std::move(stock), {programOf({})}, {}, stop_, fillings_).stock;
        const EndShape tool = EndShape::of(cut_.bit);
        const Path path = std::move(cut_.path);
        Path out;
        const auto take = [&](const Path& some) {
            stock = simulateOn(std::move(stock), {programOf(some)}, {}, stop_).stock;
            out.insert(out.end(), some.begin(), some.end());
        };
        PathStretch rest{0, 0, path.size() - 1, 1};
        for (const PathStretch& heavyOne : stretches) {
            const bool plunge = goesStraightDown(path[heavyOne.firstMove]);
            PathStretch s =
                plunge ? heavyOne : begunEarlier(path, heavyOne, leadIn + loadWindow(cut_.bit));
            if (s.firstMove < rest.firstMove ||
                (s.firstMove == rest.firstMove && s.firstFraction < rest.firstFraction)) {
                s.firstMove = rest.firstMove;
                s.firstFraction = rest.firstFraction;
            }
            take(
                piecesOf(path, {rest.firstMove, rest.firstFraction, s.firstMove, s.firstFraction}));
            const Path way = piecesOf(path, s);
            if (!way.empty()) {
                const double wood =
                    woodOver(stock, tool, plunge ? Path{partOf(way[0], 0.999, 1)} : way);
                const Path ramp =
                    plunge ? rampDown(path, s.firstMove, wood, own_.depth, cut_.feeds) : Path();
                if (!ramp.empty()) {
                    take(ramp);
                } else {
                    if (wood > 0 && !plunge) {
                        take(passesOver(way, wood, own_.depth, clear_, cut_.feeds));
                    }
                    take(way);
                }
            }
            rest.firstMove = s.lastMove;
            rest.firstFraction = s.lastFraction;
        }
        take(piecesOf(path, rest));
        cut_.path = std::move(out);
        return stock;
    }

    Cut& cut_;
    const OwnPass& own_;
    const Machine& machine_;
    double top_; ///< of the setup's wood
    const std::vector<Filling>& fillings_;
    const std::stop_token& stop_;
    double clear_ = 0;
};

} // namespace

std::vector<RunProgram> asPrograms(const std::vector<Cut>& cuts) {
    std::vector<RunProgram> out;
    out.reserve(cuts.size());
    for (const Cut& cut : cuts) {
        out.push_back({cut.what, {cut.kind}, cut.bit, cut.path, true, true});
    }
    return out;
}

namespace {

/// Of what is filled, what is poured just before a cut; it is its first program.
std::vector<Filling> pouredBefore(std::size_t cut, const std::vector<Filling>& fillings) {
    std::vector<Filling> now;
    for (Filling f : fillings) {
        if (f.beforeProgram == cut) {
            f.beforeProgram = 0;
            now.push_back(std::move(f));
        }
    }
    return now;
}

/// Of cuts too fine for the cells nothing is learnt: they run as they are.
bool tooFine(const Cut& cut, const Stock& stock) {
    return cut.bit.diameter < finest * stock.cell();
}

Stock easeOne(Cut& cut, Stock stock, const OwnPass& own, const EaseAsk& ask,
              const std::vector<Filling>& now) {
    if (tooFine(cut, stock)) {
        return simulateOn(std::move(stock), asPrograms({cut}), {}, ask.stop, now).stock;
    }
    return Easing(cut, own, ask.machine, ask.setup.topZ(), now, ask.stop).run(std::move(stock));
}

/// One cut, from memory where it has been eased in such wood before.
void easeRemembering(Cut& cut, KnownWood& wood, const OwnPass& own, const EaseAsk& ask) {
    const Feeds& f = cut.feeds;
    const auto near = ask.memory->nearOf(wood.frame(), cut.bit, cut.path);
    const Hash key =
        wood.keyOf(*near, {own.depth, own.area, own.chip, own.plunge, double(own.slender),
                           f.depthPerPass, f.feed, f.plunge, f.rpm, ask.setup.topZ()});
    std::shared_ptr<const CutMemory::Done> done = ask.memory->find(key);
    if (done) {
        cut.path = done->path;
        wood.leave(*near, done->left);
        return;
    }
    auto left = std::make_shared<const Left>(
        wood.cut(*near, [&](Stock stock) { return easeOne(cut, std::move(stock), own, ask, {}); }));
    ask.memory->keep(key, {std::move(left), cut.path, std::nullopt, {}});
}

} // namespace

Stock easeCuts(std::vector<Cut>& cuts, Stock stock, const EaseAsk& ask) {
    const Wood& wood = ask.setup.blank.species();
    const auto own = [&](const Cut& cut) { return ownPass(cut.bit, wood, ask.machine, {cut}); };
    if (ask.memory) {
        KnownWood known(std::move(stock));
        for (std::size_t i = 0; i < cuts.size(); ++i) {
            const std::vector<Filling> now = pouredBefore(i, ask.fillings);
            if (now.empty()) {
                easeRemembering(cuts[i], known, own(cuts[i]), ask);
            } else {
                known =
                    KnownWood(easeOne(cuts[i], std::move(known).take(), own(cuts[i]), ask, now));
            }
        }
        return std::move(known).take();
    }
    for (std::size_t i = 0; i < cuts.size(); ++i) {
        stock =
            easeOne(cuts[i], std::move(stock), own(cuts[i]), ask, pouredBefore(i, ask.fillings));
    }
    return stock;
}

} // namespace wren
