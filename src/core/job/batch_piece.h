#pragma once

#include <array>
#include <optional>
#include <string>

namespace wren {

/// Sizes of an instrument's own blanks, as measured, that stand in place of the design's.
struct BlankSize {
    const char* key;     ///< under its piece: "board_thickness"
    const char* project; ///< the key it stands in for
    const char* meaning;
    double least, most; ///< mm
};

inline constexpr std::array<BlankSize, 11> blankSizes{
    {{"board_length", "blank.length", "its fretboard's blank: length", 50, 3000},
     {"board_width", "blank.width", "its fretboard's blank: width", 10, 1000},
     {"board_thickness", "blank.thickness", "its fretboard's blank: thickness", 1, 60},
     {"neck_length", "neck_blank.length", "its neck's blank: length", 100, 3000},
     {"neck_width", "neck_blank.width", "its neck's blank: width", 20, 600},
     {"neck_thickness", "neck_blank.thickness", "its neck's blank: thickness", 8, 120},
     {"body_length", "body_blank.length", "its body's pieces: length", 200, 1200},
     {"body_width", "body_blank.width", "its body's pieces: width", 150, 800},
     {"body_thickness", "body_blank.thickness", "its body's or core's piece: thickness", 10, 100},
     {"top_thickness", "body_blank.top_thickness", "its top's piece: thickness", 1, 50},
     {"back_thickness", "body_blank.back_thickness", "its back's piece: thickness", 1, 50}}};

/// One of several instruments made of one design: the same but for the wood it is cut from.
struct BatchPiece {
    std::string name = "one more"; ///< on its programs, sheets and in the book
    std::array<std::optional<double>, blankSizes.size()> sizes{}; ///< mm; none: as the design says
    std::string unknown{}; ///< what a file held of it that this version does not know

    friend bool operator==(const BatchPiece&, const BatchPiece&) = default;
};

} // namespace wren
