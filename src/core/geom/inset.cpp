#include "geom/inset.h"

#include "base/error.h"
#include "geom/stroke_grid.h"

#include <algorithm>
#include <cstdint>
#include <optional>
#include <unordered_map>

#include <fmt/format.h>

namespace wren {
namespace {

using Kind = ContourPiece::Kind;

constexpr double noCorner = 1e-7; ///< sine of a turn that counts as none
constexpr double speck = 1e-7;    ///< mm, a piece that counts as none
constexpr double slack = 5e-6;    ///< mm a ring may lie too close to a border

/// One border's pieces moved over, joined end to start; crossings not yet looked for.
class RawRing {
public:
    RawRing(const Contour& border, double distance) : distance_(distance) {
        for (const ContourPiece& p : border) {
            if (p.length() > speck) {
                kept_.push_back(p);
            }
        }
        for (const ContourPiece& p : kept_) {
            moved_.push_back(shifted(p));
        }
        joinAll();
    }

    Contour take() { return std::move(out_); }

private:
    /// Nothing, where a hollow is tighter than the distance: its neighbours are tied by a line.
    std::optional<ContourPiece> shifted(const ContourPiece& p) const {
        ContourPiece m = p;
        if (p.kind == Kind::arcCounter && p.radius() - distance_ < 1e-6) {
            return {};
        }
        if (p.isArc()) {
            const double r = p.radius();
            const double k = (p.kind == Kind::arcCounter ? r - distance_ : r + distance_) / r;
            m.from = p.centre + (p.from - p.centre) * k;
            m.to = p.centre + (p.to - p.centre) * k;
        } else {
            const Vec2 side = leftOf(unit(p.to - p.from)) * distance_;
            m.from = p.from + side;
            m.to = p.to + side;
        }
        return m;
    }

    enum class Joint { on, arc, trimmed, tied };

    void joinAll() {
        const std::size_t n = kept_.size();
        std::vector<Joint> joints(n, Joint::tied); ///< of piece i with the next
        std::vector<Vec2> meets(n);
        for (std::size_t i = 0; i < n; ++i) {
            const std::size_t k = (i + 1) % n;
            if (!moved_[i] || !moved_[k]) {
                continue;
            }
            const double turn = cross(kept_[i].wayAt(kept_[i].length()), kept_[k].wayAt(0));
            if (std::abs(turn) < noCorner &&
                dot(kept_[i].wayAt(kept_[i].length()), kept_[k].wayAt(0)) > 0) {
                joints[i] = Joint::on;
            } else if (turn < 0) {
                joints[i] = Joint::arc;
            } else if (const auto meet = trim(*moved_[i], *moved_[k])) {
                joints[i] = Joint::trimmed;
                meets[i] = *meet;
            }
        }
        untrimUsedUp(joints, meets);
        for (std::size_t i = 0; i < n; ++i) {
            const std::size_t before = (i + n - 1) % n;
            if (moved_[i]) {
                ContourPiece p = *moved_[i];
                p.from = joints[before] == Joint::trimmed               ? meets[before]
                         : joints[before] == Joint::on && !out_.empty() ? out_.back().to
                                                                        : p.from;
                p.to = joints[i] == Joint::trimmed ? meets[i] : p.to;
                out_.push_back(p);
            }
            addJoint(joints[i], i);
        }
        if (!out_.empty() && joints.back() == Joint::on) {
            out_.back().to = out_.front().from;
        } else if (!out_.empty()) {
            tie(out_.front().from);
        }
    }

    void addJoint(Joint joint, std::size_t i) {
        const std::size_t k = (i + 1) % kept_.size();
        if (joint == Joint::arc) {
            out_.push_back({Kind::arcClockwise, out_.back().to, moved_[k]->from, kept_[i].to});
        } else if (joint == Joint::tied && moved_[k]) {
            tie(moved_[k]->from);
        }
    }

    void tie(Vec2 to) {
        if (!out_.empty() && length(to - out_.back().to) > 0) {
            out_.push_back({Kind::line, out_.back().to, to, {}});
        }
    }

    static std::optional<Vec2> trim(const ContourPiece& a, const ContourPiece& b) {
        const Meetings m = crossings(Stroke(a), Stroke(b));
        std::optional<Vec2> best;
        for (int i = 0; i < m.count; ++i) {
            const Vec2 p = m.at[static_cast<std::size_t>(i)];
            if (!best || length(p - a.to) < length(*best - a.to)) {
                best = p;
            }
        }
        return best;
    }

    /// A piece trimmed at both ends past its own middle is left whole, for the crossings to settle.
    void untrimUsedUp(std::vector<Joint>& joints, const std::vector<Vec2>& meets) const {
        const std::size_t n = kept_.size();
        for (std::size_t i = 0; i < n; ++i) {
            const std::size_t before = (i + n - 1) % n;
            if (joints[before] == Joint::trimmed && joints[i] == Joint::trimmed) {
                const Stroke s(*moved_[i]);
                if (s.fractionOf(meets[before]) >= s.fractionOf(meets[i])) {
                    joints[before] = Joint::tied;
                    joints[i] = Joint::tied;
                }
            }
        }
    }

    double distance_;
    Contour kept_;
    std::vector<std::optional<ContourPiece>> moved_;
    Contour out_;
};

/// A stretch of a raw ring between two of its crossings.
struct Run {
    Contour pieces;
    bool used = false;

    Vec2 from() const { return pieces.front().from; }
    Vec2 to() const { return pieces.back().to; }
};

class Inset {
public:
    Inset(const std::vector<Contour>& borders, double distance) : distance_(distance) {
        for (const Contour& b : borders) {
            for (const ContourPiece& p : b) {
                borders_.emplace_back(p);
            }
        }
        for (const Contour& b : borders) {
            std::size_t first = raw_.size();
            for (const ContourPiece& p : RawRing(b, distance).take()) {
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
    void cutAtCrossings() {
        cuts_.resize(raw_.size());
        const StrokeGrid grid(raw_);
        for (std::size_t i = 0; i < raw_.size(); ++i) {
            grid.near(raw_[i].low(), raw_[i].high(), [&](std::size_t k) {
                if (k > i && overlap(raw_[i], raw_[k])) {
                    cross(i, k);
                }
                return false;
            });
        }
    }

    static bool overlap(const Stroke& a, const Stroke& b) {
        return a.low().x <= b.high().x + speck && b.low().x <= a.high().x + speck &&
               a.low().y <= b.high().y + speck && b.low().y <= a.high().y + speck;
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
        const StrokeGrid grid(borders_);
        for (const auto& [first, end] : rings_) {
            std::vector<Run> runs = runsOf(first, end);
            for (Run& run : runs) {
                if (!grid.closer(middleOf(run), distance_ - slack)) {
                    runs_.push_back(std::move(run));
                }
            }
        }
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
            if (!ring.empty()) {
                runs_[i].pieces.front().from = ring.back().to;
            }
            ring.insert(ring.end(), runs_[i].pieces.begin(), runs_[i].pieces.end());
            if (length(ring.back().to - ring.front().from) < 4 * slack) {
                ring.back().to = ring.front().from;
                return std::abs(signedAreaOf(ring)) > 1e-6 ? ring : Contour{};
            }
            const std::optional<std::size_t> next = after(ring.back(), starts);
            if (!next) {
                loose_ = std::max(loose_, lengthOf(ring));
                return {};
            }
            i = *next;
        }
    }

    /// The unused run that begins where a piece ends; of several the one turning most to the left,
    /// which keeps the ring as small as it can be.
    std::optional<std::size_t>
    after(const ContourPiece& piece,
          const std::unordered_multimap<std::uint64_t, std::size_t>& starts) const {
        std::optional<std::size_t> best;
        double most = -10;
        const Vec2 way = piece.wayAt(piece.length());
        for (int dx = -1; dx <= 1; ++dx) {
            for (int dy = -1; dy <= 1; ++dy) {
                const auto [a, b] = starts.equal_range(cellOf(piece.to, dx, dy));
                for (auto it = a; it != b; ++it) {
                    const Run& run = runs_[it->second];
                    if (run.used || length(run.from() - piece.to) > 4 * slack) {
                        continue;
                    }
                    const Vec2 on = run.pieces.front().wayAt(0);
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
    std::vector<Stroke> borders_;
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
