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
    double listsAt() const; ///< Y where steps, programs and cautions begin
    void leaveRoomFor(const std::vector<std::string>& steps);
    /// Where a plan of the blank goes on the page, so wide at most.
    OnPage blankPlace(double width = right - left - 28) const;
    /// The blank with its middle lines.
    void blank(const OnPage& place);
    /// Heights and widths off the datum, each on a line of its own so that none is added up.
    void figures(const OnPage& place, const std::vector<double>& xs, const std::vector<double>& ys);
    void datum(const OnPage& place);
    void head(double x, double y, const std::string& words);
    void box(double x, double y);
    /// Steps in the left column, each with a box.
    void tick(double y, const std::vector<std::string>& steps);
    void programs(double y, const std::string& last);
    void cautions(double y);
    /// A page of its own for work at the bench: wire by fret and side dots; none without them.
    void benchPage();

    const Derived& d_;
    const Setup& setup_;
    LengthUnit unit_;
    std::vector<const PostedProgram*> own_; ///< the programs of this setup
    Pdf pdf_;

private:
    double stepsRoom_ = 64; ///< what the left column takes
    void fretLengths();
    void sideDotList(const std::vector<SideDot>& dots);
    double rowHeight(double y) const;
    std::string mounting(const Bit& bit) const;
    void along(const OnPage& place, const std::vector<double>& xs);
    void across(const OnPage& place, const std::vector<double>& ys);
};

} // namespace wren
