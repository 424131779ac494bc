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

std::optional<double> drawnFor(const Project& p, const std::string& size) {
    if (size == "fretboard.slot_width") {
        return p.board.slotWidth;
    }
    if (size == "fretboard.blank_thickness") {
        return p.blank.thickness;
    }
    if (size == "neck.heel_depth") {
        return p.neck.heelDepth;
    }
    const Derived d = deriveDrawing(p);
    if (size == "neck.heel_width") {
        if (!d.neck) {
            return {};
        }
        // Where the body takes the heel's width from, its rounded corners aside.
        const NeckOutline& outline = d.neck->part.outline();
        const double end = d.body ? d.body->part.place().neckEnd : outline.end();
        return outline.edge(1, end) - outline.edge(-1, end);
    }
    const PartJob* job = d.job(size == "neck.blank_thickness"  ? PartId(Role::neck)
                               : size == "top.blank_thickness" ? PartId(Role::top)
                               : d.job(Role::core)             ? PartId(Role::core)
                                                               : PartId(Role::body));
    return job ? std::optional(job->held.scarf ? job->held.scarf->plank : job->held.blank.thickness)
               : std::nullopt;
}

} // namespace

const std::vector<MeasuredSize>& measuredSizes() {
    static const std::vector<MeasuredSize> all{
        {"neck.heel_width", "neck_pocket.measured_width", "the body's neck pocket"},
        {"neck.heel_depth", "neck_pocket.measured_depth", "the depth of that pocket"},
        {"fretboard.slot_width", "wire.measured_slot", "how tight the frets sit"},
        {"fretboard.blank_thickness", "blank.thickness", "what is taken off the board's face"},
        {"neck.blank_thickness", "neck_blank.thickness", "the depth of the neck's cuts"},
        {"body.blank_thickness", "body_blank.thickness", "what is taken off the body's face"},
        {"top.blank_thickness", "body_blank.top_thickness", "what is surfaced off the glued top"}};
    return all;
}

Measured measured(const Project& project, const std::string& size, const std::string& reading) {
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
    out.drawn = drawnFor(project, size);
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
    const Key key = keyAt(project, it->key);
    const KeyValue value(out.value);
    checkValue(key, value);
    key.set(out.project, value);
    return out;
}

} // namespace wren
