#pragma once

#include <string>
#include <vector>

namespace wren {

/// A board standing in the shop, its grain along its length, mm.
struct RoughBoard {
    std::string wood = "white-ash";
    double length = 1200;
    double width = 180;
    double thickness = 50;
    std::string unknown{}; ///< what a file held of it that this version does not know

    friend bool operator==(const RoughBoard&, const RoughBoard&) = default;
};

/// How pieces are sawn out of boards, mm.
struct Sawing {
    double kerf = 3;    ///< of the saw
    double longer = 20; ///< than the blank, for snipe and split ends
    double wider = 6;   ///< than the blank
    double planing = 3; ///< off the thickness, both faces together
    std::vector<RoughBoard> boards;

    friend bool operator==(const Sawing&, const Sawing&) = default;
};

/// A hand router's carriage that rides on rails at both sides of a blank, mm.
struct SledSizes {
    double bitToEnd = 70; ///< from the bit's edge to the carriage's end
    double bearing = 30;  ///< width of what the end lies on

    /// So long it must be for the bit to pass both edges while both ends lie on their rails; common
    /// practice, no source.
    double lengthOver(double widest) const { return widest + 2 * (bitToEnd + bearing); }

    friend bool operator==(const SledSizes&, const SledSizes&) = default;
};

} // namespace wren
