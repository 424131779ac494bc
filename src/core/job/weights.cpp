#include "job/weights.h"
#include "job/own_woods.h"

#include "part/centres.h"

#include <algorithm>
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

/// A neck that goes through: up to the body as it is cut, within the body as that leaves it, and
/// what stands out behind the body sawn off.
void throughBody(const Derived& d, Weighed& out) {
    const BodyPlace& place = d.body->part.place();
    const std::vector<Vec2> outline = pointsOf(d.body->part.outline(), 0.05);
    const auto within = [&](Vec2 at) {
        const Vec3 p = place.toBody({at.x, at.y, 0});
        return inside(outline, {p.x, p.y});
    };
    Lump neck = woodOf(d.neck->part, [&](Vec2 at) {
        return !within(at) && place.toBody({at.x, at.y, 0}).x < place.bridge;
    });
    const Lump slots = pocketedOf(d.neck->part, within);
    neck.add(-slots.volume, slots.centre());
    const auto piece = std::find_if(out.body.begin(), out.body.end(),
                                    [](const PieceOfWood& p) { return p.id == Role::neck; });
    neck.add(piece->volume, place.toInstrument(piece->centre));
    out.body.erase(piece);
    out.neck = neck.centre();
    out.neckVolume = neck.volume;
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
    if (d.body && d.body->part.winged()) {
        throughBody(d, out);
    }
    return out;
}

std::vector<PieceMass> massesOf(const Derived& d) {
    std::vector<PieceMass> out;
    const auto add = [&](PartId part, const std::string& wood, double volume, Vec3 centre) {
        out.push_back(
            {part, wood, volume, volume / 1000 * woodOf(d.project, wood).density(), centre});
    };
    const Weighed known = d.weighed.value_or(Weighed());
    if (d.board && !d.project.carved()) {
        add(Role::board, d.project.blank.wood, d.board->volume(), known.board);
    }
    if (d.neck) {
        add(Role::neck, d.project.neckBlank.wood, known.neckVolume.value_or(d.neck->volume),
            known.neck);
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
