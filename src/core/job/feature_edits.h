#pragma once

#include "job/derive.h"
#include "job/features.h"

namespace wren {

// Changes of one thing, named by its path (job/features.h). All give a changed project and throw
// Error, changing nothing, where they cannot be had.

/// Moved along and across, mm, in the frame its fields count in. A pickup moves along only; a neck
/// station by half frets.
Project movedBy(const Project& project, const std::string& path, Vec2 by);
/// Mirrored over the centreline.
Project mirroredOver(const Project& project, const std::string& path);
/// A double of it, moved a little so that it can be seen. `fresh` is the double's path.
Project doubledAside(const Project& project, const std::string& path, std::string& fresh);

/// What can be added to a part: a word for it, and the list it goes into.
struct NewThing {
    std::string name; ///< "pot", "chamber", "cut-out"
    std::string list; ///< "body.controls"
    Role part = Role::body;
};
std::vector<NewThing> newThings(Role part);
/// A new one of an ordinary size. `at` is its middle: from the bridge line for a body's, from the
/// nut in the instrument frame for a board's or a neck's. `fresh` is its path.
Project withNew(const Project& project, const NewThing& thing, Vec2 at, std::string& fresh);

/// The project with the recipe's own tabs made the maker's, as soon as one is to be moved or added.
Project withTabsByHand(const Derived& derived);

/// Another node of an outline ("body.outline"), on the stretch nearest to a place, there.
Project withNode(const Project& project, const std::string& list, Vec2 at, std::size_t& number);
/// One node less. Throws Error where too few would be left.
Project withoutNode(const Project& project, const std::string& list, std::size_t number);

/// Jacks in the edge and strap buttons put back onto the outline's edge.
Project settledOnEdge(const Project& project);

} // namespace wren
