#include "pages/room_plan.h"

#include <algorithm>

namespace wren::app {

const HoldCard* RoomPlan::cardOf(const RoomStep& step) const {
    const auto part = cards.find(step.part.name());
    if (part == cards.end()) {
        return nullptr;
    }
    const auto card =
        std::find_if(part->second.begin(), part->second.end(), [&](const HoldCard& c) {
            return c.setup->side == step.side && c.station == step.station;
        });
    return card == part->second.end() ? nullptr : &*card;
}

RoomPlanPtr roomPlan(const DerivedPtr& derived, LengthUnit unit, const BookReadingPtr& book,
                     bool practice) {
    auto plan = std::make_shared<RoomPlan>();
    plan->derived = derived;
    plan->unit = unit;
    plan->book = book;
    plan->practice = practice;
    ShopKnows knows;
    if (book) {
        knows = {practice ? book->practice : book->experience, book->memory.of("hardware"),
                 book->memory.of("note"), book->lives};
    }
    plan->steps = roomSteps(*derived, unit, book ? &knows : nullptr);
    for (const PartJob& job : derived->parts) {
        if (job.placed) {
            plan->cards[job.name()] = holdCards(*derived, job);
        }
    }
    return plan;
}

} // namespace wren::app
