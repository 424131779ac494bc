#pragma once

#include "job/derive.h"

#include <string>

namespace wren {

/// report.json: programs, setups, parts, proof and findings. `posted` says whether the programs
/// really were written; when not, the list of programs is empty.
std::string reportJson(const Derived& derived, bool posted);

/// The proof and the findings alone, as `wren prove --json` prints them.
std::string proofJson(const Derived& derived);

/// Findings as a JSON list.
std::string findingsJson(const Findings& findings);

} // namespace wren
