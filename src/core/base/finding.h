#pragma once

#include "base/feature_id.h"
#include "base/part_id.h"

#include <optional>
#include <string>
#include <vector>

namespace wren {

/// How much a finding weighs. A stop keeps the part's programs from being posted; a caution posts
/// but must be seen; a note only informs.
enum class Weight { stop, caution, note };

const char* weightName(Weight weight);

/// Something the maker has to know, always with the number that broke the rule and the number it
/// should be.
struct Finding {
    Weight weight = Weight::note;
    std::string code; ///< stable, kebab-case, e.g. "gouge"
    PartId part;
    std::string message; ///< one sentence for the maker
    double value = 0;    ///< what was found; unit as the message says, mm unless said otherwise
    double limit = 0;    ///< what was allowed
    std::string program; ///< file name of the posted program, empty where none is to blame
    int line = 0;        ///< line in that program, from 1; 0 where none is to blame
    std::optional<double> atX; ///< instrument-frame X of the place, mm
    bool overridable = true;   ///< false for moves outside travel or into the bed
    FeatureId feature{};       ///< the thing it is about, of a body
};

using Findings = std::vector<Finding>;

/// Adds a finding about a part and hands it out for what it has besides.
Finding& sayOf(PartId part, Findings& findings, Weight weight, std::string code,
               std::string message, double value, double limit);
Finding& sayOfBoard(Findings& findings, Weight weight, std::string code, std::string message,
                    double value, double limit);

bool hasStop(const Findings& findings);

/// True when a stop is among them that no reason given by the maker can lift.
bool hasFirmStop(const Findings& findings);

} // namespace wren
