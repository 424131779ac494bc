#include "body_support.h"

#include "job/part_sheet.h"
#include "job/shop_boards.h"

#include <numbers>

#include <fmt/format.h>

using namespace wren;
using namespace wren::test;
using Catch::Matchers::Contains;

namespace {

Project withTemplates(const Changes& changes = {}) {
    Project p = bodyWith(changes);
    for (const char* key :
         {"templates.outline", "templates.neck_pocket", "templates.pickups", "templates.cavity"}) {
        p = withKey(p, key, "yes");
    }
    return p;
}

const Panel& boardOf(const Derived& d, PartId id) {
    const PartJob* job = d.job(id);
    REQUIRE(job);
    return *job->panel;
}

std::string codesOf(const Derived& d, PartId id) {
    std::string out;
    for (const Finding& f : d.findings) {
        out += f.part == id ? f.code + " " : "";
    }
    return out;
}

} // namespace

TEST_CASE("A template's edge stands off what the bit leaves by half of what the bush is wider",
          "[templates]") {
    const double bush = 17;
    const double bit = 6.35;
    const Derived bare = drawnBody(withTemplates());
    const Derived wide =
        drawnBody(withTemplates({{"templates.bush", "17"}, {"templates.bit", "6.35"}}));
    const double d = (bush - bit) / 2;
    // A convex shape grown by d has L d + pi d^2 more area, and one drawn in by d so much less
    // within its own roundings: Steiner's formula (J. Steiner, 1840).
    const PartId pickup(Role::pickupTemplate, 2);
    const Contour& drawn = bare.body->part.panel(Role::body)->pockets[0].borders[0];
    REQUIRE_FALSE(drawn.empty());
    const Contour& exact = boardOf(bare, pickup).pockets[0].borders[0];
    const Contour& grownBy = boardOf(wide, pickup).pockets[0].borders[0];
    CHECK(areaOf(grownBy) ==
          Approx(areaOf(exact) + lengthOf(exact) * d + std::numbers::pi * d * d).epsilon(1e-5));
    // With a bearing the board is the shape itself, for what is routed inside and outside alike.
    const PanelPocket& pocket = pocketNamed(*bare.body->part.panel(Role::body), "neck pocket");
    CHECK(areaOf(boardOf(bare, Role::pocketTemplate).pockets[0].borders[0]) ==
          Approx(areaOf(pocket.borders[0])));
    CHECK(areaOf(boardOf(bare, Role::outlineTemplate).outline) ==
          Approx(areaOf(bare.body->part.outline())));
    for (Vec2 p : placesAlong(boardOf(wide, Role::outlineTemplate).outline, 5)) {
        CHECK(distanceTo(bare.body->part.outline(), p) >= d - 1e-4);
    }
}

TEST_CASE("Templates cannot be laid on wrongly", "[templates]") {
    for (const char* hand : {"right", "left"}) {
        const Derived d = drawnBody(withTemplates({{"board.hand", hand}}));
        const double bass = d.body->part.place().side;
        for (const PartJob* job : d.pieces()) {
            if (!job->id.ofShop()) {
                continue;
            }
            const Panel& b = *job->panel;
            INFO(hand << " " << b.name());
            REQUIRE(b.holes.size() == 2);
            // Turned over about the line between bass and treble nothing fits onto the pins.
            CHECK(std::abs(b.holes[0].at.y - b.holes[1].at.y) > 2);
            double words = 0;
            int lines = 0;
            for (const PanelLine& line : b.engraved) {
                if (line.what == "\"BASS SIDE\"") {
                    words += line.way.front().from.y;
                    ++lines;
                }
            }
            REQUIRE(lines > 0);
            const auto box = b.box();
            const bool turned = b.id == Role::cavityTemplate || b.id == Role::ledgeTemplate;
            CHECK((words / lines - (box[0].y + box[1].y) / 2) * bass * (turned ? -1 : 1) > 0);
        }
        // Hole and ledge go onto the same pins.
        const Panel& hole = boardOf(d, Role::cavityTemplate);
        const Panel& ledge = boardOf(d, Role::ledgeTemplate);
        for (std::size_t i = 0; i < 2; ++i) {
            CHECK(hole.holes[i].at == ledge.holes[i].at);
        }
    }
}

TEST_CASE("Locating pins of templates stand in firm wood", "[templates]") {
    const Derived d = drawnBody(withTemplates());
    const Panel& body = *d.body->part.panel(Role::body);
    const auto outline = pointsOf(body.outline, 0.05);
    for (PartId id : {PartId(Role::pocketTemplate), PartId(Role::pickupTemplate, 1),
                      PartId(Role::cavityTemplate)}) {
        const bool back = id == Role::cavityTemplate;
        for (const Hole& h : boardOf(d, id).holes) {
            const Vec2 at{h.at.x, back ? -h.at.y : h.at.y};
            INFO(id.name() << " " << at.x << " " << at.y);
            CHECK(inside(outline, at));
            CHECK(distanceTo(body.outline, at) > 5);
            for (const PanelPocket& p : body.pockets) {
                CHECK((p.fromBack != back || !insideOf(polygonsOf(p.borders), at)));
            }
        }
    }
}

TEST_CASE("Templates are programmed, proved, drawn and listed like any part", "[templates]") {
    if (WREN_SANITIZED) {
        return; // whole proofs; one fixture's goes the same ways
    }
    const Derived d = derive(withTemplates());
    int boards = 0;
    for (const PartJob* job : d.pieces()) {
        if (job->id.ofShop()) {
            ++boards;
            INFO(job->name());
            REQUIRE(job->proof);
            CHECK(stopsOf(*job->proof).empty());
            CHECK(sheetPdf(d, *job, 0).rfind("%PDF", 0) == 0);
        }
    }
    CHECK(boards == 7);
}

TEST_CASE("A template that would not do says so", "[templates]") {
    const auto codes = [](const Changes& changes, PartId id) {
        return codesOf(drawnBody(withTemplates(changes)), id);
    };
    const PartId pocket = Role::pocketTemplate;
    CHECK(codes({}, pocket).empty());
    CHECK_THAT(codes({{"templates.bush", "6"}}, pocket), Contains("template-bush"));
    CHECK_THAT(codes({{"templates.bit", "12.7"}}, pocket), Contains("template-corner"));
    CHECK_THAT(codes({{"templates.land", "30"}}, pocket), Contains("template-base"));
    CHECK_THAT(codes({{"templates.base", "50"}}, pocket), Contains("template-base"));
    CHECK_THAT(codes({}, Role::lidTemplate), Contains("template-base"));
    bool drawn = true;
    for (const Finding& f :
         deriveDrawing(
             withTemplates({{"templates.bush", "60"},
                            {"templates.bit", "2"},
                            {"cavity.outline", "-8 70 r4, 30 70 r4, 30 100 r4, -8 100 r4"}}))
             .findings) {
        drawn = drawn && f.code != "template-cannot-be-drawn";
    }
    CHECK_FALSE(drawn); // a bush as wide as the lid
    Panel bare = boardOf(drawnBody(withTemplates()), pocket);
    bare.holes.clear();
    const Findings found = judgeTemplates({}, {bare});
    REQUIRE(found.size() == 1);
    CHECK(found.front().code == "template-pins");
}
