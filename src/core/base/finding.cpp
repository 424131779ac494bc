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

Finding& sayOf(PartId part, Findings& findings, Weight weight, std::string code,
               std::string message, double value, double limit) {
    Finding f;
    f.weight = weight;
    f.code = std::move(code);
    f.part = part;
    f.message = std::move(message);
    f.value = value;
    f.limit = limit;
    findings.push_back(std::move(f));
    return findings.back();
}

Finding& sayOfBoard(Findings& findings, Weight weight, std::string code, std::string message,
                    double value, double limit) {
    return sayOf(Role::board, findings, weight, std::move(code), std::move(message), value, limit);
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
