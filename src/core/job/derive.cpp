#include "job/derive.h"

#include "base/error.h"
#include "cut/panel_bits.h"
#include "hold/pins_within.h"
#include "hold/stations.h"
#include "job/as_measured.h"
#include "job/bed.h"
#include "job/clamps.h"
#include "job/judge_measured.h"
#include "job/judge_wood.h"
#include "job/own_woods.h"
#include "job/part_inputs.h"
#include "job/plan_parts.h"
#include "job/probe_spot.h"
#include "job/prove_parts.h"
#include "job/put_together.h"
#include "job/shop_boards.h"
#include "job/store.h"
#include "part/glued_body.h"
#include "part/judge_neck_part.h"
#include "part/judge_setup.h"
#include "part/judge_wings.h"
#include "proof/designed.h"

#include <algorithm>

#include <fmt/format.h>
#include <tbb/task_group.h>

namespace wren {

Derived::Derived() = default;
Derived::Derived(const Derived&) = default;
Derived::Derived(Derived&&) noexcept = default;
Derived& Derived::operator=(const Derived&) = default;
Derived& Derived::operator=(Derived&&) noexcept = default;
Derived::~Derived() = default;

namespace {

void append(Findings& to, const Findings& from) {
    to.insert(to.end(), from.begin(), from.end());
}

/// The heaviest first; within a weight in the order they were found.
void sortByWeight(Findings& findings) {
    std::stable_sort(findings.begin(), findings.end(),
                     [](const Finding& a, const Finding& b) { return a.weight < b.weight; });
}

} // namespace

const PartJob* Derived::job(PartId part) const {
    const auto it =
        std::find_if(parts.begin(), parts.end(), [&](const PartJob& j) { return j.id == part; });
    return it == parts.end() ? nullptr : &*it;
}

bool Derived::proved() const {
    return std::any_of(parts.begin(), parts.end(),
                       [](const PartJob& job) { return job.proof != nullptr; });
}

std::vector<const PartJob*> Derived::pieces() const {
    std::vector<const PartJob*> out;
    for (const PartJob& job : parts) {
        if (job.panel) {
            out.push_back(&job);
        }
    }
    return out;
}

const Setup* Derived::lies(PartId part, std::size_t side) const {
    const PartJob* j = job(part);
    return j && j->placed ? &j->held.side(side) : nullptr;
}

const BoardPlan* Derived::boardPlan() const {
    const PartJob* j = job(Role::board);
    return j && j->isPlanned ? &j->boardPlan() : nullptr;
}

const std::vector<RunProgram>& Derived::read(PartId part, std::size_t side) const {
    static const std::vector<RunProgram> none;
    const PartJob* j = job(part);
    return j ? j->read[side] : none;
}

const ProofReport* Derived::proofOf(PartId part, std::size_t side) const {
    const PartJob* j = job(part);
    return j && j->proof ? &j->proof->sides[side] : nullptr;
}

double Derived::seconds() const {
    double sum = 0;
    for (const PostedProgram& p : programs) {
        sum += p.time.seconds;
    }
    return sum;
}

double Derived::secondsPlain() const {
    double sum = 0;
    for (const PostedProgram& p : programs) {
        sum += p.time.secondsPlain;
    }
    return sum;
}

double Derived::secondsInAir(const std::vector<PartId>& of) const {
    double sum = 0;
    for (const PartJob& job : parts) {
        const bool counts = of.empty() || std::find(of.begin(), of.end(), job.id) != of.end();
        for (std::size_t side = 0; job.proof && counts && side < 2; ++side) {
            for (const ProgramLoad& l : job.proof->sides[side].loads) {
                sum += l.airSeconds;
            }
        }
    }
    return sum;
}

const ProgramLoad* Derived::loadOf(const std::string& program) const {
    for (const PartJob& job : parts) {
        for (std::size_t side = 0; job.proof && side < 2; ++side) {
            for (const ProgramLoad& l : job.proof->sides[side].loads) {
                if (l.program == program) {
                    return &l;
                }
            }
        }
    }
    return nullptr;
}

ProgramPlace Derived::placeOf(std::size_t program) const {
    std::size_t i = program;
    for (const PartJob& job : parts) {
        for (std::size_t side = 0; side < 2; ++side) {
            if (i < job.read[side].size()) {
                return {&job, side, i};
            }
            i -= job.read[side].size();
        }
    }
    return {};
}

std::vector<PartId> Derived::wanted() const {
    std::vector<PartId> out;
    if (!project.carved()) {
        out.emplace_back(Role::board);
    }
    if (wantsNeck()) {
        out.emplace_back(Role::neck);
    }
    for (const PartJob* job : pieces()) {
        out.push_back(job->id);
    }
    if (project.wantsBody() && !body) {
        out.emplace_back(Role::body);
    }
    return out;
}

namespace {

/// Whether two projects have the same neck, lying the same way.
bool sameNeck(const Project& a, const Project& b) {
    return a.board == b.board && a.neck == b.neck && a.neckBlank == b.neckBlank &&
           a.neckHold == b.neckHold && a.machine == b.machine;
}

void drawBoard(Derived& d) {
    const Project& p = d.project;
    const Findings blank = judgeBlank(*d.board, p.blank);
    append(d.findings, blank);
    PartJob job;
    job.id = Role::board;
    job.placed = !hasFirmStop(blank);
    if (job.placed) {
        job.held = heldAs(layBoard(*d.board, p.blank, p.machine.onLine(p.blank.line), p.zZero));
        layFlatInStations(job.held, d.board->outline(), p.neckHold, p.machine);
        append(d.findings, judgeFlatStations(job.held, d.board->outline(), p.neckHold, p.machine));
    }
    d.parts.push_back(std::move(job));
}

void drawNeck(Derived& d) {
    const Project& p = d.project;
    const Findings numbers = judgeNeckNumbers(p.neck, p.board);
    append(d.findings, numbers);
    if (hasStop(numbers)) {
        return;
    }
    NeckPart part(p.neck, p.board);
    Findings found = judgeNeck(p.neck, p.board, part.outline(), part.back());
    append(found, judgeNeckPart(part));
    PartJob job;
    job.id = Role::neck;
    *job.planned = NeckPlan();
    job.placed = !hasFirmStop(found);
    const Machine machine = p.machine.onLine(p.neckBlank.line);
    job.held = layNeck(part, p.neckBlank, p.neckHold, machine);
    const Findings held = judgeNeckHold(part, job.held, p.neckBlank, p.neckHold, machine);
    append(found, held);
    job.placed = job.placed && !hasFirmStop(held);
    const double volume = part.volume();
    std::vector<WoodUnder> wood = woodUnderRod(part.back(), p.neck.rod);
    d.neck.emplace(NeckDrawn{std::move(part), volume, std::move(wood), std::move(found)});
    append(d.findings, d.neck->found);
    d.parts.push_back(std::move(job));
}

/// The neck of an earlier derivation as it was drawn, before anything was planned.
void takeNeck(Derived& d, const Derived& before) {
    const PartJob& old = *before.job(Role::neck);
    d.neck = before.neck;
    append(d.findings, d.neck->found);
    PartJob job;
    job.id = old.id;
    *job.planned = NeckPlan();
    job.held = old.held;
    job.placed = old.placed;
    d.parts.push_back(std::move(job));
}

/// A layer's cut-outs no bit reaches through from one side.
bool cutThroughFromBoth(const Panel& panel, const Project& p) {
    return panel.id.isLayer() &&
           std::any_of(panel.pockets.begin(), panel.pockets.end(), [&](const PanelPocket& k) {
               return wantsHalving(k, p.bodyCut.through, p.bits);
           });
}

/// A flat piece in its blank, which its largest fellow fits too; `within`: its pins, where they
/// stand within the part.
void layFlat(Derived& d, const Panel& panel, const Contour& largest,
             const std::vector<RegisterPin>& within = {}) {
    const Project& p = d.project;
    PartJob job;
    job.id = panel.id;
    *job.planned = PanelPlan();
    job.panel = std::make_shared<const Panel>(panel);
    const Machine machine =
        panel.id == Role::neckFixture ? p.machine.onLine(p.neckBlank.line) : p.machine;
    job.held = layPanel(panel, boxOf(largest), p.bodyBlank, p.bodyHold, machine,
                        (panel.outlined && outlineIsShared(panel, p.bodyCut, p.bits)) ||
                            cutThroughFromBoth(panel, p),
                        within);
    Findings held = judgePanelHold(panel, job.held, p.bodyBlank, p.bodyHold);
    if (panel.id.byItself() || panel.free) {
        append(held, judgePlacement(job.held.face, machine));
    } else {
        layFlatInStations(job.held, largest, p.bodyHold, machine);
        append(held, judgeFlatStations(job.held, largest, p.bodyHold, machine));
    }
    append(d.findings, held);
    job.placed = !hasFirmStop(held);
    d.parts.push_back(std::move(job));
}

/// The neck of a glued instrument, which lies beyond its body.
void judgeNeckBeyondBed(Derived& d) {
    const Machine& m = d.project.machine;
    const Vec3 tip = d.neck->part.boundingBox()[0];
    const Vec3 inBody = d.body->part.place().toBody({tip.x, 0, 0});
    const Setup& setup = d.parts.back().held.face;
    const double at = setup.zeroOnMachine.x + setup.fromInstrument.toSetup(inBody).x;
    const double beyond = m.lowCorner().x - at;
    if (beyond > 0) {
        sayOf(Role::body, d.findings, Weight::caution, "neck-beyond-bed",
              fmt::format("Glued up, the neck reaches {:.0f} mm beyond the left end of what {} "
                          "travels: it must be free of the machine's side there, and held up.",
                          beyond, m.name),
              beyond, 0);
    }
}

/// What stands on the body's pins one after the other.
std::vector<const Panel*> stagesOf(const BodyPart& body) {
    std::vector<const Panel*> out;
    for (const Panel& panel : body.panels()) {
        if (!panel.id.byItself() && panel.id.role != Role::wing) {
            out.push_back(&panel);
        }
    }
    return out;
}

void layBody(Derived& d) {
    const Panel* top = d.body->part.panel(Role::top);
    const Contour& largest = top ? top->outline : d.body->part.panel(Role::body)->outline;
    const TurnHold& hold = d.project.bodyHold;
    const bool within = hold.pinsIn == PinsIn::part;
    const std::vector<RegisterPin> shared =
        within && !d.body->part.winged() ? pinsWithin(stagesOf(d.body->part), hold, boxOf(largest))
                                         : std::vector<RegisterPin>();
    for (const Panel& panel : d.body->part.panels()) {
        if (panel.id == Role::body && d.body->part.winged()) {
            const auto glued = gluedInstrument(d.body->part);
            if (glued && d.project.body.routedGlued) {
                layFlat(d, *glued, glued->outline);
                judgeNeckBeyondBed(d);
            }
            continue; // else worked by hand from here on
        }
        Panel own = panel;
        own.copies = panel.id == Role::lid ? d.project.bodyBlank.lids : panel.copies;
        const bool alone = panel.id.byItself();
        const bool wing = panel.id.role == Role::wing;
        const std::vector<RegisterPin> pins = !within || alone ? std::vector<RegisterPin>()
                                              : wing ? pinsWithin({&panel}, hold, panel.box())
                                                     : shared;
        addPinHoles(own, pins, hold);
        layFlat(d, own, alone || wing ? panel.outline : largest, pins);
    }
}

void layShopBoards(Derived& d) {
    Findings found;
    for (const Panel& panel : shopBoards(d, found)) {
        layFlat(d, panel, panel.outline);
    }
    append(d.findings, found);
}

void drawBody(Derived& d) {
    const Project& p = d.project;
    if (!d.neck) {
        sayOf(Role::body, d.findings, Weight::stop, "no-neck",
              "A body is made to fit its neck, and this design has none that can be made: a "
              "bolt-on or set neck, or one that goes through, was expected.",
              0, 0)
            .overridable = false;
        return;
    }
    if (p.neck.joint == NeckJoint::through && p.body.build == BodyBuild::topped) {
        sayOf(Role::body, d.findings, Weight::stop, "top-over-wings",
              "A top over the wings and the neck that goes through them is not made here: a body "
              "in one piece was expected, its wings of plain wood.",
              0, 0)
            .overridable = false;
        return;
    }
    const Findings numbers = judgeBodyNumbers(p.body);
    append(d.findings, numbers);
    if (hasStop(numbers)) {
        return;
    }
    try {
        d.body.emplace(
            BodyDrawn{BodyPart(bodyToCut(p), d.neck->part, p.bodyWoods), {}, {}, {}, {}});
    } catch (const Error& e) {
        sayOf(Role::body, d.findings, Weight::stop, "body-cannot-be-drawn", e.what(), 0, 0)
            .overridable = false;
        return;
    }
    append(d.findings, judgeBody(d.body->part));
    if (d.body->part.winged()) {
        append(d.findings, judgeWings(d.body->part, d.neck->part));
    }
    append(d.findings, judgeSetup(setupGeometry(d.body->part, d.neck->part), d.body->part, p.neck));
    layBody(d);
}

/// What the blanks are made of where that is the maker's own wood.
void knowWoods(Derived& d) {
    const auto know = [&](Blank& blank) { blank.own = ownWood(d.project, blank.wood); };
    for (PartJob& job : d.parts) {
        know(job.held.blank);
        know(job.held.face.blank);
        if (job.held.back) {
            know(job.held.back->blank);
        }
    }
}

} // namespace

Derived deriveDrawing(const Project& project, const Derived* before) {
    Derived d;
    d.project = project;
    d.designHash = designHash(project);
    d.remembers = before && before->remembers;
    d.frets = fretTable(project.board);
    d.findings = judgeFretboard(project.board);
    if (hasFirmStop(d.findings)) {
        return d;
    }
    d.board.emplace(project.board);
    if (!project.carved()) {
        drawBoard(d);
    }
    if (project.neck.joint != NeckJoint::none) {
        if (before && before->neck && sameNeck(before->project, project)) {
            takeNeck(d, *before);
        } else {
            drawNeck(d);
        }
    }
    if (project.wantsBody()) {
        drawBody(d);
    }
    layShopBoards(d);
    append(d.findings, judgeClampPlaces(d));
    append(d.findings, judgeWoodMarks(d));
    append(d.findings, judgeMeasured(d));
    append(d.findings, judgeSpoilBoard(d.project));
    knowWoods(d);
    sortByWeight(d.findings);
    return d;
}

Contour outlineOf(const Derived& d, const PartJob& job) {
    if (job.panel) {
        return job.panel->outline;
    }
    if (job.id == Role::neck) {
        return d.neck ? d.neck->part.outline().contour() : Contour();
    }
    return d.board ? d.board->outline() : Contour();
}

PartSides sidesOf(const Derived& d, const PartJob& job, const SidePrograms& programs) {
    PartSides sides = job.panel              ? PartSides{job.held, programs, {}, job.start}
                      : job.id == Role::neck ? neckSides(d.neck->part, job.held, programs)
                                             : boardSides(*d.board, job.held, programs);
    sides.memory = job.memory.get();
    return sides;
}

Stock designedStock(const Derived& d, const PartJob& job, double cell) {
    if (job.panel) {
        return designedPanel(*job.panel, job.held.last(), cell);
    }
    return job.id == Role::neck ? designedNeck(d.neck->part, job.held, cell)
                                : designedBoard(*d.board, job.held.face, cell);
}

void derivePrograms(Derived& d, const std::stop_token& stop, const Derived* before) {
    const std::map<PartId, std::string> inputs = inputsOf(d.project, d.parts);
    for (PartJob& job : d.parts) {
        job.inputs = inputs.at(job.id);
        job.clamps = clampInputs(d.project, job.id);
    }
    append(d.findings, planParts(d, stop, before));
    sortByWeight(d.findings);
    postParts(d, stop, before);
}

void deriveProof(Derived& d, const std::stop_token& stop, const Derived* before) {
    const bool whole =
        d.body && d.job(Role::body) && d.job(Role::neck) && !d.body->part.winged();
    tbb::task_group fitting;
    if (whole) {
        fitting.run([&] { fitTogether(d); });
    }
    append(d.findings, proveParts(d, stop, before));
    append(d.findings, judgeClamps(d));
    append(d.findings, judgeProbeSpots(d));
    fitting.wait();
    if (whole) {
        seatNeck(d);
    }
    sortByWeight(d.findings);
}

Derived derive(const Project& project, const std::stop_token& stop) {
    Derived d = deriveDrawing(project);
    derivePrograms(d, stop);
    deriveProof(d, stop);
    return d;
}

Derived deriveOnly(const Project& project, PartId part) {
    Derived d = deriveDrawing(project);
    std::erase_if(d.parts, [&](const PartJob& job) { return !(job.id == part); });
    derivePrograms(d);
    deriveProof(d);
    return d;
}

void giveReasons(Derived& d, const Overrides& overrides, const std::stop_token& stop) {
    d.overrides.clear();
    for (const Finding& f : d.findings) {
        const Override* given = f.weight == Weight::stop ? overrideOf(overrides, f) : nullptr;
        if (given && !overrideOf(d.overrides, f)) {
            d.overrides.push_back(*given);
        }
    }
    postHeaders(d, stop);
}

} // namespace wren
