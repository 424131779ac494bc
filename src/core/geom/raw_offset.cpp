#include "geom/raw_offset.h"

#include "geom/crossing.h"

#include <optional>

namespace wren {
namespace {

using Kind = ContourPiece::Kind;

constexpr double noCorner = 1e-7; ///< sine of a turn that counts as none
constexpr double speck = 1e-7;    ///< mm, a piece that counts as none

/// One border's pieces moved over, joined end to start; crossings not yet looked for.
class RawRing {
public:
    RawRing(const Contour& border, double distance) : distance_(distance) {
        moved_.reserve(border.size());
        for (const ContourPiece& p : border) {
            if (const double chord = length(p.to - p.from); chord > speck) {
                moved_.push_back(shifted(p, chord));
            }
        }
        joinAll();
    }

    Contour take() { return std::move(out_); }

private:
    enum class Joint { on, arc, trimmed, tied };

    /// A piece where it is moved to, and what joins it to the next.
    struct Moved {
        ContourPiece piece;
        Vec2 corner; ///< the border's, at its end
        Vec2 wayOut, wayIn;
        bool gone =
            false; ///< a hollow tighter than the distance: its neighbours are tied by a line
        Joint joint = Joint::tied;
        Vec2 meet{}; ///< where it is trimmed at its end
    };

    Moved shifted(const ContourPiece& p, double chord) const {
        if (!p.isArc()) {
            const Vec2 way = (p.to - p.from) * (1 / chord);
            const Vec2 side = leftOf(way) * distance_;
            return {{Kind::line, p.from + side, p.to + side, {}}, p.to, way, way};
        }
        Moved m{p, p.to, p.wayOut(), p.wayIn()};
        const double r = p.radius();
        m.gone = p.kind == Kind::arcCounter && r - distance_ < 1e-6;
        const double k = (p.kind == Kind::arcCounter ? r - distance_ : r + distance_) / r;
        m.piece.from = p.centre + (p.from - p.centre) * k;
        m.piece.to = p.centre + (p.to - p.centre) * k;
        return m;
    }

    // Divisions would take most of the time.
    std::size_t before(std::size_t i) const { return i == 0 ? moved_.size() - 1 : i - 1; }
    std::size_t after(std::size_t i) const { return i + 1 == moved_.size() ? 0 : i + 1; }

    void joinAll() {
        const std::size_t n = moved_.size();
        for (std::size_t i = 0; i < n; ++i) {
            join(moved_[i], moved_[after(i)]);
        }
        untrimUsedUp();
        out_.reserve(2 * n);
        for (std::size_t i = 0; i < n; ++i) {
            const Moved& last = moved_[before(i)];
            const Moved& m = moved_[i];
            if (!m.gone) {
                ContourPiece p = m.piece;
                if (last.joint == Joint::trimmed) {
                    p.from = last.meet;
                } else if (last.joint == Joint::on && !out_.empty()) {
                    p.from = out_.back().to;
                }
                p.to = m.joint == Joint::trimmed ? m.meet : p.to;
                out_.push_back(p);
            }
            const Moved& next = moved_[after(i)];
            if (m.joint == Joint::arc) {
                out_.push_back({Kind::arcClockwise, out_.back().to, next.piece.from, m.corner});
            } else if (m.joint == Joint::tied && !next.gone) {
                tie(next.piece.from);
            }
        }
        if (!out_.empty() && moved_.back().joint == Joint::on) {
            out_.back().to = out_.front().from;
        } else if (!out_.empty()) {
            tie(out_.front().from);
        }
    }

    void join(Moved& m, const Moved& next) const {
        if (m.gone || next.gone) {
            return;
        }
        const double turn = cross(m.wayIn, next.wayOut);
        if (std::abs(turn) < noCorner && dot(m.wayIn, next.wayOut) > 0) {
            m.joint = Joint::on;
        } else if (turn < 0) {
            m.joint = Joint::arc;
        } else if (const auto meet = trim(m.piece, next.piece)) {
            m.joint = Joint::trimmed;
            m.meet = *meet;
        }
    }

    void tie(Vec2 to) {
        if (!out_.empty() && length(to - out_.back().to) > 0) {
            out_.push_back({Kind::line, out_.back().to, to, {}});
        }
    }

    static std::optional<Vec2> trim(const ContourPiece& a, const ContourPiece& b) {
        if (!a.isArc() && !b.isArc()) {
            const Vec2 u = a.to - a.from;
            const Vec2 v = b.to - b.from;
            const double d = cross(u, v);
            const double s = cross(b.from - a.from, v) / d;
            const double along = cross(b.from - a.from, u); // of b, in shares of d
            const bool both =
                d != 0 && s >= 0 && s <= 1 && along * d >= 0 && std::abs(along) <= std::abs(d);
            return both ? std::optional(a.from + u * s) : std::nullopt;
        }
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

    /// Whether of two places on a piece the first comes sooner.
    static bool comesBefore(const ContourPiece& piece, Vec2 a, Vec2 b) {
        if (!piece.isArc()) {
            return dot(b - a, piece.to - piece.from) > 0;
        }
        const double side = piece.kind == Kind::arcCounter ? 1 : -1;
        if (side * cross(piece.from - piece.centre, piece.to - piece.centre) >= 0) {
            return side * cross(a - piece.centre, b - piece.centre) > 0; // within half a turn
        }
        const Stroke s(piece);
        return s.fractionOf(a) < s.fractionOf(b);
    }

    /// A piece trimmed at both ends past its own middle is left whole, for the crossings to settle.
    void untrimUsedUp() {
        const std::size_t n = moved_.size();
        for (std::size_t i = 0; i < n; ++i) {
            Moved& last = moved_[before(i)];
            Moved& m = moved_[i];
            if (last.joint == Joint::trimmed && m.joint == Joint::trimmed) {
                if (!comesBefore(m.piece, last.meet, m.meet)) {
                    last.joint = Joint::tied;
                    m.joint = Joint::tied;
                }
            }
        }
    }

    double distance_;
    std::vector<Moved> moved_;
    Contour out_;
};

} // namespace

Contour rawOffset(const Contour& border, double distance) {
    return RawRing(border, distance).take();
}

} // namespace wren
