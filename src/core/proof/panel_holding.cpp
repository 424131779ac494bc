#include "proof/panel_holding.h"

#include "geom/inset.h"
#include "proof/tied_wood.h"

#include <algorithm>
#include <cmath>

#include <fmt/format.h>

namespace wren {
namespace {

constexpr double loosePiece = 6; ///< mm2; smaller ones are crumbs

/// The trench round the outline is through, tabs tie the part to its frame.
class Holding {
public:
    Holding(const PanelSides& sides, const PanelPlan& plan, const PanelField& field,
            const Stock& stock)
        : sides_(sides), plan_(plan), field_(field), stock_(stock), tied_(stock) {}

    Findings judge() {
        const Cut* how = plan_.sides[sides_.held.back ? 1 : 0].cutOf(CutKind::outline);
        if (how) {
            radius_ = how->bit.radius();
            skin();
        }
        flood();
        if (how && !held_) {
            sayPartFree(part(), out_, sides_.panel.name());
        }
        if (how) {
            tabs();
        }
        if (held_ || !how) {
            loose();
        }
        return std::move(out_);
    }

private:
    PartId part() const { return sides_.held.face.part; }

    Vec2 placeOf(std::size_t i) const {
        const Vec2 p = field_.at(i);
        return sides_.held.last().fromInstrument.toInstrument({p.x, p.y, 0}).xy();
    }

    int columnOf(std::size_t i) const {
        return static_cast<int>(i % std::size_t(stock_.columns()));
    }
    int rowOf(std::size_t i) const { return static_cast<int>(i / std::size_t(stock_.columns())); }

    bool nearTab(Vec2 p) const {
        return std::any_of(plan_.tabs.begin(), plan_.tabs.end(), [&](const PanelTab& t) {
            return length(p - t.at) < t.reach(radius_) + radius_;
        });
    }

    std::vector<std::vector<Vec2>> ringAt(double distance) const {
        std::vector<std::vector<Vec2>> out;
        for (const Contour& c : inset({clockwise(sides_.panel.outline)}, distance)) {
            out.push_back({});
            for (Vec2 p : pointsOf(c, 0.005)) {
                out.back().push_back(sides_.held.last().fromInstrument.toSetup({p.x, p.y, 0}).xy());
            }
        }
        return out;
    }

    void skin() {
        auto ring = ringAt(2 * radius_ - stock_.cell());
        for (auto& inner : ringAt(stock_.cell())) {
            ring.push_back(std::move(inner));
        }
        double thickest = 0;
        std::size_t where = 0;
        fillCells(field_.grid, ring, [&](std::size_t i) {
            const double left = woodOver(stock_, columnOf(i), rowOf(i)) + throughBy;
            if (left > thickest && !nearTab(placeOf(i))) {
                thickest = left;
                where = i;
            }
        });
        if (thickest <= 0) {
            return;
        }
        const Vec2 p = placeOf(where);
        Finding& f =
            saySkinLeft(part(), out_, thickest, fmt::format("at {}", sides_.held.last().told(p)));
        f.atX = p.x;
    }

    /// Whether anything of the part hangs on the blank's rim, or on an ear's pin.
    void flood() {
        tied_.fromRim();
        for (const SawnEar& ear :
             sides_.held.sawn ? sides_.held.sawn->ears : std::vector<SawnEar>{}) {
            // Beside the pin's own hole, toward the part.
            const Vec2 p = ear.pin + unit(ear.at - ear.pin) * (sides_.held.pinSize / 2 + 1.5);
            const Vec2 s = sides_.held.last().fromInstrument.toSetup({p.x, p.y, 0}).xy();
            tied_.from(static_cast<int>(std::lround(stock_.column(s.x))),
                       static_cast<int>(std::lround(stock_.row(s.y))));
        }
        for (int r = 0; !held_ && r < stock_.rows(); ++r) {
            for (int c = 0; !held_ && c < stock_.columns(); ++c) {
                held_ = field_.in(indexOf(c, r)) && tied_.at(c, r);
            }
        }
    }

    std::size_t indexOf(int c, int r) const {
        return std::size_t(r) * std::size_t(stock_.columns()) + std::size_t(c);
    }

    /// Pieces that hang on nothing when the last program has run.
    void loose() {
        const double cell = stock_.cell() * stock_.cell();
        if (const auto piece = tied_.loose(loosePiece / cell)) {
            const double area = static_cast<double>(piece->cells) * cell;
            const Vec2 p = placeOf(indexOf(piece->column, piece->row));
            sayOf(part(), out_, Weight::stop, "piece-loose",
                  fmt::format("A piece of {:.0f} mm2 comes loose at {}: nothing ties it when it is "
                              "cut through; tabs were expected.",
                              area, sides_.held.last().told(p)),
                  area, loosePiece)
                .atX = p.x;
        }
    }

    void tabs() {
        const std::vector<Vec2> outline = pointsOf(sides_.panel.outline, 0.05);
        for (const PanelTab& t : plan_.tabs) {
            double most = 0;
            for (double a = 0; a < 6.28; a += 0.1) {
                const Vec2 p = t.at + Vec2{std::cos(a), std::sin(a)} * radius_;
                if (inside(outline, p)) {
                    continue;
                }
                const Vec2 s = sides_.held.last().fromInstrument.toSetup({p.x, p.y, 0}).xy();
                const int c = static_cast<int>(std::lround(stock_.column(s.x)));
                const int r = static_cast<int>(std::lround(stock_.row(s.y)));
                if (c >= 0 && r >= 0 && c < stock_.columns() && r < stock_.rows()) {
                    most = std::max(most, double(stock_.high(c, r)) - stock_.low(c, r));
                }
            }
            if (most < t.height - 0.1) {
                sayOf(part(), out_, Weight::stop, "tab-cut-away",
                      fmt::format("The tab at {} does not tie: {:.2f} mm of it are "
                                  "left and {:.1f} mm were wanted.",
                                  sides_.held.last().told(t.at), most, t.height),
                      most, t.height)
                    .atX = t.at.x;
            }
        }
    }

    const PanelSides& sides_;
    const PanelPlan& plan_;
    const PanelField& field_;
    const Stock& stock_;
    double radius_ = 3;
    TiedWood tied_; ///< to the frame
    bool held_ = false;
    Findings out_;
};

} // namespace

Findings judgePanelHolding(const PanelSides& sides, const PanelPlan& plan, const PanelField& field,
                           const Stock& stock) {
    return Holding(sides, plan, field, stock).judge();
}

} // namespace wren
