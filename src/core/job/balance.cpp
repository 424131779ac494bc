#include "job/balance.h"

#include "design/fan.h"
#include "design/string_set.h"
#include "job/tidy.h"
#include "shop/wood.h"

#include <algorithm>
#include <cmath>
#include <numbers>

#include <fmt/format.h>
#include <nlohmann/json.hpp>

namespace wren {
namespace {

using json = nlohmann::ordered_json;

constexpr double bassScale = 740; ///< mm, from here on everything is heavier

/// Usual weights, g; common practice, no source.
namespace usual {
double tuner(bool bass) {
    return bass ? 60 : 32;
}
double bridge(BridgeKind kind, int strings, bool bass) {
    const double guitar = kind == BridgeKind::posts     ? 260
                          : kind == BridgeKind::singles ? 38.0 * strings
                                                        : 190;
    return bass ? guitar * 1.8 : guitar;
}
double pickup(PickupKind kind) {
    return kind == PickupKind::single ? 95 : kind == PickupKind::twoCoil ? 170 : 140;
}
double control(FeatureKind kind) {
    return kind == FeatureKind::lever ? 45 : kind == FeatureKind::pot ? 38 : 24;
}
constexpr double jack = 22;
constexpr double strapButton = 11;
constexpr double rodPerMm = 0.26; ///< of a two-way rod's length
} // namespace usual

class Fittings {
public:
    explicit Fittings(const Derived& d)
        : d_(d), p_(d.project), w_(d.project.fittings), bass_(p_.board.scaleLength >= bassScale) {}

    std::vector<FittingMass> all() {
        frets();
        strings();
        if (d_.neck) {
            neck();
        }
        if (d_.body) {
            body();
        }
        return std::move(out_);
    }

private:
    /// One more of that name.
    void hang(const std::string& what, std::optional<double> weighed, double usual, Vec3 at) {
        const double mass = weighed.value_or(usual);
        auto it = std::find_if(out_.begin(), out_.end(),
                               [&](const FittingMass& f) { return f.what == what; });
        if (it == out_.end()) {
            out_.push_back({what, 0, 0, {}, !weighed});
            it = out_.end() - 1;
        }
        it->centre = (it->centre * it->mass + at * mass) * (1 / std::max(1e-9, it->mass + mass));
        it->mass += mass;
        ++it->count;
    }
    /// A place of the body's plan, at a height over its face.
    Vec3 onBody(Vec2 fromBridge, double z) const {
        const BodyPlace& place = d_.body->part.place();
        const Vec2 at = place.at(fromBridge);
        return place.toInstrument({at.x, at.y, z});
    }

    /// Nickel silver, 8.7 g/cm3 (from memory): three quarters of its crown's box, and its tang.
    void frets() {
        if (!d_.board) {
            return;
        }
        const FretWire& wire = p_.board.wire;
        const double area =
            0.75 * wire.crownWidth * wire.crownHeight + wire.tangWidth * wire.tangDepth;
        for (const FretSlot& s : d_.board->slots()) {
            const Vec2 at = (s.low + s.high) * 0.5;
            hang("frets", {}, length(s.high - s.low) * area * 8.7 / 1000,
                 {at.x, at.y, p_.neck.accent + p_.board.thickness});
        }
    }
    void strings() {
        const Fan fan(p_.board);
        const double each = bass_ ? 11 : 3.4;
        double mass = 0;
        for (const StringGauge& s : p_.board.gauges) {
            const std::optional<double> weight = unitWeight(s);
            mass += weight ? *weight * p_.board.scaleLength / 1000 : each;
        }
        const double middle = (fan.bassString(0.5).x + fan.trebleString(0.5).x) / 2;
        hang("strings", {}, mass > 0 ? mass : each * p_.board.strings,
             {middle, 0, p_.board.thickness + 2});
        out_.back().count = p_.board.strings;
    }
    void neck() {
        for (const TunerPlace& t : d_.neck->part.tuners()) {
            hang("tuners", w_.tuner, usual::tuner(bass_),
                 {t.post.x, t.post.y, d_.neck->part.face(t.post.x) - 5});
        }
        const TrussRod& rod = p_.neck.rod;
        if (rod.from != RodFrom::none) {
            hang("truss rod", w_.rod, rod.length * usual::rodPerMm,
                 {rod.start + rod.length / 2, 0, -rod.depth / 2});
        }
    }
    void body() {
        const Body& b = p_.body;
        const BodyPart& part = d_.body->part;
        for (const PickupPlace& k : part.pickups()) {
            hang("pickups", w_.pickup, usual::pickup(b.pickups.at(k.feature.index).kind),
                 part.place().toInstrument({k.middle.x, k.middle.y, 0}));
        }
        hang("bridge", w_.bridge, usual::bridge(b.bridge.kind, p_.board.strings, bass_),
             onBody({b.bridgeAt(), 0}, part.bridgeStandsOn() + 5));
        for (std::size_t i = 0; i < b.controls.size(); ++i) {
            hang("pots and switches", w_.control, usual::control(controlId(b, i).kind),
                 onBody(b.controls[i].at, -8));
        }
        for (const Jack& j : b.jacks) {
            if (j.kind != JackKind::none) {
                hang("jack", w_.jack, usual::jack, onBody(j.at, -b.thickness / 2));
            }
        }
        for (const StrapButton& s : b.straps) {
            hang("strap buttons", w_.strapButton, usual::strapButton,
                 onBody(s.at, -b.thickness / 2));
        }
        for (const OwnFitting& own : w_.others) {
            hang(own.what, own.mass, own.mass, onBody(own.at, -b.thickness / 2));
        }
    }

    const Derived& d_;
    const Project& p_;
    const FittingWeights& w_;
    bool bass_;
    std::vector<FittingMass> out_;
};

/// The heaviest wood up to that density, g/cm3, that a neck is made of: known ones and the maker's.
std::optional<Wood> forNeckUpTo(double density, std::vector<Wood> choice) {
    constexpr double least = 0.48; // a softer neck bends and dents; common practice, no source
    choice.insert(choice.end(), woods().begin(), woods().end());
    std::optional<Wood> best;
    for (const Wood& w : choice) {
        const bool serves =
            !w.cast && !w.sheet && w.density() >= least && w.density() <= density;
        if (serves && (!best || w.density() > best->density())) {
            best = w;
        }
    }
    return best;
}

json place(Vec3 p) {
    return {tidy(p.x), tidy(p.y), tidy(p.z)};
}

} // namespace

Balance balanceAsKnown(const Derived& d) {
    Balance b;
    b.parts = massesOf(d);
    b.fittings = Fittings(d).all();
    for (const OwnWood& own : d.project.woods) {
        b.ownWoods.push_back(own.wood());
    }
    Vec3 moment;
    const auto add = [&](double mass, Vec3 at) {
        b.mass += mass;
        moment = moment + at * mass;
    };
    for (const PieceMass& m : b.parts) {
        add(m.mass, m.centre);
    }
    for (const FittingMass& f : b.fittings) {
        add(f.mass, f.centre);
    }
    b.centre = b.mass > 0 ? moment * (1 / b.mass) : Vec3{};
    const std::vector<StrapButton>& straps = d.project.body.straps;
    if (d.body && straps.size() >= 2) {
        b.buttons = {{1e9, -1e9}};
        for (const StrapButton& s : straps) {
            const BodyPlace& place = d.body->part.place();
            const Vec2 at = place.at(s.at);
            const double x = place.toInstrument({at.x, at.y, 0}).x;
            (*b.buttons)[0] = std::min((*b.buttons)[0], x);
            (*b.buttons)[1] = std::max((*b.buttons)[1], x);
        }
    }
    return b;
}

Balance balanceOf(Derived& d) {
    if (!d.weighed) {
        d.weighed = weigh(d);
    }
    return balanceAsKnown(d);
}

std::vector<std::string> keepsHeadUp(const Balance& b) {
    std::vector<std::string> out;
    if (!b.dives()) {
        return out;
    }
    const auto [front, rear] = *b.buttons;
    const double short_ = front - b.centre.x;
    out.push_back(fmt::format("the front strap button {:.0f} mm nearer to the nut", short_));
    if (rear - front > 50) {
        out.push_back(
            fmt::format("{:.0f} g at the rear strap button", b.mass * short_ / (rear - front)));
    }
    const auto neck = std::find_if(b.parts.begin(), b.parts.end(),
                                   [](const PieceMass& m) { return m.part == Role::neck; });
    if (neck != b.parts.end() && neck->centre.x < front) {
        // Taken off the neck it turns the less by the way from its middle to the button.
        const double less = b.mass * short_ / (front - neck->centre.x);
        const double density = (neck->mass - less) / (neck->volume / 1000);
        if (const std::optional<Wood> light = forNeckUpTo(density, b.ownWoods)) {
            out.push_back(fmt::format("a neck {:.0f} g lighter, of {} say", less, light->name));
        }
    }
    return out;
}

std::string balanceJson(const Balance& b) {
    json out = {{"parts", json::array()}, {"hardware", json::array()}};
    for (const PieceMass& m : b.parts) {
        out["parts"].push_back({{"name", m.part.name()},
                                {"wood", m.wood},
                                {"volume_mm3", tidy(m.volume)},
                                {"mass_g", tidy(m.mass)},
                                {"centre_mm", place(m.centre)}});
    }
    for (const FittingMass& f : b.fittings) {
        out["hardware"].push_back({{"name", f.what},
                                   {"count", f.count},
                                   {"mass_g", tidy(f.mass)},
                                   {"centre_mm", place(f.centre)},
                                   {"weighed", !f.usual}});
    }
    out["total"] = {{"mass_g", tidy(b.mass)}, {"centre_mm", place(b.centre)}};
    out["dives"] = b.buttons ? json(b.dives()) : json();
    out["behind_front_button_mm"] = b.buttons ? json(tidy(b.behindButton())) : json();
    out["would_keep_the_head_up"] = keepsHeadUp(b);
    return out.dump(2) + "\n";
}

std::string balanceText(const Balance& b) {
    std::string out = fmt::format("{:<22}{:<20}{:>10}{:>12}\n", "", "wood", "g", "from nut");
    for (const PieceMass& m : b.parts) {
        out += fmt::format("{:<22}{:<20}{:>10.0f}{:>9.0f} mm\n", m.part.name(), m.wood, m.mass,
                           m.centre.x);
    }
    for (const FittingMass& f : b.fittings) {
        out += fmt::format("{:<22}{:<20}{:>10.0f}{:>9.0f} mm\n",
                           f.count > 1 ? fmt::format("{} {}", f.count, f.what) : f.what,
                           f.usual ? "(usual weight)" : "", f.mass, f.centre.x);
    }
    out += fmt::format("\n{:<42}{:>10.0f}{:>9.0f} mm\n", "all of it", b.mass, b.centre.x);
    if (b.buttons) {
        out += b.dives()
                   ? fmt::format("The head goes down: it balances {:.0f} mm before the front strap "
                                 "button.\n",
                                 -b.behindButton())
                   : fmt::format("The head stays up: it balances {:.0f} mm behind the front strap "
                                 "button.\n",
                                 b.behindButton());
        for (const std::string& mend : keepsHeadUp(b)) {
            out += "What would do: " + mend + ".\n";
        }
    } else {
        out += "Two strap buttons are needed to tell how it hangs.\n";
    }
    return out;
}

} // namespace wren
