#pragma once

#include "design/judge_neck.h"
#include "design/scarf.h"
#include "geom/contour.h"
#include "part/board_part.h"
#include "part/hole.h"

#include <array>
#include <optional>
#include <string>
#include <vector>

namespace wren {

enum class NeckPocketKind { rod, adjuster, carbon, ledge, nut };
const char* wordOf(NeckPocketKind kind); ///< "rod", "nut" ...

/// A pocket: rod slot, its adjuster's end, carbon slots, nut slot, the ledge a nut stands on before
/// a carved face. Its box lies along axes of its
/// own, turned from the instrument's about the origin: a nut on a fan stands askew.
struct NeckPocket {
    NeckPocketKind kind = NeckPocketKind::rod;
    std::array<Vec2, 2> box; ///< low and high corner in plan, along its own axes
    double floor = 0;        ///< Z of its floor, the deepest line of one that is not level
    bool round = false;      ///< half a circle in section
    bool fromBack = false;   ///< cut from there, then closed by a strip before the back is carved
    Vec2 way{1, 0};          ///< unit, instrument frame: its own X
    std::vector<Vec2> run{}; ///< (x, Z) along a floor that is not level, straight between
    double mouth = 0;        ///< Z of the wood it is cut into, seen from the front

    /// Its ends run out of the wood sideways: a nut's slot, a ledge.
    bool runsAcross() const { return kind == NeckPocketKind::nut || kind == NeckPocketKind::ledge; }
    Vec2 own(Vec2 instrument) const { return {dot(way, instrument), cross(way, instrument)}; }
    Vec2 out(Vec2 own) const { return way * own.x + Vec2{-way.y, way.x} * own.y; }
    Vec2 middle() const { return (box[0] + box[1]) * 0.5; }
    double width() const { return box[1].y - box[0].y; }
    double length() const { return box[1].x - box[0].x; }
    bool holds(Vec2 instrument) const {
        const Vec2 p = own(instrument);
        return p.x >= box[0].x && p.x <= box[1].x && p.y >= box[0].y && p.y <= box[1].y;
    }
    std::array<Vec2, 4> corners() const; ///< instrument frame, going round
    std::array<double, 2> reach() const; ///< low and high X, instrument frame
    /// Z of its floor along its own X, at its deepest.
    double bottomAt(double ownX) const;
    /// Z of its floor over a place of the instrument inside it.
    double floorAt(Vec2 instrument) const;
};

/// The neck as machinable geometry, instrument frame: glue plane on Z = 0, wood below it; a carved
/// face stands above it in the same wood. Needs numbers that judgeNeckNumbers() found nothing
/// against.
class NeckPart {
public:
    NeckPart(const Neck& neck, const Fretboard& board);

    const Neck& design() const { return neck_; }
    const Fretboard& board() const { return board_; }
    const NeckOutline& outline() const { return outline_; }
    const NeckBack& back() const { return back_; }

    /// The arched and slotted face of a neck that carries its frets itself: a board that ends
    /// where the neck does.
    const std::optional<BoardPart>& carved() const { return carved_; }
    /// How far a place lies on the carved face's side of its wall before the nut, mm; far behind
    /// it on a neck without one.
    double onCarved(Vec2 at) const;
    /// Z of the blank's face: the glue plane, or a little over a carved face's crown, so that the
    /// arch cleans up everywhere.
    double blankTop() const;
    /// Z of the front at a place on or near the outline, slots, markers and pockets aside.
    double frontAt(Vec2 at) const;

    /// Z of the front without pockets and carved face: the glue plane, the hollow, the head's face.
    double face(double x) const { return headFaceZ(neck_, outline_.headStart(), x); }
    /// How far behind the head's start the hollow reaches; the face is plain beyond it.
    double hollowLength() const;
    /// Out of a plank so thick, or `spare` thicker than it must be; nothing for a head not scarfed.
    std::optional<Scarf> scarf(std::optional<double> plank = {}, double spare = 0) const {
        return scarfOf(neck_, outline_, back_, plank, spare);
    }
    /// X where the face plate ends, its gap behind the nut or where the hollow has run out.
    double plateEnd() const;
    const std::vector<NeckPocket>& pockets() const { return pockets_; }
    const std::vector<Hole>& holes() const { return holes_; }
    const std::vector<TunerPlace>& tuners() const { return tuners_; }

    double deepest() const { return deepest_; } ///< greatest depth of the back
    std::array<Vec3, 2> boundingBox() const;
    /// Of the wood in the section at x, mm2; pockets out, save those that a strip closes; holes
    /// and a carved face's slots and markers not.
    double sectionArea(double x) const;
    double volume() const; ///< mm3, pockets and holes out
    /// The back's section at x as points in (Y, Z), from the edge at -Y to the one at +Y, `n` of
    /// them spaced evenly in section angle and clipped at the outline; one more at an edge that
    /// lies outside the section's own width.
    std::vector<Vec2> section(double x, int n = 97) const;

private:
    NeckPocket along(NeckPocketKind kind, double from, double to, double y, double width,
                     double depth) const;
    void makeCarved();
    void makePockets();
    void makeNutPockets();
    void makeRodPockets();
    void makeHoles();
    void makeCaulHoles();
    void reachOutOfTheWood();

    Neck neck_;
    Fretboard board_;
    NeckOutline outline_;
    NeckBack back_;
    std::vector<TunerPlace> tuners_;
    std::optional<BoardPart> carved_;
    std::vector<NeckPocket> pockets_;
    std::vector<Hole> holes_;
    double deepest_ = 0;
};

} // namespace wren
