#pragma once

#include "base/part_id.h"
#include "part/face_fall.h"
#include "part/hole.h"

#include <array>
#include <string>
#include <vector>

namespace wren {

/// Where a pocket is cut: at this piece's own stage; the glued body's, in its layers before; or, in
/// a layer, as its share of one of those.
enum class PocketStage { own, before, share };

/// A pocket of a flat piece of wood, in its frame: X and Y along the face, Z out of it.
struct PanelPocket {
    std::string what;             ///< "neck pocket", "pickup 1", "cavity", "ledge", "chamber" ...
    std::string cut;              ///< what it is cut among: "pickups" ...
    std::vector<Contour> borders; ///< the pocket on the left: outer counter-clockwise, islands not
    double floor = 0;             ///< Z of the floor, over `levelAt` when it slopes
    double slope = 0;             ///< rise of the floor per mm of X
    double levelAt = 0;
    double mouth = 0; ///< Z of the wood it is cut into
    bool fromBack = false;
    bool through = false; ///< goes past the far face; its floor is that face
    bool visible = true;  ///< its mouth's edge is seen on the finished instrument
    FeatureId feature{};
    PocketStage stage = PocketStage::own;

    double floorAt(double x) const { return floor + slope * (x - levelAt); }
    double depth() const { return fromBack ? floor - mouth : mouth - floor; }
};

/// A line drawn into a face; how wide it comes out is the bit's matter.
struct PanelLine {
    std::string what;
    Contour way;      ///< open, or closed
    double depth = 0; ///< below the face as it is carved there
    bool fromBack = false;
    FeatureId feature{};
};

/// Where the fields that place things on a body count from: along the centreline from the bridge
/// line, and across toward the bass side.
struct FromBridge {
    double line = 0;  ///< X of the bridge line
    double side = -1; ///< of the bass strings in Y: -1 right-handed, 1 left-handed

    Vec2 operator()(Vec2 p) const { return {p.x - line, -side * p.y}; }
};

std::vector<std::string> namesOf(const std::vector<PartId>& parts); ///< within the body

/// A flat piece as it leaves the machine at one stage of making: a layer before it is glued, the
/// glued body, the lid of a cavity, a plate, a board for the shop.
struct Panel {
    PartId id = Role::body;
    std::string wood;
    FromBridge told;   ///< a place as the maker reads it
    Contour outline;   ///< clockwise; empty when this stage cuts none
    double bottom = 0; ///< Z of its faces when it is done, pockets aside
    double top = 0;
    double spare = 0; ///< on its face before it is surfaced
    /// How much further in than the part's front and back the faces of the wood round it lie,
    /// where layers are glued on that hardly reach past the outline.
    std::array<double, 2> frame{0, 0};
    bool outlined = true; ///< the outline is cut through at this stage
    int copies = 1;       ///< of them are cut from one blank, lying the same way
    bool free = false;    ///< it has its outline already and lies without waste round it
    /// So many of the outline's last pieces are glued to another part: nothing stands on them.
    std::size_t mating = 0;
    std::vector<PanelPocket> pockets;
    std::vector<Hole> holes;
    std::vector<PanelLine> engraved;
    std::vector<PanelPocket> shutIn; ///< hollows of the layers it is glued up from
    FaceFall frontFall, backFall;    ///< how its faces leave the flat, cut after everything else
    FeatureId feature{};             ///< the thing of the body it is drawn from, if it is one
    std::vector<PartId> layers;      ///< earlier stages it is glued up from; empty: a plank

    double thickness() const { return top - bottom; }
    /// Whether its places are the other's: neither mirrored for the back nor told from elsewhere.
    bool liesAsIn(const Panel& other) const {
        return told.line == other.told.line && told.side == other.told.side;
    }
    std::string name() const { return id.shortName(); }
    /// Z of the finished face, or the back, over a place; pockets aside.
    double faceAt(Vec2 p, bool back) const {
        return back ? bottom + backFall.drop(p) : top - frontFall.drop(p);
    }
    const FaceFall& fall(bool back) const { return back ? backFall : frontFall; }
    std::array<Vec2, 2> box() const; ///< of the outline, low and high corner
    bool hasBack() const;            ///< whether anything is cut from behind but the outline
};

/// A pocket's region as points, for asking what lies where: chords within 0.005 mm.
std::vector<std::vector<Vec2>> polygonsOf(const std::vector<Contour>& borders);
bool insideOf(const std::vector<std::vector<Vec2>>& polygons, Vec2 p);

} // namespace wren
