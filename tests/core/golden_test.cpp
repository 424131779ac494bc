// What the posted programs of known projects move, byte for byte. A change here is meant or it is a
// mistake: scripts/golden.sh writes the list anew and asks why.

#include "base/digest.h"
#include "base/files.h"
#include "post/motion_text.h"

#include "support.h"

#include <cstdlib>
#include <map>
#include <set>
#include <sstream>

#include <fmt/format.h>
#include <nlohmann/json.hpp>

using namespace wren;

namespace {

const std::string goldenFolder = WREN_SOURCE "/tests/golden/";

Project projectOf(const nlohmann::json& entry) {
    Project p;
    if (entry.contains("file")) {
        p = loadProject(WREN_SOURCE "/" + entry.at("file").get<std::string>());
    } else {
        p = newProject(entry.at("name"), entry.at("strings"), entry.at("scale"),
                       entry.value("frets", 22),
                       entry.value("hand", "right") == "left" ? Hand::left : Hand::right);
        if (entry.contains("treble")) {
            p = withTrebleScale(p, entry.at("treble"), "7");
        }
    }
    for (const std::string& change : entry.value("set", std::vector<std::string>())) {
        const std::size_t equals = change.find('=');
        p = withKey(p, change.substr(0, equals), change.substr(equals + 1));
    }
    return p;
}

struct Golden {
    std::map<std::string, std::string> lines; ///< by project and file
    std::set<std::string> cuts;
};

Golden goldenNow() {
    Golden now;
    for (const auto& entry : nlohmann::json::parse(readFile(goldenFolder + "projects.json"))) {
        Derived d = deriveDrawing(projectOf(entry));
        derivePrograms(d);
        INFO(entry.at("name").get<std::string>());
        CHECK_FALSE(d.programs.empty());
        for (const PostedProgram& p : d.programs) {
            const std::string motion = motionText(p.program.text);
            now.lines[fmt::format("{} {}", entry.at("name").get<std::string>(), p.program.file)] =
                fmt::format("{} {} lines, {:.2f} min", sha256(motion).substr(0, 32),
                            std::count(motion.begin(), motion.end(), '\n'), p.time.seconds / 60);
            now.cuts.insert(p.program.what.begin(), p.program.what.end());
        }
    }
    return now;
}

std::map<std::string, std::string> goldenKept() {
    std::map<std::string, std::string> kept;
    std::istringstream in(readFile(goldenFolder + "motion.txt"));
    for (std::string line; std::getline(in, line);) {
        const std::size_t colon = line.find(": ");
        if (colon != std::string::npos) {
            kept[line.substr(0, colon)] = line.substr(colon + 2);
        }
    }
    return kept;
}

} // namespace

TEST_CASE("Posted motion is what it was", "[golden]") {
    if (WREN_SANITIZED) {
        return; // the same text; the plain build has it
    }
    const Golden now = goldenNow();
    if (std::getenv("WREN_GOLDEN_RENEW")) {
        std::string text;
        for (const auto& [name, line] : now.lines) {
            text += name + ": " + line + "\n";
        }
        writeFileSafely(goldenFolder + "motion.txt", text);
        return;
    }
    const auto kept = goldenKept();
    for (const auto& [name, line] : now.lines) {
        INFO(name);
        const auto it = kept.find(name);
        CHECK((it == kept.end() ? "not in the list" : it->second) == line);
    }
    for (const auto& [name, line] : kept) {
        INFO(name << " is not made any more");
        CHECK(now.lines.count(name) == 1);
    }
}

TEST_CASE("The golden projects touch every cut there is", "[golden]") {
    if (WREN_SANITIZED) {
        return;
    }
    std::string all;
    for (const std::string& what : goldenNow().cuts) {
        all += what + "\n";
    }
    INFO(all);
    // One word of each cut's name, as the recipes call them.
    for (const char* word :
         {"facing",   "radius", "slots",   "shelf",  "markers", "skim",    "outline",   "rod",
          "head",     "ledge",  "carving", "inlay",  "recess",  "cut-out", "engraving", "chamber",
          "channel",  "string", "ferrule", "pickup", "cavity",  "magnet",  "post",      "pot",
          "toggle",   "pins",   "screws",  "notch",  "carbon",  "nut",     "hollow",    "tuner",
          "register", "bolt",   "rough",   "finish", "rest"}) {
        INFO(word);
        CHECK(all.find(word) != std::string::npos);
    }
}
