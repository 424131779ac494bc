#include "base/files.h"
#include "job/history.h"

#include "support.h"

#include <set>

#include <nlohmann/json.hpp>

using namespace wren;
using nlohmann::json;
using test::Folder;
using test::plainWith;
using test::sentenceOf;

TEST_CASE("Every key is described, in range, and sets what it says", "[keys]") {
    const Project p = plainWith();
    std::set<std::string> paths;
    for (const Key& key : keysOf(p)) {
        INFO(key.path);
        CHECK(paths.insert(key.path).second);
        CHECK_FALSE(key.meaning.empty());
        if (key.beforeLists) {
            continue; // lists_test asks them
        }
        const KeyValue value = key.get(p);
        CHECK_NOTHROW(checkValue(key, value));
        if (key.alias) { // says in another way what other keys hold
            Project r = p;
            const KeyValue other = key.kind == KeyKind::choice ? KeyValue(key.choices.front())
                                                               : KeyValue(key.least + 1);
            key.set(r, other);
            CHECK(key.get(r) == other);
            continue;
        }
        // Reading back what is shown changes nothing beyond the figures shown.
        Project q = p;
        key.set(q, readValue(key, showValue(key, value)));
        if (const double* number = std::get_if<double>(&value)) {
            CHECK(std::get<double>(key.get(q)) == Approx(*number).margin(0.0005));
        } else {
            CHECK(q == p);
        }
        // And another value lands in this key alone.
        if (key.kind == KeyKind::length || key.kind == KeyKind::count) {
            const KeyValue other = value == KeyValue(key.least) ? key.most : key.least;
            Project r = p;
            key.set(r, other);
            for (const Key& k : keysOf(p)) {
                if (k.alias) {
                    continue;
                }
                if (k.path != key.path) {
                    CHECK(k.get(r) == k.get(p));
                } else {
                    CHECK(k.get(r) == other);
                }
            }
        }
    }
    CHECK(paths.count("board.scale"));
    CHECK(paths.count("bits.5.shank"));
}

TEST_CASE("Keys read makers' lengths and refuse nonsense, changing nothing", "[keys][failure]") {
    const Project p = plainWith();
    CHECK(withKey(p, "board.scale", "25 1/2 in").board.scaleLength == Approx(647.7));
    CHECK(withKey(p, "blank.thickness", "1/4in+0.5mm").blank.thickness == Approx(6.85));
    CHECK(withKey(p, "blank.thickness", "0.27", LengthUnit::inch).blank.thickness == Approx(6.858));
    CHECK(withKey(p, "cut.slots.feed", "250").cut.slots.feed == 250);
    CHECK_FALSE(
        withKey(withKey(p, "cut.slots.feed", "250"), "cut.slots.feed", "auto").cut.slots.feed);
    struct Case {
        const char* key;
        const char* text;
        const char* says;
    };
    const Case cases[] = {
        {"board.scale", "-620", "outside 250 to 1300"},
        {"board.scale", "nonsense", "cannot be read"},
        {"board.scale", "auto", "cannot be read"},
        {"board.scale", "", "empty"},
        {"board.frets", "22.5", "not a whole number"},
        {"board.frets", "37", "outside 0 to 36"},
        {"board.frets", "22 mm", "plain number"},
        {"board.strings", "3", "outside 4 to 9"},
        {"blank.wood", "driftwood", "not one of"},
        {"hold.z_zero", "middle", "bed, top"},
        {"name", "", "1 to 80"},
        {"board.nothing", "1", "no key"},
        {"bits.99.name", "x", "holds"},
    };
    for (const Case& c : cases) {
        INFO(c.key << "=" << c.text);
        const std::string s = sentenceOf([&] { withKey(p, c.key, c.text); });
        INFO(s);
        CHECK(s.find(c.says) != std::string::npos);
        CHECK(s.find(std::string(c.key).substr(0, 7)) != std::string::npos);
    }
}

TEST_CASE("A project survives being written and read", "[store]") {
    Project p = plainWith({{"board.scale", "647.7"},
                           {"cut.slots.feed", "333"},
                           {"cut.radius.bit", "ball-6"},
                           {"machine.units", "inch"}});
    const Project q = projectFromText(projectToText(p), "t");
    CHECK(q.board == p.board);
    CHECK(q.cut == p.cut);
    CHECK(q.machine == p.machine);
    CHECK(q.bits == p.bits);
    CHECK(projectToText(q) == projectToText(p));
    const json doc = json::parse(projectToText(p));
    CHECK(doc["board"]["scale"] == 647.7);
    CHECK_FALSE(doc["cut"]["slots"].contains("rpm")); // left to the recipe: not written
}

TEST_CASE("What this version does not know survives a load and a save", "[store]") {
    json doc = json::parse(projectToText(plainWith()));
    doc["future"] = {{"idea", 1}};
    doc["board"]["inlay"] = "wren";
    doc["cut"]["radius"]["spray"] = true;
    doc["bits"][2]["colour"] = "red";
    const Folder folder;
    writeFileSafely(folder / "p.wren", doc.dump());
    Project p = withKey(loadProject(folder / "p.wren"), "board.frets", "24");
    saveProject(p, folder / "p.wren");
    const json after = json::parse(readFile(folder / "p.wren"));
    CHECK(after["future"]["idea"] == 1);
    CHECK(after["board"]["inlay"] == "wren");
    CHECK(after["board"]["frets"] == 24);
    CHECK(after["cut"]["radius"]["spray"] == true);
    CHECK(after["bits"][2]["colour"] == "red");
    CHECK(after["bits"][2]["name"] == "flat-3");
    CHECK(std::filesystem::exists(folder / "p.wren.last"));
}

TEST_CASE("A key is read by the name it had, and written by the one it has", "[store]") {
    const std::string older =
        R"({"format": "upland-wren project", "version": 3, "cut": {"skin": 0.4},
        "body_cut": {"carve_ridge": 0.03, "floor_skin": 0.2}})";
    const Project p = projectFromText(older, "older.wren");
    CHECK(p.cut.stockToLeave == 0.4);
    CHECK(p.bodyCut.carveScallop == 0.03);
    CHECK(p.bodyCut.floorStock == 0.2);
    const std::string written = projectToText(p);
    CHECK(written.find("\"stock_to_leave\": 0.4") != std::string::npos);
    CHECK(written.find("skin") == std::string::npos);
    CHECK(written.find("carve_ridge") == std::string::npos);
    CHECK(projectToText(projectFromText(written, "newer.wren")) == written);
    CHECK(keyAt(p, "cut.skin").path == "cut.stock_to_leave");
    // A name says nothing about what is decided: a value no one had set stays out of the hash.
    Project usual;
    CHECK(designHash(p) != designHash(usual));
    CHECK_THROWS_WITH(
        projectFromText(R"({"format": "upland-wren project", "version": 3, "cut": {"skin": 9}})",
                        "x.wren"),
        Catch::Contains("cut.skin"));
}

TEST_CASE("A missing key keeps its default", "[store]") {
    const Project p = projectFromText(R"({"format": "upland-wren project", "version": 1})", "t");
    CHECK(p == Project{});
}

TEST_CASE("Damaged files are refused in one sentence that says where", "[store][failure]") {
    const std::string good = projectToText(plainWith());
    const auto says = [](const std::string& text) {
        return sentenceOf([&] { projectFromText(text, "p.wren"); });
    };
    for (std::size_t cut : {std::size_t{0}, std::size_t{1}, good.size() / 3, good.size() - 3}) {
        INFO(cut);
        const std::string s = says(good.substr(0, cut));
        CHECK(s.find("p.wren is cut off at line ") == 0);
    }
    std::string broken = good;
    broken.replace(broken.find("\"radius\":"), 9, "\"radius\";");
    CHECK(says(broken).find("p.wren is damaged at line ") == 0);
    CHECK(says("[1, 2]").find("not an Upland Wren project") != std::string::npos);
    CHECK(says(R"({"format": "another"})").find("not an Upland Wren project") != std::string::npos);
    CHECK(says(R"({"format": "upland-wren project"})").find("does not say its version") !=
          std::string::npos);
    const std::string future = says(R"({"format": "upland-wren project", "version": 7})");
    CHECK(future.find("version 7") != std::string::npos);
    CHECK(future.find("up to version 3") != std::string::npos);
    const auto with = [&](const char* pointer, json value) {
        json doc = json::parse(good);
        doc[json::json_pointer(pointer)] = std::move(value);
        return says(doc.dump());
    };
    CHECK(with("/board/scale", "long").find("board.scale holds string where a number") !=
          std::string::npos);
    CHECK(with("/board/scale", 5).find("outside 250 to 1300") != std::string::npos);
    CHECK(with("/blank/wood", 5).find("where a word") != std::string::npos);
    CHECK(with("/board", 5).find("board must be a group") != std::string::npos);
    CHECK(with("/bits", 5).find("bits must be a list") != std::string::npos);
    CHECK(with("/bits/0", 5).find("bits must be a list") != std::string::npos);
    json nameless = json::parse(good);
    nameless["bits"][1].erase("name");
    CHECK(says(nameless.dump()).find("bits.1 has no name") != std::string::npos);
    CHECK(with("/bits/0/kind", "saw").find("not one of flat, down-cut, compression, ball") !=
          std::string::npos);
}

TEST_CASE("No cut-off or scrambled file crashes or half-loads", "[store][failure]") {
    const std::string good = projectToText(plainWith());
    unsigned seed = 99;
    for (int round = 0; round < 400; ++round) {
        std::string text = good;
        for (int k = 0; k < 3; ++k) {
            seed = seed * 1103515245 + 12345;
            text[(seed >> 8) % text.size()] = static_cast<char>(seed >> 24);
        }
        try {
            const Project p = projectFromText(text, "p.wren");
            for (const Key& key : keysOf(p)) {
                if (!key.beforeLists) {
                    CHECK_NOTHROW(checkValue(key, key.get(p)));
                }
            }
        } catch (const Error& e) {
            CHECK(std::string(e.what()).find("p.wren") == 0);
        }
    }
}

TEST_CASE("Undo and redo walk through whole values", "[history]") {
    History h(plainWith());
    h.change(plainWith({{"board.frets", "23"}}), "frets");
    h.change(plainWith({{"board.frets", "24"}}), "frets again");
    h.change(plainWith({{"board.frets", "24"}}), "nothing"); // equal: no step
    CHECK(h.undoName() == "frets again");
    h.undo();
    CHECK(h.now().board.frets == 23);
    CHECK(h.redoName() == "frets again");
    h.undo();
    CHECK(h.now() == plainWith());
    CHECK_FALSE(h.canUndo());
    h.undo();
    h.redo();
    h.redo();
    CHECK(h.now().board.frets == 24);
    h.undo();
    h.change(plainWith({{"board.frets", "12"}}), "another way");
    CHECK_FALSE(h.canRedo());
    CHECK(h.now().board.frets == 12);
}

TEST_CASE("Every key that was called something else is set by either name", "[keys]") {
    const Project usual;
    int renamed = 0;
    for (const Key& key : keysOf(usual)) {
        if (key.formerly.empty()) {
            continue;
        }
        ++renamed;
        INFO(key.formerly);
        CHECK_FALSE(key.alias); // it is stored
        CHECK(key.formerly != key.path);
        const std::string text = std::to_string((key.least + key.most) / 2);
        const Project byOld = withKey(usual, key.formerly, text);
        CHECK(projectToText(byOld) == projectToText(withKey(usual, key.path, text)));
        CHECK(designHash(byOld) != designHash(usual));
        for (const Key& other : keysOf(usual)) { // no name means two things
            CHECK(other.path != key.formerly);
        }
    }
    CHECK(renamed == 9);
}
