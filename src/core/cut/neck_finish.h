#pragma once

#include "cut/finish_lines.h"
#include "cut/neck_paths.h"

namespace wren {

/// The back finished along its own lengthwise lines, or across them section by section, touching
/// exactly at every point; chords within 0.002 mm of the true tip path. Lines run there and back,
/// linked on the surface; over tabs the bit stays up.
Path finishPath(const NeckWork& work, const std::vector<NeckTab>& tabs, const Bit& bit,
                const Feeds& feeds, FinishShare share = {});

} // namespace wren
