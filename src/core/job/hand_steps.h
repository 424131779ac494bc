#pragma once

#include "part/body_part.h"

#include <string>

namespace wren {

/// What is done at the bench before a piece is laid on the machine.
struct HandStep {
    std::string what;   ///< empty: nothing
    double minutes = 0; ///< at the bench, curing not counted
};

/// Gluing up before the body, and what has to be drilled into it while it can still be turned in
/// the hands before the next piece; a fixture fixed to the bed. `part` may be null for what is no
/// part of a body. Minutes are common practice, no source.
HandStep handStepBefore(const BodyPart* part, const Panel& panel);

} // namespace wren
