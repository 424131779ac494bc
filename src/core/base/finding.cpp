#include "base/finding.h"

#include <algorithm>

namespace wren {

const char* weightName(Weight weight) {
    switch (weight) {
    case Weight::stop:
        return "stop";
    case Weight::caution:
        return "caution";
    case Weight::note:
        return "note";
    }
    return "note";
}

bool hasStop(const Findings& findings) {
    return std::any_of(findings.begin(), findings.end(),
                       [](const Finding& f) { return f.weight == Weight::stop; });
}

bool hasFirmStop(const Findings& findings) {
    return std::any_of(findings.begin(), findings.end(),
                       [](const Finding& f) { return f.weight == Weight::stop && !f.overridable; });
}

} // namespace wren
