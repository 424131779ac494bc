#pragma once

#include <cstddef>

namespace wren {

/// What a thing in a body or a neck is: what may meet what, what is laid into what, and what is
/// cut together goes by this.
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
    // of a fretboard
    marker,
    sideDot,
    tab,
    // of a neck
    station,
    tuner,
    tunerScrew,
    tree,    ///< holds strings down behind the nut
    gluePin, ///< keeps a fretboard in place while it is glued
    caul,
    // of any blank
    registerPin,
    clamp, ///< holds any blank down
};

/// One of the things: its number in the list it stands in, from 0; 0 where there is one.
struct FeatureId {
    FeatureKind kind = FeatureKind::none;
    std::size_t index = 0;

    explicit operator bool() const { return kind != FeatureKind::none; }
    friend bool operator==(const FeatureId&, const FeatureId&) = default;
};

} // namespace wren
