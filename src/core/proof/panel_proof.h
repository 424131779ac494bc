#pragma once

#include "cut/panel_recipe.h"
#include "part/panel_field.h"
#include "proof/proof.h"

#include <array>
#include <memory>
#include <optional>

namespace wren {

/// What running a panel's programs needs. Refers to its parts.
struct PanelSides : PartSides {
    const Panel& panel;
};

/// Cells of the proof of a body's pieces, mm.
inline constexpr double panelCell = 0.3;

/// `programs` must come from readBack(). Floors are judged from the stock's heights, walls and the
/// outline from the paths. Throws Cancelled.
PartProof provePanel(const PanelSides& sides, const PanelPlan& plan, const BodyCut& cut,
                     const Machine& machine, double cell = panelCell,
                     const std::stop_token& stop = {});

} // namespace wren
