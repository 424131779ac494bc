// A neck cut from a blank that is glued up with a scarf joint.

#include "neck_support.h"

#include "cut/neck_outline_cut.h"
#include "job/wants.h"

#include <fmt/format.h>

using namespace wren;
using namespace wren::test;
using Catch::Matchers::Contains;

namespace {

Project scarfedWith(std::initializer_list<std::pair<const char*, const char*>> changes = {}) {
    Project p = neckWith({{"head.kind", "tilted"},
                          {"head.angle", "13"},
                          {"head.stock", "scarf"},
                          {"neck_blank.thickness", "auto"}});
    for (const auto& [key, text] : changes) {
        p = withKey(p, key, text);
    }
    return p;
}

const Derived& scarfed() {
    static const Derived d = derive(scarfedWith());
    return d;
}

} // namespace

TEST_CASE("A scarfed blank's outline from the side is plank, ramp's line and head's piece",
          "[neck][scarf]") {
    const HeldNeck n = drawnNeck(scarfedWith());
    const ScarfedBlank blank = *n.held.face.scarfed;
    const Scarf scarf = *n.held.scarf;
    const double thickness = n.part.design().head.thickness;
    // On the shaft the plank under the glue plane.
    CHECK(blank.at(200).over == 0);
    CHECK(blank.at(200).under == Approx(-scarf.plank));
    CHECK(blank.at(scarf.atBack + 0.1).under == Approx(-scarf.plank));
    // At the head its own piece, square to its face as thick as the head, face on the design.
    for (double x : {-20.0, -80.0, -150.0}) {
        const WoodSpan wood = blank.at(x);
        CHECK(wood.over == Approx(n.part.face(x)));
        if (x < scarf.atBack && x < blank.blockFrom) {
            CHECK((wood.over - wood.under) * std::cos(scarf.angle) == Approx(thickness));
        }
    }
    // The underside has no step where the pieces meet, but for a block's end.
    for (double x = -180; x < 100; x += 0.5) {
        const double step = std::abs(blank.at(x + 0.5).under - blank.at(x).under);
        const bool block = blank.block > 0 && std::abs(x - blank.blockFrom) <= 0.5;
        INFO(x);
        CHECK((block || step < 0.5 * blank.fall + 1e-9));
    }
    // It holds the whole neck.
    for (double x = n.part.outline().tip() + 1; x < n.part.outline().end(); x += 1) {
        INFO(x);
        CHECK(-blank.at(x).under >= n.part.back().slice(x).spine() - 1e-6);
    }
    CHECK_FALSE(drawnNeck(neckWith({{"head.kind", "tilted"}})).held.face.scarfed);
}

TEST_CASE("Setups know the wood over every place, turned over or not", "[neck][scarf][setup]") {
    for (const char* turn : {"side-for-side", "end-for-end"}) {
        const HeldNeck n = drawnNeck(scarfedWith({{"neck_hold.turn", turn}}));
        const double plank = n.held.scarf->plank;
        const Setup& face = n.held.face;
        const Setup& back = *n.held.back;
        CHECK(face.woodTop(200) == Approx(face.topZ()));
        CHECK(back.woodTop(200) == Approx(back.bottomZ() + plank));
        CHECK(face.woodTop(-100) == Approx(face.topZ() + n.part.face(-100)));
        CHECK(back.woodTop(-100) ==
              Approx(back.bottomZ() - n.part.face(-100) +
                     n.part.design().head.thickness / std::cos(n.held.scarf->angle)));
        // Looked at with some wood round it, the higher side counts.
        CHECK(face.woodTop(-100, 13) == Approx(face.topZ() + n.part.face(-87)));
        CHECK(back.woodTop(-100, 13) > back.woodTop(-100));
        // The blank as a block holds the hanging end.
        const double end = face.fromInstrument.toInstrument({0, 0, 0}).x;
        CHECK(n.held.blank.thickness >= -n.held.face.woodAt(end).under - 1e-9);
    }
    const HeldNeck plain = drawnNeck(neckWith());
    CHECK(plain.held.face.woodAt(-100).over == Approx(0).margin(1e-9));
    CHECK(plain.held.face.woodAt(-100).under == Approx(-plain.held.blank.thickness));
    CHECK(plain.held.back->woodTop(-100, 13) == Approx(plain.held.back->topZ()));
}

TEST_CASE("A scarfed neck is cut with an ordinary drawer, without cutting air", "[neck][scarf]") {
    const Derived& d = scarfed();
    REQUIRE(d.neck);
    const PartJob& n = *d.job(Role::neck);
    for (const Finding& f : d.findings) {
        INFO(f.message);
        CHECK(f.weight != Weight::stop);
    }
    CHECK_FALSE(n.plan().sides[0].cutOf(CutKind::head)); // its own piece is planed to the face
    for (const PostedProgram& p : d.programs) {
        const bool said = p.program.text.find("glued up with a scarf") != std::string::npos;
        CHECK(said == (p.program.part == Role::neck));
    }
    const Setup& back = *n.held.back;
    const Cut* rough = n.plan().sides[1].cutOf(CutKind::rough);
    REQUIRE(rough);
    // Above the plank's underside it works on the head's piece only.
    const double r = rough->bit.radius();
    int high = 0;
    for (const Move& m : rough->path) {
        const double over = m.to.z - back.bottomZ();
        const bool level = m.cuts() && m.from.z == m.to.z; // ramps come down through the air
        if (level && over > n.held.scarf->plank + 0.01) {
            const double x = back.fromInstrument.toInstrument(m.to).x;
            ++high;
            CHECK(x < n.held.scarf->atBack + r + 2);
        }
    }
    CHECK(high > 10);
    if (!WREN_SANITIZED) {
        REQUIRE(n.proof);
        CHECK(n.proof->passed());
    }
}

TEST_CASE("The outline goes through the head's face, no deeper", "[neck][scarf][long]") {
    for (const Project& p : {scarfedWith(), neckWith()}) {
        Derived d = deriveDrawing(p);
        derivePrograms(d);
        const NeckDrawn& n = *d.neck;
        const PartJob& job = *d.job(Role::neck);
        const Cut* outline = job.plan().sides[1].cutOf(CutKind::outline);
        REQUIRE(outline);
        const double r = outline->bit.radius();
        double least = 1e9;
        double lowestOnShaft = 1e9;
        for (const Move& m : outline->path) {
            const Vec3 at = job.held.back->fromInstrument.toInstrument(m.to);
            if (!m.cuts()) {
                continue;
            }
            if (at.x < n.part.outline().headStart() - n.part.hollowLength() - r - 1) {
                // How far it stands past the face on the bit's side toward the nut.
                const double past = at.z - n.part.face(at.x + r);
                CHECK(past <= p.neckCut.through + 1e-3);
                least = std::min(least, std::abs(past - p.neckCut.through));
            } else if (at.x > 0) {
                lowestOnShaft = std::min(lowestOnShaft, -at.z);
            }
        }
        CHECK(least < 1e-3); // and it does go through there
        CHECK(lowestOnShaft == Approx(-p.neckCut.through).margin(1e-6));
    }
}

TEST_CASE("Scarfed necks of odd shapes are proved", "[neck][scarf][proof]") {
    checkAllProved(
        [] { return scarfedWith(); },
        {{{"board.hand", "left"}, {"neck_hold.turn", "end-for-end"}, {"neck.nut_slot", "3"}},
         {{"head.angle", "10"},
          {"rod.from", "back"},
          {"rod.cover", "3.5"},
          {"rod.depth", "6"},
          {"rod.adjuster_depth", "6"},
          {"neck.stations", "1 22 C, 12 24 C"}},
         {{"head.angle", "15"},
          {"neck_hold.register", "marks"},
          {"head.like", "keel"},
          {"tuners.bass_side", "3"}},
         {{"neck_blank.thickness", "31"}, {"head.angle", "12"}},
         {{"head.volute", "2"}, {"neck.joint", "set"}, {"neck_cut.finish_way", "split"}}});
}

TEST_CASE("A scarf's blank is asked as its plank: thicker moves the joint, thinner is refused",
          "[neck][scarf]") {
    const Scarf own = *deriveDrawing(scarfedWith()).job(Role::neck)->held.scarf;
    CHECK(own.plank > own.least + 0.99);
    const auto plank = [](double mm) {
        return deriveDrawing(
            scarfedWith({{"neck_blank.thickness", fmt::format("{}", mm).c_str()}}));
    };
    const Derived thick = plank(own.plank + 6);
    const Scarf& moved = *thick.job(Role::neck)->held.scarf;
    CHECK(moved.plank == Approx(own.plank + 6));
    CHECK(moved.atFace == Approx(own.atFace)); // the head's piece is planed, the ramp is not
    CHECK(own.atBack - moved.atBack == Approx(6 / std::tan(own.angle)));
    CHECK(moved.neckPiece + moved.run > own.neckPiece + own.run);
    CHECK(thick.job(Role::neck)->held.face.woodAt(moved.atBack + 0.1).under ==
          Approx(-moved.plank));
    CHECK(thick.job(Role::neck)->placed);
    CHECK(woodList(thick)[1].thickness == Approx(moved.plank));
    CHECK(woodList(thick)[1].length == Approx(moved.plankLength));
    const Derived d = plank(own.least - 1);
    const auto found = std::find_if(d.findings.begin(), d.findings.end(),
                                    [](const Finding& f) { return f.code == "blank-too-small"; });
    REQUIRE(found != d.findings.end());
    CHECK(found->limit == Approx(own.least).margin(0.01));
    CHECK_FALSE(d.job(Role::neck)->placed);
    // What lies under its shaft is said for the one that fits.
    const Derived fits = deriveDrawing(scarfedWith());
    const auto note = std::find_if(fits.findings.begin(), fits.findings.end(),
                                   [](const Finding& f) { return f.code == "scarf-packing"; });
    REQUIRE(note != fits.findings.end());
    CHECK(note->value == Approx(fits.job(Role::neck)->held.blank.thickness -
                                fits.job(Role::neck)->held.scarf->plank));
}

TEST_CASE("Only what lies between two heights stays of a column", "[stock]") {
    Stock stock({10, 10, 20}, 0, 1);
    stock.keep(3, 5, 12);
    stock.keep(3, 4, 15); // never puts any back
    CHECK(stock.low(3, 7) == Approx(5));
    CHECK(stock.high(3, 7) == Approx(12));
    CHECK(stock.low(4, 7) == Approx(0));
    CHECK(stock.high(4, 7) == Approx(20));
    CHECK(stock.volume() == Approx(9 * 10 * 20 + 10 * 7));
    stock.keep(5, 16, 8);
    CHECK_FALSE(stock.wood(5, 2));
}
