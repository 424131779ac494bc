#pragma once

#include "job/derive.h"

#include <string>
#include <vector>

namespace wren {

/// Names of the other files of a posting.
struct Papers {
    std::vector<std::string> sheets; ///< in DIR/sheets
    std::vector<std::string> models; ///< in DIR/models
};

/// report.json: programs, sheets, models, setups, parts, proof and findings. `posted` says whether
/// the programs really were written; when not, the list of programs is empty.
std::string reportJson(const Derived& derived, bool posted, const Papers& papers = {});

/// The proof and the findings alone, as `wren prove --json` prints them.
std::string proofJson(const Derived& derived);

/// Findings as a JSON list.
std::string findingsJson(const Findings& findings);

} // namespace wren
