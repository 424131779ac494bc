#pragma once

#include "job/derive.h"

namespace wren {

/// The layers of a glued body on one another, back, core and top, as their programs left them; null
/// while one of them has no proof.
std::shared_ptr<const Stock> gluedUp(const BodyJob& body, const PanelJob& whole);

/// The neck laid into its pocket and onto its floor, the lid into its ledge, plugs into their
/// pockets: everything from the posted programs of both.
void layTogether(Derived& derived);

} // namespace wren
