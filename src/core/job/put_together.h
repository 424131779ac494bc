#pragma once

#include "job/derive.h"

#include <functional>

namespace wren {

/// The layers of a glued body on one another, back, core and top, each as `faceOf` knows its face
/// side to be left; null while it knows one of them not.
std::shared_ptr<const Stock> gluedUp(const BodyJob& body, const PanelJob& whole,
                                     const std::function<const Stock*(const PanelJob&)>& faceOf);

/// The neck laid into its pocket and onto its floor, the lid into its ledge, plugs into their
/// pockets: everything from the posted programs of both.
void layTogether(Derived& derived);

} // namespace wren
