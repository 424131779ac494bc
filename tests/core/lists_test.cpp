#include "body_support.h"

#include "base/files.h"
#include "design/fan.h"
#include "job/cures.h"
#include "job/feature_edits.h"
#include "job/list_keys.h"
#include "job/nearby.h"

#include <nlohmann/json.hpp>

#include <set>

using namespace wren;
using nlohmann::json;
using test::bodyWith;
using test::Changes;
using test::drawnBody;
using test::findingOf;
using test::neckWith;
using test::plainWith;
using test::sentenceOf;

namespace {

NewThing thingNamed(const std::string& name) {
    const std::vector<NewThing> all = newThings(Role::body);
    const auto it =
        std::find_if(all.begin(), all.end(), [&](const NewThing& t) { return t.name == name; });
    REQUIRE(it != all.end());
    return *it;
}

Feature featureNamed(const Project& p, const std::string& name) {
    for (const Feature& f : featuresOf(p)) {
        if (f.name == name) {
            return f;
        }
    }
    FAIL("no " << name);
    return {};
}

} // namespace

TEST_CASE("Things are added with their numbers in any unit, set, doubled and removed", "[lists]") {
    Project p = bodyWith();
    p = withAdded(p, "body.channels",
                  {{"from", "-100, 10"}, {"to", "-1 in, 20mm"}, {"width", "5/16 in"}});
    REQUIRE(p.body.channels.size() == 1);
    CHECK(p.body.channels[0].from == Vec2{-100, 10});
    CHECK(p.body.channels[0].to == Vec2{-25.4, 20});
    CHECK(p.body.channels[0].width == Approx(7.9375));
    p = withKey(p, "body.channels.0.from.y", "12");
    CHECK(p.body.channels[0].from == Vec2{-100, 12});
    p = withDoubled(p, "body.channels.0");
    REQUIRE(p.body.channels.size() == 2);
    CHECK(p.body.channels[0] == p.body.channels[1]);
    p = withRemoved(p, "body.channels.0");
    CHECK(p.body.channels.size() == 1);
    // What cannot be had is said in a sentence and changes nothing.
    const Project before = p;
    for (const auto& [call, says] : std::vector<std::pair<std::function<void()>, const char*>>{
             {[&] { withRemoved(p, "body.channels.4"); }, "holds 1 of them"},
             {[&] { withRemoved(p, "body.channels"); }, "names nothing in a list"},
             {[&] { withAdded(p, "body.knobs", {}); }, "There is no list"},
             {[&] {
                  withAdded(p, "body.channels", {{"width", "200"}});
              },
              "outside 1 to 60"},
             {[&] { withKey(p, "body.channels.0.from", "12"); }, "not a place"},
             {[&] { withKey(p, "body.channels.0.from", "9999, 0"); }, "outside"}}) {
        const std::string s = sentenceOf(call);
        INFO(s);
        CHECK(s.find(says) != std::string::npos);
    }
    CHECK(p == before);
}

TEST_CASE("A list in a file keeps what this version does not know, with its thing", "[lists]") {
    json doc = json::parse(projectToText(bodyWith()));
    CHECK(doc["version"] == 3);
    doc["body"]["controls"][0]["taper"] = "log";
    doc["body"]["outline"][2]["why"] = json::parse(R"({"from": "a drawing"})");
    Project p = projectFromText(doc.dump(), "t");
    CHECK(json::parse(projectToText(p))["body"]["controls"][0]["taper"] == "log");
    CHECK(json::parse(projectToText(p))["body"]["outline"][2]["why"]["from"] == "a drawing");
    // It goes where its thing goes, and with it.
    p = withAdded(p, "body.controls", {{"at", "20, 90"}});
    p = withRemoved(p, "body.controls.1");
    const json after = json::parse(projectToText(p));
    CHECK(after["body"]["controls"][0]["taper"] == "log");
    CHECK_FALSE(after["body"]["controls"][1].contains("taper"));
    CHECK_FALSE(json::parse(projectToText(withRemoved(p, "body.controls.0")))["body"]["controls"][0]
                    .contains("taper"));
    // Damage is told with the list's name.
    const auto says = [&](const char* pointer, json value) {
        json spoilt = doc;
        spoilt[json::json_pointer(pointer)] = std::move(value);
        return sentenceOf([&] { projectFromText(spoilt.dump(), "p.wren"); });
    };
    CHECK(says("/body/controls", 5).find("p.wren: body.controls must be a list") == 0);
    CHECK(says("/body/controls/0", "pot").find("body.controls must be a list") !=
          std::string::npos);
    CHECK(says("/body/controls/0/at", {1, 2, 3}).find("a place of two numbers") !=
          std::string::npos);
    CHECK(
        says("/body/controls", json(std::vector<json>(300, json::object()))).find("at most 100") !=
        std::string::npos);
}

TEST_CASE("Lists as text, of older files and the command line, say the same", "[lists]") {
    const Project p = bodyWith({{"body.build", "topped"},
                                {"body.chambers", "60 -60 r8, 96 -60 r8, 96 -20 r8, 60 -20 r8"},
                                {"body.channels", "-60 20 40 80 8 10"},
                                {"body.wires", "-46 20 15 -8 80 30 6"},
                                {"body.recesses", "front 3: 0 0 r4, 30 0 r4, 30 20 r4, 0 20 r4"},
                                {"body.engravings", "back words 60 -50 8 0 0.5: No. 3"},
                                {"body.front_slopes", "40 -60 116 20 12 40"},
                                {"body.straps", "116 4"},
                                {"jack.kind", "cup"},
                                {"jack.x", "70"}});
    CHECK(p.body.chambers.at(0).nodes.size() == 4);
    CHECK(p.body.channels.at(0).depth == 10);
    CHECK(p.body.wires.at(0).toDepth == 30);
    CHECK(p.body.recesses.at(0).depth == 3.0);
    CHECK(p.body.engravings.at(0).words == "No. 3");
    CHECK(p.body.faces.contours.at(0).angle == 12);
    CHECK(p.body.straps.size() == 1);
    CHECK(p.body.jacks.at(0).at.x == 70);
    CHECK(p.body.jacks.at(0).kind == JackKind::cup);
    CHECK(p.body.pickups.size() == 2);
    // A file of version 2 holds them so.
    json doc = json::parse(projectToText(bodyWith()));
    doc["version"] = 2;
    doc["body"]["channels"] = "-60 20 40 80 8 10; 0 0 9 9 3 4";
    doc["body"].erase("pickups");
    doc["body"].erase("jacks");
    doc["pickup2"] = {{"kind", "bar"}, {"from_bridge", 96}};
    doc["jack"] = {{"kind", "none"}};
    const Project old = projectFromText(doc.dump(), "old");
    CHECK(old.body.channels.size() == 2);
    REQUIRE(old.body.pickups.size() == 2);
    CHECK(old.body.pickups[1].fromBridge == 96);
    CHECK(old.body.jacks.at(0).kind == JackKind::none);
    CHECK(projectFromText(projectToText(old), "again") == old);
    // To ask for an old name makes nothing.
    const Project bare;
    for (const Key& key : keysOf(bare)) {
        key.get(bare);
    }
    CHECK(bare.body.pickups.empty());
}

TEST_CASE("Every kind of thing can be added, moved, mirrored and removed", "[lists][features]") {
    const Project p = bodyWith({{"body.build", "topped"}});
    for (const NewThing& thing : newThings(Role::body)) {
        INFO(thing.name);
        std::string path;
        const Project more = withNew(p, thing, {-60, 40}, path);
        const std::size_t had = listAt(p, thing.list).items->size(p);
        CHECK(listAt(more, thing.list).items->size(more) == had + 1);
        REQUIRE(deriveDrawing(more).body);
        const auto at = [&](const Project& q) {
            for (const Feature& f : featuresOf(q)) {
                if (f.path == path) {
                    return f.at;
                }
            }
            return Vec2{};
        };
        const Project moved = movedBy(more, path, {3, 0});
        CHECK(at(moved).x - at(more).x == Approx(3));
        const Project over = mirroredOver(more, path);
        CHECK(at(over).y == Approx(-at(more).y).margin(1e-9));
        CHECK(mirroredOver(over, path) == more);
        CHECK(withRemoved(more, path) == p);
        // It survives its file.
        CHECK(projectFromText(projectToText(more), "t") == more);
    }
}

TEST_CASE("A board's and a neck's things are added where the cursor is, and moved",
          "[lists][features]") {
    const Project p = neckWith();
    const double fret5 = Fan(p.board).line(5).middle();
    for (Role part : {Role::board, Role::neck}) {
        for (const NewThing& thing : newThings(part)) {
            INFO(thing.name);
            const bool tab = thing.list == "cut.tabs";
            const bool tree = thing.list == "tuners.trees"; // behind the nut
            std::string path;
            const Project more = withNew(p, thing, {tree ? -40 : fret5 - 3, -20}, path);
            CHECK(listAt(more, thing.list).items->size(more) ==
                  listAt(p, thing.list).items->size(p) + 1);
            const auto at = [&](const Project& q) {
                const std::vector<Feature> all = featuresOf(q);
                const auto it = std::find_if(all.begin(), all.end(),
                                             [&](const Feature& f) { return f.path == path; });
                REQUIRE(it != all.end());
                return it->at.x;
            };
            CHECK(at(more) == Approx(tree ? -40 : tab ? fret5 - 3 : 5).margin(0.05));
            CHECK(at(movedBy(more, path, {1, 0})) > at(more));
            CHECK(withRemoved(more, path) == p);
            CHECK(projectFromText(projectToText(more), "t") == more);
        }
    }
    // A station stands in order, about as thick as the neck was there.
    std::string path;
    const Project more = withNew(p, newThings(Role::neck)[0], {fret5, 0}, path);
    checkStations(more.neck.stations);
    const auto& s = more.neck.stations;
    const std::size_t i = itemPath(path)->number;
    REQUIRE((i > 0 && i + 1 < s.size()));
    CHECK(s[i].thickness > s[i - 1].thickness);
    CHECK(s[i].thickness < s[i + 1].thickness);
}

TEST_CASE("A station is added to a neck that has none, and past the last fret there is",
          "[lists]") {
    const NewThing station = newThings(Role::neck).front();
    std::string path;
    Project bare = neckWith();
    bare.neck.stations.clear();
    const Project one = withNew(bare, station, {100, 0}, path);
    REQUIRE(one.neck.stations.size() == 1);
    CHECK(path == "neck.stations.0");
    CHECK(one.neck.stations[0].thickness > 10);
    CHECK(deriveDrawing(one).board); // its neck is told to want two, nothing more
    // Each new one finds a fret of its own, within what a file can hold.
    Project many = neckWith();
    many.board.frets = 36;
    for (int i = 0; i < 8; ++i) {
        many = withNew(many, station, {1e6, 0}, path);
    }
    checkStations(many.neck.stations);
    CHECK(many.neck.stations.back().fret == 36);
    CHECK(projectFromText(projectToText(many), "t") == many);
}

TEST_CASE("Lists that were lines of text are read from files of before", "[lists]") {
    const std::string text =
        R"({"format": "upland-wren project", "version": 3,
            "board": {"gauges": "1.17 0.91 0.66 0.43 0.33 0.25"},
            "markers": {"frets": "3 5 7-9 12", "side_frets": 12},
            "neck": {"joint": "bolt-on", "pin_frets": "2 19",
                     "traces": "mine: -21 0, -16 9.5, 0 13.5, 16 9.4, 21 0"}})";
    const Project p = projectFromText(text, "t");
    REQUIRE(p.board.markers.face.size() == 6);
    CHECK(p.board.markers.face[3].fret == 8);
    REQUIRE(p.board.markers.side.size() == 1);
    CHECK(p.board.gauges.size() == 6);
    CHECK(p.board.gauges[5].thickness == 0.25);
    CHECK(p.neck.pinFrets == std::array<std::optional<int>, 2>{2, 19});
    REQUIRE(p.neck.traces.size() == 1);
    CHECK(p.neck.traces[0].points[1].at == Vec2{-16, 9.5});
    const std::string written = projectToText(p);
    CHECK(written.find("\"frets\": \"") == std::string::npos); // as things, not as text
    CHECK(projectFromText(written, "t") == p);
}

TEST_CASE("A marker may stand alone at the octave, or in a pair elsewhere", "[lists][markers]") {
    Project p = plainWith({{"markers.frets", "5 12"}});
    CHECK(markerPlaces(p.board).size() == 3);
    p = withKey(withKey(p, "markers.face.1.count", "1"), "markers.face.0.count", "2");
    const std::vector<MarkerPlace> places = markerPlaces(p.board);
    REQUIRE(places.size() == 3);
    CHECK(places[0].fret == 5);
    CHECK(places[1].fret == 5);
    CHECK(places[2].at.y == Approx(0).margin(1e-9));
    CHECK_THROWS_WITH(withKey(p, "markers.face.0.count", "3"), Catch::Matchers::Contains("1 to 2"));
}

TEST_CASE("A marker beyond the board is named, and can be taken out", "[lists][markers]") {
    const Project p = plainWith({{"markers.frets", "5 30"}});
    const Derived d = deriveDrawing(p);
    const auto it = std::find_if(d.findings.begin(), d.findings.end(),
                                 [](const Finding& f) { return f.code == "marker-without-fret"; });
    REQUIRE(it != d.findings.end());
    CHECK(pathOf(it->feature) == "markers.face.1");
    const std::vector<Cure> cures = curesFor(d, *it);
    REQUIRE(cures.size() == 1);
    CHECK(cures[0].label == "Remove marker 30");
    CHECK(cured(p, cures[0]).board.markers.face.size() == 1);
}

TEST_CASE("A hole of its own is cut where it is put", "[lists][features]") {
    std::string path;
    Project p = withNew(bodyWith(), thingNamed("hole"), {-110, -60}, path);
    p = withKey(withKey(p, path + ".diameter", "6"), path + ".depth", "12");
    const Derived d = drawnBody(p);
    const Panel& body = *d.body->part.panel(Role::body);
    const auto it = std::find_if(body.holes.begin(), body.holes.end(),
                                 [](const Hole& h) { return h.feature.kind == FeatureKind::hole; });
    REQUIRE(it != body.holes.end());
    CHECK(it->diameter == 6);
    CHECK(it->floor == Approx(-12));
    CHECK(length(d.body->part.place().fromBridge(it->at) - Vec2{-110, -60}) < 1e-9);
}

TEST_CASE("Nodes go in on the nearest stretch and come out again", "[lists][features]") {
    const Project p = bodyWith();
    const auto& nodes = p.body.nodes;
    std::size_t number = 0;
    const Vec2 at = (nodes[4].at + nodes[5].at) * 0.5;
    const Project more = withNode(p, "body.outline", at, number);
    CHECK(number == 5);
    CHECK(more.body.nodes[5].at == at);
    CHECK(more.body.nodes[5].smooth == nodes[4].smooth);
    CHECK(withoutNode(more, "body.outline", number) == p);
    Project three = p;
    three.body.nodes.resize(3);
    CHECK_THROWS_AS(withoutNode(three, "body.outline", 0), Error);
}

TEST_CASE("Outlines that are none are told, whatever asks for them", "[lists][features]") {
    const Project whole = bodyWith({{"body.build", "topped"},
                                    {"body.chambers", "60 -60 r8, 96 -60 r8, 96 -20 r8"},
                                    {"body.recesses", "front 3: 0 0 r4, 30 0 r4, 30 20 r4"}});
    const std::vector<std::function<std::vector<ShapeNode>&(Project&)>> outlines{
        [](Project & p) -> auto& {return p.body.nodes;
}
, [](Project& p) -> auto& {
    return p.body.cavity.nodes;
}
, [](Project& p) -> auto& {
    return p.body.chambers[0].nodes;
}
, [](Project& p) -> auto& {
    return p.body.recesses[0].nodes;
}
}
;
for (std::size_t i = 0; i < outlines.size(); ++i) {
    for (std::size_t left : {0U, 1U, 2U}) {
        INFO("outline " << i << " with " << left);
        Project p = whole;
        outlines[i](p).resize(left);
        const Derived d = deriveDrawing(p);
        if (i != 1 || left > 0) { // a body need not have a cavity
            CHECK(hasStop(d.findings));
        }
        CHECK_NOTHROW(settledOnEdge(p));
        CHECK_NOTHROW(featuresOf(p));
        CHECK_NOTHROW(nearbyOf(d, "body.controls.0"));
        CHECK_NOTHROW(projectFromText(projectToText(p), "t"));
    }
}
Project headless = whole;
headless.neck.head.nodes.clear();
headless.neck.stations.resize(1);
CHECK(hasStop(deriveDrawing(headless).findings));
}

TEST_CASE("Jacks and strap buttons stay on the edge", "[lists][features]") {
    Project p = bodyWith();
    p.body.straps = {{{90, 10}}};
    const Project on = settledOnEdge(p);
    const Contour outline = shapeOutline(p.body.nodes);
    CHECK(distanceTo(outline, on.body.straps[0].at) < 0.1);
    CHECK(distanceTo(outline, on.body.jacks[0].at) < 0.1);
    CHECK(settledOnEdge(on) == on);
}

TEST_CASE("What is near a thing is measured as with a rule", "[lists][features]") {
    const Derived d = drawnBody(bodyWith());
    const Feature pot = featureNamed(d.project, "pot 2");
    CHECK(pot.path == "body.controls.1");
    const std::vector<Near> near = nearbyOf(d, pot.path);
    const auto to = [&](const std::string& what) {
        const auto it =
            std::find_if(near.begin(), near.end(), [&](const Near& n) { return n.what == what; });
        REQUIRE(it != near.end());
        return it->distance;
    };
    CHECK(to("the centreline") == Approx(94));
    CHECK(to("the bridge line") == Approx(44));
    const Vec2 at = d.body->part.place().at(pot.at);
    CHECK(to("the edge") == Approx(distanceTo(d.body->part.outline(), at) - 4.8).margin(0.05));
    CHECK(featureAt(d, at) == pot.id);
    CHECK_FALSE(featureAt(d, {0, 0}));
    CHECK(nearbyOf(d, "body.controls.9").empty());
}

TEST_CASE("A cure does away with what it is offered for", "[lists][cures]") {
    const std::vector<std::pair<Changes, std::string>> faults{
        {{{"cavity.controls", "pot 12 20"}}, "control-outside"},
        {{{"neck_pocket.depth", "10"}}, "bridge-height"},
        {{{"cavity.wood", "10"}}, "thick-roof"},
        {{{"body.chambers", "60 -60 r8, 96 -60 r8, 96 -20 r8, 60 -20 r8"}}, "chambers-need-a-top"},
        {{{"body.recesses", "front 3: 90 0 r4, 190 0 r4, 190 20 r4, 90 20 r4"}}, "outside-body"},
        {{{"body.recesses", "front 3: -60 -30 r4, -30 -30 r4, -30 30 r4, -60 30 r4"}},
         "same-wood"}};
    for (const auto& [changes, code] : faults) {
        INFO(code);
        const Derived d = deriveDrawing(bodyWith(changes));
        const auto fault = findingOf(d.findings, code);
        REQUIRE(fault);
        const std::vector<Cure> cures = curesFor(d, *fault);
        REQUIRE_FALSE(cures.empty());
        for (const Cure& cure : cures) {
            INFO(cure.label);
            CHECK_FALSE(findingOf(deriveDrawing(cured(d.project, cure)).findings, code));
        }
    }
}

TEST_CASE("Holes that run into one another or through a wall are told while they are drawn",
          "[lists][features]") {
    const auto said = [](const std::string& at, const std::string& diameter) {
        Project p = withAdded(bodyWith(), "body.holes", {{"at", at}, {"diameter", diameter}});
        return findingOf(deriveDrawing(p).findings, "same-wood");
    };
    const auto pot = said("12, 94", "8"); // pot 1 stands at 12, 86
    REQUIRE(pot);
    CHECK(pot->message.find("pot 1 and hole 1") != std::string::npos);
    CHECK(pathOf(pot->feature) == "body.holes.0");
    CHECK_FALSE(said("12, 96", "8")); // 10 apart, 8.8 are wanted
    CHECK(said("-46, 42", "8"));      // through pickup 2's end
    CHECK_FALSE(said("-46, 0", "4")); // on its floor
    CHECK_FALSE(findingOf(deriveDrawing(bodyWith()).findings, "same-wood"));
}

TEST_CASE("A finding names the thing it is about", "[lists][features]") {
    const Derived d = deriveDrawing(bodyWith({{"cavity.controls", "pot 12 86, pot 12 20"}}));
    const auto f = findingOf(d.findings, "control-outside");
    REQUIRE(f);
    CHECK(pathOf(f->feature) == "body.controls.1");
    CHECK(f->message.rfind("Pot 2 at 12, 20 ", 0) == 0);
}

TEST_CASE("What has not changed for a part leaves its programs and its proof standing", "[reuse]") {
    if (WREN_SANITIZED) {
        return;
    }
    const Derived before =
        derive(bodyWith({{"body.build", "topped"},
                         {"body.chambers", "60 -60 r8, 96 -60 r8, 96 -20 r8, 60 -20 r8"}}));
    Project p = before.project;
    p = withKey(p, "body.pickups.0.from_bridge", "142");
    const auto again = [&](const Project& q) {
        Derived d = deriveDrawing(q, &before);
        derivePrograms(d, {}, &before);
        deriveProof(d, {}, &before);
        return d;
    };
    const Derived after = again(p);
    const auto stands = [&](const Derived& d, PartId part) {
        REQUIRE(d.job(part)->proof);
        return d.job(part)->proof->stock == before.job(part)->proof->stock;
    };
    for (Role role : {Role::board, Role::neck, Role::core, Role::top, Role::lid}) {
        INFO(PartId(role).name());
        CHECK(stands(after, role));
    }
    CHECK_FALSE(stands(after, Role::body));
    // And it is what comes from nothing, to the last digit.
    const Derived fresh = derive(p);
    REQUIRE(fresh.programs.size() == after.programs.size());
    for (std::size_t i = 0; i < fresh.programs.size(); ++i) {
        CHECK(fresh.programs[i].program.text == after.programs[i].program.text);
    }
    for (const PartJob& job : fresh.parts) {
        const PartProof& one = *job.proof;
        const PartProof& other = *after.job(job.id)->proof;
        CHECK(one.sides[0].excessMax == other.sides[0].excessMax);
        CHECK(one.sides[1].excessMax == other.sides[1].excessMax);
    }
    // Each of these belongs to the parts named, and to no other.
    const std::vector<std::tuple<const char*, const char*, std::set<Role>>> changes{
        {"neck_cut.scallop", "0.033", {Role::neck}},
        {"cut.through", "0.4", {Role::board, Role::neck}},
        {"body.chamber_floor", "7", {Role::core, Role::body}},
        {"cavity.relief", "0.5", {Role::lid}},
        {"body.front_edge", "round", {Role::body}}};
    for (const auto& [key, text, touched] : changes) {
        Derived d = deriveDrawing(withKey(before.project, key, text), &before);
        derivePrograms(d, {}, &before);
        for (const PartJob& job : d.parts) {
            INFO(key << " " << job.name());
            CHECK((job.inputs != before.job(job.id)->inputs) == (touched.count(job.id.role) > 0));
        }
    }
}

TEST_CASE("Tabs placed by hand are things of the board, whatever they were typed as", "[lists]") {
    const test::Folder folder;
    const std::string file = (folder / "b.wren").string();
    Project p = loadProject(test::plainFile);
    p = withKey(p, "cut.tab_places", "b60 t1in");
    REQUIRE(p.cut.tabPlaces.size() == 2);
    CHECK(p.cut.tabPlaces[0].bass);
    CHECK_FALSE(p.cut.tabPlaces[1].bass);
    CHECK(p.cut.tabPlaces[1].at == Approx(25.4));
    p = withAdded(p, "cut.tabs", {{"edge", "treble"}, {"at", "200"}});
    saveProject(p, file);
    CHECK(loadProject(file).cut.tabPlaces == p.cut.tabPlaces);
    CHECK(featuresCsv(p).find("fretboard,\"tab 3, treble edge\",cut.tabs.2,edge,200.00") !=
          std::string::npos);
    CHECK(movedBy(p, "cut.tabs.2", {5, 3}).cut.tabPlaces[2].at == 205);
    // A file of this version that still has them as one line is read all the same.
    std::string text = readFile(file);
    const std::size_t from = text.find("\"tabs\": [");
    REQUIRE(from != std::string::npos);
    std::size_t end = from;
    for (int depth = 0; end < text.size(); ++end) {
        depth += text[end] == '[' ? 1 : text[end] == ']' ? -1 : 0;
        if (text[end] == ']' && depth == 0) {
            break;
        }
    }
    text.replace(from, end + 1 - from, "\"tab_places\": \"b60 t80\"");
    const Project old = projectFromText(text, "old");
    REQUIRE(old.cut.tabPlaces.size() == 2);
    CHECK(old.cut.tabPlaces[1].at == 80);
    CHECK_THROWS_WITH(withKey(p, "cut.tab_places", "x60"), Catch::Matchers::Contains("not a tab"));
}
