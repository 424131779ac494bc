#pragma once

#include "cut/carve_recipe.h"
#include "part/trough.h"

namespace wren {

// A trough is cut as the back it takes up is: roughed level by level with a flat bit, then along
// it with a ball that touches the surface exactly.

/// Roughing and the ball's finish of a face's trough; as carveTasks() for what else a face falls by.
CarveTasks troughTasks(const CarveAsk& ask, BitChooser& chooser,
                       const std::function<double(const Bit&, const CutOverrides&)>& feedOf);

Path troughRoughPath(const PanelWork& work, const Trough& trough, const Bit& bit,
                     const Feeds& feeds);
/// Lines of one share of the way from rim to rim, scallops no higher than the body's cuts ask for;
/// straight runs within 0.002 mm of the tip's true way, the ball out beyond both ends.
Path troughFinishPath(const PanelWork& work, const Trough& trough, const Bit& bit,
                      const Feeds& feeds);

} // namespace wren
