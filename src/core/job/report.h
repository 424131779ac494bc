#pragma once

#include "job/derive.h"

#include <string>
#include <vector>

namespace wren {

/// Names of the other files of a posting.
struct Papers {
    std::vector<PartId> parts;       ///< whose programs really were written
    std::vector<std::string> sheets; ///< in DIR/sheets: of setups, and bench-NAME.pdf by hand
    std::vector<std::string> models; ///< in DIR/models
    std::vector<std::string>
        missing;                    ///< why a model could not be made; programs do not wait for it
    std::vector<std::string> air{}; ///< in DIR/air: programs run above the work
    std::vector<std::string> traces{}; ///< in DIR/trace: round what each program cuts
    std::vector<std::string> lists{};  ///< in DIR/lists: hardware, wood, drilling
};

/// report.json: programs, sheets, models, setups, parts, proof and findings. Lists the programs of
/// the parts that were posted.
std::string reportJson(const Derived& derived, const Papers& papers = {});

/// The proof and the findings alone, as `wren prove --json` prints them.
std::string proofJson(const Derived& derived);

/// Findings as a JSON list.
std::string findingsJson(const Findings& findings);

} // namespace wren
