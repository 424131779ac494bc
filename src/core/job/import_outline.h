#pragma once

#include "exchange/drawing_in.h"
#include "job/project.h"

namespace wren {

/// Where a drawn outline goes.
enum class OutlineFor { body, cavity, headstock };

/// A project with an outline from a drawing, and what was done to get it.
struct OutlineImport {
    Project project;
    Contour drawn;        ///< as it was traced: mm, the drawing's own place, Y upward
    Contour outline;      ///< clockwise, from the bridge line, as a right-handed instrument has it
    double deviation = 0; ///< of the drawing's points from the curves, mm
    int lines = 0, arcs = 0;
    int joined = 0, doubled = 0;
    std::vector<std::string> skipped;
    std::string placed; ///< one sentence: what it was placed by
};

/// Takes the largest closed outline of what `tracing` picks. It is placed by the drawing's own
/// lines where it has layers "centreline" and "bridge-line", as this program writes them; else its
/// middle goes on the centreline and its right end where the old outline's is. A headstock's right
/// end is laid at the nut, that end's middle on the centreline. Pieces on different layers are
/// joined when no layer has a closed outline of its own. Lines and arcs are kept as they are; a
/// headstock becomes nodes that follow it within the tolerance. Throws Error: nothing closed, an
/// outline that crosses itself, more nodes than a project holds.
OutlineImport importOutline(const Project& project, const DrawingRead& drawing,
                            const Tracing& tracing, OutlineFor what = OutlineFor::body);

} // namespace wren
