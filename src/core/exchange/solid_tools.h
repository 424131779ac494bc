#pragma once

#include "base/error.h"
#include "base/watch.h"
#include "exchange/solid_check.h"
#include "geom/contour.h"
#include "geom/mesh.h"
#include "part/board_part.h"
#include "part/panel.h"

#include <vector>

#include <Message_ProgressIndicator.hxx>
#include <Message_ProgressRange.hxx>
#include <Message_ProgressScope.hxx>
#include <TopTools_ListOfShape.hxx>
#include <TopoDS_Edge.hxx>
#include <TopoDS_Shape.hxx>
#include <TopoDS_Solid.hxx>
#include <TopoDS_Wire.hxx>

namespace wren {

// What the parts' solids are built with. Only for files that build them: this header is heavy.

/// Ends of a closed contour meet within 0.00001 mm, and an arc's are as far from its middle; the
/// library wants them the same.
Contour joinedUp(const Contour& contour);

TopoDS_Edge edgeOf(const ContourPiece& piece); ///< on Z = 0
TopoDS_Wire wireOf(const Contour& contour);    ///< the same, closed

/// The upright body over a closed contour between two heights.
TopoDS_Shape prismOf(const Contour& contour, double from, double to);
Contour closedThrough(const std::vector<Vec2>& points);

/// Passes on how far the library has come, and the wish to stop.
class Indicator : public Message_ProgressIndicator {
public:
    explicit Indicator(const Watch& watch) : watch_(watch) {}

    void throwIfStopped() const {
        if (watch_.stop.stop_requested()) {
            throw Cancelled();
        }
    }

private:
    Standard_Boolean UserBreak() override { return watch_.stop.stop_requested(); }
    void Show(const Message_ProgressScope&, const Standard_Boolean) override {
        if (watch_.progress) {
            watch_.progress(GetPosition());
        }
    }

    const Watch& watch_;
};

TopTools_ListOfShape listOf(const TopoDS_Shape& shape);

/// One shape with others taken away, joined to it, or kept in common; null when it fails. Faces
/// that should meet may lie `fuzzy` mm apart.
template <typename Operation>
TopoDS_Shape combined(const TopoDS_Shape& one, const TopTools_ListOfShape& others,
                      const Message_ProgressRange& range, double fuzzy = 0) {
    Operation operation;
    operation.SetArguments(listOf(one));
    operation.SetTools(others);
    operation.SetFuzzyValue(fuzzy);
    operation.SetRunParallel(true);
    operation.SetCheckInverted(false); // no body here is inside out
    operation.Build(range);
    return operation.HasErrors() ? TopoDS_Shape() : operation.Shape();
}

/// A board's own solid; throws Error when a slot or marker is missing in it.
TopoDS_Solid boardShape(const BoardPart& board, const Watch& watch);

/// A panel's own solid; throws Error when none comes of it.
TopoDS_Solid panelShape(const Panel& panel, const Watch& watch);

/// The one valid solid in a shape; throws Error naming the part where there is none.
TopoDS_Solid onlySolidIn(const TopoDS_Shape& shape, const std::string& part);

/// Places all over the faces of a solid, about `pitch` mm apart, on their exact surfaces.
std::vector<SurfacePlace> placesOf(const TopoDS_Solid& solid, double pitch);

} // namespace wren
