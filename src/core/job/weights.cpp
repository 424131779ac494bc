#include "job/weights.h"

#include "part/centres.h"

#include <numeric>

namespace wren {
namespace {

double sum(const std::vector<PieceMass>& pieces, double PieceMass::*what, bool bodyOnly) {
    return std::accumulate(pieces.begin(), pieces.end(), 0.0,
                           [=](double so, const PieceMass& piece) {
                               const bool body = piece.part.ofBody() && !piece.part.byItself();
                               return body || !bodyOnly ? so + piece.*what : so;
                           });
}

} // namespace

Weighed weigh(const Derived& d) {
    Weighed out;
    if (d.board) {
        out.board = centreOf(*d.board) + Vec3{0, 0, d.project.neck.accent};
    }
    if (d.neck) {
        out.neck = centreOf(d.neck->part);
    }
    if (d.body) {
        out.body = d.body->part.wood();
    }
    return out;
}

std::vector<PieceMass> massesOf(const Derived& d) {
    std::vector<PieceMass> out;
    const auto add = [&](PartId part, const std::string& wood, double volume, Vec3 centre) {
        out.push_back({part, wood, volume, volume / 1000 * woodById(wood).density(), centre});
    };
    const Weighed known = d.weighed.value_or(Weighed());
    if (d.board && !d.project.carved()) {
        add(Role::board, d.project.blank.wood, d.board->volume(), known.board);
    }
    if (d.neck) {
        add(Role::neck, d.project.neckBlank.wood, d.neck->volume, known.neck);
    }
    for (const PieceOfWood& piece : known.body) {
        add(piece.id, piece.wood, piece.volume, d.body->part.place().toInstrument(piece.centre));
    }
    return out;
}

double massOf(const std::vector<PieceMass>& pieces) {
    return sum(pieces, &PieceMass::mass, false);
}

double bodyMass(const std::vector<PieceMass>& pieces) {
    return sum(pieces, &PieceMass::mass, true);
}

double bodyVolume(const std::vector<PieceMass>& pieces) {
    return sum(pieces, &PieceMass::volume, true);
}

} // namespace wren
