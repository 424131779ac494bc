// Commands that speak to a machine one thing at a time, and those of the shop's memory.
#include "support.h"

#include "base/files.h"
#include "job/store.h"
#include "run/steps.h"

using namespace wren;
using namespace wren::test;
using Catch::Matchers::Contains;

namespace {

const std::string wren_ = std::string(WREN_BIN) + "/wren ";

} // namespace

TEST_CASE("A description goes out and in by command", "[controller][command]") {
    const Folder folder;
    const std::string file = (folder / "c.json").string();
    const std::string project = (folder / "p.wren").string();
    saveProject(loadProject(plainFile), project);
    CHECK(run(wren_ + "describe --as signals --export " + file).code == 0);
    CHECK(controllerFromJson(readFile(file), file) == signalController());
    CHECK(run(wren_ + "describe " + project + " --import " + file).code == 0);
    CHECK(loadProject(project).machine.talk == signalController());
    CHECK(run(wren_ + "describe " + project + " --export " + file + "2").code == 0);
    CHECK(controllerFromJson(readFile(file + "2"), file) == signalController());
    CHECK_THAT(run(wren_ + "describe --as loud --export " + file).err, Contains("No description"));
    CHECK_THAT(run(wren_ + "describe " + project).err, Contains("one of them"));
    CHECK_THAT(run(wren_ + "describe --import " + file).err, Contains("wants the project"));
    CHECK(run(wren_ + "ports").code == 0);
}

TEST_CASE("A machine is jogged and probed by command, in its own manner", "[controller][command]") {
    for (const char* manner : {"stand-in", "signals"}) {
        const Folder folder;
        const std::string file = (folder / "c.json").string();
        run(wren_ + "describe --as " + manner + " --export " + file);
        const ControllerProcess machine(std::string("--tcp 0 --speed 500 --manner ") + manner);
        const std::string to = " --to " + machine.address() + " --describe " + file;
        const Ran jogged = run(wren_ + "jog \"X10 Y0.5in Z-2\"" + to);
        INFO(manner << ": " << jogged.err);
        CHECK(jogged.code == 0);
        CHECK_THAT(jogged.out, Contains("machine X 10.000 Y 12.700 Z -2.000"));
        // The bed lies at -100, the plate on it is 12 mm thick.
        const Ran probed = run(wren_ + "probe --plate 12mm" + to);
        CHECK_THAT(probed.out, Contains("-88.000") && Contains("-100.000"));
        CHECK_THAT(run(wren_ + "jog \"W5\"" + to).err, Contains("no way to jog"));
        CHECK_THAT(run(wren_ + "jog \"X5000\"" + to).err, Contains("."));
    }
    CHECK_THAT(run(wren_ + "jog X1 --to tcp:127.0.0.1:1").err, Contains("cannot be reached"));
}

TEST_CASE("A run is taken up again by command, from a line that is there", "[resume][command]") {
    const Folder folder;
    const std::string project = (folder / "p.wren").string();
    const std::string book = " --book " + (folder / "b.sqlite").string();
    saveProject(loadProject(plainFile), project);
    const ControllerProcess machine("--tcp 0 --speed 20000");
    const std::string to = " --to " + machine.address() + book;
    const Ran ran = run(wren_ + "run " + project + " --program 2 --from-line 40" + to);
    INFO(ran.err);
    CHECK(ran.code == 0);
    CHECK_THAT(ran.out, Contains("Over the work to") && Contains("from line 40"));
    CHECK_THAT(run(wren_ + "run " + project + " --program 2 --from-line 999999" + to).err,
               Contains("there is no line 999999"));
    const Ran runs = run(wren_ + "book runs --json" + book);
    CHECK_THAT(runs.out, Contains("from line 40"));
}

TEST_CASE("The shop's memory is written and read by command", "[shop-memory][command]") {
    const Folder folder;
    const std::string project = (folder / "p.wren").string();
    const std::string book = " --book " + (folder / "b.sqlite").string();
    saveProject(loadProject(plainFile), project);
    CHECK(run(wren_ + "measure " + project + " fretboard.slot_width=0.6mm --moisture 8" + book)
              .code == 0);
    CHECK(loadProject(project).board.slotWidth == loadProject(plainFile).board.slotWidth);
    CHECK_THAT(run(wren_ + "book measurements --csv" + book).out,
               Contains("fretboard.slot_width,0.6,"));
    CHECK_THAT(run(wren_ + "measure " + project + " fretboard.slot_width=0.6" + book).err,
               Contains("no unit"));
    CHECK(run(wren_ + "book add mishap what=chatter bit=flat-6 wood=white-ash" + book).code == 0);
    CHECK_THAT(run(wren_ + "book mishaps --json" + book).out, Contains("\"what\": \"chatter\""));
    CHECK_THAT(run(wren_ + "book add dream what=x" + book).err, Contains("keeps no"));
    CHECK_THAT(run(wren_ + "book notes" + book).out, Contains("no notes yet"));
    const std::string copy = (folder / "copy.sqlite").string();
    CHECK(run(wren_ + "book backup " + copy + book).code == 0);
    CHECK(run(wren_ + "book add note text=later" + book).code == 0);
    CHECK(run(wren_ + "book restore " + copy + book).code == 0);
    CHECK_THAT(run(wren_ + "book notes" + book).out, Contains("no notes yet"));
}

TEST_CASE("A probed height that cannot be is questioned", "[controller]") {
    Setup setup;
    setup.blank.thickness = 20;
    setup.zZero = ZZero::top;
    const Machine machine;
    // The bed at -80: a plate of 12 mm on a blank of 20 mm is touched at -48.
    CHECK(doubtOf(-48, setup, machine, -80).empty());
    CHECK(doubtOf(-48.4, setup, machine, -80).empty()); // as well as a blank is measured
    CHECK_THAT(doubtOf(-51, setup, machine, -80), Contains("17.00 mm thick"));
    CHECK_THAT(doubtOf(-68, setup, machine, -80), Contains("20.00")); // it lies on the bed
    CHECK(doubtOf(-48, setup, machine).empty()); // the bed is not known
    CHECK_THAT(doubtOf(20, setup, machine), Contains("axis that travels"));
}
