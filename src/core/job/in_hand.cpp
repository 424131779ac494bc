#include "job/in_hand.h"

#include <algorithm>

#include <fmt/format.h>

namespace wren {
namespace {

std::string stateOf(const std::string& what, const std::string& project,
                    const std::vector<Record>& hardware) {
    const Record* found = nullptr;
    for (const Record& r : hardware) { // newest first
        const std::string of = r.field("project");
        if (r.field("name") != what || !(of.empty() || of == project)) {
            continue;
        }
        if (!found || (found->field("project").empty() && !of.empty())) {
            found = &r;
        }
    }
    return found ? found->field("state") : "not on the list";
}

} // namespace

std::vector<NotInHand> notInHand(const Derived& d, const std::vector<Record>& hardware) {
    std::vector<NotInHand> out;
    for (const Wanted& w : hardwareList(d)) {
        const std::string state = w.before.empty() ? "measured"
                                                   : stateOf(w.what, d.project.name, hardware);
        if (state != "measured") {
            out.push_back({w, state,
                           fmt::format("{} ({}) is {}: {} depends on it, so measure it in hand "
                                       "first.",
                                       w.what, w.size,
                                       state == "here" ? "here and not measured" : state,
                                       w.before)});
        }
    }
    return out;
}

std::vector<NotInHand> notInHandFor(const std::vector<NotInHand>& all, PartId part) {
    const Role role = part.ofBody() ? Role::body : part.role;
    std::vector<NotInHand> out;
    std::copy_if(all.begin(), all.end(), std::back_inserter(out),
                 [&](const NotInHand& n) { return n.wanted.part == role; });
    return out;
}

} // namespace wren
