#pragma once

#include "exchange/drawing.h"
#include "exchange/pdf.h"

namespace wren {

/// How a drawing is spread over sheets of one size, turned whichever way needs fewer. mm.
struct Tiling {
    double pageWidth = 0;
    double pageHeight = 0;
    double margin = 10;  ///< that printers leave bare
    double overlap = 12; ///< of the drawing, shown on both neighbours
    int columns = 1;
    int rows = 1;
    Vec2 low; ///< the drawing's point in the lower left corner of the first sheet's frame

    double frameWidth() const { return pageWidth - 2 * margin; }
    double frameHeight() const { return pageHeight - 2 * margin; }
    /// Where the drawing lies on the sheet of that column and row, row 0 the lowest.
    OnPage placeOn(int column, int row) const;
};

Tiling tile(const Drawing& drawing, const Paper& paper);

/// Side of the square on the first page, by which a print is checked, mm.
inline constexpr double testSquare = 100;

/// The drawing at full size as a PDF: first a page with the test square and how the sheets join,
/// then the sheets with crop marks, overlap and crosses that must meet. `notes` go on the first
/// page.
std::string templatePdf(const Drawing& drawing, const Paper& paper,
                        const std::vector<std::string>& notes);
/// The same as further pages of a file.
void addFullSize(Pdf& pdf, const Drawing& drawing, const Paper& paper,
                 const std::vector<std::string>& notes);

} // namespace wren
