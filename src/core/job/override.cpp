#include "job/override.h"

#include "base/error.h"

#include <algorithm>
#include <optional>

#include <fmt/format.h>
#include <fmt/ranges.h>

namespace wren {
namespace {

std::string trimmed(const std::string& text) {
    const std::size_t first = text.find_first_not_of(" \t\r\n");
    return first == std::string::npos
               ? std::string()
               : text.substr(first, text.find_last_not_of(" \t\r\n") - first + 1);
}

bool isCode(const std::string& word) {
    return !word.empty() && std::all_of(word.begin(), word.end(),
                                        [](char c) { return (c >= 'a' && c <= 'z') || c == '-'; });
}

} // namespace

const Override* overrideOf(const Overrides& overrides, const Finding& finding) {
    const auto it = std::find_if(overrides.begin(), overrides.end(), [&](const Override& o) {
        return o.part == finding.part && o.code == finding.code;
    });
    return it == overrides.end() ? nullptr : &*it;
}

Override overrideFrom(const std::string& text, const Findings& findings,
                      const std::vector<PartId>& parts) {
    Override wanted;
    std::optional<std::string> named; // the part, where one is said
    wanted.reason = trimmed(text);
    const std::size_t equals = text.find('=');
    const std::string head = equals == std::string::npos ? "" : trimmed(text.substr(0, equals));
    const std::size_t colon = head.find(':');
    const std::string code = colon == std::string::npos ? head : head.substr(colon + 1);
    const bool known = std::any_of(findings.begin(), findings.end(),
                                   [&](const Finding& f) { return f.code == code; });
    if (isCode(code) && known) { // else the words hold an = of their own
        wanted.code = code;
        if (colon != std::string::npos) {
            named = trimmed(head.substr(0, colon));
        }
        wanted.reason = trimmed(text.substr(equals + 1));
    }
    if (wanted.reason.empty()) {
        throw Error("The reason for going on in spite of a stop is empty; a few words were "
                    "expected.");
    }
    Overrides fitting;
    for (const Finding& f : findings) {
        const bool asked = std::find(parts.begin(), parts.end(), f.part) != parts.end() &&
                           (!named || PartId::named(*named) == f.part) &&
                           (wanted.code.empty() || wanted.code == f.code);
        if (f.weight == Weight::stop && f.overridable && asked && !overrideOf(fitting, f)) {
            fitting.push_back({f.part, f.code, wanted.reason});
        }
    }
    if (fitting.size() == 1) {
        return fitting.front();
    }
    std::vector<std::string> names;
    for (const Override& o : fitting) {
        names.push_back(o.part.name() + ":" + o.code);
    }
    throw Error(fitting.empty()
                    ? fmt::format("\"{}\" fits no stop that a reason lifts.", text)
                    : fmt::format("A reason lifts one finding in one part, and {} stand in the way "
                                  "({}); PART:CODE=REASON was expected for each.",
                                  fitting.size(), fmt::join(names, ", ")));
}

} // namespace wren
