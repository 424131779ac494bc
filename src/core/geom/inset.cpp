#include "geom/inset.h"

#include "base/error.h"
#include "geom/raw_offset.h"
#include "geom/stroke_grid.h"

#include <algorithm>
#include <cstdint>
#include <iterator>
#include <numeric>
#include <optional>
#include <unordered_map>

#include <fmt/format.h>

namespace wren {
namespace {

using Kind = ContourPiece::Kind;

constexpr double speck = 1e-7; ///< mm, a piece that counts as none
constexpr double slack = 5e-6; ///< mm a ring may lie too close to a border

/// A stretch of a raw ring between two of its crossings.
struct Run {
    Contour pieces;
    bool used = false;

    Vec2 from() const { return pieces.front().from; }
    Vec2 to() const { return pieces.back().to; }
};

class Inset {
public:
    Inset(const std::vector<Contour>& borders, double distance)
        : distance_(distance), borders_(borders) {
        for (const Contour& b : borders) {
            std::size_t first = raw_.size();
            raw_.reserve(raw_.size() + 2 * b.size());
            for (const ContourPiece& p : rawOffset(b, distance)) {
                if (p.from == p.to) {
                    continue;
                }
                raw_.emplace_back(p);
            }
            if (raw_.size() > first) {
                rings_.push_back({first, raw_.size()});
            }
        }
    }

    std::vector<Contour> rings() {
        cutAtCrossings();
        keepFarEnough();
        return strung();
    }

    /// The longest stretch that found no way on, mm; 0 when everything closed.
    double loose() const { return loose_; }

private:
    /// Swept from left to right: what begins before another ends may meet it.
    void cutAtCrossings() {
        cuts_.resize(raw_.size());
        const std::vector<Order> order = fromLeftToRight();
        std::vector<Box> boxes;
        boxes.reserve(order.size());
        for (const auto& [x, i] : order) {
            boxes.push_back({raw_[i].low(), raw_[i].high()});
        }
        const std::vector<char> cornered = lineToLine();
        for (std::size_t i = 0; i < order.size(); ++i) {
            const Box& a = boxes[i];
            for (std::size_t k = i + 1; k < order.size() && boxes[k].low.x <= a.high.x + speck;
                 ++k) {
                const Box& b = boxes[k];
                if (a.low.y > b.high.y + speck || b.low.y > a.high.y + speck) {
                    continue;
                }
                const std::size_t one = order[i].second;
                const std::size_t two = order[k].second;
                const bool corner = one + 1 == two   ? cornered[one]
                                    : two + 1 == one ? cornered[two]
                                                     : false;
                if (!corner && !neighbours(one, two)) {
                    cross(one, two);
                }
            }
        }
    }

    /// Of each piece, whether it and the one listed next are lines joined at a corner: nearly all
    /// are, and meet nowhere else.
    std::vector<char> lineToLine() const {
        std::vector<char> out(raw_.size(), 0);
        for (std::size_t i = 0; i + 1 < raw_.size(); ++i) {
            const ContourPiece& a = raw_[i].piece();
            const ContourPiece& b = raw_[i + 1].piece();
            out[i] = !a.isArc() && !b.isArc() && a.to == b.from;
        }
        return out;
    }

    struct Box {
        Vec2 low, high;
    };

    using Order = std::pair<double, std::size_t>; ///< where a piece begins in X, and which it is

    /// A ring runs to and fro in a few long ways, sorted in themselves: those are merged.
    std::vector<Order> fromLeftToRight() const {
        std::vector<Order> order;
        std::vector<std::ptrdiff_t> ways{0}; // where each begins
        order.reserve(raw_.size());
        for (std::size_t i = 0; i < raw_.size(); ++i) {
            order.emplace_back(raw_[i].low().x, i);
        }
        const auto end = std::ssize(order);
        const auto at = [&](std::ptrdiff_t i) { return order.begin() + i; };
        for (std::ptrdiff_t i = 1; i < end;) {
            const bool falls = *at(i) < *at(i - 1);
            while (i < end && (*at(i) < *at(i - 1)) == falls) {
                ++i;
            }
            if (falls) {
                std::reverse(at(ways.back()), at(i));
            }
            ways.push_back(i++);
        }
        if (ways.back() < end) {
            ways.push_back(end);
        }
        while (ways.size() > 2) {
            std::vector<std::ptrdiff_t> merged{0};
            for (std::size_t w = 1; w < ways.size(); w += 2) {
                const std::ptrdiff_t last = ways[std::min(w + 1, ways.size() - 1)];
                std::inplace_merge(at(merged.back()), at(ways[w]), at(last));
                merged.push_back(last);
            }
            ways = std::move(merged);
        }
        return order;
    }

    /// Whether two pieces follow one another and can meet nowhere else: a line and what it is
    /// joined to, unless that is more than half a circle.
    bool neighbours(std::size_t i, std::size_t k) const {
        const ContourPiece& a = raw_[i].piece();
        const ContourPiece& b = raw_[k].piece();
        const bool joined = a.to == b.from || b.to == a.from;
        return joined &&
               ((!a.isArc() && !b.isArc()) ||
                (a.isArc() != b.isArc() && smooth(a.to == b.from ? a : b, a.to == b.from ? b : a)));
    }
    static bool smooth(const ContourPiece& a, const ContourPiece& b) {
        const ContourPiece& arc = a.isArc() ? a : b;
        const double side = arc.kind == Kind::arcCounter ? 1 : -1;
        return side * wren::cross(arc.from - arc.centre, arc.to - arc.centre) >= 0 &&
               std::abs(wren::cross(a.wayIn(), b.wayOut())) < 1e-6;
    }

    void cross(std::size_t i, std::size_t k) {
        const Meetings m = crossings(raw_[i], raw_[k]);
        for (int n = 0; n < m.count; ++n) {
            const Vec2 p = m.at[static_cast<std::size_t>(n)];
            if (joint(raw_[i], raw_[k], p)) {
                continue;
            }
            cuts_[i].push_back({raw_[i].fractionOf(p), p});
            cuts_[k].push_back({raw_[k].fractionOf(p), p});
        }
    }

    /// Where one ends and the other begins, they do not cross.
    static bool joint(const Stroke& a, const Stroke& b, Vec2 p) {
        const auto at = [&](Vec2 q) { return length(q - p) < speck; };
        return (at(a.piece().to) && at(b.piece().from)) || (at(a.piece().from) && at(b.piece().to));
    }

    void keepFarEnough() {
        std::vector<Run> all;
        for (const auto& [first, end] : rings_) {
            std::vector<Run> runs = runsOf(first, end);
            std::move(runs.begin(), runs.end(), std::back_inserter(all));
        }
        // A grid is worth its making only for many questions.
        constexpr std::size_t many = 200;
        const std::vector<Stroke> strokes =
            all.size() > many ? strokesOf(borders_) : std::vector<Stroke>();
        std::optional<StrokeGrid> grid;
        if (!strokes.empty()) {
            grid.emplace(strokes);
        }
        const std::vector<Stretch> stretches =
            grid ? std::vector<Stretch>() : stretchesOf(borders_);
        const double least = distance_ - slack;
        const auto tooNear = [&](Vec2 p) {
            return grid ? grid->closer(p, least) : anyCloser(stretches, p, least);
        };
        for (Run& run : all) {
            if (!tooNear(middleOf(run))) {
                runs_.push_back(std::move(run));
            }
        }
    }

    static std::vector<Stroke> strokesOf(const std::vector<Contour>& borders) {
        std::vector<Stroke> strokes;
        for (const Contour& b : borders) {
            for (const ContourPiece& p : b) {
                strokes.emplace_back(p);
            }
        }
        return strokes;
    }

    /// Pieces that follow one another along a border, and the box about them.
    struct Stretch {
        const ContourPiece* first;
        const ContourPiece* end;
        Box box{{1e300, 1e300}, {-1e300, -1e300}};
    };

    static std::vector<Stretch> stretchesOf(const std::vector<Contour>& borders) {
        constexpr std::ptrdiff_t many = 32;
        std::vector<Stretch> out;
        for (const Contour& b : borders) {
            const ContourPiece* const end = b.data() + b.size();
            for (const ContourPiece* p = b.data(); p != end;) {
                Stretch& s = out.emplace_back(Stretch{p, p + std::min(many, end - p)});
                for (; p != s.end; ++p) {
                    const double bulge = p->isArc() ? 2 * p->radius() : 0;
                    s.box.low = {std::min(s.box.low.x, std::min(p->from.x, p->to.x) - bulge),
                                 std::min(s.box.low.y, std::min(p->from.y, p->to.y) - bulge)};
                    s.box.high = {std::max(s.box.high.x, std::max(p->from.x, p->to.x) + bulge),
                                  std::max(s.box.high.y, std::max(p->from.y, p->to.y) + bulge)};
                }
            }
        }
        return out;
    }

    static bool anyCloser(const std::vector<Stretch>& stretches, Vec2 p, double least) {
        const auto inReach = [&](const Box& b) {
            return p.x > b.low.x - least && p.x < b.high.x + least && p.y > b.low.y - least &&
                   p.y < b.high.y + least;
        };
        return std::any_of(stretches.begin(), stretches.end(), [&](const Stretch& s) {
            return inReach(s.box) && std::any_of(s.first, s.end, [&](const ContourPiece& piece) {
                       return Stroke(piece).distanceTo(p) < least;
                   });
        });
    }

    static Vec2 middleOf(const Run& run) {
        const auto longest = std::max_element(
            run.pieces.begin(), run.pieces.end(), [](const ContourPiece& a, const ContourPiece& b) {
                return length(a.to - a.from) < length(b.to - b.from);
            });
        return Stroke(*longest).at(0.5);
    }

    /// A raw ring's pieces, cut at the crossings; what lies between two of them is one run.
    std::vector<Run> runsOf(std::size_t first, std::size_t end) {
        std::vector<Run> runs(1);
        runs.back().pieces.reserve(end - first);
        bool cut = false;
        for (std::size_t i = first; i < end; ++i) {
            std::vector<Cut>& cuts = cuts_[i];
            std::sort(cuts.begin(), cuts.end(),
                      [](const Cut& a, const Cut& b) { return a.fraction < b.fraction; });
            ContourPiece rest = raw_[i].piece();
            for (const Cut& c : cuts) {
                ContourPiece head = rest;
                head.to = c.at;
                rest.from = c.at;
                if (!(head.from == head.to)) {
                    runs.back().pieces.push_back(head);
                }
                if (!runs.back().pieces.empty()) {
                    runs.emplace_back();
                }
                cut = true;
            }
            if (!(rest.from == rest.to)) {
                runs.back().pieces.push_back(rest);
            }
        }
        if (cut && runs.size() > 1) { // the last goes on in the first
            Run& last = runs.back();
            Run& start = runs.front();
            last.pieces.insert(last.pieces.end(), start.pieces.begin(), start.pieces.end());
            runs.erase(runs.begin());
        }
        std::erase_if(runs, [](const Run& r) { return r.pieces.empty(); });
        return runs;
    }

    static std::uint64_t cellOf(Vec2 p, int dx, int dy) {
        const auto x = static_cast<std::int64_t>(std::floor(p.x / (4 * slack))) + dx;
        const auto y = static_cast<std::int64_t>(std::floor(p.y / (4 * slack))) + dy;
        return static_cast<std::uint64_t>(x) * 0x9e3779b97f4a7c15ULL +
               static_cast<std::uint64_t>(y);
    }

    std::vector<Contour> strung() {
        std::unordered_multimap<std::uint64_t, std::size_t> starts;
        for (std::size_t i = 0; i < runs_.size(); ++i) {
            starts.emplace(cellOf(runs_[i].from(), 0, 0), i);
        }
        std::vector<Contour> out;
        for (std::size_t i = 0; i < runs_.size(); ++i) {
            if (!runs_[i].used) {
                Contour ring = follow(i, starts);
                if (!ring.empty()) {
                    out.push_back(std::move(ring));
                }
            }
        }
        return out;
    }

    Contour follow(std::size_t first,
                   const std::unordered_multimap<std::uint64_t, std::size_t>& starts) {
        Contour ring;
        std::size_t i = first;
        for (;;) {
            runs_[i].used = true;
            Contour& pieces = runs_[i].pieces;
            if (ring.empty()) {
                ring = std::move(pieces);
            } else {
                pieces.front().from = ring.back().to;
                ring.insert(ring.end(), pieces.begin(), pieces.end());
            }
            if (length(ring.back().to - ring.front().from) < 4 * slack) {
                ring.back().to = ring.front().from;
                return std::abs(signedAreaOf(ring)) > 1e-6 ? withoutSpecks(std::move(ring))
                                                           : Contour{};
            }
            const std::optional<std::size_t> next = after(ring.back(), starts);
            if (!next) {
                loose_ = std::max(loose_, lengthOf(ring));
                return {};
            }
            i = *next;
        }
    }

    /// Pieces no longer than the ends' own slack run any way, even backward; whoever asks for the
    /// way along the ring must not meet them.
    static Contour withoutSpecks(Contour ring) {
        const auto isSpeck = [](const ContourPiece& p) {
            const Vec2 way = p.to - p.from;
            return dot(way, way) < 16 * slack * slack && p.length() < 8 * slack;
        };
        std::erase_if(ring, isSpeck);
        for (std::size_t i = ring.size(); i-- > 0;) {
            ring[i].from = ring[i == 0 ? ring.size() - 1 : i - 1].to;
        }
        return ring;
    }

    /// The unused run that begins where a piece ends; of several the one turning most to the left,
    /// which keeps the ring as small as it can be.
    std::optional<std::size_t>
    after(const ContourPiece& piece,
          const std::unordered_multimap<std::uint64_t, std::size_t>& starts) const {
        std::optional<std::size_t> best;
        double most = -10;
        const Vec2 way = piece.wayIn();
        for (int dx = -1; dx <= 1; ++dx) {
            for (int dy = -1; dy <= 1; ++dy) {
                const auto [a, b] = starts.equal_range(cellOf(piece.to, dx, dy));
                for (auto it = a; it != b; ++it) {
                    const Run& run = runs_[it->second];
                    if (run.used || length(run.from() - piece.to) > 4 * slack) {
                        continue;
                    }
                    const Vec2 on = run.pieces.front().wayOut();
                    const double turn = std::atan2(wren::cross(way, on), dot(way, on));
                    if (turn > most) {
                        most = turn;
                        best = it->second;
                    }
                }
            }
        }
        return best;
    }

    struct Cut {
        double fraction;
        Vec2 at;
    };
    double distance_;
    const std::vector<Contour>& borders_;
    std::vector<Stroke> raw_;
    std::vector<std::pair<std::size_t, std::size_t>> rings_;
    std::vector<std::vector<Cut>> cuts_;
    std::vector<Run> runs_;
    double loose_ = 0;
};

} // namespace

std::vector<Contour> inset(const std::vector<Contour>& borders, double distance) {
    // A ring that touches itself exactly can leave an end loose; a hair further it does not.
    double loose = 0;
    for (const double nudge : {0.0, 1.3e-6, -1.7e-6, 3.1e-6, -4.3e-6}) {
        Inset one(borders, distance + nudge);
        std::vector<Contour> rings = one.rings();
        if (one.loose() < 1e-3) {
            return rings;
        }
        loose = one.loose();
    }
    throw Error(fmt::format("An outline could not be offset by {:.3f} mm: a stretch of {:.2f} mm "
                            "does not close. It may cross itself.",
                            distance, loose));
}

Contour counterClockwise(const Contour& closed) {
    return signedAreaOf(closed) > 0 ? closed : reversed(closed);
}

Contour clockwise(const Contour& closed) {
    return signedAreaOf(closed) < 0 ? closed : reversed(closed);
}

} // namespace wren
