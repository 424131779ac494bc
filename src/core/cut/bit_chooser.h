#pragma once

#include "base/finding.h"
#include "cut/feeds.h"
#include "shop/bit.h"

#include <functional>
#include <limits>
#include <string>

namespace wren {

/// Whether a bit could do a cut, or why it could not.
struct Verdict {
    bool can = false;
    std::string why; ///< of a no: "its 12.0 mm are wider than the slot's 6.35 mm"
    /// Of a no, by how much, mm: of all that cannot, the one that misses least is named.
    double misses = std::numeric_limits<double>::infinity();
};
using BitJudge = std::function<Verdict(const Bit&)>;

/// Radius of the nut that holds the collet, mm; common practice, no source.
inline constexpr double colletNut = 13;

/// Only as deep as its flutes where wood stands close beside (`narrow`), and long enough to get
/// there.
Verdict reaches(const Bit& bit, double depth, bool narrow);

/// What would make a hole of that diameter and depth, in words.
std::string holeWant(double diameter, double deep);

/// Takes bits from a drawer one cut after the other: the maker's own, else the one in the spindle
/// when it can do the work, else the best. A cut no bit can do becomes a stop finding.
class BitChooser {
public:
    BitChooser(const Drawer& drawer, Findings& findings, PartId part)
        : drawer_(drawer), findings_(findings), part_(part) {}

    using Better = std::function<bool(const Bit&, const Bit&)>;
    /// `what` is cut, `want` says what would serve; `why` becomes the reason for the choice.
    const Bit* choose(const char* what, const CutOverrides& own, const BitJudge& judge,
                      const Better& better, const std::string& want, std::string& why);

    const Drawer& drawer() const { return drawer_; }
    void mount(const Bit* bit) { current_ = bit; } ///< it is in the spindle now; null: none is

private:
    void none(const char* what, const std::string& why, const std::string& want);

    const Drawer& drawer_;
    Findings& findings_;
    PartId part_;
    const Bit* current_ = nullptr;
};

} // namespace wren
