#include "part/body_part.h"
#include "part/panel_field.h"

#include <algorithm>
#include <cmath>
#include <numeric>

namespace wren {
namespace {

constexpr double cell = 0.5; ///< mm

/// From the middle outward, so that a mirrored piece weighs the same.
PanelField fieldOver(const Panel& piece) {
    const auto box = piece.box();
    const Vec2 size = box[1] - box[0];
    const int nx = static_cast<int>(std::ceil(size.x / cell)) + 1;
    const int ny = static_cast<int>(std::ceil(size.y / cell)) + 1;
    const Vec2 first = (box[0] + box[1]) * 0.5 - Vec2{nx - 1.0, ny - 1.0} * (cell / 2);
    return {piece, SetupFromInstrument::faceUp({}), {first, cell, nx, ny}};
}

double woodBetween(double low, double high) {
    return std::max(0.0, high - low) * cell * cell;
}

double volumeOf(const Panel& piece) {
    const PanelField field = fieldOver(piece);
    double sum = 0;
    for (std::size_t i = 0; i < field.front.size(); ++i) {
        sum += field.in(i) ? woodBetween(field.back[i], field.front[i]) : 0;
    }
    return sum;
}

} // namespace

std::vector<PieceOfWood> BodyPart::wood() const {
    const PanelField field = fieldOver(*panel(Role::body));
    const Panel* core = panel(Role::core);
    std::vector<PieceOfWood> out;
    if (core) {
        const PanelField hollows = PanelField::like(field, *core);
        double top = 0, middle = 0, back = 0;
        for (std::size_t i = 0; i < field.front.size(); ++i) {
            if (!field.in(i)) {
                continue;
            }
            const double front = field.front[i];
            const double behind = field.back[i];
            top += woodBetween(std::max(behind, core->top), front);
            back += woodBetween(behind, std::min(front, core->bottom));
            middle += woodBetween(std::max(behind, core->bottom), std::min(front, core->top));
            if (hollows.frontBy[i] >= 0) { // a chamber the top closes
                middle -= woodBetween(std::max<double>(behind, hollows.front[i]),
                                      std::min(front, core->top));
            }
        }
        out = {{Role::core, core->wood, middle}, {Role::top, panel(Role::top)->wood, top}};
        if (const Panel* leaf = panel(Role::back)) {
            out.push_back({Role::back, leaf->wood, back});
        }
    } else {
        out.push_back({Role::body, woods_.body, volumeOf(*panel(Role::body))});
    }
    for (const Panel& p : panels_) {
        if (p.id.byItself()) {
            out.push_back({p.id, p.wood, volumeOf(p)});
        }
    }
    return out;
}

double BodyPart::volume() const {
    const std::vector<PieceOfWood> all = wood();
    return std::accumulate(all.begin(), all.end(), 0.0, [](double sum, const PieceOfWood& piece) {
        return piece.id.byItself() ? sum : sum + piece.volume;
    });
}

} // namespace wren
