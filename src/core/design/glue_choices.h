#pragma once

namespace wren {

/// What is reckoned with for every joint; usual figures, common practice, no source.
struct GlueChoices {
    double rate = 180;     ///< g of glue for a m2, one side coated
    double epoxyRatio = 2; ///< parts of resin to one of hardener, by weight
    double epoxyLayer = 6; ///< mm poured at once, at most
    double open = 8;       ///< minutes from the first glue to the clamps, at most
    double clamped = 60;   ///< minutes
    double rest = 24;      ///< hours until it is cut, of epoxy too

    friend bool operator==(const GlueChoices&, const GlueChoices&) = default;
};

} // namespace wren
