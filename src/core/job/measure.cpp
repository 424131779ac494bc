#include "job/measure.h"

#include "base/error.h"
#include "book/records.h"
#include "job/as_measured.h"
#include "job/derive.h"
#include "job/keys.h"
#include "part/body_shapes.h"

#include <algorithm>
#include <cmath>

#include <fmt/format.h>

namespace wren {
namespace {

constexpr double heelSecond = 40; ///< mm toward the nut, where a heel is measured once more

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

/// The recess a lid lies in; none without one.
std::optional<double> recess(const Derived& d, bool width) {
    const Cavity& c = d.project.body.cavity;
    if (!d.body || c.ledge <= 0 || d.body->part.hollow().empty()) {
        return std::nullopt;
    }
    return width ? widthOf(grown(d.body->part.hollow(), c.ledge)) : c.lid;
}

/// The part whose blank is measured; of a body in layers its core.
PartId blankOf(const Derived& d, const std::string& size) {
    return size == "fretboard.blank_thickness" ? PartId(Role::board)
           : size == "neck.blank_thickness"    ? PartId(Role::neck)
           : size == "top.blank_thickness"     ? PartId(Role::top)
           : d.job(Role::core)                 ? PartId(Role::core)
                                               : PartId(Role::body);
}

/// Whether the neck lies in a pocket of the body, which follows it.
bool pocketed(const Derived& d) {
    const NeckJoint joint = d.project.neck.joint;
    return d.neck && d.body && (joint == NeckJoint::boltOn || joint == NeckJoint::set);
}

bool ofPocket(const std::string& size) {
    return size.rfind("neck.heel", 0) == 0 || size == "neck.length" || size == "body.pocket_depth";
}

std::optional<double> drawnFor(const Derived& d, const std::string& size) {
    const Project& p = d.project;
    if (ofPocket(size) && !pocketed(d)) {
        return std::nullopt;
    }
    if (size == "fretboard.slot_width") {
        return p.board.slotWidth;
    }
    if (size == "fretboard.blank_thickness") {
        return p.blank.thickness;
    }
    if (size == "neck.heel_depth") {
        return p.neck.heelDepth;
    }
    if (size == "neck.heel_width") {
        return heelWidth(d.neck->part.outline());
    }
    if (size == "neck.heel_width_40") {
        return heelWidth(d.neck->part.outline(), heelSecond);
    }
    if (size == "neck.length") {
        return d.neck->part.outline().end();
    }
    if (size == "fretboard.width_at_nut" || size == "fretboard.width_at_end") {
        return boardWidth(d, size == "fretboard.width_at_nut");
    }
    if (size == "body.pocket_depth") {
        return p.body.pocket.depth;
    }
    if (size == "body.recess_width" || size == "body.recess_depth") {
        return recess(d, size == "body.recess_width");
    }
    const PartJob* job = d.job(blankOf(d, size));
    return job ? std::optional(job->held.scarf ? job->held.scarf->plank : job->held.blank.thickness)
               : std::nullopt;
}

/// What cuts follow now: the key's value, where it has one.
std::optional<double> usedFor(const Project& p, const MeasuredSize& size) {
    if (!size.key) {
        return {};
    }
    if (std::string_view(size.name) == "neck.heel_width") {
        return bodyToCut(p).pocket.measuredWidth;
    }
    const Cavity& c = p.body.cavity;
    const BodyPocket& pocket = p.body.pocket;
    for (const auto& [name, held] : {std::pair{"neck.length", pocket.cutLength},
                                     {"body.recess_width", c.cutWidth},
                                     {"body.recess_depth", c.cutDepth}}) {
        if (name == std::string_view(size.name) && held) {
            return held;
        }
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
        const bool ofLid = name.rfind("body.recess", 0) == 0;
        if ((name.rfind(of, 0) != 0 && !top) || (ofPocket(name) && !pocketed(d)) ||
            (ofLid && !recess(d, true))) {
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
        {"neck.length", "neck, from the nut's face to the heel's end", "neck_pocket.measured_length", "where the pocket ends (the bridge, once that is cut)"},
        {"fretboard.width_at_nut", "board, width at the nut", nullptr, "how the board sits on the neck's edges"},
        {"fretboard.width_at_end", "board, width at its end", nullptr, "how the board sits on the neck's edges"},
        {"body.pocket_depth", "neck pocket, depth at its inner end", "neck_pocket.measured_floor", "how high neck and saddles stand"},
        {"body.recess_width", "lid's recess, widest across the strings", "cavity.measured_width", "the lid's outline"},
        {"body.recess_depth", "lid's recess, depth", "cavity.measured_depth", "the lid's thickness"},
        {"fretboard.slot_width", "fret slot, width", "wire.measured_slot", "how tight the frets sit"},
        {"fretboard.blank_thickness", "board blank, thickness", "blank.thickness", "what is taken off the board's face"},
        {"neck.blank_thickness", "neck blank, thickness", "neck_blank.thickness", "the depth of the neck's cuts"},
        {"body.blank_thickness", "body blank, thickness", "body_blank.thickness", "what is taken off the body's face"},
        {"top.blank_thickness", "top blank, thickness", "body_blank.top_thickness", "what is surfaced off the glued top"}};
    return all;
}

const MeasuredSize& measuredSize(const std::string& name) {
    const auto& all = measuredSizes();
    const auto it = std::find_if(all.begin(), all.end(),
                                 [&](const MeasuredSize& s) { return name == s.name; });
    if (it == all.end()) {
        std::vector<std::string> names;
        names.reserve(all.size());
        for (const MeasuredSize& s : all) {
            names.emplace_back(s.name);
        }
        throw Error(fmt::format("Nothing follows from a measured \"{}\"; one of {} was expected.",
                                name, fmt::join(names, ", ")));
    }
    return *it;
}

Record measurementRecord(const Derived& drawn, const Reading& reading, const Measured& m) {
    std::vector<std::string> typed{"project=" + drawn.project.name, "size=" + reading.size,
                                   fmt::format("value={:.4f}mm", m.value)};
    if (m.drawn) {
        typed.push_back(fmt::format("drawn={:.4f}mm", *m.drawn));
    }
    if (!reading.moisture.empty()) {
        typed.push_back("moisture=" + reading.moisture);
    }
    if (reading.size == "fretboard.slot_width") {
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

namespace {

void set(Project& p, const char* path, const KeyValue& value) {
    const Key key = keyAt(p, path);
    checkValue(key, value);
    key.set(p, value);
}

/// A caliper laid askew, a plank planed twice: more than that is another part.
void checkPlausible(const Project& p, const std::string& size, double value, double drawn) {
    constexpr double least = 2, longest = 3;
    const double off = std::abs(value - drawn);
    const double most = drawn < 5             ? 0.3 * drawn // a slot: a fifth of it is much
                        : size == "neck.length" ? longest
                                              : std::max(least, drawn / 7);
    if (off > most) {
        throw Error(fmt::format("{}: {:.2f} mm were read and {:.2f} mm are drawn in {}; that cannot "
                                "be the same part. Read it again, or change the design first.",
                                size, value, drawn, p.name));
    }
}

/// The moisture goes with the part's wood from now on, and with the heel's width.
void takeMoisture(Project& p, const Reading& reading) {
    const bool heel = reading.size == "neck.heel_width";
    if (heel) {
        p.body.pocket.measuredMoisture.reset();
    }
    if (reading.moisture.empty()) {
        return;
    }
    const bool neck = reading.size.rfind("neck.", 0) == 0;
    if (neck || reading.size.rfind("body.", 0) == 0) {
        const char* path = neck ? "neck_blank.moisture" : "body_blank.moisture";
        set(p, path, readValue(keyAt(p, path), reading.moisture));
    }
    if (heel) {
        p.body.pocket.measuredMoisture = p.neckWood.moisture;
    }
}

/// Keeps in the project what is cut already where a reading would move it.
class Keeper {
public:
    Keeper(Measured& out, const Derived& drawn, const CutAlready& cut)
        : out_(out), drawn_(drawn), cut_(cut), body_(out.project.body) {}

    void keepFor(const std::string& size) {
        if (size == "neck.heel_width") {
            const std::optional<double> now = bodyToCut(out_.project).pocket.measuredWidth;
            keep(body_.pocket.cutWidth, now ? now : out_.drawn, "neck pocket", "a heel", pocket());
        } else if (size == "neck.length") {
            const std::optional<double> now =
                body_.pocket.measuredLength ? body_.pocket.measuredLength : out_.drawn;
            keep(body_.pocket.cutLength, now, "neck pocket", "a neck", pocket());
            keep(body_.bridge.cutLength, now, "bridge", "a neck",
                 cut_.any({"bridge-screws", "strings", "posts"}));
        } else if (size == "neck.heel_depth" || size == "body.pocket_depth") {
            if (pocket() && body_.givesWay != GivesWay::saddles) {
                body_.givesWay = GivesWay::saddles;
                out_.kept.push_back(fmt::format("The neck pocket was cut on {}: the saddles give way "
                                                "from now on.",
                                                day(*pocket())));
            }
        } else if (size == "body.recess_width" || size == "body.recess_depth") {
            const bool width = size == "body.recess_width";
            Cavity& c = body_.cavity;
            const std::optional<double>& before = width ? c.measuredWidth : c.measuredDepth;
            keep(width ? c.cutWidth : c.cutDepth, before ? before : out_.drawn, "lid", "a recess",
                 cut_.of(Role::lid));
        } else if (size.find("blank_thickness") != std::string::npos) {
            // A top's is wanted until it is surfaced on the glued body.
            const PartId part = blankOf(drawn_, size);
            if (const RunRecord* run = cut_.of(part == PartId(Role::top) ? Role::body : part)) {
                throw Error(fmt::format("{}: {} was cut from that blank on {}; what is left is the "
                                        "part. Another blank is taken from the rack, or given its "
                                        "size by hand.",
                                        size, run->program, day(*run)));
            }
        }
    }

private:
    const RunRecord* pocket() const { return cut_.any({"neck-pocket"}); }
    static std::string day(const RunRecord& run) { return run.start.substr(0, 10); }

    void keep(std::optional<double>& held, std::optional<double> now, const char* what,
              const char* made, const RunRecord* run) {
        if (!run || !now) {
            return;
        }
        held = held ? held : now;
        out_.kept.push_back(fmt::format("The {} was cut on {} for {} of {:.2f} mm and keeps that.",
                                        what, day(*run), made, *held));
    }

    Measured& out_;
    const Derived& drawn_;
    const CutAlready& cut_;
    Body& body_;
};

} // namespace

Measured measured(const Derived& drawn, const Project& project, const Reading& reading,
                  const CutAlready& cut) {
    const MeasuredSize& size = measuredSize(reading.size);
    Measured out;
    out.value = lengthWithUnit(reading.value, reading.size);
    out.drawn = drawnFor(drawn, reading.size);
    if (!out.drawn) {
        throw Error(fmt::format("{}: {} has no such part to be measured{}.", reading.size,
                                project.name,
                                ofPocket(reading.size)
                                    ? "; a neck that lies in a body's pocket was expected"
                                : reading.size.rfind("body.recess", 0) == 0
                                    ? "; a lid in a ledge was expected"
                                    : ""));
    }
    checkPlausible(project, reading.size, out.value, *out.drawn);
    out.project = project;
    Keeper(out, drawn, cut).keepFor(reading.size);
    if (size.key) {
        set(out.project, size.key, KeyValue(out.value));
    }
    takeMoisture(out.project, reading);
    return out;
}

} // namespace wren
