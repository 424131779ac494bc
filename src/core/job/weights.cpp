#include "job/weights.h"

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

std::vector<PieceMass> massesOf(const Derived& d) {
    std::vector<PieceMass> out;
    const auto add = [&](PartId part, const std::string& wood, double volume) {
        out.push_back({part, wood, volume, volume / 1000 * woodById(wood).density()});
    };
    if (d.board && !d.project.carved()) {
        add(Role::board, d.project.blank.wood, d.board->volume());
    }
    if (d.neck) {
        add(Role::neck, d.project.neckBlank.wood, d.neck->volume);
    }
    if (d.body) {
        for (const PieceOfWood& piece : d.body->wood) {
            add(piece.id, piece.wood, piece.volume);
        }
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
