#pragma once

#include "cut/carve_paths.h"
#include "cut/panel_order.h"

namespace wren {

/// Which face is to be carved, and what its paths keep clear of.
struct CarveAsk {
    PanelWork work;
    bool back = false;
    const std::vector<RegisterPin>& pins;
    double pinSize = 0;
};

struct CarveTasks {
    std::vector<OpenTask> tasks;
    double ballRadius = 0; ///< 0: nothing is carved
};

/// Roughing and the ball's finish of a face's edges and contours: the ball that is done soonest, of
/// those that roll in every hollow, and the widest flat bit that goes into the channel it needs.
/// Empty for a level face, or when no ball serves.
CarveTasks carveTasks(const CarveAsk& ask, BitChooser& chooser,
                      const std::function<double(const Bit&, const CutOverrides&)>& feedOf);

} // namespace wren
