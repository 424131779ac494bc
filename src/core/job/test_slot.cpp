#include "job/test_slot.h"
#include "job/own_woods.h"

#include "base/digest.h"
#include "base/error.h"
#include "base/files.h"
#include "base/length.h"
#include "cut/board_bits.h"
#include "cut/slot_cut.h"
#include "exchange/pdf.h"
#include "job/store.h"
#include "proof/travel.h"

#include <algorithm>

#include <fmt/format.h>

namespace wren {
namespace {

constexpr double flat = 1e6; ///< a radius that drops a third of a micrometre over an offcut's width
constexpr double overhang = 3;

/// The offcut as a small board: slots at the frets of a short scale, right through, the rest bare.
Fretboard offcutBoard(const Project& p) {
    Fretboard b;
    b.strings = 4;
    b.scaleLength = 4 * p.offcut.length;
    b.frets = testSlotCount;
    b.nutSpread = b.bridgeSpread = p.offcut.width - 2 * overhang;
    b.overhangBass = b.overhangTreble = overhang;
    b.thickness = p.offcut.thickness;
    b.radius = flat;
    b.slotWidth = p.board.slotWidth;
    b.slotDepth = p.board.slotDepth;
    b.wire = p.board.wire;
    b.pastLastFret = p.offcut.length - Fan::share(testSlotCount) * b.scaleLength;
    return b;
}

Finding& stop(Findings& findings, std::string code, std::string message, double value,
              double limit) {
    Finding& f =
        sayOfBoard(findings, Weight::stop, std::move(code), std::move(message), value, limit);
    f.part = Role::testSlots;
    f.overridable = false;
    return f;
}

BoardPlan planOf(const BoardPart& board, const Setup& setup, const Project& p,
                 const CutSettings& how) {
    BoardPlan plan;
    plan.face().setup = setup;
    const Candidates bits = bitsForSlots({board, setup, p.bits, how});
    plan.findings = bits.findings;
    if (bits.bits.empty()) {
        return plan;
    }
    Cut cut{CutKind::slots};
    cut.bit = *bits.bits.front();
    cut.why = bits.why;
    cut.feeds = feedsFor(cut.bit, woodOf(p, p.blank.wood), p.machine, how.slots);
    cut.path = slotPath(board, setup, cut.bit, cut.feeds, how);
    plan.face().cuts.push_back(std::move(cut));
    return plan;
}

/// The little form: what was cut, how, and lines to write the measurements on.
std::string formPdf(const TestSlots& test, const Project& p) {
    const LengthUnit unit = p.machine.programUnit;
    const auto size = [unit](double mm) { return formatLength(mm, unit); };
    const Cut& cut = test.plan->face().cuts.front();
    const FretWire& w = p.board.wire;
    constexpr double left = 15;
    constexpr double width = 210 - 2 * left;
    Pdf pdf(p.name + ", test slots");
    pdf.page(210, 148); // A5, lying
    pdf.text({left, 18}, p.name + ": test slots", 7, Face::strong);
    double y = pdf.paragraph(
        {left, 27}, width,
        fmt::format(
            "Offcut {} x {} x {} of {}, the wood of the board. Z zero on its face, X-Y zero "
            "at its front left corner; clamp it at its ends, the slots run out at the front "
            "and the back.",
            formatLengthValue(p.offcut.length, unit), formatLengthValue(p.offcut.width, unit),
            size(p.offcut.thickness), woodOf(p, p.blank.wood).name),
        3.6);
    y = pdf.paragraph({left, y + 2}, width,
                      fmt::format("Bit {} ({}), {:.0f} rpm, {:.0f} mm/min, {} a pass, {} deep. {}",
                                  cut.bit.name, formatLength(cut.bit.diameter, unit, 3),
                                  cut.feeds.rpm, cut.feeds.feed, size(cut.feeds.depthPerPass),
                                  size(p.board.slotDepth), test.program->program.file),
                      3.6);
    y = pdf.paragraph({left, y + 2}, width,
                      fmt::format("The slot is drawn {} wide; a tang of {} wants {} to {}.",
                                  size(p.board.slotWidth), size(w.tangWidth),
                                  formatLengthValue(w.tangWidth + w.fitLeast, unit),
                                  size(w.tangWidth + w.fitMost)),
                      3.6);
    y += 8;
    pdf.text({left + 30, y}, "measured", 3.6, Face::strong);
    pdf.text({left + 75, y}, "a piece of the wire", 3.6, Face::strong);
    for (int i = 1; i <= testSlotCount; ++i) {
        y += 9;
        pdf.text({left, y}, fmt::format("slot {}", i), 3.6);
        pdf.line({left + 30, y + 0.8}, {left + 65, y + 0.8});
        double x = left + 75;
        for (const char* word : {"falls in", "holds when pressed", "will not go in"}) {
            pdf.rectangle({x, y - 2.8}, {x + 3.2, y + 0.4});
            x += 5 + pdf.text({x + 5, y}, word, 3.6) + 6;
        }
    }
    pdf.text({left, y + 12}, "bit's runout, date, by", 3.6);
    pdf.line({left + 42, y + 12.8}, {left + width, y + 12.8});
    pdf.paragraph(
        {left, y + 21}, width,
        "Enter the mean as the test slot: from then on it, not the bit's name, judges the "
        "fit of the frets.",
        3.6);
    return pdf.finish();
}

} // namespace

TestSlots deriveTestSlots(const Project& p) {
    TestSlots t;
    if (p.board.slotDepth >= p.offcut.thickness) {
        stop(t.findings, "slot-through-offcut",
             fmt::format("The slots are {:.2f} mm deep and the offcut {:.2f} mm thick; a thicker "
                         "offcut is needed.",
                         p.board.slotDepth, p.offcut.thickness),
             p.board.slotDepth, p.offcut.thickness);
        return t;
    }
    t.offcut.emplace(offcutBoard(p));
    CutSettings how = p.cut;
    how.school = School::radiusFirst; // into the face as it lies
    how.facing = Facing::never;
    Blank blank{p.offcut.length, p.offcut.width, p.offcut.thickness, p.blank.wood};
    blank.own = ownWood(p, blank.wood);
    Setup setup = layBoard(*t.offcut, blank, p.machine, ZZero::top);
    setup.part = Role::testSlots;
    setup.datum = "front left corner of the offcut";
    t.plan = planOf(*t.offcut, setup, p, how);
    t.findings.insert(t.findings.end(), t.plan->findings.begin(), t.plan->findings.end());
    if (t.plan->face().cuts.empty()) {
        return t;
    }
    const std::vector<Program> programs =
        postPrograms(*t.plan, p.machine, {p.name, designHash(p), {}});
    const std::vector<RunProgram> read = readBack(programs, setup);
    const SidePrograms programsRead{read, {}};
    const PartProof proof = proveBoard(
        *t.offcut, boardSides(*t.offcut, heldAs(setup), programsRead), *t.plan, how, p.machine);
    const Findings& found = proof.sides[0].findings;
    t.findings.insert(t.findings.end(), found.begin(), found.end());
    t.program = PostedProgram::of(programs[0], read[0], p.machine);
    t.program->program.file = "test-slots.nc";
    return t;
}

void postTestSlots(const TestSlots& t, const Project& project, const std::filesystem::path& dir) {
    if (!t.program || hasStop(t.findings)) {
        const auto stopping =
            std::find_if(t.findings.begin(), t.findings.end(),
                         [](const Finding& f) { return f.weight == Weight::stop; });
        throw Error(stopping == t.findings.end() ? "There is no test cut to write."
                                                 : stopping->message);
    }
    makeFolder(dir);
    writeFilesSafely({{dir / "test-slots.nc", t.program->program.text},
                      {dir / "test-slots.pdf", formPdf(t, project)}});
}

} // namespace wren
