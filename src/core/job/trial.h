#pragma once

#include "job/project.h"

namespace wren {

/// The same job out of another sheet: those parts' wood and thickness, in mm, and nothing else; its
/// name says that it is a trial, so that the book never takes it for the real one. Throws Error: a
/// wood there is not, a thickness out of range, or a part that has no piece of its own to be laid
/// in.
Project trialOf(const Project& project, const std::vector<PartId>& parts, const std::string& wood,
                double thickness);

} // namespace wren
