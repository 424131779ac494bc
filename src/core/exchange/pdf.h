#pragma once

#include "geom/contour.h"

#include <array>
#include <memory>
#include <string>
#include <vector>

namespace wren {

/// A sheet of paper, mm, upright.
struct Paper {
    std::string name;
    double width = 210;
    double height = 297;
};

/// "a4", "a3" (ISO 216) or "letter" (8.5 x 11 in). Throws Error naming these.
Paper paperNamed(const std::string& name);
const std::vector<std::string>& paperNames();

struct Pen {
    double width = 0.25; ///< mm
    std::vector<double> dashes;
    std::array<double, 3> colour{0.13, 0.17, 0.18};
};

enum class Face { words, strong, figures };
enum class Align { left, middle, right };

/// Where a drawing's own coordinates (mm, Y upward) lie on the page.
struct OnPage {
    Vec2 origin; ///< of the drawing, on the page
    double scale = 1;
    Vec2 at(Vec2 p) const { return {origin.x + p.x * scale, origin.y - p.y * scale}; }
};

/// Pages of a PDF 1.5 file, written with cairo in the shipped fonts. Page coordinates in mm from
/// the upper left corner, Y downward; 72 points an inch. The bytes depend on nothing but the calls.
class Pdf {
public:
    explicit Pdf(const std::string& title);
    ~Pdf();
    Pdf(const Pdf&) = delete;
    Pdf& operator=(const Pdf&) = delete;

    void page(double width, double height); ///< ends the one before
    void line(Vec2 from, Vec2 to, const Pen& pen = {});
    void rectangle(Vec2 low, Vec2 high, const Pen& pen = {});
    void oval(Vec2 low, Vec2 high, const Pen& pen = {}); ///< within that rectangle
    void fill(Vec2 low, Vec2 high, const std::array<double, 3>& colour);
    void contour(const Contour& contour, bool closed, const OnPage& place, const Pen& pen = {});
    /// `size` is the height of the type in mm; `at` lies on its base line. Returns its width.
    double text(Vec2 at, const std::string& words, double size = 3.2, Face face = Face::words,
                Align align = Align::left, double turn = 0);
    double widthOf(const std::string& words, double size, Face face);
    static constexpr double lineStep = 1.35; ///< of a paragraph's lines, in sizes
    /// Words broken into lines no wider than `width`, and how a paragraph breaks them. Writing it
    /// returns the Y below the last one.
    std::vector<std::string> linesOf(const std::string& words, double width, double size,
                                     Face face = Face::words);
    double paragraph(Vec2 at, double width, const std::string& words, double size = 3.2,
                     Face face = Face::words);
    void clip(Vec2 low, Vec2 high); ///< until unclip()
    void unclip();

    std::string finish(); ///< the file's bytes

private:
    struct Surface;
    std::unique_ptr<Surface> surface_;
};

} // namespace wren
