#include "job/report.h"

#include "job/before_cutting.h"
#include "job/features.h"
#include "job/store.h"
#include "job/tidy.h"
#include "job/weights.h"
#include "part/setup_geometry.h"

#include <algorithm>
#include <cmath>

#include <fmt/format.h>
#include <nlohmann/json.hpp>

namespace wren {
namespace {

using json = nlohmann::ordered_json;

json point(Vec3 p) {
    return {tidy(p.x), tidy(p.y), tidy(p.z)};
}

/// What a program asks of its bit, as its proof found it; null before that.
json loadJson(const ProgramLoad& l) {
    return {{"depth_mm", tidy(l.peak.depth)},
            {"width_mm", tidy(l.peak.width)},
            {"mm2", tidy(l.peak.area)},
            {"of_allowed", tidy(l.most())},
            {"line", l.mostLine()},
            {"own_pass_mm2", tidy(l.own.area)},
            {"plunge_mm", tidy(l.plunge.depth)},
            {"chip_mm", tidy(l.chip.area)},
            {"chip_of_allowed", tidy(l.chip.ofAllowed)},
            {"watts", tidy(l.watts)}};
}

json programsJson(const Derived& d, const Papers& papers) {
    const std::vector<PartId>& parts = papers.parts;
    const std::vector<std::string>& traces = papers.traces;
    json list = json::array();
    for (const PostedProgram& p : d.programs) {
        if (std::find(parts.begin(), parts.end(), p.program.part) == parts.end()) {
            continue;
        }
        const Bit& bit = p.program.bit;
        list.push_back(
            {{"file", p.program.file},
             {"part", p.program.part.name()},
             {"setup", p.program.setup},
             {"order", p.program.order},
             {"bit",
              {{"name", bit.name},
               {"kind", bitKindName(bit.kind)},
               {"diameter_mm", bit.diameter},
               {"flute_length_mm", bit.fluteLength},
               {"corner_mm", bit.corner},
               {"angle_deg", bit.angle}}},
             {"extents_mm", {{"min", point(p.extents[0])}, {"max", point(p.extents[1])}}},
             {"cut_mm", tidy(p.time.cutLength)},
             {"rapid_mm", tidy(p.time.rapidLength)},
             {"seconds", tidy(p.time.seconds)},
             {"seconds_plain", tidy(p.time.secondsPlain)},
             {"sha256", p.sha256},
             {"motion_sha256", p.motion}});
        if (const double lift = airLift(p, d.project.machine); lift > 0) {
            list.back()["air"] = {{"file", airName(p)}, {"lift_mm", tidy(lift)}};
        }
        if (std::find(traces.begin(), traces.end(), traceName(p)) != traces.end()) {
            list.back()["trace"] = traceName(p);
        }
        if (const ProgramLoad* load = d.loadOf(p.program.file)) {
            list.back()["seconds_in_air"] = tidy(load->airSeconds);
            list.back()["load"] = loadJson(*load);
            if (load->touch) { // on a ramp the trace tells it too high
                Vec3 at = load->touch->at;
                at.z = std::min(at.z, d.placeOf(std::size_t(p.program.order) - 1).setup().topZ());
                list.back()["first_touch"] = {{"line", load->touch->line}, {"at_mm", point(at)}};
            }
        }
    }
    return list;
}

/// As its programs' coordinates go: in stations each has a zero of its own.
json setupJson(const Setup& setup, std::size_t station = 0) {
    const Blank& b = setup.blank;
    const Vec2 zero = setup.zeroOf(station);
    std::array<double, 16> own = setup.fromInstrument.matrix();
    own[3] -= zero.x;
    own[7] -= zero.y;
    json matrix = json::array();
    for (double v : own) {
        matrix.push_back(tidy(v));
    }
    json rows = json::array();
    for (std::size_t i = 0; i < 16; i += 4) {
        rows.push_back({matrix[i], matrix[i + 1], matrix[i + 2], matrix[i + 3]});
    }
    json out{{"part", setup.part.name()},
             {"name", setup.nameIn(station)},
             {"blank_mm", {b.length, b.width, b.thickness}},
             {"datum", setup.datum},
             {"z_zero", zZeroName(setup.zZero)},
             {"setup_from_instrument", rows}};
    if (!setup.stations.empty()) {
        const Vec2 stands = setup.stations[station].onMachine;
        out["blank_corner_mm"] = {tidy(-zero.x), tidy(-zero.y)};
        out["zero_on_machine_mm"] = {tidy(stands.x), tidy(stands.y)};
    }
    if (setup.scarfed) { // the block is not all wood: its outline seen from the side
        const double a = setup.fromInstrument.toInstrument({0, 0, 0}).x;
        const double z = setup.fromInstrument.toInstrument({b.length, 0, 0}).x;
        out["wood_side_mm"] = json::array();
        for (Vec2 p : setup.scarfed->side(std::min(a, z), std::max(a, z))) {
            out["wood_side_mm"].push_back({tidy(p.x), tidy(p.y)});
        }
    }
    return out;
}

json setupsJson(const Derived& d) {
    json list = json::array();
    for (const PartJob& job : d.parts) {
        if (!job.placed) {
            continue;
        }
        for (std::size_t side = 0; side < job.held.sides(); ++side) {
            const Setup& setup = job.held.side(side);
            for (std::size_t k = 0; k < std::max<std::size_t>(1, setup.stations.size()); ++k) {
                list.push_back(setupJson(setup, k));
            }
        }
        if (job.id == Role::board) {
            continue; // cut from one side: there is nothing to bring together
        }
        json pins = json::array();
        for (const RegisterPin& pin : job.held.pins) {
            pins.push_back({tidy(pin.at.x), tidy(pin.at.y)});
        }
        list.back()["pins_mm"] = pins;
        list.back()["registration_mm"] = tidy(job.held.expectedError);
        if (job.held.pitch > 0) {
            list.back()["pitch_mm"] = tidy(job.held.pitch);
        }
    }
    return list;
}

json partJson(const char* name, double volume, double mass, const std::array<Vec3, 2>& box) {
    return {{"name", name},
            {"volume_mm3", tidy(volume)},
            {"mass_g", tidy(mass)},
            {"bbox_mm", {{"min", point(box[0])}, {"max", point(box[1])}}}};
}

json partsJson(const Derived& d) {
    json list = json::array();
    const std::vector<PieceMass> pieces = massesOf(d);
    const auto weighs = [&](Role role) {
        return std::find_if(pieces.begin(), pieces.end(),
                            [&](const PieceMass& m) { return m.part == role; })
            ->mass;
    };
    if (d.board && !d.project.carved()) {
        list.push_back(
            partJson("fretboard", d.board->volume(), weighs(Role::board), d.board->boundingBox()));
    }
    if (d.neck) {
        list.push_back(
            partJson("neck", d.neck->volume, weighs(Role::neck), d.neck->part.boundingBox()));
        if (const std::optional<Scarf>& s = d.job(Role::neck)->held.scarf) {
            list.back()["scarf_mm"] = {
                {"plank_thickness", tidy(s->plank)},  {"plank_length", tidy(s->plankLength)},
                {"ramp_length", tidy(s->ramp)},       {"mark_on_face", tidy(s->neckPiece)},
                {"joint_on_face_x", tidy(s->atFace)}, {"joint_on_underside_x", tidy(s->atBack)}};
        }
    }
    if (d.body) {
        const auto box = d.body->part.panel(Role::body)->box();
        list.push_back(partJson(
            "body", bodyVolume(pieces), bodyMass(pieces),
            {Vec3{box[0].x, box[0].y, -d.body->part.thickness()}, Vec3{box[1].x, box[1].y, 0}}));
        list.back()["neck_angle_deg"] = tidy(d.project.body.pocket.angle);
        list.back()["face_under_glue_plane_mm"] =
            tidy(setupGeometry(d.body->part, d.neck->part).proud);
        list.back()["saddle_height_mm"] = tidy(d.body->part.saddleHeight());
    }
    return list;
}

json proofOf(const ProofReport& p) {
    return {{"part", p.part.name()},
            {"setup", p.setup},
            {"cell_mm", p.cell},
            {"gouge_max_mm", tidy(p.gougeMax)},
            {"excess_max_mm", tidy(p.excessMax)},
            {"excess_rms_mm", tidy(p.excessRms)},
            {"wall_max_mm", tidy(p.wallMax)},
            {"passed", p.passed}};
}

json proofList(const Derived& d) {
    json list = json::array();
    for (const PartJob& job : d.parts) {
        for (std::size_t side = 0; job.proof && side < job.held.sides(); ++side) {
            list.push_back(proofOf(job.proof->sides[side]));
        }
        if (job.proof && job.id == Role::neck) {
            list.back()["wood_under_rod_mm"] = tidy(job.proof->rodWoodLeast);
        }
    }
    const auto fit = [&](const char* what, const std::optional<Fit>& f) {
        if (f) {
            list.push_back({{"fit", what},
                            {"places", f->places.size()},
                            {"least_room_mm", tidy(f->least)},
                            {"most_room_mm", tidy(f->most)}});
        }
    };
    if (d.body) {
        fit("neck in its pocket", d.body->neckFit);
        fit("lid in its ledge", d.body->lidFit);
        if (d.body->neckSeat) {
            list.push_back({{"seat", "heel on its pocket's floor"},
                            {"places", d.body->neckSeat->places},
                            {"least_gap_mm", tidy(d.body->neckSeat->least)},
                            {"most_gap_mm", tidy(d.body->neckSeat->most)}});
        }
        for (std::size_t i = 0; i < d.body->inlayFits.size(); ++i) {
            fit(fmt::format("inlay {} in its pocket", i + 1).c_str(), d.body->inlayFits[i]);
        }
    }
    return list;
}

json findingsList(const Findings& findings) {
    json list = json::array();
    for (const Finding& f : findings) {
        json one = {{"weight", weightName(f.weight)}, {"code", f.code},
                    {"part", f.part.name()},          {"message", f.message},
                    {"value", tidy(f.value)},         {"limit", tidy(f.limit)}};
        if (f.feature) {
            one["thing"] = pathOf(f.feature);
        }
        if (!f.program.empty()) {
            one["program"] = f.program;
            one["line"] = f.line;
        }
        list.push_back(std::move(one));
    }
    return list;
}

} // namespace

std::string reportJson(const Derived& d, const Papers& papers) {
    json doc = {{"project", d.project.name},
                {"design_hash", d.designHash},
                {"design", json::parse(decidedKeys(d.project))},
                {"posted", !papers.parts.empty()},
                {"programs", programsJson(d, papers)},
                {"air", papers.air},
                {"trace", papers.traces},
                {"sheets", papers.sheets},
                {"models", papers.models},
                {"lists", papers.lists},
                {"setups", setupsJson(d)},
                {"parts", partsJson(d)},
                {"proof", proofList(d)},
                {"seconds_in_air", tidy(d.secondsInAir(papers.parts))},
                {"findings", findingsList(d.findings)}};
    if (!papers.missing.empty()) {
        doc["models_missing"] = papers.missing;
    }
    for (const Override& o : d.overrides) {
        doc["overrides"].push_back(
            {{"part", o.part.name()}, {"code", o.code}, {"reason", o.reason}});
    }
    return doc.dump(2) + "\n";
}

std::string proofJson(const Derived& d) {
    const json doc = {{"project", d.project.name},
                      {"design_hash", d.designHash},
                      {"proof", proofList(d)},
                      {"findings", findingsList(d.findings)}};
    return doc.dump(2) + "\n";
}

std::string findingsJson(const Findings& findings) {
    return findingsList(findings).dump(2);
}

} // namespace wren
