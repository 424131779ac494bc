#include "proof/holding.h"

#include "proof/blame.h"
#include "proof/tied_wood.h"

#include <algorithm>
#include <cmath>
#include <limits>

#include <fmt/format.h>

namespace wren {
namespace {

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
            nameLastThroughCut(sayPartFree(setup_.part, out_, "board"));
        }
        return std::move(out_);
    }

private:
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
                const double left = woodOver(stock_, c, r) + throughBy;
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
        const double x = placeOf(column, row).x;
        Finding& f =
            saySkinLeft(setup_.part, out_, thickest, fmt::format("{:.1f} mm from the nut", x));
        f.atX = x;
        if (const auto who = deepestAt({stock_.x(column), stock_.y(row)}, programs_)) {
            f.program = programs_[who->program].file;
            f.line = programs_[who->program].path[who->move].line;
            f.message = fmt::format("{}, line {}: {}", f.program, f.line, f.message);
        }
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

    bool held() const {
        TiedWood tied(stock_);
        tied.fromRim([this](int c, int r) { return quickOutside(placeOf(c, r)) > 0; });
        for (int r = 0; r < stock_.rows(); ++r) {
            for (int c = 0; c < stock_.columns(); ++c) {
                if (tied.at(c, r) && quickOutside(placeOf(c, r)) < -1) {
                    return true; // a millimetre inside the board
                }
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
        f.message = fmt::format("{}, line {}: {}", f.program, f.line, f.message);
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
