#pragma once

#include "book/records.h"
#include "book/shop_book.h"

#include <string>
#include <vector>

namespace wren {

/// How long a machine has run, by its own clock, runs that failed included.
struct MachineHours {
    std::string machine;
    double hours = 0;
    std::string serviced, surfaced; ///< last; empty: the book does not know
    double sinceServiced = 0, sinceSurfaced = 0; ///< hours; all of them where it never was
};

/// Of every machine that ran or is written of, by name. `withStandIns`: simulated runs count too.
std::vector<MachineHours> machineHours(const std::vector<RunRecord>& runs,
                                       const std::vector<Record>& machines,
                                       bool withStandIns = false);

} // namespace wren
