// The command line as a user meets it: files, exit codes, one sentence on standard error.

#include "base/digest.h"
#include "base/files.h"

#include "support.h"

#include <algorithm>

#include <nlohmann/json.hpp>

using namespace wren;
using nlohmann::json;
using test::Folder;
using test::plainFile;
using test::Ran;

namespace {

bool oneSentence(const std::string& err) {
    return !err.empty() && std::count(err.begin(), err.end(), '\n') == 1 && err.find("wren: ") == 0;
}

std::string copyOfDemo(const Folder& folder) {
    const std::string file = (folder / "p.wren").string();
    writeFileSafely(file, readFile(plainFile));
    return file;
}

} // namespace

TEST_CASE("make writes programs and a report that agree", "[command]") {
    const Folder folder;
    const Ran r = test::wren("make " + plainFile + " --out " + folder.str());
    CHECK(r.code == 0);
    CHECK(r.err.empty());
    const json report = json::parse(readFile(folder / "report.json"));
    REQUIRE(report["programs"].size() == 3);
    int order = 0;
    for (const json& p : report["programs"]) {
        const std::string text = readFile(folder / "programs" / p["file"].get<std::string>());
        CHECK(sha256(text) == p["sha256"]);
        CHECK(p["order"] == ++order);
        CHECK(p["part"] == "fretboard");
        CHECK(p["bit"]["diameter_mm"].get<double>() > 0);
        CHECK(p["seconds"].get<double>() > p["seconds_plain"].get<double>());
        CHECK(p["cut_mm"].get<double>() > p["rapid_mm"].get<double>());
        for (int i = 0; i < 3; ++i) {
            CHECK(p["extents_mm"]["min"][i].get<double>() <
                  p["extents_mm"]["max"][i].get<double>());
        }
    }
    const json& setup = report["setups"][0];
    CHECK(setup["blank_mm"] == json({500, 77, 6.8}));
    CHECK(setup["z_zero"] == "bed");
    REQUIRE(setup["setup_from_instrument"].size() == 4);
    CHECK(setup["setup_from_instrument"][3] == json({0, 0, 0, 1}));
    CHECK(setup["setup_from_instrument"][1][3] == 38.5);
    CHECK(report["parts"][0]["name"] == "fretboard");
    CHECK(report["parts"][0]["volume_mm3"].get<double>() > 100000);
    CHECK(report["proof"][0]["passed"] == true);
    CHECK(report["proof"][0]["cell_mm"] == 0.2);
    CHECK(report["findings"].is_array());
    // Again: the same bytes.
    const Folder second;
    test::wren("make " + plainFile + " --out " + second.str() + " --part fretboard");
    for (const json& p : report["programs"]) {
        const std::string name = p["file"];
        CHECK(readFile(folder / "programs" / name) == readFile(second / "programs" / name));
    }
    CHECK(readFile(folder / "report.json") == readFile(second / "report.json"));
}

TEST_CASE("A stop refuses to post, an override posts and goes on record", "[command]") {
    const Folder folder;
    const std::string file = copyOfDemo(folder);
    const std::string out = (folder / "out").string();
    const std::string book = (folder / "book.sqlite").string();
    CHECK(test::wren("make " + file + " --out " + out).code == 0);
    CHECK(test::wren("set " + file + " cut.tabs_per_side=0").code == 0);
    const Ran refused = test::wren("make " + file + " --out " + out);
    CHECK(refused.code == 1);
    CHECK(oneSentence(refused.err));
    json report = json::parse(readFile(folder / "out" / "report.json"));
    CHECK(report["programs"].empty());
    CHECK(report["findings"][0]["weight"] == "stop");
    CHECK(report["findings"][0]["code"] == "part-free");
    CHECK(report["findings"][0]["line"].get<int>() > 0);
    // The programs of the older design are set aside, not left to be run by mistake.
    CHECK_FALSE(
        std::filesystem::exists(folder / "out" / "programs" / "03-fretboard-outline-flat-6.nc"));
    CHECK(std::filesystem::exists(folder / "out" / "programs" /
                                  "03-fretboard-outline-flat-6.nc.stale"));

    const Ran forced = test::wren("make " + file + " --out " + out + " --book " + book +
                                  " --override 'held by vacuum'");
    CHECK(forced.code == 0);
    report = json::parse(readFile(folder / "out" / "report.json"));
    CHECK(report["overrides"][0]["reason"] == "held by vacuum");
    CHECK(report["overrides"][0]["part"] == "fretboard");
    CHECK(report["programs"].size() == 3);
    CHECK(readFile(folder / "out" / "programs" / "03-fretboard-outline-flat-6.nc")
              .find("overridden: part-free, held by vacuum") != std::string::npos);
    CHECK(std::filesystem::exists(book));
}

TEST_CASE("Moves outside travel or into the bed are not posted for any reason", "[command]") {
    const Folder folder;
    const std::string file = copyOfDemo(folder);
    for (const char* change : {"machine.travel_x=400 machine.crossing_x=200", "cut.through=4"}) {
        INFO(change);
        const std::string bad = (folder / "bad.wren").string();
        test::wren("set " + file + " " + change + " --out " + bad);
        const Ran r =
            test::wren("make " + bad + " --out " + (folder / "o").string() + " --override because");
        CHECK(r.code == 1);
        CHECK(oneSentence(r.err));
        CHECK_FALSE(std::filesystem::exists(folder / "o" / "programs"));
    }
}

TEST_CASE("set changes the file whole or not at all", "[command]") {
    const Folder folder;
    const std::string file = copyOfDemo(folder);
    CHECK(test::wren("set " + file +
                     " 'board.scale=25 1/2 in' board.frets=24 'blank.thickness=1/8in+4mm'")
              .code == 0);
    const Project p = loadProject(file);
    CHECK(p.board.scaleLength == Approx(647.7));
    CHECK(p.board.frets == 24);
    CHECK(p.blank.thickness == Approx(7.175));
    const std::string before = readFile(file);
    const Ran bad = test::wren("set " + file + " board.frets=20 board.scale=banana");
    CHECK(bad.code == 1);
    CHECK(oneSentence(bad.err));
    CHECK(readFile(file) == before);
    CHECK(test::wren("set " + file + " board.frets").code == 2);
    CHECK(test::wren("set " + file).code == 2);
    const Ran list = test::wren("set " + file + " --list");
    CHECK(list.code == 0);
    for (const Key& key : keysOf(p)) {
        if (key.beforeLists) {
            continue; // can be typed, is not offered
        }
        CHECK(("\n" + list.out).find("\n" + key.path + " ") != std::string::npos);
        CHECK(list.out.find(key.meaning) != std::string::npos);
    }
    CHECK(test::wren("set " + file + " board.frets=5 --out " + (folder / "q.wren").string()).code ==
          0);
    CHECK(readFile(file) == before);
    CHECK(loadProject(folder / "q.wren").board.frets == 5);
}

TEST_CASE("Impossible combinations are kept as facts, told at once, and never posted",
          "[command]") {
    const Folder folder;
    const std::string file = copyOfDemo(folder);
    for (const char* change : {"blank.width=50", "board.slot_depth=7", "blank.thickness=5"}) {
        const std::string bad = (folder / "bad.wren").string();
        const Ran set = test::wren("set " + file + " " + change + " --out " + bad);
        CHECK(set.code == 0);
        CHECK(set.err.find("stop: ") != std::string::npos);
        const Ran make = test::wren("make " + bad + " --out " + (folder / "o").string());
        CHECK(make.code == 1);
        CHECK(oneSentence(make.err));
        const json report = json::parse(readFile(folder / "o" / "report.json"));
        CHECK(report["findings"][0]["value"] != report["findings"][0]["limit"]);
        CHECK(test::wren("prove " + bad).code == 1);
    }
}

TEST_CASE("frets and prove speak to people and to programs", "[command]") {
    CHECK(test::wren("frets " + plainFile + " --csv").out.find("\r\n12,310.00,") !=
          std::string::npos);
    CHECK(test::wren("frets " + plainFile).out.find("446.02") != std::string::npos);
    CHECK(test::wren("frets " + plainFile + " --csv --inches").out.find("12,12.205") !=
          std::string::npos);
    const Ran r = test::wren("prove " + plainFile + " --json");
    CHECK(r.code == 0);
    CHECK(json::parse(r.out)["proof"][0]["passed"] == true);
    CHECK(test::wren("prove " + plainFile).out.find("passed") != std::string::npos);
}

TEST_CASE("check reads any program and judges its span", "[command]") {
    const Folder folder;
    const std::string nc = (folder / "a.nc").string();
    writeFileSafely(
        nc, "G20 G90 S9000 M3\nG0 X0 Y0 Z1\nG1 Z-0.1 F10\nG2 X2 Y0 I1 J0\nG0 Z1\nM5\nM30\n");
    const Ran ok = test::wren("check " + nc + " --bed 900,600,110 --json");
    CHECK(ok.code == 0);
    const json c = json::parse(ok.out);
    CHECK(c["units"] == "inch");
    CHECK(c["extents_mm"]["max"][0].get<double>() == Approx(50.8));
    CHECK(c["extents_mm"]["max"][1].get<double>() == Approx(25.4).margin(0.01)); // the arc's crown
    CHECK(c["cut_mm"].get<double>() == Approx(1.1 * 25.4 + 25.4 * M_PI).margin(0.01));
    const Ran small = test::wren("check " + nc + " --bed 40,600,110");
    CHECK(small.code == 1);
    CHECK(oneSentence(small.err));
    writeFileSafely(nc, "G21\nG0 X1\nG99 X5\n");
    const Ran unknown = test::wren("check " + nc + " --bed 900,600,110");
    CHECK(unknown.code == 1);
    CHECK(unknown.err == "wren: a.nc, line 3: G99 is not known here.\n");
    CHECK(test::wren("check " + nc + " --bed 900,600").code == 1);
    CHECK(test::wren("check " + (folder / "none.nc").string() + " --bed 1,1,1").code == 1);
}

TEST_CASE("Wrong words are usage errors, missing and damaged files are refusals",
          "[command][failure]") {
    const Folder folder;
    for (const char* words :
         {"", "fly", "make", "make x.wren", "frets", "set", "run ", "check x.nc",
          "prove --nonsense x.wren", "book", "run x.wren --program one --to tcp:1"}) {
        INFO(words);
        const Ran r = test::wren(words);
        CHECK(r.code == 2);
        CHECK(oneSentence(r.err));
    }
    const std::string file = copyOfDemo(folder);
    const std::string good = readFile(file);
    writeFileSafely(file, good.substr(0, good.size() / 2));
    for (const char* words : {"frets ", "prove ", "set --list ", "make --out /tmp/none "}) {
        const Ran r = test::wren(words + file);
        CHECK(r.code == 1);
        CHECK(oneSentence(r.err));
        CHECK(r.err.find("cut off at line") != std::string::npos);
    }
    CHECK(test::wren("frets " + (folder / "missing.wren").string()).code == 1);
    CHECK(test::wren("make " + plainFile + " --out /proc/none").code == 1);
    CHECK(test::wren("make " + plainFile + " --out " + folder.str() + " --part neck").code == 1);
    for (const char* command :
         {"", "make ", "prove ", "frets ", "set ", "check ", "run ", "book ", "book runs "}) {
        const Ran r = test::wren(std::string(command) + "--help");
        CHECK(r.code == 0);
        CHECK(r.out.size() > 80);
    }
}

TEST_CASE("Three boards from nothing to posted programs, by command", "[command][new][long]") {
    const Folder folder;
    const std::vector<std::pair<std::string, std::string>> boards{
        {"six", "--strings 6 --scale '25 1/2in' --frets 22"},
        {"fan", "--strings 7 --scale 686 --treble-scale 648 --square 8 --frets 24 --left"},
        {"bass", "--strings 4 --scale 864 --frets 0"}};
    for (const auto& [name, words] : boards) {
        INFO(name);
        const std::string file = (folder / (name + ".wren")).string();
        const std::string out = (folder / name).string();
        const test::Ran fresh = test::wren("new " + file + " " + words);
        INFO(fresh.err);
        REQUIRE(fresh.code == 0);
        CHECK(fresh.err.empty());
        REQUIRE(test::wren("make " + file + " --out " + out).code == 0);
        const json report = json::parse(readFile(folder / name / "report.json"));
        CHECK(report["posted"] == true);
        CHECK(report["proof"][0]["passed"] == true);
        CHECK(report["sheets"].size() == 2); // its own, and everything in order
        CHECK(report["models"].size() == 2);
        for (const auto& f : report["findings"]) {
            CHECK(f["weight"] != "stop");
        }
        for (const char* kind : {"sheets", "models"}) {
            for (const auto& f : report[kind]) {
                CHECK(std::filesystem::exists(folder / name / kind / f.get<std::string>()));
            }
        }
        CHECK(test::wren("new " + file + " " + words).code == 1); // never over another one
    }
}

TEST_CASE("Lists of what has to be in hand are printed, other words refused", "[command][lists]") {
    const Ran hardware = test::wren("list " + plainFile);
    CHECK(hardware.code == 0);
    CHECK(hardware.out.rfind("what,count,size,measure_before\nfret wire,", 0) == 0);
    const Ran wood = test::wren("list " + plainFile + " --of wood");
    CHECK(wood.out.rfind("piece,wood,length_mm,width_mm,thickness_mm,strips\nfretboard,", 0) == 0);
    const Ran drilling = test::wren("list " + plainFile + " --of drilling");
    CHECK(drilling.code == 1); // a board alone
    CHECK(oneSentence(drilling.err));
    const Ran parts = test::wren("list " + plainFile + " --of parts");
    CHECK(parts.out.rfind("role,name,wanted\nfretboard,fretboard,yes\n", 0) == 0);
    CHECK(parts.out.find("core,body core,no\n") != std::string::npos);
    const Ran whole = test::wren("list " WREN_SOURCE "/demo/whinchat.wren --of parts");
    CHECK(whole.out ==
          "role,name,wanted\nfretboard,fretboard,yes\nneck,neck,yes\n"
          "core,body core,yes\ntop,body top,yes\nbody,body,yes\nlid,body lid,yes\n"
          "neck fixture,neck fixture,no\nbody fixture,body fixture,no\n"
          "neck cradle,neck cradle,no\n"
          "outline template,outline template,no\n"
          "neck pocket template,neck pocket template,no\n"
          "pickup template,pickup template 1,no\n"
          "pickup template,pickup template 2,no\n"
          "ledge template,ledge template,no\ncavity template,cavity template,no\n"
          "lid template,lid template,no\n"
          "back,body back,no\nwing,body wing,no\ninlay,body inlay,no\nplate,plate,no\n");
    const Ran other = test::wren("list " + plainFile + " --of strings");
    CHECK(other.code == 2);
    CHECK(oneSentence(other.err));
    CHECK(other.err.find("hardware, wood, cutlist, glue, drilling, parts or features") !=
          std::string::npos);
}

TEST_CASE("A neck that goes through is asked for and written by command", "[command][wings]") {
    const Folder folder;
    const std::string file = (folder / "bass.wren").string();
    std::filesystem::copy_file(WREN_SOURCE "/demo/dotterel.wren", file);
    const json g = json::parse(test::wren("geometry " + file + " --json").out);
    CHECK(g["proud_mm"].get<double>() == Approx(0).margin(1e-9));
    CHECK(g["pocket_depth_mm"]["inner"] == 0);
    CHECK(g["strings"].size() == 5);
    // Solved another way, written, and read again.
    const std::string raised = (folder / "raised.wren").string();
    const Ran proud = test::wren("geometry " + file + " --solve proud --angle 1.2 --out " + raised);
    CHECK(proud.code == 0);
    CHECK_THAT(proud.out, Catch::Matchers::Contains("over the body's face at the board's end"));
    const json h = json::parse(test::wren("geometry " + raised + " --json").out);
    CHECK(h["neck_angle_deg"].get<double>() == Approx(1.2).margin(0.001));
    CHECK(h["proud_mm"].get<double>() > 1);
    CHECK(h["middle"]["saddle_height"].get<double>() ==
          Approx(g["middle"]["saddle_height"].get<double>()).margin(0.01));
    const Ran pocket = test::wren("geometry " + file + " --solve pocket");
    CHECK(pocket.code == 1);
    CHECK(oneSentence(pocket.err));
    const Ran parts = test::wren("list " + file + " --of parts");
    CHECK_THAT(parts.out, Catch::Matchers::Contains("wing,body wing 1,yes\n") &&
                              Catch::Matchers::Contains("wing,body wing 2,yes\n") &&
                              Catch::Matchers::Contains("body fixture,body fixture 2,no\n"));
    const Ran page = test::wren("sheet " + file + " --of backset");
    CHECK_THAT(page.out, Catch::Matchers::Contains("board's end"));
    // A wing is posted though the neck is longer than the machine.
    const std::string out = (folder / "job").string();
    const Ran made = test::wren("make " + file + " --part \"body wing 1\" --out " + out);
    CHECK_THAT(made.out, Catch::Matchers::Contains("body-wing-1"));
    CHECK(made.out.find("body-wing-2") == std::string::npos);
}

TEST_CASE("An outline of unknown size is imported by two known points", "[command][import]") {
    const Folder folder;
    const std::string file = copyOfDemo(folder);
    const std::string drawing = (folder / "small.svg").string();
    writeFileSafely(drawing,
                    "<svg xmlns=\"http://www.w3.org/2000/svg\" viewBox=\"0 0 80 60\"><path "
                    "d=\"M10 10H70V50H10Z\"/></svg>");
    const std::string head = "import " + file + " --part body --outline " + drawing;
    const Ran done = test::wren(head + " --points 10 -50 70 -50 --apart 300mm");
    CHECK(done.code == 0);
    CHECK(done.out.find("4 lines and 0 arcs") != std::string::npos);
    const std::string kept = readFile(file);
    // One without the other, points in one place, and a part that has no outline.
    for (const std::string& more :
         {std::string(" --points 10 -50 70 -50"),
          std::string(" --points 10 -50 10 -50 --apart 300mm"), std::string(" --apart 300mm")}) {
        const Ran bad = test::wren(head + more);
        INFO(more);
        CHECK(bad.code == 1);
        CHECK(oneSentence(bad.err));
    }
    const Ran part = test::wren("import " + file + " --part lid --outline " + drawing);
    CHECK(part.err.find("body, a cavity or a headstock") != std::string::npos);
    CHECK(readFile(file) == kept);
}

TEST_CASE("Markers and layers' choices are set, listed and refused on the command line",
          "[command]") {
    const Folder folder;
    const std::string file = copyOfDemo(folder);
    CHECK(test::wren("set " + file + " \"markers.frets=3 5 7-9 12\"").code == 0);
    CHECK(test::wren("add " + file + " markers.face fret=15").code == 0);
    CHECK(test::wren("set " + file + " markers.face.6.count=2").code == 0);
    Ran r = test::wren("list " + file + " --of features");
    CHECK(r.code == 0);
    for (const char* name : {"marker 3", "marker 8", "marker 15"}) {
        INFO(name);
        CHECK(r.out.find(name) != std::string::npos);
    }
    CHECK(test::wren("remove " + file + " markers.face.0").code == 0);
    r = test::wren("list " + file + " --of features");
    CHECK(r.out.find("marker 3") == std::string::npos);
    // Two stand at fret 15 now: a hole more than the markers there are.
    const json doc = json::parse(readFile(file));
    REQUIRE(doc["markers"]["face"].size() == 6);
    CHECK(doc["markers"]["face"][5] == json({{"count", 2}, {"fret", 15}}));
    const std::string before = readFile(file);
    for (const char* wrong : {"set {} markers.face.0.fret=40", "set {} markers.face.9.fret=5",
                              "add {} markers.face fret=half", "set {} cavity.cut=sometimes",
                              "set {} board.gauges.0.thickness=1mm", "remove {} markers.face.12"}) {
        std::string args = wrong;
        args.replace(args.find("{}"), 2, file);
        r = test::wren(args);
        INFO(args << ": " << r.err);
        CHECK(r.code != 0);
        CHECK(oneSentence(r.err));
        CHECK(readFile(file) == before);
    }
    CHECK(test::wren("set " + file + " \"board.gauges=1.17 0.91 0.66 0.43 0.33 0.25\"").code == 0);
    CHECK(test::wren("set " + file + " board.gauges.5.thickness=0.010in").code == 0);
    CHECK(json::parse(readFile(file))["board"]["gauges"][5]["thickness"].get<double>() ==
          Approx(0.254));
}

TEST_CASE("Pages for the bench, the sawing list, the whole print and variants, by command",
          "[command][hand]") {
    const Folder folder;
    const std::string file = copyOfDemo(folder);
    const Ran text = test::wren("sheet " + file + " --of frets");
    CHECK(text.code == 0);
    CHECK(text.out.find("wire edge to edge") != std::string::npos);
    const std::string pdf = (folder / "nut.pdf").string();
    CHECK(test::wren("sheet " + file + " --of nut --out " + pdf).code == 0);
    CHECK(readFile(pdf).substr(0, 5) == "%PDF-");
    for (const char* bad : {"--of cake", "--of facets", "--of nut --at 30,50"}) {
        const Ran r = test::wren("sheet " + file + " " + bad);
        CHECK(r.code != 0);
        CHECK(oneSentence(r.err));
    }
    const Ran list = test::wren("list " + file + " --of cutlist");
    CHECK(list.code == 0);
    CHECK(list.out.find("fretboard,Hard maple,") != std::string::npos);
    CHECK(list.out.find("to buy") != std::string::npos);
    CHECK(test::wren("add " + file +
                     " sawing.boards wood=hard-maple length=1000 width=120 "
                     "thickness=20")
              .code == 0);
    CHECK(test::wren("list " + file + " --of cutlist").out.find(",1,0.0,0.0") != std::string::npos);
    const std::string svg = (folder / "whole.svg").string();
    CHECK(test::wren("export " + file + " --part instrument --format svg --out " + svg).code == 0);
    CHECK(readFile(svg).find("<svg") != std::string::npos);
    CHECK(test::wren("variants " + file).out == "No variant is kept in this project.\n");
    CHECK(test::wren("variants " + file + " --keep first --freeze first").out ==
          "first, frozen, as the present design\n");
    CHECK(test::wren("set " + file + " board.thickness=5.5").code == 0);
    CHECK(test::wren("variants " + file).out == "first, frozen\n");
    const Ran differs = test::wren("compare " + file + " --variant first");
    CHECK(differs.out.find("board.thickness") != std::string::npos);
    const Ran refused = test::wren("variants " + file + " --drop first");
    CHECK(refused.code != 0);
    CHECK(oneSentence(refused.err));
    CHECK(test::wren("variants " + file + " --take first").code == 0);
    CHECK(test::wren("variants " + file).out == "first, frozen, as the present design\n");
    CHECK(test::wren("compare " + file).code != 0);
}

TEST_CASE("A program is run through the air, traced and tried in another sheet, by command",
          "[command][air]") {
    const Folder folder;
    const std::string out = (folder / "job").string();
    REQUIRE(test::wren("make " + plainFile + " --out " + out).code == 0);
    const json report = json::parse(readFile(folder / "job" / "report.json"));
    for (const json& p : report["programs"]) {
        const std::string program = out + "/programs/" + p["file"].get<std::string>();
        const std::string air = (folder / "a.nc").string();
        CHECK(test::wren("air " + program + " --lift 1in -o " + air).code == 0);
        CHECK(readFile(air) ==
              readFile(folder / "job" / "air" / p["air"]["file"].get<std::string>()));
        CHECK(p["air"]["lift_mm"] == 25.4);
        const std::string trace = (folder / "t.nc").string();
        CHECK(test::wren("trace " + program + " -o " + trace).code == 0);
        CHECK(readFile(trace) ==
              readFile(folder / "job" / "trace" / p["trace"].get<std::string>()));
        CHECK(test::wren("check " + trace + " --bed 900,600,110").code == 0);
        CHECK(p["first_touch"]["line"].get<int>() > 10);
        CHECK(p["first_touch"]["at_mm"][2].get<double>() <= 6.8);
    }
    const Ran none = test::wren("air " + out + "/report.json -o " + (folder / "x.nc").string());
    CHECK(none.code == 1);
    CHECK(oneSentence(none.err));
    // The same board out of thicker, cheaper sheet: other depths, nothing edited.
    const std::string trial = (folder / "trial").string();
    const Ran tried =
        test::wren("trial " + plainFile + " --wood mdf --thickness 9mm --out " + trial);
    CHECK(tried.code == 0);
    const json other = json::parse(readFile(folder / "trial" / "report.json"));
    CHECK(other["project"] == report["project"].get<std::string>() + " trial");
    CHECK(other["setups"][0]["blank_mm"][2] == 9);
    CHECK(other["programs"].size() >= report["programs"].size());
    CHECK(test::wren("trial " + plainFile + " --wood cheese --thickness 9 --out " + trial).code ==
          1);
    CHECK(oneSentence(
        test::wren("trial " + plainFile + " --wood mdf --thickness 900 --out " + trial).err));
}
