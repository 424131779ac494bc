#pragma once

#include "geom/frames.h"
#include "part/panel.h"

#include <cmath>
#include <cstdint>
#include <functional>
#include <optional>

namespace wren {

/// A grid of square cells, row by row; mm.
struct CellGrid {
    Vec2 first; ///< centre of the first cell
    double cell = 1;
    int nx = 0;
    int ny = 0;
};

/// How far a panel's two faces fall over a grid's cells, outside its outline nothing; mm. It takes
/// most of a field's time where the faces are carved, and outlives what is cut into them.
struct FaceDrops {
    std::vector<float> front, back;

    FaceDrops(const Panel& panel, const SetupFromInstrument& to, const CellGrid& grid);
};

/// A designed panel over a grid's cells, from the definition of its pockets and holes: the highest
/// and lowest wood over each cell's centre, panel's Z, and which feature made it so.
struct PanelField {
    CellGrid grid;
    std::vector<float> front; ///< NaN outside the outline
    std::vector<float> back;
    /// Index of the pocket (or, after all pockets, hole) that reaches deepest; -1 the face itself.
    std::vector<std::int16_t> frontBy;
    std::vector<std::int16_t> backBy;

    /// The grid lies in the frame `to` leads to.
    PanelField(const Panel& panel, const SetupFromInstrument& to, const CellGrid& grid);
    /// With its faces' drops over those cells known.
    PanelField(const Panel& panel, const SetupFromInstrument& to, const CellGrid& grid,
               const FaceDrops& drops);
    static PanelField over(const Panel& panel, double cell);             ///< its own box
    static PanelField like(const PanelField& other, const Panel& panel); ///< the same cells

    bool in(std::size_t i) const { return !std::isnan(front[i]); }
    /// Whether nothing of the cell is left.
    bool open(std::size_t i) const { return front[i] <= back[i]; }
    Vec2 at(std::size_t i) const {
        const auto n = static_cast<std::size_t>(grid.nx);
        const std::size_t row = i / n;
        return grid.first + Vec2{double(i % n), double(row)} * grid.cell;
    }

    /// The cell a place of the grid's frame lies in.
    std::optional<std::size_t> cellAt(Vec2 p) const;

private:
    /// Where a pocket goes down into a hollow of the layers, the hollow's floor is the wood's face.
    void openInto(const std::vector<PanelPocket>& hollows, const SetupFromInstrument& to);
};

/// Calls `in(i)` for every cell whose centre lies inside polygons given in the grid's frame, holes
/// among them left out.
void fillCells(const CellGrid& grid, const std::vector<std::vector<Vec2>>& polygons,
               const std::function<void(std::size_t)>& in);

/// What a feature of a panel is called, by PanelField's index.
const std::string& featureName(const Panel& panel, int index);
FeatureId featureOf(const Panel& panel, int index); ///< none for a negative index, the face

} // namespace wren
