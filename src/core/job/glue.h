#pragma once

#include "job/derive.h"

#include <string>
#include <vector>

namespace wren {

/// One joint: wood to wood, or a filling that is poured.
struct GlueJoint {
    std::string what;    ///< "fretboard on the neck"
    double area = 0;     ///< mm2 of the surface that is coated; 0 for a filling
    double volume = 0;   ///< mm3 of a filling
    double adhesive = 0; ///< g to mix or pour
    std::string caution; ///< what to mind; empty for nothing
};

/// Every glued joint of the drawn instrument, in the order they are made; openings that are cut
/// before gluing are left out of the area.
std::vector<GlueJoint> glueList(const Derived& derived);
/// The same as comma-separated values (RFC 4180): joint,area_cm2,volume_cm3,adhesive_g,mind.
std::string glueCsv(const Derived& derived);

} // namespace wren
