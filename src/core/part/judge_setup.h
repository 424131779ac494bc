#pragma once

#include "design/setup_solver.h"
#include "part/setup_geometry.h"

namespace wren {

/// In a few words, as it stands in a sentence: "a neck pocket 14.2 mm deep". `standsOn`: Z of what
/// the bridge stands on, from which its saddles are measured.
std::string inWords(const SetupCure& cure, double standsOn);

/// Whether strings and bridge can meet: height and way of every saddle, the bend over it.
Findings judgeSetup(const SetupGeometry& setup, const BodyPart& body, const Neck& neck);

} // namespace wren
