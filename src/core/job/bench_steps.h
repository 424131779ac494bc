#pragma once

#include "book/records.h"
#include "job/derive.h"

#include <string>
#include <vector>

namespace wren {

/// Work by hand with this instrument's numbers, and whether it is done.
struct BenchStep {
    std::string phase; ///< "Fretting"
    std::string what;
    std::string number; ///< or empty
    std::string done{}; ///< when, UTC; empty: not yet
    std::string by{};   ///< whom
    double minutes = 0; ///< it took; 0: not told
    std::string note{}; ///< what was read, or is to be remembered

    /// What it is called in the book.
    std::string id() const { return phase + ": " + what; }
};

/// In the order it is done. `handwork`: what the book has of it, newest first.
std::vector<BenchStep> benchSteps(const Derived& derived, LengthUnit unit,
                                  const std::vector<Record>& handwork);

/// A step ticked, or its tick taken back, as it is written down. `minutes` as typed, or empty.
/// Throws Error.
Record benchRecord(const std::string& project, const BenchStep& step, bool done,
                   const std::string& by, const std::string& minutes,
                   const std::string& note = {});

} // namespace wren
