#pragma once

#include "base/feature_id.h"

#include <string>

namespace wren {

/// What a cut does. What goes by a cut goes by this, never by its words.
enum class CutKind {
    facing,
    // of a fretboard, or a neck's own face
    radius,
    shelf,
    markers,
    skim,
    slots,
    // of a neck
    head,
    hollow,
    rod,
    adjuster,
    carbon,
    nut,
    ledge,
    finish,
    rest,
    // of a flat piece
    pocket,
    corners,
    engraving,
    carving,
    guide,
    fit,
    // of several
    rough,
    holes,
    notch,
    outline,
};

/// In a word, for files, sheets and the route; a pocket and holes have words of their own.
const char* wordOf(CutKind kind);

/// A cut's kind, what it is of, and what it is called.
struct CutName {
    CutKind kind = CutKind::outline;
    FeatureKind of = FeatureKind::none; ///< of a pocket or holes
    std::string what;                   ///< "radius", "slots", "pickups" ...

    CutName() = default;
    CutName(CutKind cut) : kind(cut), what(wordOf(cut)) {}
    CutName(CutKind cut, FeatureKind makes, std::string word)
        : kind(cut), of(makes), what(std::move(word)) {}

    friend bool operator==(const CutName&, const CutName&) = default;
};

} // namespace wren
