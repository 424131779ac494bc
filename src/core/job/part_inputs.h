#pragma once

#include "job/part_job.h"
#include "job/project.h"

#include <map>
#include <string>

namespace wren {

/// Digests of everything the parts' programs and proofs follow from, by part: the keys of their own
/// groups, how they are held, and of a flat piece its geometry. While a part's stands, so do its
/// programs and its proof. Programs' names and headers are no part of it.
std::map<PartId, std::string> inputsOf(const Project& project, const std::vector<PartJob>& parts);

/// Of the machine alone, on which what was cut or eased before depends beside itself and its wood.
/// Of the clamps that hold a part.
std::string clampInputs(const Project& project, PartId part);
std::string machineInputs(const Project& project);

} // namespace wren
