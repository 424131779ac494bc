#pragma once

#include "base/length.h"
#include "exchange/pdf.h"
#include "job/derive.h"

#include <functional>
#include <string>
#include <vector>

namespace wren {

/// What all setup sheets share: an A4 page lying, its heading, figures off the datum, steps with
/// boxes to tick, the setup's programs, cautions.
class SheetPage {
protected:
    static constexpr double pageWidth = 297;
    static constexpr double pageHeight = 210;
    static constexpr double left = 14;
    static constexpr double right = pageWidth - 14;
    static constexpr double small = 2.9;
    static const Pen thin;
    static const Pen strong;
    static const Pen chain;
    static constexpr std::array<double, 3> wood{0.95, 0.91, 0.82};

    SheetPage(const Derived& derived, const Setup& setup);
    ~SheetPage() = default;

    std::string size(double mm) const { return formatLengthValue(mm, unit_); }
    std::string sizeWithUnit(double mm) const { return formatLength(mm, unit_); }

    void heading(int number, int of);
    /// Shares the page out: under a long blank steps, programs and cautions stand side by side;
    /// beside one about as wide as long the programs do, where they may. To be asked before what it
    /// places. The plan is `widest` mm wide at most.
    void layOut(const std::vector<std::string>& steps, double widest = right - left - 28,
                bool mayBeBeside = false);
    /// Where a plan of the blank goes on the page.
    OnPage blankPlace() const;
    /// The blank with the lines that lie on the engraved ones; the short one in its middle unless
    /// told.
    void blank(const OnPage& place, std::optional<double> shortLine = {});
    /// Heights and widths off the datum, each on a line of its own so that none is added up.
    void figures(const OnPage& place, const std::vector<double>& xs, const std::vector<double>& ys);
    void datum(const OnPage& place);
    /// What holds it down, numbered as the project lists it.
    void clamps(const OnPage& place);
    void probe(const OnPage& place); ///< where the plate lies
    /// What Z is zeroed on; where the plate lies is drawn.
    std::string zStep() const;
    /// Where the programs' zero is: of a part cut in stations, in each.
    std::vector<std::string> zeroSteps(const Held& held) const;
    /// Where the stations' cuts meet; nothing of what is cut where it lies.
    void seam(const Held& held, const OnPage& place);
    /// A step that says what holds it, for each station; none without clamps.
    std::vector<std::string> clampSteps() const;
    void head(double x, double y, const std::string& words);
    void box(double x, double y);
    /// Steps in the left column, each with a box.
    void tick(const std::string& title, const std::vector<std::string>& steps);
    void programs(const std::string& last);
    void cautions();
    /// A page of its own for work at the bench: wire by fret and side dots; none without them.
    void benchPage();

    const Derived& d_;
    const Setup& setup_;
    LengthUnit unit_;
    std::vector<const PostedProgram*> own_; ///< the programs of this setup
    Pdf pdf_;

private:
    /// Where things stand on the page, mm.
    struct Layout {
        double planWidth = 0;
        double lists = 0; ///< Y where steps and cautions begin
        double programsX = 0, programsY = 0, programsEnd = 0;
        double cautionsX = 0, cautionsEnd = 0;
    };
    Layout under(const std::vector<std::string>& steps, double widest);
    Layout beside(const std::vector<std::string>& steps);
    std::vector<std::string> cautionWords() const; ///< a paragraph each
    // What they take of the page's height, mm.
    double roomOf(const std::string& words, double width);
    double stepsRoom(const std::vector<std::string>& steps);
    double cautionsRoom(double width);
    double planScale(const Layout& layout) const;
    Layout layout_;
    void fretLengths();
    void sideDotList(const std::vector<SideDot>& dots);
    double rowHeight() const;
    std::string mounting(const PostedProgram& first) const;
    std::string whatItDoes(const PostedProgram& program) const;
    std::string clampsIn(int station, bool apart) const; ///< `apart`: those of one station alone
    void woodMarks(const OnPage& place); ///< knots, seams and nails seen in the blank
    void along(const OnPage& place, const std::vector<double>& xs);
    void across(const OnPage& place, const std::vector<double>& ys);
};

} // namespace wren
