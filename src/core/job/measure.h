#pragma once

#include "book/records.h"
#include "job/cut_already.h"
#include "job/derive.h"

#include <string>
#include <vector>

namespace wren {

/// A size of a finished part, or of a blank, that later cuts follow once it is measured.
struct MeasuredSize {
    const char* name;    ///< "neck.heel_width"
    const char* label;   ///< "heel, width at its end"
    const char* key;     ///< of the project, that is given the value, the drawn one stays; null:
                         ///< it is kept and compared, nothing takes it by itself
    const char* follows; ///< what follows from it, in words
};
const std::vector<MeasuredSize>& measuredSizes();
/// Throws Error, naming them all, where there is no such size.
const MeasuredSize& measuredSize(const std::string& name);

/// What a reading changes: the project with it, and what was drawn for that size.
struct Measured {
    Project project;
    double value = 0;            ///< mm
    std::optional<double> drawn; ///< mm; none where nothing can be drawn
    std::vector<std::string> kept; ///< what is cut already and keeps its size, a sentence each
};

/// What is known of a size: drawn, read last, and what cuts follow now; mm.
struct KnownSize {
    const MeasuredSize* size = nullptr;
    std::optional<double> drawn, read;
    std::string when, moisture; ///< of the reading
    std::optional<double> used; ///< none: nothing follows it
};
/// Of all sizes of a part ("neck" of "neck.heel_width"), from an instrument's readings, newest
/// first. The part by the role it is measured as; none of a part nothing is asked of.
std::vector<KnownSize> knownSizes(const Derived& drawn, PartId part,
                                  const std::vector<Record>& readings);

/// A reading as the maker gives it.
struct Reading {
    std::string size;     ///< a MeasuredSize's name
    std::string value;    ///< off the caliper, with its unit
    std::string moisture; ///< of the wood, per cent; empty where it was not read
};

/// `project` may hold other readings taken since `drawn` was. What is cut already keeps the size it
/// was cut for. Throws Error: a size that none is, a unit left out, a moisture that is no number, a
/// reading that cannot be (more than a seventh, and more than 2 mm, off what was drawn; 3 mm of a
/// neck's length), or one of a blank that is cut.
Measured measured(const Derived& drawn, const Project& project, const Reading& reading,
                  const CutAlready& cut = {});

/// As it is written down: of `project`, with the drawn size beside it; a slot with the bit and the
/// wood it was cut by. Throws Error.
Record measurementRecord(const Derived& drawn, const Reading& reading, const Measured& m);

} // namespace wren
