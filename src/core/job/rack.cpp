#include "job/rack.h"

#include "base/error.h"
#include "job/keys.h"

#include <algorithm>
#include <charconv>
#include <chrono>
#include <cstdlib>

#include <fmt/format.h>

namespace wren {
namespace {

/// Of "2026-11-30" and whatever follows.
std::optional<std::chrono::sys_days> dayOf(const std::string& text) {
    if (text.size() < 10 || text[4] != '-' || text[7] != '-') {
        return {};
    }
    const auto number = [&](std::size_t from, std::size_t count) {
        int n = -1;
        std::from_chars(text.data() + from, text.data() + from + count, n);
        return n;
    };
    const int m = number(5, 2), d = number(8, 2);
    if (m < 1 || d < 1) {
        return {};
    }
    const std::chrono::year_month_day day{std::chrono::year(number(0, 4)),
                                          std::chrono::month(unsigned(m)),
                                          std::chrono::day(unsigned(d))};
    return day.ok() ? std::optional(std::chrono::sys_days(day)) : std::nullopt;
}

RackBlank blankOf(const Record& r, const std::string& today) {
    RackBlank b;
    b.record = r;
    b.name = r.field("name");
    b.wood = r.field("wood");
    b.reserved = r.field("reserved");
    b.moisture = r.field("moisture");
    for (const auto& [field, value] : {std::pair{"length", &b.length},
                                       {"width", &b.width},
                                       {"thickness", &b.thickness},
                                       {"bow", &b.bow},
                                       {"twist", &b.twist}}) {
        *value = std::atof(r.field(field).c_str());
    }
    const auto from = dayOf(r.field("since")), to = dayOf(today);
    if (from && to && *from <= *to) {
        b.restDays = static_cast<int>((*to - *from).count());
    }
    return b;
}

/// Keys a part's blank is told by; null where it has none of its own.
struct BlankKeys {
    const char *length, *width, *thickness, *wood;
};

BlankKeys keysFor(PartId part) {
    switch (part.role) {
    case Role::board:
        return {"blank.length", "blank.width", "blank.thickness", "blank.wood"};
    case Role::neck:
        return {"neck_blank.length", "neck_blank.width", "neck_blank.thickness",
                "neck_blank.wood"};
    case Role::top:
        return {nullptr, nullptr, "body_blank.top_thickness", "body.top_wood"};
    case Role::back:
        return {nullptr, nullptr, "body_blank.back_thickness", "body.back_wood"};
    default:
        return {"body_blank.length", "body_blank.width", "body_blank.thickness", "body.wood"};
    }
}

} // namespace

std::vector<RackBlank> rackOf(const std::vector<Record>& blanks, const std::string& today) {
    std::vector<RackBlank> out;
    for (auto r = blanks.rbegin(); r != blanks.rend(); ++r) { // oldest first
        const auto same = [&](const RackBlank& b) { return b.name == r->field("name"); };
        const auto known = std::find_if(out.begin(), out.end(), same);
        if (known == out.end()) {
            out.push_back(blankOf(*r, today));
        } else {
            *known = blankOf(*r, today);
        }
    }
    std::erase_if(out, [](const RackBlank& b) { return !b.record.field("gone").empty(); });
    return out;
}

std::vector<PartId> partsFromRack(const Project& p) {
    std::vector<PartId> out;
    if (!p.carved()) {
        out.emplace_back(Role::board);
    }
    if (p.neck.joint != NeckJoint::none) {
        out.emplace_back(Role::neck);
    }
    if (p.wantsBody()) {
        const bool topped = p.body.build == BodyBuild::topped;
        if (topped) {
            out.emplace_back(Role::top);
        }
        if (p.body.back > 0) {
            out.emplace_back(Role::back);
        }
        out.emplace_back(topped || p.body.back > 0 ? Role::core : Role::body);
    }
    return out;
}

namespace {

/// What was measured of a part, or kept because it was cut, was of its last blank.
void startAnew(Project& p, PartId part, const std::string& moisture) {
    const std::optional<double> now =
        moisture.empty() ? std::nullopt : std::optional(std::atof(moisture.c_str()));
    BodyPocket& pocket = p.body.pocket;
    if (part == PartId(Role::neck)) {
        p.neckWood.moisture = now;
        pocket.measuredWidth = pocket.measuredDepth = pocket.measuredLength = std::nullopt;
        pocket.measuredMoisture.reset();
    } else if (part == PartId(Role::core) || part == PartId(Role::body)) {
        p.bodyWood.moisture = now;
        pocket.cutWidth = pocket.cutLength = pocket.measuredFloor = std::nullopt;
        pocket.enlarged = 0;
        p.body.bridge.cutLength.reset();
        Cavity& c = p.body.cavity;
        c.measuredWidth = c.measuredDepth = std::nullopt;
    }
}

} // namespace

Project withBlank(const Project& project, PartId part, const RackBlank& blank) {
    const BlankKeys keys = keysFor(part);
    Project out = project;
    for (const auto& [path, value, what] : {std::tuple{keys.length, blank.length, "length"},
                                            {keys.width, blank.width, "width"},
                                            {keys.thickness, blank.thickness, "thickness"}}) {
        if (!path) {
            continue;
        }
        if (value <= 0) {
            throw Error(fmt::format("Of {} no {} is written down; measure it first.", blank.name,
                                    what));
        }
        const Key key = keyAt(out, path);
        checkValue(key, KeyValue(value));
        key.set(out, KeyValue(value));
    }
    const Key wood = keyAt(out, keys.wood);
    wood.set(out, readValue(wood, blank.wood));
    startAnew(out, part, blank.moisture);
    return out;
}

Record reservedFor(const RackBlank& blank, const std::string& instrument) {
    Record out = blank.record;
    out.id = 0;
    out.time.clear();
    out.fields["reserved"] = instrument;
    return out;
}

} // namespace wren
