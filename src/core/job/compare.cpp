#include "job/compare.h"

#include "job/balance.h"
#include "job/keys.h"
#include "job/setup_report.h"
#include "job/tidy.h"

#include <algorithm>
#include <cmath>
#include <map>
#include <set>

#include <fmt/format.h>
#include <nlohmann/json.hpp>

namespace wren {
namespace {

using json = nlohmann::ordered_json;

std::map<std::string, std::string> valuesOf(const Project& p) {
    std::map<std::string, std::string> out;
    for (const Key& key : keysOf(p)) {
        if (!key.alias && !key.beforeLists) {
            const KeyValue value = key.get(p);
            out[key.path] =
                std::holds_alternative<std::monostate>(value) ? "auto" : showValue(key, value);
        }
    }
    return out;
}

std::vector<Comparison::Changed> changedKeys(const Project& first, const Project& second) {
    const auto a = valuesOf(first);
    auto b = valuesOf(second);
    std::vector<Comparison::Changed> out;
    for (const auto& [key, value] : a) {
        const auto other = b.find(key);
        if (other == b.end()) {
            out.push_back({key, value, "-"});
            continue;
        }
        if (other->second != value) {
            out.push_back({key, value, other->second});
        }
        b.erase(other);
    }
    for (const auto& [key, value] : b) {
        out.push_back({key, "-", value});
    }
    return out;
}

/// A number of a derived instrument, where it has one.
struct Figure {
    const char* what;
    const char* unit;
    std::optional<double> (*of)(const Derived&, const Balance&);
};

template <double SetupGeometry::*which>
std::optional<double> setupFigure(const Derived& d, const Balance&) {
    return d.body && d.neck ? std::optional(setupGeometry(d.body->part, d.neck->part).*which)
                            : std::nullopt;
}

const std::array figures{
    Figure{"neck angle", "degrees", setupFigure<&SetupGeometry::angle>},
    Figure{"neck pocket at the heel's end", "mm", setupFigure<&SetupGeometry::pocketInner>},
    Figure{"strings over the face at the bridge", "mm", setupFigure<&SetupGeometry::middleSaddle>},
    Figure{"bridge line from the heel's end", "mm", setupFigure<&SetupGeometry::bridgeFromHeel>},
    Figure{"bridge line from the nut", "mm", setupFigure<&SetupGeometry::bridgeFromNut>},
    Figure{"weight", "g", [](const Derived&, const Balance& b) { return std::optional(b.mass); }},
    Figure{"centre of mass from the nut", "mm",
           [](const Derived&, const Balance& b) { return std::optional(b.centre.x); }},
    Figure{"balance behind the front strap button", "mm",
           [](const Derived&, const Balance& b) {
               return b.buttons ? std::optional(b.behindButton()) : std::nullopt;
           }},
    Figure{"time at the machine", "s",
           [](const Derived& d, const Balance&) { return std::optional(d.seconds()); }}};

std::vector<std::string> without(const Derived& these, const Derived& those) {
    std::set<std::pair<PartId, std::string>> motions;
    for (const PostedProgram& p : those.programs) {
        motions.insert({p.program.part, p.motion});
    }
    std::vector<std::string> out;
    for (const PostedProgram& p : these.programs) {
        if (motions.count({p.program.part, p.motion}) == 0) {
            out.push_back(p.program.file);
        }
    }
    return out;
}

} // namespace

Comparison compare(const Project& first, const Project& second, const std::stop_token& stop) {
    Comparison out;
    out.keys = changedKeys(first, second);
    Derived a = deriveDrawing(first);
    derivePrograms(a, stop);
    Derived b = deriveDrawing(second, &a);
    derivePrograms(b, stop, &a);
    const Balance weighA = balanceOf(a);
    const Balance weighB = balanceOf(b);
    for (const Figure& f : figures) {
        const std::optional<double> x = f.of(a, weighA);
        const std::optional<double> y = f.of(b, weighB);
        if (x && y && std::abs(*x - *y) > 1e-6) {
            out.moved.push_back({f.what, f.unit, *x, *y});
        }
    }
    out.stale = without(a, b);
    out.fresh = without(b, a);
    return out;
}

std::string comparisonJson(const Comparison& c) {
    json out = {{"changed", json::array()}, {"moved", json::array()}};
    for (const Comparison::Changed& k : c.keys) {
        out["changed"].push_back({{"key", k.key}, {"first", k.first}, {"second", k.second}});
    }
    for (const Comparison::Moved& m : c.moved) {
        out["moved"].push_back({{"what", m.what},
                                {"unit", m.unit},
                                {"first", tidy(m.first)},
                                {"second", tidy(m.second)}});
    }
    out["stale"] = c.stale;
    out["new"] = c.fresh;
    return out.dump(2) + "\n";
}

std::string comparisonText(const Comparison& c) {
    if (c.keys.empty()) {
        return "The two designs are the same.\n";
    }
    std::string out = "What was changed\n";
    for (const Comparison::Changed& k : c.keys) {
        out += fmt::format("  {:<34} {} -> {}\n", k.key, k.first, k.second);
    }
    out += c.moved.empty() ? "It moves nothing.\n" : "What it moved\n";
    for (const Comparison::Moved& m : c.moved) {
        out += fmt::format("  {:<42} {:.2f} -> {:.2f} {}\n", m.what, m.first, m.second, m.unit);
    }
    const auto programs = [&](const char* head, const std::vector<std::string>& files) {
        out += files.empty() ? "" : head;
        for (const std::string& file : files) {
            out += "  " + file + "\n";
        }
    };
    out += c.stale.empty() && c.fresh.empty() ? "All programs stand.\n" : "";
    programs("Programs that go stale\n", c.stale);
    programs("Programs to be made\n", c.fresh);
    return out;
}

} // namespace wren
