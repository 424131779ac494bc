#include "job/cut_already.h"

#include <algorithm>

namespace wren {
namespace {

/// "bolts-strings + bridge screws" as "-bolts-strings-bridge-screws-": however a program's cuts are
/// put together.
std::string joined(const std::string& cuts) {
    std::string out = "-";
    for (char c : cuts + "-") {
        const bool between = c == ' ' || c == '+' || c == '-';
        if (!between || out.back() != '-') {
            out += between ? '-' : c;
        }
    }
    return out;
}

bool has(const std::string& cuts, const std::string& word) {
    return joined(cuts).find(joined(word)) != std::string::npos;
}

} // namespace

CutAlready::CutAlready(const std::vector<RunRecord>& runs, const std::string& project,
                       bool withStandIns) {
    for (auto r = runs.rbegin(); r != runs.rend(); ++r) {
        if (r->project == project && r->outcome == "done" && (withStandIns || !r->standIn)) {
            done_.push_back(*r);
        }
    }
}

const RunRecord* CutAlready::any(const std::vector<std::string>& words) const {
    for (const RunRecord& r : done_) {
        if (std::any_of(words.begin(), words.end(),
                        [&](const std::string& word) { return has(r.cuts, word); })) {
            return &r;
        }
    }
    return nullptr;
}

const RunRecord* CutAlready::of(PartId part) const {
    for (const RunRecord& r : done_) {
        if (r.part == part.name()) {
            return &r;
        }
    }
    return nullptr;
}

} // namespace wren
