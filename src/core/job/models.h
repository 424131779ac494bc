#pragma once

#include "base/watch.h"
#include "job/derive.h"

#include <string>
#include <vector>

namespace wren {

/// A part's model as files' texts: a STEP AP214 solid and closed STL triangles. What does not come,
/// or does not lie on the design's surface all over (0.02 mm), is empty, and `missing` says why.
struct Models {
    std::string step, stl;
    std::vector<std::string> missing; ///< a sentence for each
};

enum class ModelKind { both, step, stl };

// Each takes some seconds. Throws Cancelled when told to stop.
Models neckModels(const NeckPart& part, const std::string& title, const Watch& watch = {});
/// The two are made apart, one alone when one is asked for.
Models panelModels(const Panel& panel, const std::string& title, const Watch& watch = {},
                   ModelKind kind = ModelKind::both);
/// Of whichever part it is.
Models partModels(const Derived& derived, const PartJob& job, const std::string& title,
                  const Watch& watch = {}, ModelKind kind = ModelKind::both);
/// Of several parts, side by side, a title for each.
std::vector<Models> partsModels(const Derived& derived, const std::vector<PartId>& parts,
                                const std::vector<std::string>& titles, const Watch& watch = {});

} // namespace wren
