#include "proof/walls.h"

#include "cut/contact.h"
#include "geom/contour.h"

#include <algorithm>
#include <cmath>
#include <limits>

#include <fmt/format.h>
#include <tbb/parallel_for.h>

namespace wren {
namespace {

constexpr double outlineStep = 1.0;    ///< mm between the places along the outline that are judged
constexpr double arcTolerance = 0.001; ///< mm

/// A straight piece of the tip's way, in the instrument frame.
struct Piece {
    Vec3 a;
    Vec3 b;
    double radius;
    bool ball;
    std::size_t program;
    int line;
};

std::vector<Piece> cuttingPieces(const BoardPlan& plan, const std::vector<RunProgram>& programs) {
    std::vector<Piece> pieces;
    const SetupFromInstrument& frame = plan.setup.fromInstrument;
    for (std::size_t p = 0; p < programs.size(); ++p) {
        const Bit& bit = programs[p].bit;
        for (const Move& m : programs[p].path) {
            if (!m.cuts()) {
                continue;
            }
            const int n = chordsFor(m, arcTolerance);
            Vec3 from = frame.toInstrument(m.from);
            for (int i = 1; i <= n; ++i) {
                const Vec3 to = frame.toInstrument(m.at(static_cast<double>(i) / n));
                pieces.push_back({from, to, bit.radius(), bit.kind == BitKind::ball, p, m.line});
                from = to;
            }
        }
    }
    return pieces;
}

Finding wallFinding(const std::string& what, double error, double x, const Piece* piece,
                    const std::string& part, const std::vector<RunProgram>& programs) {
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

/// A slot's own passes run inside it from edge to edge; whatever else crosses it does not.
bool runsInSlot(const Piece& p, double centre, double slotWidth, double lowestFace) {
    return std::abs(p.a.x - centre) < slotWidth && std::abs(p.b.x - centre) < slotWidth &&
           p.radius <= slotWidth && std::min(p.a.z, p.b.z) < lowestFace;
}

class SlotWalls {
public:
    SlotWalls(const BoardPart& board, const std::vector<Piece>& pieces) : board_(board) {
        const double faceAtEdge = board.face(board.widest() / 2);
        const std::size_t n = board.slotCentres().size();
        sides_.resize(n);
        for (const Piece& p : pieces) {
            const int slot = board.nearestSlot(p.a.x);
            if (slot < 0) {
                continue;
            }
            const auto i = static_cast<std::size_t>(slot);
            if (!runsInSlot(p, board.slotCentres()[i], board.design().slotWidth, faceAtEdge)) {
                continue;
            }
            take(sides_[i].left, std::min(p.a.x, p.b.x) - p.radius, p, std::less<>());
            take(sides_[i].right, std::max(p.a.x, p.b.x) + p.radius, p, std::greater<>());
        }
    }

    void judge(WallReport& report, const std::string& part,
               const std::vector<RunProgram>& programs) const {
        const double half = board_.design().slotWidth / 2;
        for (std::size_t i = 0; i < sides_.size(); ++i) {
            const double centre = board_.slotCentres()[i];
            for (const Side* s : {&sides_[i].left, &sides_[i].right}) {
                if (!s->piece) {
                    continue; // an uncut slot shows as wood left over
                }
                const double wanted = centre + (s == &sides_[i].left ? -half : half);
                const double error = std::abs(s->x - wanted);
                report.worst = std::max(report.worst, error);
                if (error > wallAllowed) {
                    report.findings.push_back(
                        wallFinding(fmt::format("a side of fret slot {}", i + 1), error, centre,
                                    s->piece, part, programs));
                }
            }
        }
    }

private:
    struct Side {
        double x = 0;
        const Piece* piece = nullptr;
    };
    struct Sides {
        Side left, right;
    };

    template <typename Better>
    static void take(Side& side, double x, const Piece& p, Better better) {
        if (!side.piece || better(x, side.x)) {
            side = {x, &p};
        }
    }

    const BoardPart& board_;
    std::vector<Sides> sides_;
};

/// How near each place of the outline the cutting edge came.
struct Nearest {
    double error = std::numeric_limits<double>::infinity();
    const Piece* piece = nullptr;
};

Nearest nearestEdge(Vec2 place, const std::vector<const Piece*>& pieces) {
    Nearest best;
    for (const Piece* p : pieces) {
        const double d = distanceToSegment(place, p->a.xy(), p->b.xy()) - p->radius;
        if (d < best.error) {
            best = {d, p};
        }
    }
    return best;
}

/// Whether the tool stays above the face, carried on beyond the board's edges: then it cuts no
/// wall.
bool staysAboveFace(const Piece& p, const BoardPart& board) {
    const CylinderFace face{board.design().thickness, board.design().radius};
    const auto above = [&](Vec3 tip) {
        const double touch =
            p.ball ? ballTipOn(face, tip.y, p.radius) : flatTipOn(face, tip.y, p.radius);
        return tip.z >= touch - wallAllowed;
    };
    return above(p.a) && above(p.b);
}

void judgeOutline(WallReport& report, const BoardPart& board, const BoardPlan& plan,
                  const std::vector<Piece>& pieces, const std::vector<RunProgram>& programs) {
    // Passes inside a slot cross the outline rightly; passes over the face do not reach it.
    std::vector<const Piece*> low;
    for (const Piece& p : pieces) {
        const int slot = board.nearestSlot(p.a.x);
        const bool inSlot =
            slot >= 0 && runsInSlot(p, board.slotCentres()[static_cast<std::size_t>(slot)],
                                    board.design().slotWidth, board.design().thickness);
        if (!inSlot && !staysAboveFace(p, board)) {
            low.push_back(&p);
        }
    }
    if (low.empty()) {
        return; // not cut through at all: the holding check says so
    }
    std::vector<Vec2> places;
    const std::vector<Vec2> corners = board.corners();
    for (std::size_t i = 0; i < corners.size(); ++i) {
        const Vec2 a = corners[i];
        const Vec2 b = corners[(i + 1) % corners.size()];
        const int n = std::max(1, static_cast<int>(std::ceil(length(b - a) / outlineStep)));
        for (int k = 0; k < n; ++k) {
            places.push_back(a + (b - a) * (static_cast<double>(k) / n));
        }
    }
    std::vector<Nearest> nearest(places.size());
    tbb::parallel_for(std::size_t{0}, places.size(),
                      [&](std::size_t i) { nearest[i] = nearestEdge(places[i], low); });
    std::size_t worst = 0;
    for (std::size_t i = 0; i < places.size(); ++i) {
        if (std::abs(nearest[i].error) > std::abs(nearest[worst].error)) {
            worst = i;
        }
    }
    const double error = std::abs(nearest[worst].error);
    report.worst = std::max(report.worst, error);
    if (error > wallAllowed) {
        report.findings.push_back(wallFinding("the outline", error, places[worst].x,
                                              nearest[worst].piece, plan.setup.part, programs));
    }
}

} // namespace

WallReport judgeWalls(const BoardPart& board, const BoardPlan& plan,
                      const std::vector<RunProgram>& programs) {
    WallReport report;
    const std::vector<Piece> pieces = cuttingPieces(plan, programs);
    SlotWalls(board, pieces).judge(report, plan.setup.part, programs);
    judgeOutline(report, board, plan, pieces, programs);
    return report;
}

} // namespace wren
