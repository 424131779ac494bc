#pragma once

namespace wren {

/// What is reckoned with for every joint; usual figures, common practice, no source.
struct GlueChoices {
    double rate = 180;     ///< g of glue for a m2, one side coated
    double epoxyRatio = 2; ///< parts of resin to one of hardener, by weight
    double epoxyLayer = 6; ///< mm poured at once, at most

    friend bool operator==(const GlueChoices&, const GlueChoices&) = default;
};

} // namespace wren
