// What can be taken in hand at a station, and what can be added there.

#include "frame/sheet.h"

#include <algorithm>

namespace wren::app {

std::vector<Feature> Sheet::things() const {
    std::vector<Feature> all = featuresOf(document_.project());
    std::erase_if(all, [&](const Feature& f) {
        const bool tab = f.id.kind == FeatureKind::tab;
        switch (station_) {
        case Station::board:
            return f.part != Role::board || tab;
        case Station::neck:
            return f.part != Role::neck;
        case Station::body:
            return !f.part.ofBody();
        case Station::cuts:
            return part_ != Part::board || !tab;
        default:
            return true;
        }
    });
    return all;
}

std::vector<NewThing> Sheet::addable() const {
    const Project& p = document_.project();
    std::vector<NewThing> all;
    if (station_ == Station::board || (station_ == Station::cuts && part_ == Part::board)) {
        all = newThings(Role::board);
        const bool tabs = station_ == Station::cuts;
        std::erase_if(all, [&](const NewThing& t) {
            return (t.list == "cut.tabs") != tabs || (tabs && p.carved());
        });
    } else if (station_ == Station::neck && p.neck.joint != NeckJoint::none) {
        all = newThings(Role::neck);
    } else if (station_ == Station::body && p.wantsBody()) {
        all = newThings(Role::body);
    }
    return all;
}

} // namespace wren::app
