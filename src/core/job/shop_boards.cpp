#include "job/shop_boards.h"

#include "base/error.h"
#include "hold/cradle.h"
#include "hold/fixture_board.h"

#include <algorithm>

#include <fmt/format.h>

namespace wren {
namespace {

std::vector<Panel> fixtures(const Derived& d, Findings& found) {
    std::vector<Panel> out;
    const auto make = [&](PartId id, const TurnHold& hold, std::initializer_list<PartId> standing) {
        if (!hold.makeFixture) {
            return;
        }
        for (PartId part : standing) { // all of a body's layers stand on the same pins
            const PartJob* job = d.job(part);
            if (job && job->placed && !job->held.pins.empty()) {
                out.push_back(fixtureBoard(id, job->held, hold.fixture));
                return;
            }
        }
        sayOf(id, found, Weight::stop, "no-pins",
              "There are no pins to drill for: a part that its blank can hold, turned over by "
              "pins, was expected.",
              0, 1);
    };
    make(Role::neckFixture, d.project.neckHold, {Role::neck});
    if (d.body && d.body->part.winged()) { // each has its own size, and so its own pins
        for (int wing : {1, 2}) {
            make({Role::bodyFixture, wing}, d.project.bodyHold, {PartId(Role::wing, wing)});
        }
    } else {
        make(Role::bodyFixture, d.project.bodyHold, {Role::body, Role::core});
    }
    return out;
}

std::vector<Panel> cradles(const Derived& d, Findings& found) {
    if (!d.project.neckHold.makeCradle || !d.neck) {
        return {};
    }
    const Findings judged = judgeCradle(d.neck->part);
    found.insert(found.end(), judged.begin(), judged.end());
    if (hasStop(judged)) {
        return {};
    }
    Panel cradle = neckCradle(d.neck->part);
    sayOf(
        Role::neckCradle, found, Weight::note, "cradle-lies",
        fmt::format("In its cradle the neck's glue plane stands {:.1f} mm over the cradle's face; "
                    "its head hangs free, and {:.1f} mm of packing go under its heel.",
                    -cradle.top, packingUnderHeel(d.neck->part, cradle)),
        -cradle.top, 0);
    std::vector<Panel> out;
    out.push_back(std::move(cradle));
    return out;
}

std::vector<Panel> templates(const Derived& d, Findings& found) {
    if (!d.body) {
        return {};
    }
    std::vector<Panel> out;
    try {
        out = templateBoards(d.body->part, d.project.templates);
    } catch (const Error& e) {
        sayOf(Role::outlineTemplate, found, Weight::stop, "template-cannot-be-drawn", e.what(), 0,
              0)
            .overridable = false;
    }
    const Findings judged = judgeTemplates(d.project.templates, out);
    found.insert(found.end(), judged.begin(), judged.end());
    return out;
}

/// What makes the boards for the shop; another kind is another row.
constexpr std::array makers{fixtures, cradles, templates};

} // namespace

std::vector<Panel> shopBoards(const Derived& d, Findings& found) {
    std::vector<Panel> out;
    for (const auto make : makers) {
        std::vector<Panel> some = make(d, found);
        std::move(some.begin(), some.end(), std::back_inserter(out));
    }
    return out;
}

Project wanting(const Project& project, PartId part) {
    Project p = project;
    switch (part.role) {
    case Role::neckFixture:
        p.neckHold.makeFixture = true;
        break;
    case Role::bodyFixture:
        p.bodyHold.makeFixture = true;
        break;
    case Role::neckCradle:
        p.neckHold.makeCradle = true;
        break;
    case Role::outlineTemplate:
        p.templates.outline = true;
        break;
    case Role::pocketTemplate:
        p.templates.neckPocket = true;
        break;
    case Role::pickupTemplate:
        p.templates.pickups = true;
        break;
    case Role::cavityTemplate:
    case Role::ledgeTemplate:
    case Role::lidTemplate:
        p.templates.cavity = true;
        break;
    default:
        break;
    }
    return p;
}

std::vector<PartId> makeable(const Derived& drawn) {
    Project all = drawn.project;
    for (int role = 0; role <= static_cast<int>(Role::lidTemplate); ++role) {
        all = wanting(all, static_cast<Role>(role));
    }
    std::vector<PartId> out = drawn.wanted();
    for (PartId part : deriveDrawing(all, &drawn).wanted()) {
        if (std::find(out.begin(), out.end(), part) == out.end()) {
            out.push_back(part);
        }
    }
    return out;
}

} // namespace wren
