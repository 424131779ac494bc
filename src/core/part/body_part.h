#pragma once

#include "design/body.h"
#include "design/string_line.h"
#include "design/wood_left.h"
#include "part/neck_part.h"
#include "part/panel.h"

#include <optional>

namespace wren {

/// A pickup where it ended up, body frame.
struct PickupPlace {
    std::string what; ///< "pickup 1" ...
    Vec2 middle;
    FeatureId feature{};
    double angle = 0; ///< radians, of its length off square to the centreline
    double across = 0;
    double along = 0;
    double height = 0; ///< of the unit, from its bottom to its top
};

/// A hole that is drilled by hand, and how.
struct BenchHole {
    std::string what;
    Vec2 at; ///< body frame, in plan
    double diameter = 0;
    std::string how;
    std::optional<Vec2> to{}; ///< where a long one ends, in plan
    FeatureId feature{};
};

/// What is in the finished instrument of a piece.
struct PieceOfWood {
    PartId id;
    std::string wood;  ///< its id
    double volume = 0; ///< mm3
    Vec3 centre{};     ///< of its volume, body frame, mm
};

/// Ids of the woods its pieces are made of.
struct BodyWoods {
    std::string body = "white-ash";
    std::string top = "cherry";
    std::string back = "cherry";
    std::string lid = "cherry";
    std::string inlay = "hard-maple";

    friend bool operator==(const BodyWoods&, const BodyWoods&) = default;
};

/// The body in pieces that can be cut, in the body's frame (see BodyPlace): its finished face on
/// Z = 0. Needs numbers that judgeBodyNumbers() found nothing against.
class BodyPart {
public:
    BodyPart(const Body& body, const NeckPart& neck, const BodyWoods& woods);

    const Body& design() const { return body_; }
    const BodyPlace& place() const { return place_; }
    const Fretboard& board() const { return board_; }
    const Contour& outline() const { return outline_; } ///< clockwise
    double thickness() const { return body_.thickness; }
    /// In the order they are made: core, top or wings, then the body; then the lid.
    const std::vector<Panel>& panels() const { return panels_; }
    const Panel* panel(PartId id) const;
    /// The finished body's pockets and holes, of all stages.
    std::vector<PanelPocket> pockets() const;
    std::vector<Hole> holes() const;
    const std::vector<PickupPlace>& pickups() const { return pickups_; }
    const std::vector<BenchHole>& benchHoles() const { return bench_; }
    const Contour& heel() const { return heel_; } ///< of the real or designed neck in its pocket
    /// Layers whose seam finds no two places for gluing sticks.
    const std::vector<PartId>& withoutSticks() const { return withoutSticks_; }
    Contour hollow() const;     ///< the cavity's outline, clockwise; empty without one
    double cavityFloor() const; ///< Z: the wood to be left is taken from the face as carved
    double seatFloor(std::size_t control) const; ///< Z of the seat thinned round its shaft
    /// Its wood, to about 0.1 %: the layers of a glued-up body or the body itself, then lid, plugs
    /// and plates. Of wings and what lies between them: that as Role::neck, its wood not named.
    std::vector<PieceOfWood> wood() const;
    double volume() const; ///< mm3 of the finished body without its lid
    /// Whether it is glued up from wings at a neck that goes through.
    bool winged() const { return panel({Role::wing, 1}) != nullptr; }

    /// How far the finished face, or the back, stands below its level at a place of the plan.
    double fallAt(Vec2 p, bool back = false) const {
        return (back ? backFall_ : frontFall_).drop(p);
    }

    /// Z of the open strings over the face above an X, on the centreline.
    double stringHeight(double x) const;
    /// The same of strings pressed down at the last fret, beyond it.
    double pressedHeight(double x) const;
    /// Z of what the bridge is screwed to: the floor of a recess that holds all of it, else the
    /// face.
    double bridgeStandsOn() const { return bridgeStandsOn_; }
    /// Height over what the bridge stands on the saddles must have for the wanted action.
    double saddleHeight() const;

private:
    void layFaces();
    std::vector<SlopeLine> slopes(bool back) const;
    /// Z over an X of the straight line through two places of the instrument's frame.
    double between(Vec3 a, Vec3 b, double x) const;
    double saddleX(Vec2 saddle) const; ///< body frame, of a string's own scale
    void standOnFloors(Panel& body);   ///< holes of the bridge, of strings, free ones
    /// Where a wing meets the neck that goes through, at half its height; side -1 or +1 in Y.
    std::array<Vec2, 2> glueLine(const NeckPart& neck, int side) const;
    void addWings(const NeckPart& neck);
    PanelPocket neckPocket(const NeckPart& neck);
    void addBolts(Panel& body, const NeckPart& neck, const PanelPocket& pocket);
    void addPickups(Panel& body);
    void addPickup(Panel& body, std::size_t i);
    void addBridge(Panel& body);
    void addSingles(Panel& body);
    void addCavity(Panel& body);
    void addControls(Panel& body);
    void addEdges(Panel& body);
    void addFreeHoles(Panel& body);
    void addStringHoles(Panel& body);
    void addRecesses(Panel& body);
    void addWires();
    void addEngravings(Panel& body);
    Contour plateOutline(const Plate& plate) const; ///< clockwise, as it lies on the instrument
    /// What stands in a plate over the front is open in it.
    void openPlate(Panel& plate, double room, const Panel& body) const;
    void addPlates(Panel& body, std::vector<Panel>& plates) const;
    double fallOver(const Contour& area) const;
    void addChambers(Panel& core, double face);
    void addChannels(Panel& panel, double face);
    void makeLid();
    void makePlugs();
    Contour inlayOutline(const Recess& inlay) const; ///< clockwise, no corner tighter than asked

    Body body_;
    Fretboard board_;
    BodyPlace place_;
    StringLine strings_;
    Contour outline_;
    Contour heel_;
    FaceFall frontFall_, backFall_;
    std::vector<Panel> panels_;
    std::vector<PartId> withoutSticks_;
    std::vector<PickupPlace> pickups_;
    std::vector<BenchHole> bench_;
    BodyWoods woods_;
    double bridgeStandsOn_ = 0;
};

/// What cannot be made, or wants care: features outside the body or through its faces, claiming
/// the same wood, thin wood, a bridge that cannot reach its height.
Findings judgeBody(const BodyPart& part);

} // namespace wren
