// What no longer follows from the project of what was posted from it.
#include "neck_support.h"

#include "job/posting.h"
#include "job/stale.h"
#include "job/store.h"

using namespace wren;
using namespace wren::test;
using Catch::Matchers::Contains;

namespace {

PostedFolder onlyFolder(const std::filesystem::path& file, const std::string& name) {
    const std::vector<PostedFolder> all = postedBeside(file, name);
    REQUIRE(all.size() == 1);
    return all.front();
}

bool anyStarts(const std::vector<std::string>& all, const std::string& with) {
    return std::any_of(all.begin(), all.end(),
                       [&](const std::string& s) { return s.rfind(with, 0) == 0; });
}

} // namespace

TEST_CASE("A change upstream marks the programs it touches, says what changed and what is cut",
          "[stale]") {
    const Folder folder;
    const Project p = neckWith({});
    const auto file = folder / "p.wren";
    saveProject(p, file);
    const Derived before = derive(p);
    REQUIRE(post(before, folder / "out") != PostingRight::refused);
    const PostedFolder posted = onlyFolder(file, p.name);
    CHECK(stalenessOf(posted, before, {}).stale.empty());
    CHECK(stalenessOf(posted, before, {}).changed.empty());
    CHECK(stalenessOf(posted, before, {}).good == before.programs.size());

    // The slots' depth: the board's programs that cut them, none of the neck's.
    const Project next = withKey(p, "board.slot_depth", "2.3mm");
    Derived after = deriveDrawing(next);
    derivePrograms(after);
    std::vector<RunRecord> runs(1);
    runs[0].project = p.name;
    runs[0].outcome = "done";
    for (const PostedProgram& program : before.programs) {
        if (program.program.file.find("slots") != std::string::npos) {
            runs[0].motion = program.motion;
        }
    }
    const Staleness found = stalenessOf(posted, after, runs);
    REQUIRE_FALSE(found.stale.empty());
    int cut = 0;
    for (const Staleness::Stale& s : found.stale) {
        CHECK(s.part == "fretboard");
        const bool slots = s.program.find("slots") != std::string::npos;
        CHECK(s.cut == slots);
        cut += s.cut ? 1 : 0;
    }
    CHECK(cut == 1);
    CHECK(found.good + found.stale.size() == before.programs.size());
    CHECK(anyStarts(found.changed, "board.slot_depth: 2.3"));
    CHECK_THAT(found.changed.front(), Contains("was 2")); // the usual, which no file spells out
    CHECK_THAT(stalenessText(posted, found), Contains("cut already") && Contains("slot_depth"));
}

TEST_CASE("What changed is told key by key, lists by how long they are", "[stale]") {
    Project p = neckWith({});
    const std::string then = decidedKeys(p);
    CHECK(changesBetween(then, p).empty());
    p = withKey(p, "neck_blank.thickness", "26mm");
    p.body.chambers.resize(2);
    const std::vector<std::string> changed = changesBetween(then, p);
    CHECK(anyStarts(changed, "neck_blank.thickness: 26"));
    CHECK(anyStarts(changed, "body.chambers: how many, 2, was as usual"));
    // Names, what the bed is like and how the controller is spoken to decide nothing.
    Project same = neckWith({});
    same.name = "Another";
    same.machine.spoil.thickness = 11;
    same.machine.talk = plainController();
    CHECK(changesBetween(then, same).empty());
    same.clamps.resize(1); // ways between cuts are led round it
    CHECK(anyStarts(changesBetween(then, same), "clamps: how many, 1"));
    CHECK(changesBetween("not json", p).empty());
}
