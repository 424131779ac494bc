#include "part/body_part.h"
#include "part/lump.h"
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

constexpr double area = cell * cell;

Lump lumpOf(const Panel& piece) {
    const PanelField field = fieldOver(piece);
    Lump wood;
    for (std::size_t i = 0; i < field.front.size(); ++i) {
        if (field.in(i)) {
            wood.column(field.at(i), field.back[i], field.front[i], area);
        }
    }
    return wood;
}

PieceOfWood pieceOf(PartId id, const std::string& wood, const Lump& lump) {
    return {id, wood, lump.volume, lump.centre()};
}

} // namespace

std::vector<PieceOfWood> BodyPart::wood() const {
    const Panel* core = panel(Role::core);
    std::vector<PieceOfWood> out;
    if (core) {
        const PanelField field = fieldOver(*panel(Role::body));
        const PanelField hollows = PanelField::like(field, *core);
        Lump top, middle, back;
        for (std::size_t i = 0; i < field.front.size(); ++i) {
            if (!field.in(i)) {
                continue;
            }
            const Vec2 at = field.at(i);
            const double front = field.front[i];
            const double behind = field.back[i];
            top.column(at, std::max(behind, core->top), front, area);
            back.column(at, behind, std::min(front, core->bottom), area);
            middle.column(at, std::max(behind, core->bottom), std::min(front, core->top), area);
            if (hollows.frontBy[i] >= 0) { // a chamber the top closes
                middle.takeColumn(at, std::max<double>(behind, hollows.front[i]),
                                  std::min(front, core->top), area);
            }
        }
        out = {pieceOf(Role::core, core->wood, middle),
               pieceOf(Role::top, panel(Role::top)->wood, top)};
        if (const Panel* leaf = panel(Role::back)) {
            out.push_back(pieceOf(Role::back, leaf->wood, back));
        }
    } else if (winged()) {
        const PanelField field = fieldOver(*panel(Role::body));
        // The sides they are glued with run clockwise round them: a wing's wood lies at the right.
        const ContourPiece bass = panel({Role::wing, 1})->outline.back();
        const ContourPiece treble = panel({Role::wing, 2})->outline.back();
        // A cell on the line is parted: half a cell along a neck's side is a third of a percent.
        const auto beyond = [](const ContourPiece& side, Vec2 at) {
            const double off = cross(at - side.from, unit(side.to - side.from));
            return std::clamp(0.5 + off / cell, 0.0, 1.0);
        };
        std::array<Lump, 3> lumps; // of the wings, and of the neck between them
        for (std::size_t i = 0; i < field.front.size(); ++i) {
            if (field.in(i)) {
                const Vec2 at = field.at(i);
                const double one = beyond(bass, at), other = beyond(treble, at);
                lumps[0].column(at, field.back[i], field.front[i], area * one);
                lumps[1].column(at, field.back[i], field.front[i], area * other);
                lumps[2].column(at, field.back[i], field.front[i], area * (1 - one - other));
            }
        }
        out = {pieceOf({Role::wing, 1}, woods_.body, lumps[0]),
               pieceOf({Role::wing, 2}, woods_.body, lumps[1]), pieceOf(Role::neck, "", lumps[2])};
    } else {
        out.push_back(pieceOf(Role::body, woods_.body, lumpOf(*panel(Role::body))));
    }
    for (const Panel& p : panels_) {
        if (p.id.byItself()) {
            out.push_back(pieceOf(p.id, p.wood, lumpOf(p)));
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
