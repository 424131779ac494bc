#pragma once

#include "job/project.h"

namespace wren {

/// The wood of that id: the maker's own, else a known one. Throws Error for neither.
Wood woodOf(const Project& project, const std::string& id);
/// Only where it is the maker's own.
std::optional<Wood> ownWood(const Project& project, const std::string& id);

/// Ids of the maker's own woods.
std::vector<std::string> ownWoodIds(const Project& project);

/// Gives one of them another name, wherever it is used too. Throws Error: the name of another, or
/// not of small letters, digits and hyphens.
void nameOwnWood(Project& project, std::size_t number, const std::string& name);

/// Throws Error where a part, board or template is of a wood that there is not.
void checkWoods(const Project& project);

} // namespace wren
