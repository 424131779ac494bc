#pragma once

#include "book/records.h"
#include "book/shop_book.h"

#include <map>
#include <optional>
#include <string>
#include <vector>

namespace wren {

/// What a bit did in one wood.
struct BitWork {
    double seconds = 0; ///< by the machine's clock
    double mm = 0;      ///< of way in the wood
};

/// A slot's width as it was read off a cut of this bit's.
struct SlotReading {
    double width = 0; ///< mm
    std::string wood, time;
};

/// A real bit's life: of the one in the drawer now, which began when the book was last told of a new
/// one.
struct BitLife {
    std::string bit;
    std::string since; ///< it is new; empty: the book does not know
    std::string sharpened, broken; ///< last; empty: not
    int sharpenings = 0;
    std::map<std::string, BitWork> byWood;
    BitWork sinceSharp; ///< since it was new or sharpened
    std::vector<SlotReading> slots; ///< newest first; those of the bit before it are void

    BitWork all() const;
    /// In a wood, as it cuts now; none: not measured since it is new.
    std::optional<SlotReading> slotIn(const std::string& wood) const;
};

/// Of every bit that ran on a real machine or is written of; by name. `withStandIns`: runs on
/// simulated machines count too.
std::vector<BitLife> bitLives(const std::vector<RunRecord>& runs,
                              const std::vector<Record>& bits,
                              const std::vector<Record>& measurements, bool withStandIns = false);

} // namespace wren
