#pragma once

#include "job/posted_program.h"
#include "proof/neck_proof.h"
#include "proof/panel_proof.h"

#include <memory>
#include <variant>

namespace wren {

/// What follows for one part, whichever it is: how it is held, its programs, their proof. Parts
/// differ in their recipe, in what is said of their surfaces and in the form of their drawing.
struct PartJob {
    PartId id;
    Held held;
    bool placed = false; ///< its blank can hold it
    std::string inputs;  ///< digest of all its programs and proof follow from (job/part_inputs.h)
    std::string clamps;  ///< digest of what its links are led round
    /// A flat piece of wood: everything but the board and the neck.
    std::shared_ptr<const Panel> panel;
    using Planned = std::variant<BoardPlan, NeckPlan, PanelPlan>;
    /// Shared with what was derived before where nothing of it changes.
    std::shared_ptr<Planned> planned = std::make_shared<Planned>();
    bool isPlanned = false;
    SidePrograms read;                       ///< its programs as read back
    std::shared_ptr<const Stock> start;      ///< glued up from earlier parts; none: its blank
    std::shared_ptr<const Stock> easedStart; ///< the same of the planned wood, coarsely
    std::shared_ptr<const PartProof> proof;  ///< none before it is proved
    /// Of cuts and programs that ran before; none: none is kept.
    std::shared_ptr<CutMemory> memory;
    /// Of a layer: the planned wood as its cuts leave it, face up, coarsely; what others are eased
    /// on.
    std::shared_ptr<const Stock> eased;

    std::string name() const { return id.name(); }
    const PartPlan& plan() const {
        return std::visit([](const auto& p) -> const PartPlan& { return p; }, *planned);
    }
    /// To be changed: its own from then on.
    PartPlan& ownPlan() {
        if (planned.use_count() > 1) {
            planned = std::make_shared<Planned>(*planned);
        }
        return std::visit([](auto& p) -> PartPlan& { return p; }, *planned);
    }
    const BoardPlan& boardPlan() const { return std::get<BoardPlan>(*planned); }
    const NeckPlan& neckPlan() const { return std::get<NeckPlan>(*planned); }
    const PanelPlan& panelPlan() const { return std::get<PanelPlan>(*planned); }

    /// Every side that anything is cut from has its programs.
    bool wholly() const { return !read[0].empty() && (!held.back || !read[1].empty()); }
};

} // namespace wren
