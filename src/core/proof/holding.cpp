#include "proof/holding.h"

#include "proof/blame.h"

#include <algorithm>
#include <cmath>
#include <limits>

#include <fmt/format.h>

namespace wren {
namespace {

/// A cut counts as through when it passes the underside by this much, mm: one that only reaches it
/// leaves a paper-thin skin in real wood.
constexpr double throughBy = 0.1;
/// Thinner wood than this holds nothing, mm.
constexpr double holdingWood = 0.2;

class Holding {
public:
    Holding(const BoardPart& board, const Setup& setup, const std::vector<Tab>& tabs,
            const CutSettings& cut, const std::vector<RunProgram>& programs, const Stock& stock)
        : board_(board), setup_(setup), tabs_(tabs), cut_(cut), programs_(programs), stock_(stock) {
        for (const RunProgram& p : programs) {
            if (p.has(CutKind::outline)) {
                outlineRadius_ = p.bit.radius();
            }
        }
    }

    Findings judge() {
        if (outlineRadius_ == 0) {
            return {}; // the plan itself says why there is no outline
        }
        judgeSkin();
        if (!held()) {
            Finding f = stop("part-free");
            nameLastThroughCut(f);
            f.message = fmt::format("{}, line {}: the board comes free of its frame here; nothing "
                                    "holds it against the bit.",
                                    f.program, f.line);
            out_.push_back(f);
        }
        return std::move(out_);
    }

private:
    Finding stop(const char* code) const {
        Finding f;
        f.weight = Weight::stop;
        f.code = code;
        f.part = setup_.part;
        return f;
    }

    bool inTab(Vec2 p) const {
        // The tab, its slopes, and the round ends the bit leaves on them.
        const double reach =
            cut_.tabLength / 2 + cut_.tabHeight + cut_.through + outlineRadius_ + 0.5;
        return std::any_of(tabs_.begin(), tabs_.end(), [&](const Tab& t) {
            return std::abs(p.x - t.x) < reach && p.y * t.side > 0;
        });
    }

    Vec2 placeOf(int column, int row) const {
        return setup_.fromInstrument.toInstrument({stock_.x(column), stock_.y(row), 0}).xy();
    }

    /// The columns beside the board the bit should have taken right through.
    void judgeSkin() {
        double thickest = 0;
        int column = -1;
        int row = -1;
        for (int r = 0; r < stock_.rows(); ++r) {
            for (int c = 0; c < stock_.columns(); ++c) {
                const double left = stock_.high(c, r) - stock_.low(c, r) + throughBy;
                if (left <= thickest) {
                    continue;
                }
                const Vec2 p = placeOf(c, r);
                // Cheap box first: most of the remaining wood is the board or the frame.
                const double out = quickOutside(p);
                if (out < 0 || out > 2 * outlineRadius_) {
                    continue;
                }
                const double exact = board_.outsideBy(p);
                if (exact > wallAllowed && exact < 2 * outlineRadius_ - wallAllowed && !inTab(p)) {
                    thickest = left;
                    column = c;
                    row = r;
                }
            }
        }
        if (column < 0) {
            return;
        }
        Finding f = stop("skin-left");
        const Vec2 at{stock_.x(column), stock_.y(row)};
        f.value = std::max(0.0, thickest - throughBy);
        f.limit = 0;
        f.atX = placeOf(column, row).x;
        std::string where;
        if (const auto who = deepestAt(at, programs_)) {
            f.program = programs_[who->program].file;
            f.line = programs_[who->program].path[who->move].line;
            where = fmt::format("{}, line {}: ", f.program, f.line);
        }
        f.message =
            fmt::format("{}the through cut leaves {:.2f} mm of wood, {:.1f} mm from the nut; "
                        "it must pass the underside by {:.1f} mm or more.",
                        where, f.value, *f.atX, throughBy);
        out_.push_back(f);
    }

    /// Roughly how far outside the board, never more than the truth; negative inside.
    double quickOutside(Vec2 p) const {
        const double dx = std::max({board_.xLow() - p.x, p.x - board_.xHigh(), 0.0});
        const double dy = std::max(board_.edge(-1, p.x) - p.y, p.y - board_.edge(1, p.x));
        if (dx > 0) {
            return std::hypot(dx, std::max(dy, 0.0)) * 0.9;
        }
        const bool nearEnd = p.x < head_ || p.x > end_;
        return dy > 0 || !nearEnd ? dy * 0.98 + 1e-9 : board_.outsideBy(p);
    }

    /// Flood from the blank's rim through everything thick enough to hold.
    bool held() const {
        const int nx = stock_.columns();
        const int ny = stock_.rows();
        std::vector<char> seen(static_cast<std::size_t>(nx) * static_cast<std::size_t>(ny), 0);
        std::vector<std::pair<int, int>> front;
        const auto visit = [&](int c, int r) {
            const auto i = static_cast<std::size_t>(r) * static_cast<std::size_t>(nx) +
                           static_cast<std::size_t>(c);
            if (!seen[i] && stock_.high(c, r) - stock_.low(c, r) > holdingWood) {
                seen[i] = 1;
                front.emplace_back(c, r);
            }
        };
        const auto rim = [&](int c, int r) {
            const Vec2 p = placeOf(c, r);
            if (quickOutside(p) > 0) {
                visit(c, r);
            }
        };
        for (int c = 0; c < nx; ++c) {
            rim(c, 0);
            rim(c, ny - 1);
        }
        for (int r = 0; r < ny; ++r) {
            rim(0, r);
            rim(nx - 1, r);
        }
        while (!front.empty()) {
            const auto [c, r] = front.back();
            front.pop_back();
            if (quickOutside(placeOf(c, r)) < -1) {
                return true; // a millimetre inside the board
            }
            if (c > 0) {
                visit(c - 1, r);
            }
            if (c + 1 < nx) {
                visit(c + 1, r);
            }
            if (r > 0) {
                visit(c, r - 1);
            }
            if (r + 1 < ny) {
                visit(c, r + 1);
            }
        }
        return false;
    }

    void nameLastThroughCut(Finding& f) const {
        for (const RunProgram& p : programs_) {
            for (const Move& m : p.path) {
                if (m.cuts() && std::min(m.from.z, m.to.z) < stock_.bottomZ()) {
                    f.program = p.file;
                    f.line = m.line;
                    f.atX = setup_.fromInstrument.toInstrument(m.to).x;
                }
            }
        }
    }

    const BoardPart& board_;
    const Setup& setup_;
    const std::vector<Tab>& tabs_;
    const CutSettings& cut_;
    const std::vector<RunProgram>& programs_;
    const Stock& stock_;
    double outlineRadius_ = 0;
    /// Between these the board's ends are not in the way.
    double head_ = std::max(board_.outline()[3].from.x, board_.outline()[3].to.x) + 2;
    double end_ = std::min(board_.outline()[1].from.x, board_.outline()[1].to.x) - 2;
    Findings out_;
};

} // namespace

Findings judgeHolding(const BoardPart& board, const Setup& setup, const std::vector<Tab>& tabs,
                      const CutSettings& cut, const std::vector<RunProgram>& programs,
                      const Stock& stock) {
    return Holding(board, setup, tabs, cut, programs, stock).judge();
}

} // namespace wren
