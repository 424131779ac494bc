#include "design/scale.h"

#include <cmath>

namespace wren {

double fretFromNut(double scaleLength, double fret) {
    return scaleLength * (1.0 - std::exp2(-fret / 12));
}

} // namespace wren
