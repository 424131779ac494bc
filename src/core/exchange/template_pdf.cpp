#include "exchange/template_pdf.h"

#include <fmt/format.h>

namespace wren {
namespace {

constexpr double around = 6; ///< kept free round the drawing
const Pen hair{0.15, {}, {0.35, 0.37, 0.35}};

Pen penOf(const std::string& layer) {
    if (layer == "outline") {
        return {0.3, {}, {0, 0, 0}};
    }
    if (layer == "centre") {
        return {0.15, {6, 1.5, 1, 1.5}, {0.2, 0.2, 0.2}};
    }
    if (layer == "strings") {
        return {0.1, {}, {0.6, 0.6, 0.6}};
    }
    return {0.15, {}, {0, 0, 0}};
}

Tiling tiled(const std::array<Vec2, 2>& box, double width, double height) {
    Tiling t;
    t.pageWidth = width;
    t.pageHeight = height;
    const double w = box[1].x - box[0].x + 2 * around;
    const double h = box[1].y - box[0].y + 2 * around;
    const auto count = [&](double size, double frame) {
        return std::max(
            1, static_cast<int>(std::ceil((size - t.overlap) / (frame - t.overlap) - 1e-9)));
    };
    t.columns = count(w, t.frameWidth());
    t.rows = count(h, t.frameHeight());
    t.low = {box[0].x - around, box[0].y - around};
    return t;
}

std::string sheetName(const Tiling& t, int column, int row) {
    return fmt::format("{}{}", static_cast<char>('A' + row % 26), column + 1) +
           (t.rows > 26 ? "'" : "");
}

void cropMarks(Pdf& pdf, const Tiling& t) {
    constexpr double mark = 6;
    for (double x : {t.margin, t.pageWidth - t.margin}) {
        for (double y : {t.margin, t.pageHeight - t.margin}) {
            const double outX = x < t.pageWidth / 2 ? -mark : mark;
            const double outY = y < t.pageHeight / 2 ? -mark : mark;
            pdf.line({x, y}, {x + outX, y}, hair);
            pdf.line({x, y}, {x, y + outY}, hair);
        }
    }
}

/// Crosses in the middle of the overlaps: each is drawn on both sheets and must meet itself.
void crosses(Pdf& pdf, const Tiling& t, const OnPage& place) {
    constexpr double arm = 3;
    const auto cross = [&](Vec2 p) {
        const Vec2 at = place.at(p);
        pdf.line({at.x - arm, at.y}, {at.x + arm, at.y}, hair);
        pdf.line({at.x, at.y - arm}, {at.x, at.y + arm}, hair);
    };
    const double stepX = t.frameWidth() - t.overlap;
    const double stepY = t.frameHeight() - t.overlap;
    for (int c = 1; c < t.columns; ++c) {
        for (double y = t.low.y + 15; y < t.low.y + t.rows * stepY + t.overlap; y += 60) {
            cross({t.low.x + c * stepX + t.overlap / 2, y});
        }
    }
    for (int r = 1; r < t.rows; ++r) {
        for (double x = t.low.x + 15; x < t.low.x + t.columns * stepX + t.overlap; x += 60) {
            cross({x, t.low.y + r * stepY + t.overlap / 2});
        }
    }
}

void sheet(Pdf& pdf, const Drawing& drawing, const Tiling& t, int column, int row) {
    pdf.page(t.pageWidth, t.pageHeight);
    const OnPage place = t.placeOn(column, row);
    pdf.clip({t.margin, t.margin}, {t.pageWidth - t.margin, t.pageHeight - t.margin});
    for (const DrawnLine& line : drawing.lines) {
        pdf.contour(line.pieces, line.closed, place, penOf(line.layer));
    }
    for (const DrawnText& text : drawing.texts) {
        pdf.text(place.at(text.at), text.text, text.height / 0.7, Face::figures);
    }
    crosses(pdf, t, place);
    pdf.unclip();
    cropMarks(pdf, t);
    const Pen dashed{0.15, {2, 2}, {0.35, 0.37, 0.35}};
    if (column + 1 < t.columns) {
        const double x = t.pageWidth - t.margin - t.overlap;
        pdf.line({x, t.margin}, {x, t.pageHeight - t.margin}, dashed);
    }
    if (row + 1 < t.rows) {
        const double y = t.margin + t.overlap;
        pdf.line({t.margin, y}, {t.pageWidth - t.margin, y}, dashed);
    }
    pdf.text({t.pageWidth / 2, t.pageHeight - 4},
             fmt::format("{}, full size: sheet {} of {}{}", drawing.title,
                         sheetName(t, column, row), sheetName(t, t.columns - 1, t.rows - 1),
                         column + 1 < t.columns ? "; the next lies on the dashed line" : ""),
             3, Face::words, Align::middle);
}

void firstPage(Pdf& pdf, const Drawing& drawing, const Tiling& t, const Paper& paper,
               const std::vector<std::string>& notes) {
    pdf.page(t.pageWidth, t.pageHeight);
    const double left = t.margin + 5;
    pdf.text({left, 24}, drawing.title, 7, Face::strong);
    pdf.text({left, 32},
             fmt::format("Template at full size on {} sheets of {} paper, joined {} by {}",
                         t.columns * t.rows, paper.name, t.columns, t.rows),
             4);
    const Vec2 low{left, 40};
    const Vec2 high = low + Vec2{testSquare, testSquare};
    pdf.rectangle(low, high, {0.15, {}, {0, 0, 0}});
    pdf.text({low.x + testSquare / 2, low.y + testSquare / 2},
             fmt::format("{:.0f} mm by {:.0f} mm", testSquare, testSquare), 5, Face::figures,
             Align::middle);
    pdf.paragraph({low.x + 5, low.y + testSquare / 2 + 8}, testSquare - 10,
                  "Measure both ways before anything else. When it is off, print again at 100 %, "
                  "without fitting to the page.",
                  3.4);
    double y = 44;
    const double x = high.x + 8;
    const double width = t.pageWidth - t.margin - x;
    const double column = width > 60 ? width : t.pageWidth - 2 * left;
    const double at = width > 60 ? x : left;
    y = width > 60 ? y : high.y + 10;
    for (const std::string& note : notes) {
        y = pdf.paragraph({at, y}, column, note, 3.4) + 2;
    }
    pdf.paragraph({at, y}, column,
                  "Cut each sheet along the frame between its corner marks on the side that lies "
                  "on top, lay it on its neighbour's dashed line so that the crosses meet, and "
                  "tape.",
                  3.4);
}

} // namespace

OnPage Tiling::placeOn(int column, int row) const {
    const double x = low.x + column * (frameWidth() - overlap);
    const double y = low.y + row * (frameHeight() - overlap);
    return {{margin - x, pageHeight - margin + y}, 1};
}

Tiling tile(const Drawing& drawing, const Paper& paper) {
    const auto box = drawing.box();
    const Tiling upright = tiled(box, paper.width, paper.height);
    const Tiling lying = tiled(box, paper.height, paper.width);
    return lying.columns * lying.rows <= upright.columns * upright.rows ? lying : upright;
}

void addFullSize(Pdf& pdf, const Drawing& drawing, const Paper& paper,
                 const std::vector<std::string>& notes) {
    const Tiling t = tile(drawing, paper);
    firstPage(pdf, drawing, t, paper, notes);
    for (int row = 0; row < t.rows; ++row) {
        for (int column = 0; column < t.columns; ++column) {
            sheet(pdf, drawing, t, column, row);
        }
    }
}

std::string templatePdf(const Drawing& drawing, const Paper& paper,
                        const std::vector<std::string>& notes) {
    Pdf pdf(drawing.title);
    addFullSize(pdf, drawing, paper, notes);
    return pdf.finish();
}

} // namespace wren
