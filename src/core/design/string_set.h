#pragma once

#include "design/fretboard.h"

#include <optional>
#include <string>
#include <vector>

namespace wren {

/// Frequency in Hz of a note as "E2", "F#3" or "Bb1": equal temperament, A4 at 440 Hz (ISO 16).
/// Throws Error for anything else.
double noteFrequency(const std::string& note);

/// A set to start from for that many strings, bass to treble: even steps of thickness, those of the
/// lower half wound, tuned in fourths with the usual third between the second and the third of a
/// guitar. Common practice, no source.
std::vector<StringGauge> usualSet(int strings, double scale);

/// What a string weighs, g/m: as entered, else that of plain steel wire of its thickness; nothing
/// of a wound one.
std::optional<double> unitWeight(const StringGauge& string);

/// N. The law of the stretched string (Mersenne 1636, Taylor 1713), T = mu (2 L f)^2: `unitWeight`
/// in g/m, the sounding length in mm, the frequency in Hz.
double stringTension(double unitWeight, double length, double frequency);

/// N at that scale; nothing where its note or its weight is not known.
std::optional<double> tensionOf(const StringGauge& string, double scale);

/// How far behind its scale a saddle must stand, mm, for the octave over fret 12 to be true where
/// the string lies `action` mm over it. Pressing stretches it by 2 action^2 / scale, which raises
/// its tension by E A of its core for each share of its length (Hooke) and its note by half that
/// share (Mersenne): E A action^2 / (T scale). Stiffness is left out, as if the ends were hinged.
/// Nothing where its tension, or a wound string's core, is not known.
std::optional<double> stretchCompensation(const StringGauge& string, double scale, double action);

} // namespace wren
