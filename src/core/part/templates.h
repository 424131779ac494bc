#pragma once

#include "part/body_part.h"

namespace wren {

/// What a hand router is to be guided by; lengths in mm.
struct Templates {
    bool outline = false;
    bool neckPocket = false;
    bool pickups = false;
    bool cavity = false; ///< its hole, its ledge, its lid
    std::string wood = "mdf";
    double thickness = 12;
    double bush = 0;     ///< outside of a guide bush; 0: the bit's own bearing follows the board
    double bit = 6.35;   ///< diameter of the router's bit
    double land = 80;    ///< of board round an opening
    double base = 150;   ///< diameter of the router's base
    double pinSize = 2;  ///< of the two locating pins
    double letters = 10; ///< height of what is engraved in it

    /// How far the board's edge stands from what the bit leaves.
    double offset() const { return bush > 0 ? (bush - bit) / 2 : 0; }

    friend bool operator==(const Templates&, const Templates&) = default;
};

/// The boards wanted, each with two holes for locating pins and engraved with which face is up and
/// which side is the bass. Those for the back lie as they are used, turned over. In the body's
/// frame, mirrored in Y for the back; undersides on Z = 0. Throws Error where one cannot be drawn.
std::vector<Panel> templateBoards(const BodyPart& part, const Templates& wanted);

/// A bush that is no wider than the bit, corners the bit rounds, a base that is not carried.
Findings judgeTemplates(const Templates& wanted, const std::vector<Panel>& boards);

} // namespace wren
