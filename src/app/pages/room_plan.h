#pragma once

#include "job/hold_card.h"
#include "job/room.h"
#include "state/book_reading.h"
#include "state/deriver.h"

#include <map>
#include <memory>

namespace wren::app {

/// What is done at the machine and how each part is laid, all of one derivation. It takes some
/// milliseconds for every setup, so it is made off the interface thread.
struct RoomPlan {
    DerivedPtr derived; ///< the cards point into it
    LengthUnit unit = LengthUnit::mm;
    BookReadingPtr book;   ///< null: not read yet
    bool practice = false; ///< runs on stand-ins count as experience
    std::vector<RoomStep> steps;
    std::map<std::string, std::vector<HoldCard>> cards; ///< by the part's name

    /// How the part of a step lies then; null where it cannot be laid.
    const HoldCard* cardOf(const RoomStep& step) const;
};
using RoomPlanPtr = std::shared_ptr<const RoomPlan>;

RoomPlanPtr roomPlan(const DerivedPtr& derived, LengthUnit unit, const BookReadingPtr& book,
                     bool practice);

} // namespace wren::app
