#pragma once

#include "base/watch.h"
#include "exchange/pdf.h"
#include "job/derive.h"

#include <string>
#include <vector>

namespace wren {

/// The formats a part can be written in: "step", "stl", "dxf", "svg", "pdf".
const std::vector<std::string>& exportFormats();

struct ExportHow {
    Paper paper;                  ///< of a pdf
    std::vector<double> sections; ///< of a neck's drawing: across it at these X instead of its plan
};

/// A part as bytes of a file of that format: step and stl the solid, dxf and svg the drawing at
/// full size, pdf the drawing at full size on sheets of paper. "body" is the finished body, its
/// layers' hollows shut in; of the lid, pdf shows the three templates of its cavity. Throws Error,
/// naming the formats when the word is none of them; Cancelled.
std::string exportPart(const Derived& derived, const PartJob& job, const std::string& format,
                       const ExportHow& how, const Watch& watch = {});

/// Plan and side of the whole instrument at full size: dxf, svg or pdf. Throws Error.
std::string exportWhole(const Derived& derived, const std::string& format, const Paper& paper);

/// Reads "50,100,12in": places along the neck. Throws Error.
std::vector<double> sectionList(const std::string& text);

} // namespace wren
