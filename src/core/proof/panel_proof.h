#pragma once

#include "cut/panel_recipe.h"
#include "part/panel_field.h"
#include "proof/proof.h"

#include <array>
#include <memory>
#include <optional>

namespace wren {

/// Programs of a panel's setups as read back, face side first; the second empty without a back.
using PanelPrograms = std::array<std::vector<RunProgram>, 2>;

/// What running a panel's programs needs. Refers to its parts.
struct PanelSides {
    const Panel& panel;
    const PanelSetups& setups;
    TurnOver turn;
    const PanelPrograms& programs;
    std::shared_ptr<const Stock> start; ///< face up: glued up from earlier stages; none: the blank

    const Setup& last() const { return setups.back ? *setups.back : setups.face; }
};

/// The wood in that side's setup at a moment of its programs.
Stock panelStockAt(const PanelSides& sides, std::size_t side, Moment moment, double cell,
                   const std::stop_token& stop = {});

/// What came of cutting a panel.
struct PanelProof {
    /// Front and back, both judged in the wood as it stands at the very end. The deviation fields
    /// lie over its cells.
    std::array<ProofReport, 2> sides;
    std::shared_ptr<const Stock> stock; ///< in the last setup, at the end
    std::shared_ptr<const Stock> face;  ///< as the face side left it, face up: what a top goes on

    bool passed() const { return sides[0].passed && sides[1].passed; }
};

/// Cuts down in passes what of the plan would take more than its bits are given (proof/ease.h), on
/// `start`, the wood glued up from earlier pieces, or the blank. Returns the wood as the face side
/// leaves it. Throws Cancelled.
Stock easePanel(PanelPlan& plan, const Panel& panel, const PanelSetups& setups, TurnOver turn,
                std::shared_ptr<const Stock> start, const Machine& machine,
                const std::stop_token& stop = {});

/// Cells of the proof of a body's pieces, mm.
inline constexpr double panelCell = 0.3;

/// `programs` must come from readBack(). Floors are judged from the stock's heights, walls and the
/// outline from the paths. Throws Cancelled.
PanelProof provePanel(const PanelSides& sides, const PanelPlan& plan, const BodyCut& cut,
                      const Machine& machine, double cell = panelCell,
                      const std::stop_token& stop = {});

} // namespace wren
