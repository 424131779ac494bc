#include "job/keys.h"

#include "base/error.h"
#include "shop/wood.h"

#include <algorithm>
#include <cmath>

#include <fmt/format.h>

namespace wren {
namespace {

class Table {
public:
    /// `at` is a callable Project& -> double&, usable on const and non-const projects alike.
    template <typename At>
    Key& number(KeyKind kind, std::string path, std::string unit, std::string meaning, double least,
                double most, At at) {
        Key k;
        k.path = std::move(path);
        k.kind = kind;
        k.unit = std::move(unit);
        k.meaning = std::move(meaning);
        k.least = least;
        k.most = most;
        k.get = [at](const Project& p) -> KeyValue {
            return static_cast<double>(at(const_cast<Project&>(p)));
        };
        k.set = [at](Project& p, const KeyValue& v) {
            auto& place = at(p);
            place = static_cast<std::decay_t<decltype(place)>>(std::get<double>(v));
        };
        keys_.push_back(std::move(k));
        return keys_.back();
    }

    template <typename At>
    void length(std::string path, std::string meaning, double least, double most, At at) {
        number(KeyKind::length, std::move(path), "mm", std::move(meaning), least, most, at);
    }
    template <typename At>
    void count(std::string path, std::string meaning, double least, double most, At at) {
        number(KeyKind::count, std::move(path), "", std::move(meaning), least, most, at);
    }
    template <typename At>
    void rate(std::string path, std::string unit, std::string meaning, double least, double most,
              At at) {
        number(KeyKind::number, std::move(path), std::move(unit), std::move(meaning), least, most,
               at);
    }

    /// An override: empty means the recipe decides.
    template <typename At>
    void maybe(KeyKind kind, std::string path, std::string unit, std::string meaning, double least,
               double most, At at) {
        Key k;
        k.path = std::move(path);
        k.kind = kind;
        k.unit = std::move(unit);
        k.meaning = std::move(meaning);
        k.least = least;
        k.most = most;
        k.mayBeAuto = true;
        k.get = [at](const Project& p) -> KeyValue {
            const auto& o = at(const_cast<Project&>(p));
            return o ? KeyValue(*o) : KeyValue();
        };
        k.set = [at](Project& p, const KeyValue& v) {
            auto& o = at(p);
            if (const double* d = std::get_if<double>(&v)) {
                o = *d;
            } else {
                o.reset();
            }
        };
        keys_.push_back(std::move(k));
    }

    void words(std::string path, std::string meaning, std::vector<std::string> choices,
               std::function<std::string(const Project&)> get,
               std::function<void(Project&, const std::string&)> set, bool mayBeAuto = false) {
        Key k;
        k.path = std::move(path);
        k.kind = choices.empty() ? KeyKind::text : KeyKind::choice;
        k.meaning = std::move(meaning);
        k.choices = std::move(choices);
        k.mayBeAuto = mayBeAuto;
        k.get = [get, mayBeAuto](const Project& p) -> KeyValue {
            const std::string word = get(p);
            return mayBeAuto && word.empty() ? KeyValue() : KeyValue(word);
        };
        k.set = [set](Project& p, const KeyValue& v) {
            const std::string* word = std::get_if<std::string>(&v);
            set(p, word ? *word : std::string());
        };
        keys_.push_back(std::move(k));
    }

    std::vector<Key> take() { return std::move(keys_); }

private:
    std::vector<Key> keys_;
};

void boardKeys(Table& t) {
    t.words(
        "name", "the project's name", {}, [](const Project& p) { return p.name; },
        [](Project& p, const std::string& v) { p.name = v; });
    t.count("board.strings", "strings", 4, 9, [](Project& p) -> int& { return p.board.strings; });
    t.length("board.scale", "scale length", 250, 1300,
             [](Project& p) -> double& { return p.board.scaleLength; });
    t.count("board.frets", "frets", 1, 36, [](Project& p) -> int& { return p.board.frets; });
    t.length("board.nut_width", "board width at the nut", 20, 150,
             [](Project& p) -> double& { return p.board.nutWidth; });
    t.length("board.last_fret_width", "board width at the last fret", 20, 200,
             [](Project& p) -> double& { return p.board.lastFretWidth; });
    t.length("board.overhang", "board outside the outer strings, each side", 0, 12,
             [](Project& p) -> double& { return p.board.overhang; });
    t.length("board.past_last_fret", "board beyond the last fret's centre", 2, 60,
             [](Project& p) -> double& { return p.board.pastLastFret; });
    t.length("board.radius", "radius of the cylindrical face", 100, 3000,
             [](Project& p) -> double& { return p.board.radius; });
    t.length("board.thickness", "thickness on the centreline", 2, 20,
             [](Project& p) -> double& { return p.board.thickness; });
    t.length("board.slot_width", "fret slot width", 0.3, 1.5,
             [](Project& p) -> double& { return p.board.slotWidth; });
    t.length("board.slot_depth", "fret slot depth below the curved face", 0.3, 10,
             [](Project& p) -> double& { return p.board.slotDepth; });
}

void blankKeys(Table& t) {
    t.length("blank.length", "blank length", 50, 3000,
             [](Project& p) -> double& { return p.blank.length; });
    t.length("blank.width", "blank width", 10, 1000,
             [](Project& p) -> double& { return p.blank.width; });
    t.length("blank.thickness", "blank thickness, as measured", 1, 60,
             [](Project& p) -> double& { return p.blank.thickness; });
    std::vector<std::string> ids;
    for (const Wood& w : woods()) {
        ids.push_back(w.id);
    }
    t.words(
        "blank.wood", "wood", ids, [](const Project& p) { return p.blank.wood; },
        [](Project& p, const std::string& v) { p.blank.wood = v; });
    t.words(
        "hold.z_zero", "face Z is zeroed on", {"bed", "top"},
        [](const Project& p) { return std::string(zZeroName(p.zZero)); },
        [](Project& p, const std::string& v) { p.zZero = v == "top" ? ZZero::top : ZZero::bed; });
}

void overrideKeys(Table& t, const std::string& cut, CutOverrides CutSettings::*which) {
    const std::string head = "cut." + cut + ".";
    t.words(
        head + "bit", "bit for the " + cut, {},
        [which](const Project& p) { return (p.cut.*which).bit; },
        [which](Project& p, const std::string& v) { (p.cut.*which).bit = v; }, true);
    using Optional = std::optional<double>;
    t.maybe(KeyKind::number, head + "rpm", "rpm", "spindle speed for the " + cut, 1000, 60000,
            [which](Project& p) -> Optional& { return (p.cut.*which).rpm; });
    t.maybe(KeyKind::number, head + "feed", "mm/min", "feed for the " + cut, 10, 20000,
            [which](Project& p) -> Optional& { return (p.cut.*which).feed; });
    t.maybe(KeyKind::number, head + "plunge", "mm/min", "feed straight down for the " + cut, 5,
            5000, [which](Project& p) -> Optional& { return (p.cut.*which).plunge; });
    t.maybe(KeyKind::length, head + "depth_per_pass", "mm", "depth of one pass for the " + cut,
            0.02, 20, [which](Project& p) -> Optional& { return (p.cut.*which).depthPerPass; });
}

void cutKeys(Table& t) {
    t.words(
        "cut.school", "what is cut first", {"radius-first", "slots-first"},
        [](const Project& p) {
            return std::string(p.cut.school == School::slotsFirst ? "slots-first" : "radius-first");
        },
        [](Project& p, const std::string& v) {
            p.cut.school = v == "slots-first" ? School::slotsFirst : School::radiusFirst;
        });
    t.length("cut.scallop", "ridge height left by finishing", 0.002, 0.3,
             [](Project& p) -> double& { return p.cut.scallop; });
    t.length("cut.skin", "wood roughing leaves for finishing", 0.05, 1.5,
             [](Project& p) -> double& { return p.cut.skin; });
    t.length("cut.through", "how far through cuts pass the underside", 0.1, 5,
             [](Project& p) -> double& { return p.cut.through; });
    t.count("cut.tabs_per_side", "tabs on each long edge", 0, 12,
            [](Project& p) -> int& { return p.cut.tabsPerSide; });
    t.length("cut.tab_length", "length of a tab", 2, 40,
             [](Project& p) -> double& { return p.cut.tabLength; });
    t.length("cut.tab_height", "height of a tab above the underside", 0.3, 6,
             [](Project& p) -> double& { return p.cut.tabHeight; });
    overrideKeys(t, "radius", &CutSettings::radius);
    overrideKeys(t, "slots", &CutSettings::slots);
    overrideKeys(t, "outline", &CutSettings::outline);
}

void machineKeys(Table& t) {
    t.words(
        "machine.name", "the machine's name", {}, [](const Project& p) { return p.machine.name; },
        [](Project& p, const std::string& v) { p.machine.name = v; });
    t.words(
        "machine.units", "unit its programs are written in", {"mm", "inch"},
        [](const Project& p) {
            return std::string(p.machine.programUnit == LengthUnit::inch ? "inch" : "mm");
        },
        [](Project& p, const std::string& v) {
            p.machine.programUnit = v == "inch" ? LengthUnit::inch : LengthUnit::mm;
        });
    t.length("machine.travel_x", "travel left to right", 100, 5000,
             [](Project& p) -> double& { return p.machine.travel.x; });
    t.length("machine.travel_y", "travel front to back", 100, 5000,
             [](Project& p) -> double& { return p.machine.travel.y; });
    t.length("machine.travel_z", "travel up and down", 20, 1000,
             [](Project& p) -> double& { return p.machine.travel.z; });
    t.rate("machine.rapid", "mm/min", "rapid rate", 100, 60000,
           [](Project& p) -> double& { return p.machine.rapid; });
    t.rate("machine.max_feed", "mm/min", "highest cutting feed", 100, 60000,
           [](Project& p) -> double& { return p.machine.maxFeed; });
    t.rate("machine.acceleration_x", "mm/s2", "acceleration left to right", 10, 20000,
           [](Project& p) -> double& { return p.machine.acceleration.x; });
    t.rate("machine.acceleration_y", "mm/s2", "acceleration front to back", 10, 20000,
           [](Project& p) -> double& { return p.machine.acceleration.y; });
    t.rate("machine.acceleration_z", "mm/s2", "acceleration up and down", 10, 20000,
           [](Project& p) -> double& { return p.machine.acceleration.z; });
    t.rate("machine.corner_speed", "mm/s", "sudden change of velocity it takes at corners", 0.5,
           200, [](Project& p) -> double& { return p.machine.cornerSpeed; });
    t.rate("machine.spindle_min", "rpm", "slowest spindle speed", 500, 60000,
           [](Project& p) -> double& { return p.machine.spindleMin; });
    t.rate("machine.spindle_max", "rpm", "fastest spindle speed", 500, 60000,
           [](Project& p) -> double& { return p.machine.spindleMax; });
    t.length("machine.spoil_depth", "how far a bit may enter the spoil board", 0, 20,
             [](Project& p) -> double& { return p.machine.spoilDepth; });
    t.length("machine.crossing_x", "where the engraved lines cross, from home, X", 0, 5000,
             [](Project& p) -> double& { return p.machine.crossing.x; });
    t.length("machine.crossing_y", "where the engraved lines cross, from home, Y", 0, 5000,
             [](Project& p) -> double& { return p.machine.crossing.y; });
    t.length("machine.plate", "thickness of the probe plate", 0, 60,
             [](Project& p) -> double& { return p.machine.plate; });
}

void bitKeys(Table& t, std::size_t i) {
    const std::string head = fmt::format("bits.{}.", i);
    t.words(
        head + "name", "the bit's name", {}, [i](const Project& p) { return p.bits.at(i).name; },
        [i](Project& p, const std::string& v) { p.bits.at(i).name = v; });
    t.words(
        head + "kind", "kind of bit", {"flat", "ball", "fret-slot"},
        [i](const Project& p) { return std::string(bitKindName(p.bits.at(i).kind)); },
        [i](Project& p, const std::string& v) { p.bits.at(i).kind = bitKindFromName(v); });
    t.length(head + "diameter", "cutting diameter", 0.2, 60,
             [i](Project& p) -> double& { return p.bits.at(i).diameter; });
    t.length(head + "flute_length", "length of the flutes", 0.5, 120,
             [i](Project& p) -> double& { return p.bits.at(i).fluteLength; });
    t.count(head + "flutes", "number of flutes", 1, 8,
            [i](Project& p) -> int& { return p.bits.at(i).flutes; });
    t.length(head + "shank", "shank diameter", 0.5, 30,
             [i](Project& p) -> double& { return p.bits.at(i).shank; });
}

} // namespace

std::vector<Key> keysOf(const Project& project) {
    Table t;
    boardKeys(t);
    blankKeys(t);
    cutKeys(t);
    machineKeys(t);
    for (std::size_t i = 0; i < project.bits.size(); ++i) {
        bitKeys(t, i);
    }
    return t.take();
}

Key keyAt(const Project& project, const std::string& path) {
    for (Key& key : keysOf(project)) {
        if (key.path == path) {
            return key;
        }
    }
    throw Error(
        fmt::format("There is no key \"{}\"; `wren set FILE --list` shows them all.", path));
}

void checkValue(const Key& key, const KeyValue& value) {
    if (std::holds_alternative<std::monostate>(value)) {
        if (!key.mayBeAuto) {
            throw Error(
                fmt::format("{} cannot be left to the recipe; a value was expected.", key.path));
        }
        return;
    }
    if (const double* number = std::get_if<double>(&value)) {
        if (!std::isfinite(*number) || *number < key.least || *number > key.most) {
            throw Error(fmt::format("{}: {:g}{}{} is outside {:g} to {:g}.", key.path, *number,
                                    key.unit.empty() ? "" : " ", key.unit, key.least, key.most));
        }
        if (key.kind == KeyKind::count && *number != std::floor(*number)) {
            throw Error(fmt::format("{}: {:g} is not a whole number.", key.path, *number));
        }
        return;
    }
    const std::string& word = std::get<std::string>(value);
    if (key.kind == KeyKind::choice &&
        std::find(key.choices.begin(), key.choices.end(), word) == key.choices.end()) {
        throw Error(fmt::format("{}: \"{}\" is not one of {}.", key.path, word,
                                fmt::join(key.choices, ", ")));
    }
    if (key.kind == KeyKind::text && (word.empty() || word.size() > 80)) {
        throw Error(
            fmt::format("{}: a word or name of 1 to 80 characters was expected.", key.path));
    }
}

namespace {

/// "250 mm/min" for a feed: the key's own unit may stand behind its number.
std::string withoutUnit(const std::string& text, const std::string& unit) {
    const std::size_t last = text.find_last_not_of(" \t");
    const std::string trimmed = text.substr(0, last == std::string::npos ? 0 : last + 1);
    const bool has = !unit.empty() && trimmed.size() > unit.size() &&
                     trimmed.compare(trimmed.size() - unit.size(), unit.size(), unit) == 0;
    return has ? trimmed.substr(0, trimmed.size() - unit.size()) : trimmed;
}

} // namespace

KeyValue readValue(const Key& key, const std::string& text, LengthUnit unit) {
    KeyValue value;
    if (!(key.mayBeAuto && (text == "auto" || text.empty()))) {
        try {
            switch (key.kind) {
            case KeyKind::length:
                value = parseLength(text, unit);
                break;
            case KeyKind::number:
            case KeyKind::count:
                value = parseNumber(withoutUnit(text, key.unit));
                break;
            case KeyKind::choice:
            case KeyKind::text:
                value = text;
                break;
            }
        } catch (const Error& e) {
            throw Error(fmt::format("{}: {}", key.path, e.what()));
        }
    }
    checkValue(key, value);
    return value;
}

std::string showValue(const Key& key, const KeyValue& value, LengthUnit unit) {
    if (std::holds_alternative<std::monostate>(value)) {
        return "auto";
    }
    if (const std::string* word = std::get_if<std::string>(&value)) {
        return *word;
    }
    const double number = std::get<double>(value);
    if (key.kind == KeyKind::length) {
        const double places = std::abs(number * 100 - std::round(number * 100)) > 1e-6 ? 3 : 2;
        return formatLength(number, unit, static_cast<int>(places));
    }
    return key.unit.empty() ? fmt::format("{:g}", number)
                            : fmt::format("{:g} {}", number, key.unit);
}

Project withKey(const Project& project, const std::string& path, const std::string& text,
                LengthUnit unit) {
    const Key key = keyAt(project, path);
    const KeyValue value = readValue(key, text, unit);
    Project changed = project;
    key.set(changed, value);
    return changed;
}

} // namespace wren
