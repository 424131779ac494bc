// A neck that carries its frets in its own face, and outlines cut from both sides.

#include "neck_support.h"

#include "cut/neck_outline_cut.h"
#include "exchange/neck_drawing.h"
#include "proof/designed.h"

using namespace wren;
using namespace wren::test;
using Catch::Matchers::Contains;

namespace {

Project carvedWith(std::initializer_list<std::pair<const char*, const char*>> changes = {}) {
    Project p =
        neckWith({{"neck.fret_face", "carved"}, {"rod.from", "back"}, {"rod.cover", "1.5"}});
    for (const auto& [key, text] : changes) {
        p = withKey(p, key, text);
    }
    return p;
}

const Derived& carved() {
    static const Derived d = derive(carvedWith({{"markers.frets", "3 5 7 12"}}));
    return d;
}

std::vector<std::string> cutsOf(const SidePlan& side) {
    std::vector<std::string> out;
    for (const Cut& c : side.cuts) {
        out.push_back(c.what);
    }
    return out;
}

std::size_t placeOf(const std::vector<std::string>& cuts, const char* what) {
    return static_cast<std::size_t>(std::find(cuts.begin(), cuts.end(), what) - cuts.begin());
}

/// The whole programs of a side read back, spoiled, and proved.
PartProof provedWith(const std::function<void(std::array<std::vector<RunProgram>, 2>&)>& spoil) {
    const Derived& d = carved();
    auto programs = d.job(Role::neck)->read;
    spoil(programs);
    return provedNeck(d, programs);
}

RunProgram& programWith(std::vector<RunProgram>& programs, CutKind cut) {
    const auto it = std::find_if(programs.begin(), programs.end(),
                                 [&](const RunProgram& p) { return p.has(cut); });
    REQUIRE(it != programs.end());
    return *it;
}

} // namespace

TEST_CASE("A carved face ends with the neck and stands on its glue plane", "[neck][carved]") {
    const HeldNeck n = drawnNeck(carvedWith());
    REQUIRE(n.part.carved());
    const BoardPart& face = *n.part.carved();
    CHECK(face.xHigh() == Approx(n.part.outline().end()).margin(1e-9));
    CHECK(face.xLow() == Approx(0).margin(1e-9));
    CHECK(face.slots().size() == 22);
    const double thickness = n.part.board().thickness;
    CHECK(n.part.blankTop() == Approx(thickness + 0.5));
    CHECK(n.part.boundingBox()[1].z == Approx(thickness));
    // The front's height on both sides of the wall before the nut.
    CHECK(n.part.onCarved({10, 0}) == Approx(10));
    CHECK(n.part.onCarved({-3, 5}) == Approx(-3));
    CHECK(n.part.frontAt({10, 0}) == Approx(thickness));
    CHECK(n.part.frontAt({-3, 0}) == Approx(0).margin(1e-12));
    CHECK(n.part.frontAt({-120, 0}) == Approx(-n.part.design().head.drop));
    // The blank holds the face too, and the glue plane lies under it on both sides.
    CHECK(n.held.blank.thickness >= n.part.deepest() + thickness + 0.5);
    CHECK(n.held.face.fromInstrument.toSetup({0, 0, thickness + 0.5}).z ==
          Approx(n.held.face.topZ()));
    CHECK(n.held.back->fromInstrument.toSetup({0, 0, thickness + 0.5}).z ==
          Approx(n.held.back->bottomZ()).margin(1e-9));
    CHECK(n.held.face.facedTop() == Approx(thickness + 0.5));
    CHECK(n.part.sectionArea(200) ==
          Approx(drawnNeck(neckWith({{"rod.from", "back"}, {"rod.cover", "1.5"}}))
                     .part.sectionArea(200) +
                 [&] {
                     double sum = 0; // the arch in a thousand strips
                     const auto y = *face.across(200);
                     for (int i = 0; i < 1000; ++i) {
                         sum += face.face(200, y[0] + (y[1] - y[0]) * (i + 0.5) / 1000);
                     }
                     return sum * (y[1] - y[0]) / 1000;
                 }())
              .epsilon(1e-5));
}

TEST_CASE("What only a glued board could close or hold is refused on a carved face",
          "[neck][carved]") {
    const auto stopsFor = [](std::initializer_list<std::pair<const char*, const char*>> changes) {
        const Derived d = deriveDrawing(carvedWith(changes));
        CHECK_FALSE(d.neck);
        std::string all;
        for (const Finding& f : d.findings) {
            all += f.code == "carved-face" ? f.message : "";
        }
        return all;
    };
    CHECK_THAT(stopsFor({{"rod.from", "top"}}), Contains("let the rod go in from the back"));
    CHECK_THAT(stopsFor({{"rod.carbon_width", "3"}}), Contains("carbon rods' slots"));
    CHECK_THAT(stopsFor({{"neck.accent", "1"}}), Contains("accent strip"));
    CHECK_THAT(stopsFor({{"neck.pin_frets", "2 19"}}), Contains("pins for gluing up"));
    CHECK_THAT(stopsFor({{"head.kind", "tilted"}, {"head.stock", "scarf"}}),
               Contains("scarf joint"));
    // The wood over a rod from the back reaches up to the fret slots' floors.
    const Project p = carvedWith();
    CHECK(woodOverRod(p.neck, p.board) == Approx(1.5 + p.board.thickness - p.board.slotDepth));
    CHECK(woodOverRod(neckWith({{"rod.cover", "1.5"}}).neck, p.board) == Approx(1.5));
    CHECK_FALSE(hasStop(deriveDrawing(p).findings));
}

TEST_CASE("A carved face is cut before the head, its nut's ledge after it", "[neck][carved]") {
    const Derived& d = carved();
    CHECK(d.wanted() == std::vector<PartId>{Role::neck});
    CHECK_FALSE(d.lies(Role::board));
    CHECK_FALSE(d.proofOf(Role::board));
    const std::vector<std::string> cuts = cutsOf(d.job(Role::neck)->neckPlan().sides[0]);
    for (const char* what : {"radius", "markers", "slots", "head", "ledge", "hollow"}) {
        INFO(what);
        CHECK(placeOf(cuts, what) < cuts.size());
    }
    CHECK(placeOf(cuts, "facing") == cuts.size());
    CHECK(placeOf(cuts, "radius") < placeOf(cuts, "slots"));
    CHECK(placeOf(cuts, "slots") < placeOf(cuts, "head"));
    CHECK(placeOf(cuts, "head") < placeOf(cuts, "ledge"));
    for (const PostedProgram& p : d.programs) {
        CHECK(p.program.part == Role::neck);
    }
    if (!WREN_SANITIZED) {
        REQUIRE(d.job(Role::neck)->proof);
        CHECK(d.job(Role::neck)->proof->passed());
        // Fret slots, markers and arch are judged with the rest of the front.
        CHECK(d.job(Role::neck)->proof->sides[0].excessMax > 0.005);
    }
}

TEST_CASE("Carved necks of odd shapes are proved", "[neck][carved][proof]") {
    checkAllProved(
        [] { return carvedWith(); },
        {{{"board.hand", "left"}, {"neck_hold.turn", "end-for-end"}},
         {{"board.treble_scale", "620"}, {"board.square_fret", "7"}, {"neck.nut_slot", "2"}},
         {{"neck.joint", "set"},
          {"neck.heel_past", "40"},
          {"markers.frets", "5 12"},
          {"markers.inlay", "filled"}},
         {{"board.zero_fret", "yes"}, {"board.blind_margin", "2"}, {"rod.from", "none"}},
         {{"board.frets", "16"},
          {"neck.stations", "1 20.5 C, 12 21 C"},
          {"rod.from", "none"},
          {"cut.school", "slots-first"}}});
}

TEST_CASE("The back alone cuts through a carved face that ends askew", "[neck][carved][proof]") {
    // Long flutes, so that the front leaves the outline to the back; a slanting nut, so that the
    // face reaches further at one edge than in the middle.
    checkAllProved([] { return carvedWith(); },
                   {{{"board.treble_scale", "600"}, {"board.square_fret", "12"}}},
                   [](Project& p) {
                       for (Bit& b : p.bits) {
                           b.fluteLength = std::max(b.fluteLength, 32.0);
                           b.reach = std::max(b.reach, 48.0);
                       }
                   });
}

TEST_CASE("A fault in a carved face's programs is found and named", "[neck][carved][proof]") {
    if (WREN_SANITIZED) {
        return;
    }
    const auto messages = [](const PartProof& proof) {
        std::string all;
        for (const Finding& f : proof.sides[0].findings) {
            all += f.message + "\n";
        }
        return all;
    };
    const auto moved = [](CutKind cut, Vec3 way) {
        return [=](std::array<std::vector<RunProgram>, 2>& programs) {
            for (Move& m : programWith(programs[0], cut).path) {
                m.from = m.from + way;
                m.to = m.to + way;
                m.centre = m.centre + way;
            }
        };
    };
    CHECK_THAT(messages(provedWith(moved(CutKind::slots, {0, 0, -0.05}))),
               Contains("below the designed front"));
    CHECK_THAT(messages(provedWith(moved(CutKind::slots, {0.05, 0, 0}))), Contains("fret slot"));
    CHECK_THAT(messages(provedWith(moved(CutKind::ledge, {0.06, 0, 0}))),
               Contains("A wall of the ledge"));
    CHECK_THAT(messages(provedWith(moved(CutKind::radius, {0, 0, 0.2}))),
               Contains("of wood stays above"));
    CHECK_THAT(messages(provedWith(moved(CutKind::markers, {0.05, 0, 0}))), Contains("marker"));
}

TEST_CASE("The carved neck's simulated wood is the designed wood", "[neck][carved][proof]") {
    if (WREN_SANITIZED) {
        return;
    }
    const Derived& d = carved();
    REQUIRE(d.job(Role::neck)->proof);
    const Stock& cut = *d.job(Role::neck)->proof->stock;
    const Stock wanted = designedNeck(d.neck->part, d.job(Role::neck)->held, cut.cell());
    // Beside slots' walls and on the markers, which the design as wood leaves out.
    CHECK(shareOff(wanted, cut, false) < 0.03);
}

TEST_CASE("The outline is shared by both sides where no bit's flutes span its wall",
          "[neck][carved][long]") {
    Project p = carved().project;
    std::erase_if(p.bits, [](const Bit& b) { return b.name == "long-6"; });
    Derived d = deriveDrawing(p);
    derivePrograms(d);
    const PartJob& n = *d.job(Role::neck);
    CHECK(n.neckPlan().sharedOutline); // 26 mm of wall, and this drawer's flutes are 22
    REQUIRE(n.plan().sides[0].cutOf(CutKind::outline));
    REQUIRE(n.plan().sides[1].cutOf(CutKind::outline));
    const auto note = std::find_if(d.findings.begin(), d.findings.end(),
                                   [](const Finding& f) { return f.code == "shared-outline"; });
    REQUIRE(note != d.findings.end());
    CHECK_THAT(note->message, Contains("they meet at the shoulder's lower edge"));
    // The front goes down to the shoulder, the back half a millimetre past that and no further.
    const auto lowest = [](const Path& path) {
        double z = 1e9;
        for (const Move& m : path) {
            z = std::min(z, m.to.z);
        }
        return z;
    };
    const double shoulder = d.project.neck.shoulder;
    CHECK(lowest(n.plan().sides[0].cutOf(CutKind::outline)->path) ==
          Approx(n.held.face.fromInstrument.toSetup({0, 0, -shoulder}).z));
    CHECK(lowest(n.plan().sides[1].cutOf(CutKind::outline)->path) ==
          Approx(n.held.back->fromInstrument.toSetup({0, 0, -shoulder + 0.5}).z));
    // Round the tabs the front's laps stay above the wood.
    for (const Move& m : n.plan().sides[0].cutOf(CutKind::outline)->path) {
        const Vec2 at = n.held.face.fromInstrument.toInstrument(m.to).xy();
        for (const NeckTab& tab : n.neckPlan().tabs) {
            if (std::abs(dot(at - tab.at, tab.along)) < tab.half && length(at - tab.at) < 20) {
                CHECK(m.to.z >= n.held.face.topZ());
            }
        }
    }
    // A drawer with longer flutes cuts it from the back alone.
    Project longer = d.project;
    for (Bit& b : longer.bits) {
        b.fluteLength = std::max(b.fluteLength, 32.0);
        b.reach = std::max(b.reach, 45.0);
    }
    Derived whole = deriveDrawing(longer);
    derivePrograms(whole);
    CHECK_FALSE(whole.job(Role::neck)->neckPlan().sharedOutline);
    CHECK_FALSE(whole.job(Role::neck)->neckPlan().sides[0].cutOf(CutKind::outline));
    // None at all for either way: the stop names the wall.
    Project shorter = d.project;
    for (Bit& b : shorter.bits) {
        b.fluteLength = std::min(b.fluteLength, 12.0);
    }
    CHECK_FALSE(outlineIsShared(d.neck->part, *n.held.back, d.project.neckCut, shorter.bits));
}

TEST_CASE("Every tab is as tall over the wood it stands on", "[neck][tabs]") {
    for (const Project& p : {neckWith(), carvedWith(), neckWith({{"head.kind", "tilted"}})}) {
        const HeldNeck n = drawnNeck(p);
        for (const NeckTab& tab : neckTabs(n.part, p.neckCut)) {
            INFO(tab.at.x);
            CHECK(tab.top + n.part.frontAt(tab.at) == Approx(p.neckCut.tabHeight));
        }
        if (n.part.carved()) { // no fret slot runs into the middle of a tab
            for (const NeckTab& tab : neckTabs(n.part, p.neckCut)) {
                for (const FretSlot& slot : n.part.carved()->slots()) {
                    CHECK(std::min(length(slot.low - tab.at), length(slot.high - tab.at)) > 4);
                }
            }
        }
        // The one at the tip stands over the head's own face.
        const NeckTab last = neckTabs(n.part, p.neckCut).back();
        CHECK(last.at.x < n.part.outline().tip() + 1);
        CHECK(last.top > p.neckCut.tabHeight + 1);
    }
}

TEST_CASE("A tab that something cuts away is found", "[neck][tabs][proof]") {
    if (WREN_SANITIZED) {
        return;
    }
    const Derived d = derive(neckWith());
    REQUIRE(d.job(Role::neck)->proof);
    CHECK(d.job(Role::neck)->proof->passed());
    auto programs = d.job(Role::neck)->read;
    const NeckTab& tab = d.job(Role::neck)->neckPlan().tabs.back(); // at the head's tip
    RunProgram& outline = programWith(programs[1], CutKind::outline);
    const Vec3 foot =
        d.job(Role::neck)->held.back->fromInstrument.toSetup({tab.at.x - 4, tab.at.y, 0}) -
        Vec3{0, 0, 0.3};
    for (double y = -20; y < 20; y += 4) {
        Move m = outline.path.back();
        m.motion = Motion::line;
        m.from = {foot.x, foot.y + y, foot.z};
        m.to = {foot.x, foot.y + y + 4, foot.z};
        m.feed = 1000;
        outline.path.push_back(m);
    }
    const PartProof spoiled = provedNeck(d, programs);
    std::string all;
    for (const Finding& f : spoiled.sides[1].findings) {
        all += f.code + " ";
    }
    CHECK_THAT(all, Contains("tab-cut-away"));
}

TEST_CASE("Drawing and templates of a carved neck show its face", "[neck][carved]") {
    const Derived& d = carved();
    const Drawing plan = neckDrawing(d.neck->part, "n");
    const auto on = [](const Drawing& drawing, const std::string& layer) {
        return std::count_if(drawing.lines.begin(), drawing.lines.end(),
                             [&](const DrawnLine& l) { return l.layer == layer; });
    };
    CHECK(on(plan, "slots") == 22);
    CHECK(on(plan, "markers") == 5); // two at the octave
    CHECK(on(neckDrawing(drawnNeck(neckWith()).part, "n"), "slots") == 0);
    // A template's section is closed over the arch: its highest point is the crown.
    const auto highest = [](const Drawing& drawing) {
        double z = -1e9;
        for (const DrawnLine& line : drawing.lines) {
            for (const ContourPiece& piece : line.pieces) {
                z = line.layer == "section" ? std::max(z, piece.from.y) : z;
            }
        }
        return z;
    };
    CHECK(highest(neckSections(d.neck->part, {200}, "s")) ==
          Approx(d.neck->part.board().thickness));
    CHECK(highest(neckSections(d.neck->part, {-120}, "s")) ==
          Approx(-d.neck->part.design().head.drop));
}

TEST_CASE("A carved neck on the command line", "[neck][carved][command][long]") {
    const Folder folder;
    const std::string file = (folder / "n.wren").string();
    saveProject(carvedWith(), file);
    const std::string out = (folder / "job").string();
    const Ran made = test::wren("make " + file + " --out " + out);
    INFO(made.err);
    CHECK(made.code == 0);
    CHECK(made.out.find("neck-slots") != std::string::npos);
    CHECK(made.out.find("fretboard") == std::string::npos);
    CHECK_THAT(test::wren("export " + file + " --part fretboard --format dxf -o x").err,
               Contains("its parts are: neck"));
    CHECK_THAT(test::wren("set " + file + " rod.from=top").err, Contains("carries its frets"));
    CHECK(test::wren("prove " + file).code == 1);
}
