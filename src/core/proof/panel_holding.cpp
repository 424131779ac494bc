#include "proof/panel_holding.h"

#include "geom/inset.h"

#include <algorithm>
#include <cmath>

#include <fmt/format.h>

namespace wren {
namespace {

constexpr double holdingWood = 0.5; ///< mm of thickness that holds a part
constexpr double loosePiece = 6;    ///< mm2 of it; smaller ones are crumbs
constexpr double throughBy = 0.05;  ///< a through cut passes the far face at least so far

/// The trench round the outline is through, tabs tie the part to its frame.
class Holding {
public:
    Holding(const PanelSides& sides, const PanelPlan& plan, const BodyCut& cut,
            const PanelField& field, const Stock& stock)
        : sides_(sides), plan_(plan), cut_(cut), field_(field), stock_(stock) {}

    Findings judge() {
        const Cut* how = plan_.sides[sides_.held.back ? 1 : 0].cutOf(CutKind::outline);
        if (how) {
            radius_ = how->bit.radius();
            skin();
        }
        flood();
        if (how && !held_) {
            sayOf(part(), out_, Weight::stop, "cut-free",
                  fmt::format("Nothing ties the {} to its frame any more when the outline is "
                              "through; tabs were expected.",
                              sides_.panel.name()),
                  0, 1);
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

    double woodAt(std::size_t i) const {
        const int column = static_cast<int>(i % std::size_t(stock_.columns()));
        const int row = static_cast<int>(i / std::size_t(stock_.columns()));
        return stock_.high(column, row) - stock_.low(column, row);
    }

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
            const double left = woodAt(i) + throughBy;
            if (left > thickest && !nearTab(placeOf(i))) {
                thickest = left;
                where = i;
            }
        });
        if (thickest <= 0) {
            return;
        }
        const Vec2 p = placeOf(where);
        Finding& f = sayOf(part(), out_, Weight::stop, "skin-left",
                           fmt::format("Beside the outline {:.2f} mm of wood are left at {}; it "
                                       "must be through by {:.2f} mm.",
                                       std::max(0.0, thickest - throughBy),
                                       sides_.held.last().told(p), throughBy),
                           std::max(0.0, thickest - throughBy), 0);
        f.atX = p.x;
    }

    /// From the blank's rim through everything thick enough to hold.
    void flood() {
        const int nx = stock_.columns();
        const int ny = stock_.rows();
        seen_.assign(field_.front.size(), 0);
        std::vector<std::pair<int, int>> front;
        for (int c = 0; c < nx; ++c) {
            visit(front, c, 0);
            visit(front, c, ny - 1);
        }
        for (int r = 0; r < ny; ++r) {
            visit(front, 0, r);
            visit(front, nx - 1, r);
        }
        for (const SawnEar& ear :
             sides_.held.sawn ? sides_.held.sawn->ears : std::vector<SawnEar>{}) {
            // Beside the pin's own hole, toward the part.
            const Vec2 p = ear.pin + unit(ear.at - ear.pin) * (sides_.held.pinSize / 2 + 1.5);
            const Vec2 s = sides_.held.last().fromInstrument.toSetup({p.x, p.y, 0}).xy();
            visit(front, static_cast<int>(std::lround(stock_.column(s.x))),
                  static_cast<int>(std::lround(stock_.row(s.y))));
        }
        spread(front, [&](std::size_t i) { held_ = held_ || field_.in(i); });
    }

    void visit(std::vector<std::pair<int, int>>& front, int c, int r) {
        if (c < 0 || r < 0 || c >= stock_.columns() || r >= stock_.rows()) {
            return;
        }
        const std::size_t i = indexOf(c, r);
        if (!seen_[i] && stock_.high(c, r) - stock_.low(c, r) > holdingWood) {
            seen_[i] = 1;
            front.emplace_back(c, r);
        }
    }

    template <typename See>
    void spread(std::vector<std::pair<int, int>>& front, See see) {
        while (!front.empty()) {
            const auto [c, r] = front.back();
            front.pop_back();
            see(indexOf(c, r));
            visit(front, c - 1, r);
            visit(front, c + 1, r);
            visit(front, c, r - 1);
            visit(front, c, r + 1);
        }
    }

    std::size_t indexOf(int c, int r) const {
        return std::size_t(r) * std::size_t(stock_.columns()) + std::size_t(c);
    }

    /// Pieces that hang on nothing when the last program has run.
    void loose() {
        for (int r = 0; r < stock_.rows(); ++r) {
            for (int c = 0; c < stock_.columns(); ++c) {
                std::vector<std::pair<int, int>> front;
                visit(front, c, r);
                if (front.empty()) {
                    continue;
                }
                long cells = 0;
                const Vec2 p = placeOf(indexOf(c, r));
                spread(front, [&](std::size_t) { ++cells; });
                const double area = double(cells) * stock_.cell() * stock_.cell();
                if (area > loosePiece) {
                    sayOf(part(), out_, Weight::stop, "piece-loose",
                          fmt::format("A piece of {:.0f} mm2 comes loose at {}: "
                                      "nothing ties it when it is cut through; tabs were expected.",
                                      area, sides_.held.last().told(p)),
                          area, loosePiece)
                        .atX = p.x;
                    return;
                }
            }
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
    const BodyCut& cut_;
    const PanelField& field_;
    const Stock& stock_;
    double radius_ = 3;
    std::vector<char> seen_; ///< cells that hang together with the frame
    bool held_ = false;
    Findings out_;
};

} // namespace

Findings judgePanelHolding(const PanelSides& sides, const PanelPlan& plan, const BodyCut& cut,
                           const PanelField& field, const Stock& stock) {
    return Holding(sides, plan, cut, field, stock).judge();
}

} // namespace wren
