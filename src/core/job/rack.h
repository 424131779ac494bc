#pragma once

#include "book/records.h"
#include "job/project.h"

#include <optional>
#include <string>
#include <vector>

namespace wren {

/// A blank in the shop, as the newest entry of its name tells it; mm, 0 where it is not told.
struct RackBlank {
    std::string name, wood, reserved;
    double length = 0, width = 0, thickness = 0;
    double bow = 0, twist = 0;
    std::string moisture; ///< per cent, or empty
    std::optional<int> restDays; ///< since it rests; none: not told, or not as a date
    Record record;
};

/// What stands on the rack on a day (ISO 8601), in the order it was first written down; without what
/// is gone.
std::vector<RackBlank> rackOf(const std::vector<Record>& blanks, const std::string& today);

/// The parts a blank can be taken for, of those a project makes: board, neck, top, back, core or
/// body.
std::vector<PartId> partsFromRack(const Project& project);

/// The project with that part cut from the blank: its sizes and wood. Throws Error, naming the size,
/// where one is not told or the part cannot be cut from it.
Project withBlank(const Project& project, PartId part, const RackBlank& blank);

/// The same blank, kept for an instrument.
Record reservedFor(const RackBlank& blank, const std::string& instrument);

} // namespace wren
