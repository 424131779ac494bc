#pragma once

#include "base/watch.h"
#include "exchange/pdf.h"
#include "job/derive.h"

#include <string>
#include <vector>

namespace wren {

/// The formats a part can be written in: "step", "stl", "dxf", "svg", "pdf".
const std::vector<std::string>& exportFormats();

/// The board as bytes of a file of that format: step and stl the solid, dxf and svg the drawing at
/// full size, pdf the drawing at full size on sheets of `paper`. Throws Error, naming the formats
/// when the word is none of them; Cancelled.
std::string exportBoard(const BoardPart& board, const std::string& project,
                        const std::string& format, const Paper& paper, const Watch& watch = {});

/// The neck likewise; dxf, svg and pdf show its plan, or its sections when places along it are
/// given.
std::string exportNeck(const NeckPart& part, const std::string& project, const std::string& format,
                       const Paper& paper, const std::vector<double>& sections = {},
                       const Watch& watch = {});

/// A piece of the body likewise: "body" is the finished body, its layers' hollows shut in; dxf, svg
/// and pdf show its plan. Of the lid, pdf shows the three templates of its cavity.
std::string exportPanel(const BodyJob& body, const PanelJob& job, const std::string& project,
                        const std::string& format, const Paper& paper, const Watch& watch = {});

/// Reads "50,100,12in": places along the neck. Throws Error.
std::vector<double> sectionList(const std::string& text);

} // namespace wren
