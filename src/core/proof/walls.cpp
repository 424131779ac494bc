#include "proof/walls.h"

#include "cut/contact.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <limits>

#include <fmt/format.h>
#include <tbb/parallel_for.h>

namespace wren {
namespace {

constexpr double step = 1.0;      ///< mm between the places along a wall that are judged
constexpr double fineStep = 0.25; ///< the same along a marker
constexpr double infinity = std::numeric_limits<double>::infinity();

Finding wallFinding(const std::string& what, double error, double x, const CutPiece* piece,
                    PartId part, const std::vector<RunProgram>& programs) {
    Finding f;
    f.weight = Weight::stop;
    f.code = "wall";
    f.part = part;
    f.value = error;
    f.limit = wallAllowed;
    f.atX = x;
    std::string where;
    if (piece) {
        f.program = programs[piece->program].file;
        f.line = piece->line;
        where = fmt::format("{}, line {}: ", f.program, f.line);
    }
    f.message = fmt::format("{}{} is out by {:.3f} mm at {:.1f} mm from the nut; {:.2f} mm is "
                            "allowed.",
                            where, what, error, x, wallAllowed);
    return f;
}

/// The pieces that come near one board, in its instrument frame.
std::vector<CutPiece> piecesNear(const BoardPart& board, const Setup& setup,
                                 const CuttingPieces& all) {
    const auto box = board.boundingBox();
    std::vector<CutPiece> near;
    for (CutPiece p : all.all()) {
        p.a = setup.fromInstrument.toInstrument(p.a);
        p.b = setup.fromInstrument.toInstrument(p.b);
        const double r = p.end->radius + 0.1;
        const bool outside =
            std::max(p.a.x, p.b.x) + r < box[0].x || std::min(p.a.x, p.b.x) - r > box[1].x ||
            std::max(p.a.y, p.b.y) + r < box[0].y || std::min(p.a.y, p.b.y) - r > box[1].y;
        if (!outside) {
            near.push_back(p);
        }
    }
    return near;
}

/// A slot's own passes run inside it from edge to edge; whatever else crosses it does not.
bool runsInSlot(const CutPiece& p, const FretSlot& slot, double slotWidth, double lowestFace) {
    return std::abs(slot.offset(p.a.xy())) < slotWidth &&
           std::abs(slot.offset(p.b.xy())) < slotWidth && p.end->radius <= slotWidth &&
           std::min(p.a.z, p.b.z) < lowestFace;
}

const FretSlot* slotOf(const CutPiece& p, const BoardPart& board, double lowestFace) {
    const int slot = board.nearestSlot(p.a.xy());
    if (slot < 0) {
        return nullptr;
    }
    const FretSlot& s = board.slots()[static_cast<std::size_t>(slot)];
    return runsInSlot(p, s, board.design().slotWidth, lowestFace) ? &s : nullptr;
}

class SlotWalls {
public:
    SlotWalls(const BoardPart& board, const std::vector<CutPiece>& pieces) : board_(board) {
        const double faceAtEdge =
            std::min(board.edgeThickness(board.xLow()), board.edgeThickness(board.xHigh()));
        sides_.resize(board.slots().size());
        for (const CutPiece& p : pieces) {
            const FretSlot* slot = slotOf(p, board, faceAtEdge);
            if (!slot) {
                continue;
            }
            auto& s = sides_[static_cast<std::size_t>(slot - board.slots().data())];
            const double r = p.end->radius;
            const double a = slot->offset(p.a.xy());
            const double b = slot->offset(p.b.xy());
            take(s[0], -std::min(a, b) + r, p);
            take(s[1], std::max(a, b) + r, p);
            const double from = dot(p.a.xy() - slot->low, slot->along());
            const double to = dot(p.b.xy() - slot->low, slot->along());
            take(s[2], -std::min(from, to) + r, p);
            take(s[3], std::max(from, to) + r - length(slot->high - slot->low), p);
        }
    }

    void judge(WallReport& report, PartId part, const std::vector<RunProgram>& programs) const {
        const double half = board_.design().slotWidth / 2;
        for (std::size_t i = 0; i < sides_.size(); ++i) {
            const FretSlot& slot = board_.slots()[i];
            // Through slots run out into the waste; only blind ones have ends.
            for (std::size_t k = 0; k < (slot.blind ? 4U : 2U); ++k) {
                const Side& s = sides_[i][k];
                if (!s.piece) {
                    continue; // an uncut slot shows as wood left over
                }
                const double error = std::abs(s.reach - (k < 2 ? half : 0));
                report.worst = std::max(report.worst, error);
                if (error > wallAllowed) {
                    report.findings.push_back(wallFinding(
                        fmt::format("{} of fret slot {}", k < 2 ? "a side" : "an end", slot.fret),
                        error, slot.xAt(0), s.piece, part, programs));
                }
            }
        }
    }

private:
    /// How far the cut reaches to one side: across or along the slot.
    struct Side {
        double reach = -infinity;
        const CutPiece* piece = nullptr;
    };

    static void take(Side& side, double reach, const CutPiece& p) {
        if (reach > side.reach) {
            side = {reach, &p};
        }
    }

    const BoardPart& board_;
    std::vector<std::array<Side, 4>> sides_;
};

/// A place on a wall, and how high the wood must stand just inside it.
struct WallPlace {
    Vec2 at;
    double height = 0;
};

struct Wall {
    std::string what;
    std::vector<WallPlace> places;
};

/// Whether the tool stays above the face, carried on beyond the board's edges: then it cuts no
/// wall.
bool staysAboveFace(const CutPiece& p, const BoardPart& board) {
    const auto above = [&](Vec3 tip) {
        return tip.z >= tipOver(board.face(), tip.x, tip.y, *p.end) - wallAllowed;
    };
    return above(p.a) && above(p.b);
}

/// How near the cutting edge came to each place: 0 on the wall, negative when it cut inside.
struct Nearest {
    double error = infinity;
    const CutPiece* piece = nullptr;
};

Nearest nearestEdge(const WallPlace& place, const std::vector<const CutPiece*>& pieces) {
    Nearest best;
    for (const CutPiece* p : pieces) {
        const Vec2 a = p->a.xy();
        const Vec2 ab = p->b.xy() - a;
        const double square = dot(ab, ab);
        const double t = square > 0 ? std::clamp(dot(place.at - a, ab) / square, 0.0, 1.0) : 0.0;
        const double d = length(place.at - (a + ab * t)) - p->end->radius;
        // Passing over wood that is to stand no higher cuts no wall.
        if (d < best.error && p->a.z + (p->b.z - p->a.z) * t < place.height - wallAllowed) {
            best = {d, p};
        }
    }
    return best;
}

double designedHeight(const BoardPart& board, Vec2 p) {
    double h = board.onShelf(p) ? board.shelf()->floor : board.face(p.x, p.y);
    for (const MarkerPocket& pocket : board.pockets()) {
        const Vec2 off = p - pocket.place.at;
        const bool wrap = board.design().markers.shape == MarkerShape::wrap;
        const double half = board.design().markers.size / 2;
        if (wrap && std::abs(cross(pocket.place.along, off)) < half + 0.1 &&
            std::abs(dot(pocket.place.along, off)) < half + pocket.beyond) {
            h = std::min(h, pocket.floor);
        }
    }
    return h;
}

std::vector<Vec2> placesAlong(const ContourPiece& piece, double spacing) {
    std::vector<Vec2> places;
    const int n = std::max(1, static_cast<int>(std::ceil(piece.length() / spacing)));
    places.reserve(static_cast<std::size_t>(n));
    for (int k = 0; k < n; ++k) {
        places.push_back(piece.at(piece.length() * k / n));
    }
    return places;
}

std::vector<Wall> wallsOf(const BoardPart& board, BoardShare share) {
    std::vector<Wall> walls;
    if (share == BoardShare::whole) {
        Wall outline{"the outline", {}};
        for (const ContourPiece& piece : board.outline()) {
            for (Vec2 p : placesAlong(piece, step)) {
                outline.places.push_back({p, designedHeight(board, p)});
            }
        }
        walls.push_back(std::move(outline));
    }
    if (board.shelf()) {
        Wall ledge{"the wall of the nut's ledge", {}};
        const NutShelf& shelf = *board.shelf();
        for (Vec2 p :
             placesAlong({ContourPiece::Kind::line, shelf.wallLow, shelf.wallHigh, {}}, step)) {
            ledge.places.push_back({p, board.face(p.x, p.y)});
        }
        walls.push_back(std::move(ledge));
    }
    for (const MarkerPocket& pocket : board.pockets()) {
        Wall marker{fmt::format("a marker's wall at fret {}", pocket.place.fret), {}};
        const bool wrap = board.design().markers.shape == MarkerShape::wrap;
        for (std::size_t i = 0; i < pocket.outline.size(); ++i) {
            if (wrap && i == 3) {
                continue; // its foot is open
            }
            for (Vec2 p : placesAlong(pocket.outline[i], fineStep)) {
                if (board.outsideBy(p) < -wallAllowed) {
                    marker.places.push_back({p, board.face(p.x, p.y)});
                }
            }
        }
        walls.push_back(std::move(marker));
    }
    return walls;
}

/// Places that follow one another on a wall, looked at together.
constexpr std::size_t placesTogether = 32;
/// Pieces further away than this are looked at only where no nearer one was found, mm.
constexpr double vicinity = 4;

/// The pieces that may come within the vicinity of some of the places.
std::vector<const CutPiece*> piecesNear(const WallPlace* places, std::size_t count,
                                        const std::vector<const CutPiece*>& all) {
    Vec2 low = places[0].at;
    Vec2 high = low;
    for (std::size_t i = 1; i < count; ++i) {
        low = {std::min(low.x, places[i].at.x), std::min(low.y, places[i].at.y)};
        high = {std::max(high.x, places[i].at.x), std::max(high.y, places[i].at.y)};
    }
    std::vector<const CutPiece*> near;
    for (const CutPiece* p : all) {
        const double reach = p->end->radius + vicinity;
        if (std::max(p->a.x, p->b.x) + reach >= low.x &&
            std::min(p->a.x, p->b.x) - reach <= high.x &&
            std::max(p->a.y, p->b.y) + reach >= low.y &&
            std::min(p->a.y, p->b.y) - reach <= high.y) {
            near.push_back(p);
        }
    }
    return near;
}

std::vector<Nearest> nearestAlong(const Wall& wall, const std::vector<const CutPiece*>& all) {
    std::vector<Nearest> nearest(wall.places.size());
    const std::size_t groups = (nearest.size() + placesTogether - 1) / placesTogether;
    tbb::parallel_for(std::size_t{0}, groups, [&](std::size_t g) {
        const std::size_t from = g * placesTogether;
        const std::size_t to = std::min(nearest.size(), from + placesTogether);
        const auto near = piecesNear(&wall.places[from], to - from, all);
        for (std::size_t i = from; i < to; ++i) {
            nearest[i] = nearestEdge(wall.places[i], near);
            if (nearest[i].error >= vicinity) { // something left out may be nearer
                nearest[i] = nearestEdge(wall.places[i], all);
            }
        }
    });
    return nearest;
}

void judgeWall(WallReport& report, const Wall& wall, const std::vector<const CutPiece*>& low,
               PartId part, const std::vector<RunProgram>& programs) {
    const std::vector<Nearest> nearest = nearestAlong(wall, low);
    std::size_t worst = 0;
    for (std::size_t i = 0; i < nearest.size(); ++i) {
        if (std::abs(nearest[i].error) > std::abs(nearest[worst].error)) {
            worst = i;
        }
    }
    if (nearest.empty() || nearest[worst].error == infinity) {
        return; // not cut at all: the plan, the surface and the holding say so
    }
    const double error = std::abs(nearest[worst].error);
    report.worst = std::max(report.worst, error);
    if (error > wallAllowed) {
        report.findings.push_back(wallFinding(wall.what, error, wall.places[worst].at.x,
                                              nearest[worst].piece, part, programs));
    }
}

} // namespace

CuttingPieces::CuttingPieces(const std::vector<RunProgram>& programs) {
    for (const RunProgram& p : programs) {
        ends_.push_back(EndShape::of(p.bit));
    }
    for (std::size_t p = 0; p < programs.size(); ++p) {
        const bool drills = programs[p].bit.kind == BitKind::drill;
        for (const Move& m : programs[p].path) {
            if (!m.cuts()) {
                continue;
            }
            overPieces(m, [&](const Vec3& from, const Vec3& to) {
                pieces_.push_back({from, to, &ends_[p], p, m.line, drills});
            });
        }
    }
}

WallReport judgeWalls(const BoardPart& board, const Setup& setup, const CuttingPieces& all,
                      const std::vector<RunProgram>& programs, BoardShare share) {
    WallReport report;
    const std::vector<CutPiece> pieces = piecesNear(board, setup, all);
    SlotWalls(board, pieces).judge(report, setup.part, programs);
    // Passes inside a slot cross the outline rightly; passes over the face do not reach it.
    std::vector<const CutPiece*> low;
    for (const CutPiece& p : pieces) {
        if (!slotOf(p, board, board.design().thickness) && !staysAboveFace(p, board)) {
            low.push_back(&p);
        }
    }
    if (low.empty()) {
        return report;
    }
    for (const Wall& wall : wallsOf(board, share)) {
        judgeWall(report, wall, low, setup.part, programs);
    }
    return report;
}

} // namespace wren
