#pragma once

#include <cstddef>

namespace wren {

/// What a thing in a body is: what may meet what, and what is laid into what, goes by this.
enum class FeatureKind {
    none,
    outline,
    neckPocket,
    bolt,
    bridge,
    string,
    ferrule,
    cavity,
    ledge,
    magnet,
    lidScrew,
    relief,
    pickup,
    pot,
    toggle,
    lever,
    leverScrew,
    seat,
    jack,
    strap,
    chamber,
    channel,
    recess,
    cutOut,
    inlay,
    hole,
    wire,
    contour,
    engraving,
    plate,
    plateScrew,
};

/// One of the things: its number in the list it stands in, from 0; 0 where there is one.
struct FeatureId {
    FeatureKind kind = FeatureKind::none;
    std::size_t index = 0;

    explicit operator bool() const { return kind != FeatureKind::none; }
    friend bool operator==(const FeatureId&, const FeatureId&) = default;
};

} // namespace wren
