#pragma once

#include "design/judge_neck.h"
#include "geom/contour.h"

#include <array>
#include <string>
#include <vector>

namespace wren {

/// A pocket cut into the neck's front: rod slot, its adjuster's end, carbon slots, nut slot.
struct NeckPocket {
    std::string what;        ///< "rod", "adjuster", "carbon" or "nut"
    std::array<Vec2, 2> box; ///< low and high corner in plan; pockets lie along the neck
    double floor = 0;        ///< Z of its floor, the deepest line of a round one
    bool round = false;      ///< half a circle in section

    Vec2 middle() const { return (box[0] + box[1]) * 0.5; }
    double width() const { return box[1].y - box[0].y; }
    double length() const { return box[1].x - box[0].x; }
    bool holds(Vec2 p) const {
        return p.x >= box[0].x && p.x <= box[1].x && p.y >= box[0].y && p.y <= box[1].y;
    }
    /// Z of its floor over a place inside it.
    double floorAt(Vec2 p) const;
};

/// A round hole square to the glue plane.
struct NeckHole {
    std::string what; ///< "tuner", "screw", "bolt" or "pin"
    Vec2 at;
    double diameter = 0;
    bool fromBack = false;
    bool through = false;
    double mouth = 0; ///< Z where it enters the wood
    double floor = 0; ///< Z of its end, the drill's point not counted
};

/// The neck as machinable geometry, instrument frame: glue plane on Z = 0, wood below it. Needs
/// numbers that judgeNeckNumbers() found nothing against.
class NeckPart {
public:
    NeckPart(const Neck& neck, const Fretboard& board);

    const Neck& design() const { return neck_; }
    const Fretboard& board() const { return board_; }
    const NeckOutline& outline() const { return outline_; }
    const NeckBack& back() const { return back_; }

    /// Z of the front without pockets: the glue plane, the hollow, the head's face.
    double face(double x) const { return headFaceZ(neck_, outline_.headStart(), x); }
    /// How far behind the head's start the hollow reaches; the face is plain beyond it.
    double hollowLength() const;
    const std::vector<NeckPocket>& pockets() const { return pockets_; }
    const std::vector<NeckHole>& holes() const { return holes_; }
    const std::vector<TunerPlace>& tuners() const { return tuners_; }

    double deepest() const { return deepest_; } ///< greatest depth of the back
    std::array<Vec3, 2> boundingBox() const;
    /// Of the wood in the section at x, mm2; pockets out, holes not.
    double sectionArea(double x) const;
    double volume() const; ///< mm3, pockets and holes out
    /// The back's section at x as points in (Y, Z), from the edge at -Y to the one at +Y, `n` of
    /// them spaced evenly in section angle and clipped at the outline.
    std::vector<Vec2> section(double x, int n = 97) const;

private:
    void makePockets();
    void makeHoles();

    Neck neck_;
    Fretboard board_;
    NeckOutline outline_;
    NeckBack back_;
    std::vector<TunerPlace> tuners_;
    std::vector<NeckPocket> pockets_;
    std::vector<NeckHole> holes_;
    double deepest_ = 0;
};

} // namespace wren
