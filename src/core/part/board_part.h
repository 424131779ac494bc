#pragma once

#include "design/fan.h"
#include "design/markers.h"
#include "geom/contour.h"

#include <array>
#include <optional>
#include <vector>

namespace wren {

/// A fret slot in plan, between its two ends; through slots end on the board's edges, blind ones
/// short of them. `low` is the end at smaller Y.
struct FretSlot {
    int fret = 0;
    Vec2 low;
    Vec2 high;
    bool blind = false;

    Vec2 along() const { return (high - low) * (1 / length(high - low)); } ///< unit
    /// Unit, square to the slot, toward the bridge.
    Vec2 across() const { return {along().y, -along().x}; }
    /// How far a point lies to the bridge's side of the slot's middle line.
    double offset(Vec2 p) const { return dot(p - low, across()); }
    double middle() const { return xAt(0); }
    /// Where the slot's middle line crosses Y = `y`.
    double xAt(double y) const { return low.x + (high.x - low.x) * (y - low.y) / (high.y - low.y); }
};

/// A face marker's pocket: its place, and the height of its flat floor.
struct MarkerPocket {
    MarkerPlace place;
    double floor = 0;
    double beyond = 0; ///< how far a wrap's outline is carried past its slanting edge
    Contour outline;   ///< as drawn, carried so far
};

/// The ledge the nut stands on: the board between its head end and `wall`, cut down to `floor`.
struct NutShelf {
    Vec2 wallLow; ///< at the edge of smaller Y
    Vec2 wallHigh;
    double floor = 0;
};

/// The fretboard as machinable geometry, in the instrument frame: underside on Z = 0, the nut's
/// line through the origin, centreline on Y = 0. Needs a board that judgeFretboard() found no firm
/// stop in.
class BoardPart {
public:
    explicit BoardPart(const Fretboard& board);

    const Fretboard& design() const { return board_; }
    const ArchedFace& face() const { return face_; }
    const ArchedFace& floor() const { return floor_; } ///< of the slots

    double face(double x, double y) const { return face_.heightAt(x, y); }
    double floor(double x, double y) const { return floor_.heightAt(x, y); }

    /// Y of the long edge at x; `side` -1 the edge at smaller Y, +1 the other.
    double edge(int side, double x) const;
    /// The board's low and high Y at x; nothing where the board is not.
    std::optional<std::array<double, 2>> across(double x) const;
    double widest() const;
    double xLow() const { return low_.x; }   ///< of all its corners
    double xHigh() const { return high_.x; } ///< radiused end included
    double length() const { return xHigh() - xLow(); }
    /// Of the thinner edge at x.
    double edgeThickness(double x) const;

    /// In running order from the head.
    const std::vector<FretSlot>& slots() const { return slots_; }
    /// Index of the slot nearest to a point, or -1 on a board without slots.
    int nearestSlot(Vec2 p) const;

    const std::vector<MarkerPocket>& pockets() const { return pockets_; }
    const std::optional<NutShelf>& shelf() const { return shelf_; }
    bool onShelf(Vec2 p) const;

    /// Clockwise seen from above: the edge at +Y toward the bridge, the end, the other edge, the
    /// head end.
    const Contour& outline() const { return outline_; }
    /// Distance outside the outline; negative inside.
    double outsideBy(Vec2 p) const;

    double volume() const;                   ///< mm3, slots, ledge and open markers taken out
    double cutOut() const;                   ///< mm3 of slots, ledge and open markers
    double areaOfFace() const;               ///< mm2, in plan
    std::array<Vec3, 2> boundingBox() const; ///< low and high corner

private:
    void makeOutline(const Fan& fan);
    void makeSlots(const Fan& fan);
    double slotVolume(const FretSlot& slot) const;
    /// The board along X, cut at its corners.
    std::vector<std::array<double, 2>> spans() const;

    Fretboard board_;
    ArchedFace face_;
    ArchedFace floor_;
    /// y = at + slope x of the edges at smaller and larger Y.
    struct Edge {
        double at, slope;
    };
    std::array<Edge, 2> edges_;
    std::vector<FretSlot> slots_;
    std::vector<MarkerPocket> pockets_;
    std::optional<NutShelf> shelf_;
    Contour outline_;
    Vec2 low_;
    Vec2 high_;
};

} // namespace wren
