#pragma once

#include "job/derive.h"

#include <functional>

namespace wren {

using WoodOf = std::function<std::shared_ptr<const Stock>(const PartJob&)>;

/// The layers of a glued part on one another, back, core and top, each as `woodOf` knows it to come
/// off the machine, face up, with the plugs of its cut-outs sawn out; null while it knows one of
/// them not, and for a part cut from a plank.
std::shared_ptr<const Stock> gluedUp(const Derived& derived, const PartJob& whole,
                                     const WoodOf& woodOf);

/// What gluedUp() of an earlier derivation came to, kept as `glued` in its parts, where it comes to
/// the same: no layer's wood, by its identity in `woodOf`, nor the way anything lies has changed.
/// Null otherwise, and where it was not kept.
std::shared_ptr<const Stock> gluedBefore(const Derived& derived, const PartJob& whole,
                                         const Derived* before, const WoodOf& woodOf,
                                         std::shared_ptr<const Stock> PartJob::*glued);

/// The neck in its pocket, the lid in its ledge, plugs in their pockets: their walls by the posted
/// programs of both.
void fitTogether(Derived& derived);

/// The neck's heel on the floor of its pocket, by the wood both proofs leave.
void seatNeck(Derived& derived);

} // namespace wren
