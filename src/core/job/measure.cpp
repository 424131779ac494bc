#include "job/measure.h"

#include "base/error.h"
#include "book/records.h"
#include "job/derive.h"
#include "job/keys.h"

#include <algorithm>
#include <cmath>

#include <fmt/format.h>

namespace wren {
namespace {

constexpr double heelSecond = 40; ///< mm toward the nut, where a heel is measured once more

/// The neck's width where the body takes its heel from, its rounded corners aside, or so far
/// toward the nut.
std::optional<double> heelWidth(const Derived& d, double before) {
    if (!d.neck) {
        return {};
    }
    const NeckOutline& outline = d.neck->part.outline();
    const double end = (d.body ? d.body->part.place().neckEnd : outline.end()) - before;
    return outline.edge(1, end) - outline.edge(-1, end);
}

/// The board's width at the nut, or at its last end; over its edges.
std::optional<double> boardWidth(const Derived& d, bool atNut) {
    if (!d.board) {
        return {};
    }
    const Fretboard& b = d.project.board;
    if (atNut) {
        return b.nutSpread + b.overhangBass + b.overhangTreble;
    }
    const auto box = boxOf(d.board->outline());
    return box[1].y - box[0].y;
}

std::optional<double> drawnFor(const Derived& d, const std::string& size) {
    const Project& p = d.project;
    if (size == "fretboard.slot_width") {
        return p.board.slotWidth;
    }
    if (size == "fretboard.blank_thickness") {
        return p.blank.thickness;
    }
    if (size == "neck.heel_depth") {
        return d.neck ? std::optional(p.neck.heelDepth) : std::nullopt;
    }
    if (size == "neck.heel_width") {
        return heelWidth(d, 0);
    }
    if (size == "neck.heel_width_40") {
        return heelWidth(d, heelSecond);
    }
    if (size == "fretboard.width_at_nut" || size == "fretboard.width_at_end") {
        return boardWidth(d, size == "fretboard.width_at_nut");
    }
    if (size == "body.pocket_depth") {
        return d.body ? std::optional(p.body.pocket.depth) : std::nullopt;
    }
    const PartJob* job = d.job(size == "neck.blank_thickness"  ? PartId(Role::neck)
                               : size == "top.blank_thickness" ? PartId(Role::top)
                               : d.job(Role::core)             ? PartId(Role::core)
                                                               : PartId(Role::body));
    return job ? std::optional(job->held.scarf ? job->held.scarf->plank : job->held.blank.thickness)
               : std::nullopt;
}

/// What cuts follow now: the key's value, where it has one.
std::optional<double> usedFor(const Project& p, const MeasuredSize& size) {
    if (!size.key) {
        return {};
    }
    const KeyValue value = keyAt(p, size.key).get(p);
    const double* number = std::get_if<double>(&value);
    return number ? std::optional(*number) : std::nullopt;
}

} // namespace

std::vector<KnownSize> knownSizes(const Derived& d, PartId part,
                                  const std::vector<Record>& readings) {
    const std::string of = (part.ofBody() ? PartId(Role::body) : part).name() + ".";
    std::vector<KnownSize> out;
    for (const MeasuredSize& size : measuredSizes()) {
        const std::string name = size.name;
        const bool top = part == Role::top && name.rfind("top.", 0) == 0;
        const NeckJoint joint = d.project.neck.joint;
        const bool joined = joint == NeckJoint::boltOn || joint == NeckJoint::set;
        const bool ofJoint = name.rfind("neck.heel", 0) == 0 || name == "body.pocket_depth";
        if ((name.rfind(of, 0) != 0 && !top) || (ofJoint && !(joined && d.body))) {
            continue;
        }
        KnownSize known{&size, drawnFor(d, name), {}, {}, {}, usedFor(d.project, size)};
        known.used = known.used || !size.key ? known.used : known.drawn;
        for (const Record& r : readings) {
            if (r.field("project") == d.project.name && r.field("size") == name) {
                known.read = std::atof(r.field("value").c_str());
                known.when = r.time;
                known.moisture = r.field("moisture");
                break;
            }
        }
        out.push_back(known);
    }
    return out;
}

const std::vector<MeasuredSize>& measuredSizes() {
    static const std::vector<MeasuredSize> all{
        {"neck.heel_width", "heel, width at its end", "neck_pocket.measured_width", "the body's neck pocket"},
        {"neck.heel_width_40", "heel, width 40 mm toward the nut", nullptr, "whether the heel narrows as drawn, 40 mm toward the nut"},
        {"neck.heel_depth", "heel, depth below the board", "neck_pocket.measured_depth", "the depth of that pocket"},
        {"fretboard.width_at_nut", "board, width at the nut", nullptr, "how the board sits on the neck's edges"},
        {"fretboard.width_at_end", "board, width at its end", nullptr, "how the board sits on the neck's edges"},
        {"body.pocket_depth", "neck pocket, depth", nullptr, "how high the neck stands"},
        {"fretboard.slot_width", "fret slot, width", "wire.measured_slot", "how tight the frets sit"},
        {"fretboard.blank_thickness", "board blank, thickness", "blank.thickness", "what is taken off the board's face"},
        {"neck.blank_thickness", "neck blank, thickness", "neck_blank.thickness", "the depth of the neck's cuts"},
        {"body.blank_thickness", "body blank, thickness", "body_blank.thickness", "what is taken off the body's face"},
        {"top.blank_thickness", "top blank, thickness", "body_blank.top_thickness", "what is surfaced off the glued top"}};
    return all;
}

Measured measured(const Project& project, const std::string& size, const std::string& reading) {
    return measured(deriveDrawing(project), project, size, reading);
}

Record measurementRecord(const Derived& drawn, const std::string& size, const Measured& reading,
                         const std::string& moisture) {
    std::vector<std::string> typed{"project=" + drawn.project.name, "size=" + size,
                                   fmt::format("value={:.4f}mm", reading.value)};
    if (reading.drawn) {
        typed.push_back(fmt::format("drawn={:.4f}mm", *reading.drawn));
    }
    if (!moisture.empty()) {
        typed.push_back("moisture=" + moisture);
    }
    if (size == "fretboard.slot_width") {
        typed.push_back("wood=" + drawn.project.blank.wood);
        for (const PostedProgram& p : drawn.programs) {
            const bool slots = std::count(p.program.kinds.begin(), p.program.kinds.end(),
                                          CutKind::slots) > 0;
            if (slots && p.program.part == PartId(Role::board)) {
                typed.push_back("bit=" + p.program.bit.name);
                break;
            }
        }
    }
    return recordFrom("measurement", typed);
}

Measured measured(const Derived& drawn, const Project& project, const std::string& size,
                  const std::string& reading) {
    const auto& all = measuredSizes();
    const auto it = std::find_if(all.begin(), all.end(),
                                 [&](const MeasuredSize& s) { return size == s.name; });
    if (it == all.end()) {
        std::vector<std::string> names;
        names.reserve(all.size());
        for (const MeasuredSize& s : all) {
            names.emplace_back(s.name);
        }
        throw Error(fmt::format("Nothing follows from a measured \"{}\"; one of {} was expected.",
                                size, fmt::join(names, ", ")));
    }
    Measured out;
    out.value = lengthWithUnit(reading, size);
    out.drawn = drawnFor(drawn, size);
    if (!out.drawn) {
        throw Error(fmt::format("{}: {} has no such part to be measured.", size, project.name));
    }
    constexpr double least = 2; // mm: a caliper laid askew, a plank planed twice
    if (out.drawn) {
        const double off = std::abs(out.value - *out.drawn);
        const bool small = *out.drawn < 5; // a slot: a fifth of it is much
        if (small ? off > 0.3 * *out.drawn : off > std::max(least, *out.drawn / 7)) {
            throw Error(fmt::format("{}: {:.2f} mm were read and {:.2f} mm are drawn; that cannot be "
                                    "the same part. Read it again, or change the design first.",
                                    size, out.value, *out.drawn));
        }
    }
    out.project = project;
    if (!it->key) {
        return out;
    }
    const Key key = keyAt(project, it->key);
    const KeyValue value(out.value);
    checkValue(key, value);
    key.set(out.project, value);
    return out;
}

} // namespace wren
