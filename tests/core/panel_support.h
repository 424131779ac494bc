#pragma once

#include "body_support.h"

namespace wren::test {

/// A plank 120 x 80 x 20 with one pocket, laid and cut.
struct Plank {
    Panel panel;
    Held held;
    Machine machine;
    BodyCut cut;

    explicit Plank(std::vector<PanelPocket> pockets = {}, std::vector<Hole> holes = {}) {
        panel.id = Role::body;
        panel.wood = "white-ash";
        panel.outline = shapeOutline(boxShape({0, 0}, 120, 80, 20));
        panel.bottom = -20;
        panel.top = 0;
        panel.pockets = std::move(pockets);
        panel.holes = std::move(holes);
        lay();
    }
    void lay() {
        TurnHold hold;
        hold.zFace = ZZero::bed;
        held = layPanel(panel, panel.box(), {}, hold, machine);
    }
    PanelPlan plan() const { return planPanel(panel, held, starterDrawer(), machine, cut); }
    PartProof proof(const PanelPlan& plan) const {
        SidePrograms programs;
        for (std::size_t side = 0; side < 2; ++side) {
            if (!plan.sides[side].cuts.empty()) {
                const std::vector<PostJob> jobs{{&plan.sides[side].setup, &plan.sides[side].cuts}};
                programs[side] =
                    readBack(postPrograms(jobs, machine, {"t", ""}), plan.sides[side].setup);
            }
        }
        return provePanel({{held, programs}, panel}, plan, cut, machine);
    }
};

} // namespace wren::test
