// Each test spoils the posted text on purpose, the way a hand or a fault would, and asks that the
// proof names the program and the line.

#include "proof/proof.h"

#include "support.h"

#include <algorithm>

#include <fmt/format.h>

using namespace wren;
using test::findingOf;
using test::plainWith;

namespace {

struct Lines {
    std::vector<std::string> all;

    explicit Lines(const std::string& text) {
        std::size_t from = 0;
        while (from < text.size()) {
            const std::size_t end = text.find('\n', from);
            all.push_back(text.substr(from, end - from));
            from = end + 1;
        }
    }
    std::string text() const {
        std::string out;
        for (const std::string& l : all) {
            out += l + "\n";
        }
        return out;
    }
    /// Number, from 1, of the n-th line that contains the word.
    int find(const std::string& word, int nth = 1) const {
        for (std::size_t i = 0; i < all.size(); ++i) {
            if (all[i].find(word) != std::string::npos && --nth == 0) {
                return static_cast<int>(i) + 1;
            }
        }
        FAIL("no line with " + word);
        return 0;
    }
    std::string& at(int line) { return all[static_cast<std::size_t>(line - 1)]; }
    void insertAfter(int line, const std::string& text) { all.insert(all.begin() + line, text); }
};

const Derived& demo() {
    static const Derived d = derive(plainWith());
    return d;
}

/// The proof of the demo with one program's text changed.
ProofReport withText(std::size_t index, const std::string& text, const Derived& d = demo()) {
    std::vector<Program> programs;
    for (const PostedProgram& p : d.programs) {
        programs.push_back(p.program);
    }
    programs[index].text = text;
    return test::provedBoard(d, readBack(programs, *d.lies(Role::board)));
}

const std::string& textOf(std::size_t index) {
    return demo().programs[index].program.text;
}

void replaceAll(std::string& text, const std::string& from, const std::string& to) {
    for (std::size_t at = 0; (at = text.find(from, at)) != std::string::npos; at += to.size()) {
        text.replace(at, from.size(), to);
    }
}

/// Replaces the Z word of a line.
void setZ(std::string& line, const std::string& z) {
    const std::size_t at = line.find('Z');
    REQUIRE(at != std::string::npos);
    const std::size_t end = line.find_first_of(" \n", at);
    line.replace(at, (end == std::string::npos ? line.size() : end) - at, "Z" + z);
}

} // namespace

TEST_CASE("The demo passes its proof within every tolerance", "[proof]") {
    const ProofReport& p = *demo().proofOf(Role::board);
    CHECK(p.passed);
    CHECK(p.findings.empty());
    CHECK(p.cell <= 0.2);
    CHECK(p.gougeMax <= 0.01);
    CHECK(p.gougeMax > 0); // it really measured: the slots' chords show
    CHECK(p.excessMax <= 0.015 + 0.02);
    CHECK(p.excessMax > 0.005);
    // Ridges between passes of a round end are parabolas: h / sqrt(5) of their height, rms.
    CHECK(p.excessRms == Approx(0.015 / std::sqrt(5)).epsilon(0.15));
    CHECK(p.wallMax <= 0.02);
}

TEST_CASE("Odd boards pass as well", "[proof][long]") {
    const std::initializer_list<std::pair<const char*, const char*>> boards[] = {
        {{"board.strings", "9"},
         {"board.nut_width", "62"},
         {"board.last_fret_width", "84"},
         {"blank.width", "110"}},
        {{"board.frets", "1"}},
        {{"board.frets", "36"}, {"blank.length", "620"}},
        {{"board.last_fret_width", "43"}}, // no taper
        {{"board.last_fret_width", "38"}}, // narrower at the bridge end
        {{"board.radius", "7 1/4 in"}, {"board.thickness", "1/4 in"}},
        {{"board.radius", "2000"}},
        {{"hold.z_zero", "top"}},
        {{"machine.units", "inch"}, {"blank.thickness", "0.281 in"}},
        {{"cut.school", "slots-first"}},
        {{"cut.radius.bit", "flat-3"}},
        {{"cut.scallop", "0.3"}},
        {{"board.radius", "184"},
         {"board.thickness", "4.6"},
         {"cut.tab_height", "2.2"}}, // edge below tabs
        {{"cut.scallop", "0.05"}, {"cut.school", "slots-first"}, {"board.last_fret_width", "42"}},
        {{"cut.outline.bit", "flat-3"}},
        {{"cut.scallop", "0.005"}},
        {{"blank.thickness", "6"}}, // nothing to plane off
        {{"blank.thickness", "14"}},
    };
    for (const auto& changes : boards) {
        std::string name;
        for (const auto& [k, v] : changes) {
            name += std::string(k) + "=" + v + " ";
        }
        INFO(name);
        const Derived d = derive(plainWith(changes));
        for (const Finding& f : d.findings) {
            INFO(f.message);
            CHECK(f.weight != Weight::stop);
        }
        REQUIRE(d.proofOf(Role::board));
        CHECK(d.proofOf(Role::board)->gougeMax <= 0.01);
        CHECK(d.proofOf(Role::board)->excessMax <= d.project.cut.scallop + 0.02);
        CHECK(d.proofOf(Role::board)->wallMax <= 0.02);
    }
}

TEST_CASE("A pass a little too deep is a gouge, with program and line", "[proof][spoiled]") {
    Lines lines(textOf(0));
    // A long finishing pass near the middle: sink both its ends by 0.05 mm.
    int line = 0;
    for (int i = static_cast<int>(lines.all.size()) / 2; i < static_cast<int>(lines.all.size());
         ++i) {
        if (lines.at(i).find('Z') != std::string::npos &&
            lines.at(i).find('Y') != std::string::npos) {
            line = i;
        }
        if (line && i > static_cast<int>(lines.all.size()) * 3 / 4) {
            break;
        }
    }
    const std::size_t at = lines.at(line).find('Z');
    const double z = std::stod(lines.at(line).substr(at + 1));
    setZ(lines.at(line), fmt::format("{:.4f}", z - 0.05));
    const ProofReport p = withText(0, lines.text());
    const auto f = findingOf(p.findings, "gouge");
    REQUIRE(f);
    CHECK(f->weight == Weight::stop);
    CHECK(f->program == "01-fretboard-radius-ball-12.nc");
    CHECK(std::abs(f->line - line) <= 1); // the move into the spot, or the pass it begins
    CHECK(f->value == Approx(0.05).margin(0.012));
    CHECK(f->message.find("line " + std::to_string(f->line)) != std::string::npos);
    CHECK_FALSE(p.passed);
}

TEST_CASE("Finishing left out is wood left over", "[proof][spoiled]") {
    const ProofReport p = withText(0, "G21 G90\nM2\n");
    const auto f = findingOf(p.findings, "wood-left");
    REQUIRE(f);
    CHECK(f->value > 0.5);
    CHECK_FALSE(p.passed);
}

TEST_CASE("A shifted slot is a wall out of place", "[proof][spoiled]") {
    Lines lines(textOf(1));
    // Every X of slot 5 moved by 0.03 mm: too little to see in the field of heights.
    const double x = demo()
                         .lies(Role::board)
                         ->fromInstrument.toSetup({demo().board->slots()[4].middle(), 0, 0})
                         .x;
    const std::string word = fmt::format("X{:.4f}", x);
    const int line = lines.find(word);
    lines.at(line).replace(lines.at(line).find(word), word.size(),
                           fmt::format("X{:.4f}", x + 0.03));
    const ProofReport p = withText(1, lines.text());
    const auto f = findingOf(p.findings, "wall");
    REQUIRE(f);
    CHECK(f->value == Approx(0.03).margin(0.002));
    CHECK(f->program == "02-fretboard-slots-slot-0.58.nc");
    CHECK(f->line >= line);
    CHECK(f->message.find("slot 5") != std::string::npos);
    // Half of that is within what is allowed.
    Lines less(textOf(1));
    less.at(line).replace(less.at(line).find(word), word.size(), fmt::format("X{:.4f}", x + 0.01));
    CHECK(withText(1, less.text()).passed);
}

TEST_CASE("An outline too near or too far is a wall out of place", "[proof][spoiled]") {
    for (double shift : {0.05, -0.05}) {
        Lines lines(textOf(2));
        // The nut end's straight piece: its X in every lap.
        const std::string word = "X19.4908";
        const int first = lines.find(word);
        for (std::string& l : lines.all) {
            const std::size_t at = l.find(word);
            if (at != std::string::npos) {
                // The arcs there keep their radius only if both ends follow; replace by lines.
                l = fmt::format("G1 X{:.4f} Y17", 19.4908 + shift);
            }
        }
        INFO(first);
        for (std::string& l : lines.all) {
            if (l == "G1 Y60") {
                l = fmt::format("G1 X{:.4f} Y60", 19.4908 + shift);
            }
            if (l.rfind("G2 X22.4454", 0) == 0) {
                l = "G1 X22.4454 Y62.9997";
            }
        }
        const ProofReport p = withText(2, lines.text());
        const auto f = findingOf(p.findings, "wall");
        REQUIRE(f);
        CHECK(f->value >= 0.03);
        CHECK(f->program == "03-fretboard-outline-flat-6.nc");
    }
}

TEST_CASE("A through cut exactly to the underside leaves a skin", "[proof][spoiled]") {
    std::string text = textOf(2);
    replaceAll(text, "Z-0.3", "Z0");
    const ProofReport p = withText(2, text);
    const auto f = findingOf(p.findings, "skin-left");
    REQUIRE(f);
    CHECK(f->program == "03-fretboard-outline-flat-6.nc");
    CHECK(f->line > 20);
    CHECK(f->message.find("0.00 mm of wood") != std::string::npos);
}

TEST_CASE("A cut that stops short leaves a thicker skin", "[proof][spoiled]") {
    std::string text = textOf(2);
    replaceAll(text, "Z-0.3", "Z0.4");
    const auto f = findingOf(withText(2, text).findings, "skin-left");
    REQUIRE(f);
    CHECK(f->value == Approx(0.4).margin(0.01));
}

TEST_CASE("Tabs cut away set the board free", "[proof][spoiled]") {
    std::string text = textOf(2);
    replaceAll(text, "Z1.5", "Z-0.3");
    const ProofReport p = withText(2, text);
    const auto f = findingOf(p.findings, "part-free");
    REQUIRE(f);
    CHECK(f->program == "03-fretboard-outline-flat-6.nc");
    CHECK(f->line > 0);
    CHECK(findingOf(derive(plainWith({{"cut.tabs_per_side", "0"}})).findings, "part-free"));
}

TEST_CASE("A board that must be cut without one of its bits can be posted for a reason",
          "[proof]") {
    Project p = plainWith();
    p.bits.erase(p.bits.begin(), p.bits.begin() + 2); // the slots are sawn by hand
    const Derived d = derive(p);
    CHECK(findingOf(d.findings, "no-slot-bit"));
    CHECK(findingOf(d.findings, "wood-left"));
    CHECK_FALSE(hasFirmStop(d.findings));
    CHECK(d.programs.size() == 2);
}

TEST_CASE("One tab alone still holds the board", "[proof]") {
    const Derived d = derive(plainWith({{"cut.tabs_per_side", "1"}}));
    CHECK_FALSE(findingOf(d.findings, "part-free"));
}

TEST_CASE("A rapid through the wood is named", "[proof][spoiled]") {
    Lines lines(textOf(1));
    const int line = lines.find("G0 Z", 3); // a lift between two slots
    const std::string before = lines.at(line);
    lines.at(line) = "G0 Z4.5"; // too low to travel to the next slot
    const ProofReport p = withText(1, lines.text());
    const auto f = findingOf(p.findings, "rapid-through-stock");
    INFO(before);
    REQUIRE(f);
    CHECK(f->program == "02-fretboard-slots-slot-0.58.nc");
    CHECK(f->line >= line);
    CHECK(f->line <= line + 2);
    CHECK(f->value > 0.1);
}

TEST_CASE("Flutes shorter than the cut are named, by bit", "[proof][spoiled]") {
    Project p = plainWith();
    for (Bit& b : p.bits) {
        if (b.name == "slot-0.58") {
            b.fluteLength = 1.9; // the slot is 2.0 deep
        }
    }
    p.cut.slots.bit = "slot-0.58"; // the recipe itself would not have taken it
    const Derived d = derive(p);
    const auto f = findingOf(d.findings, "flutes-too-short");
    REQUIRE(f);
    CHECK(f->program == "02-fretboard-slots-slot-0.58.nc");
    CHECK(f->line > 0);
    CHECK(f->limit == Approx(1.9));
    CHECK(f->value > 1.9);
}

TEST_CASE("Moves outside travel and into the bed cannot be overridden", "[proof][spoiled]") {
    Lines outside(textOf(0));
    const int at = outside.find("M5");
    outside.insertAfter(at - 1, "G0 Y-262");
    const auto f = findingOf(withText(0, outside.text()).findings, "outside-travel");
    REQUIRE(f);
    CHECK_FALSE(f->overridable);
    CHECK(f->line == at);
    CHECK(f->message.find("Y would stand at -0.5 mm") != std::string::npos);
    // By a hair it is told by the hair.
    outside.insertAfter(at - 1, "G0 Y-261.54");
    const auto hair = findingOf(withText(0, outside.text()).findings, "outside-travel");
    REQUIRE(hair);
    CHECK(hair->message.find("Y would stand at -0.040 mm") != std::string::npos);
    std::string text = textOf(2);
    replaceAll(text, "Z-0.3", "Z-2.5");
    const auto bed = findingOf(withText(2, text).findings, "into-bed");
    REQUIRE(bed);
    CHECK_FALSE(bed->overridable);
    CHECK(bed->value == Approx(2.5));
}

TEST_CASE("A blank beyond the machine is stopped only where the moves leave it", "[proof]") {
    const Derived over =
        derive(plainWith({{"blank.length", "950"}})); // overhangs, is not cut there
    CHECK(over.proofOf(Role::board)->passed);
    CHECK(findingOf(over.findings, "blank-overhangs")->value == Approx(25));
    const Derived d = derive(
        plainWith({{"board.scale", "1200"}, {"board.frets", "30"}, {"blank.length", "1050"}}));
    const auto f = findingOf(d.findings, "outside-travel");
    REQUIRE(f);
    CHECK(hasFirmStop(d.findings));
    const auto z = findingOf(
        derive(plainWith({{"blank.thickness", "19"}, {"machine.travel_z", "20"}})).findings,
        "outside-travel");
    REQUIRE(z);
    CHECK(z->message.find("travel") != std::string::npos);
    CHECK(z->line > 0);
}

TEST_CASE("A standing spindle and a missing end are stops", "[proof][spoiled]") {
    std::string text = textOf(2);
    const std::size_t m3 = text.find(" M3");
    text.erase(m3, 3);
    CHECK(findingOf(withText(2, text).findings, "spindle-off"));
    std::string endless = textOf(2);
    endless.erase(endless.find("M2\n"));
    CHECK(findingOf(withText(2, endless).findings, "no-end"));
    std::string turning = textOf(2);
    turning.erase(turning.find("M5\n"), 3);
    CHECK(withText(2, turning).passed); // M2 itself stops the spindle (NIST IR 6556, 3.6.1)
}

TEST_CASE("The result does not depend on the cell's luck", "[proof]") {
    const Derived& d = demo();
    for (double cell : {0.2, 0.17, 0.13}) {
        const ProofReport p = test::provedBoard(d, d.read(Role::board), cell);
        CHECK(p.passed);
        CHECK(p.excessMax == Approx(d.proofOf(Role::board)->excessMax).margin(0.003));
    }
}
