#include "job/store.h"

#include "base/digest.h"
#include "base/error.h"
#include "base/files.h"
#include "job/keys.h"

#include <algorithm>

#include <fmt/format.h>
#include <nlohmann/json.hpp>

namespace wren {
namespace {

using nlohmann::json;

constexpr const char* formatName = "upland-wren project";
constexpr std::size_t mostBits = 200;

json::json_pointer pointerTo(const std::string& path) {
    std::string pointer;
    for (char c : "/" + path) {
        pointer += c == '.' ? '/' : c;
    }
    return json::json_pointer(pointer);
}

json valueAsJson(const KeyValue& value) {
    if (const double* number = std::get_if<double>(&value)) {
        const auto whole = static_cast<long long>(*number);
        return static_cast<double>(whole) == *number ? json(whole) : json(*number);
    }
    if (const std::string* word = std::get_if<std::string>(&value)) {
        return *word;
    }
    return nullptr;
}

KeyValue valueFromJson(const Key& key, const json& value, const std::string& source) {
    const bool number =
        key.kind == KeyKind::length || key.kind == KeyKind::number || key.kind == KeyKind::count;
    KeyValue out;
    if (value.is_null()) {
        out = std::monostate{};
    } else if (key.kind == KeyKind::text && key.checkText && value.is_number()) {
        out = fmt::format("{}", value.get<double>()); // a list of one, or a fret's number
    } else if (number && value.is_number()) {
        out = value.get<double>();
    } else if (!number && value.is_string()) {
        out = value.get<std::string>();
    } else {
        throw Error(fmt::format("{}: {} holds {} where {} was expected.", source, key.path,
                                value.type_name(), number ? "a number" : "a word"));
    }
    try {
        checkValue(key, out);
    } catch (const Error& e) {
        throw Error(fmt::format("{}: {}", source, e.what()));
    }
    return out;
}

json projectToJson(const Project& project) {
    json doc = json::parse(project.unknown);
    for (const Key& key : keysOf(project)) {
        const KeyValue value = key.get(project);
        if (!key.alias && !std::holds_alternative<std::monostate>(value)) {
            doc[pointerTo(key.path)] = valueAsJson(value);
        }
    }
    doc["format"] = formatName;
    doc["version"] = projectVersion;
    if (project.bits.empty()) {
        doc["bits"] = json::array();
    }
    return doc;
}

std::size_t lineOf(const std::string& text, std::size_t byte) {
    const auto end = text.begin() + static_cast<std::ptrdiff_t>(std::min(byte, text.size()));
    return static_cast<std::size_t>(std::count(text.begin(), end, '\n')) + 1;
}

/// A project is three groups deep; what is nested without end only fills the memory.
void checkDepth(const std::string& text, const std::string& source) {
    constexpr int deepest = 50;
    int depth = 0;
    bool quoted = false;
    for (std::size_t i = 0; i < text.size(); ++i) {
        const char c = text[i];
        if (quoted) {
            i += c == '\\' ? 1 : 0;
            quoted = c != '"';
        } else if (c == '"') {
            quoted = true;
        } else if (c == '[' || c == '{') {
            if (++depth > deepest) {
                throw Error(fmt::format("{} is nested more than {} groups deep at line {}; a "
                                        "project file was expected.",
                                        source, deepest, lineOf(text, i)));
            }
        } else if (c == ']' || c == '}') {
            --depth;
        }
    }
}

json parsed(const std::string& text, const std::string& source) {
    checkDepth(text, source);
    try {
        return json::parse(text);
    } catch (const json::parse_error& e) {
        const bool cutOff = e.byte >= text.size();
        throw Error(fmt::format("{} {} at line {}; a whole project file was expected.", source,
                                cutOff ? "is cut off" : "is damaged", lineOf(text, e.byte)));
    } catch (const json::out_of_range&) {
        throw Error(fmt::format("{} holds a number of more digits than any length has; a project "
                                "file was expected.",
                                source));
    }
}

/// Of what designHash() is taken of, so that a change of it can be told from a change of design.
constexpr int hashFormat = 2;

constexpr unsigned long long mostVersion = 1000000; ///< larger ones are no versions

/// What keys are gathered under at the top of a file.
constexpr const char* groups[] = {
    "board", "wire",        "markers",   "blank",    "test",       "hold",      "cut",
    "neck",  "head",        "tuners",    "rod",      "neck_blank", "neck_hold", "neck_cut",
    "body",  "neck_pocket", "pickup1",   "pickup2",  "pickup3",    "bridge",    "cavity",
    "jack",  "body_blank",  "body_hold", "body_cut", "machine"};

/// Takes what the keys cover out of the document; what is left is unknown to this version.
void removeKnown(json& doc, const Project& project) {
    for (const Key& key : keysOf(project)) {
        const json::json_pointer at = pointerTo(key.path);
        if (doc.contains(at)) {
            doc[at.parent_pointer()].erase(at.back());
        }
    }
    doc.erase("format");
    doc.erase("version");
    // A drawer's unknown keys stay with their bit, by position.
    for (const char* group : groups) {
        if (doc.contains(group) && doc[group].empty()) {
            doc.erase(group);
        }
    }
    if (doc.contains("bits") && std::all_of(doc["bits"].begin(), doc["bits"].end(),
                                            [](const json& b) { return b.empty(); })) {
        doc.erase("bits");
    }
}

} // namespace

std::string projectToText(const Project& project) {
    return projectToJson(project).dump(2) + "\n";
}

Project projectFromText(const std::string& text, const std::string& source) {
    json doc = parsed(text, source);
    if (!doc.is_object() || doc.value("format", json()) != json(formatName)) {
        throw Error(
            fmt::format("{} is not an Upland Wren project; \"format\": \"{}\" was expected.",
                        source, formatName));
    }
    const json version = doc.value("version", json());
    if (!version.is_number_integer()) {
        throw Error(
            fmt::format("{} does not say its version; a whole number was expected.", source));
    }
    if (version.is_number_unsigned() && version.get<unsigned long long>() > mostVersion) {
        throw Error(fmt::format("{} says it is of version {}; up to {} was expected.", source,
                                version.get<unsigned long long>(), projectVersion));
    }
    if (version.get<long long>() < 1) {
        throw Error(fmt::format("{} says it is of version {}; 1 to {} was expected.", source,
                                version.get<long long>(), projectVersion));
    }
    if (version.get<long long>() > projectVersion) {
        throw Error(fmt::format("{} is of version {}, made by a newer Upland Wren; this one reads "
                                "up to version {}.",
                                source, version.get<long long>(), projectVersion));
    }
    Project project;
    if (doc.contains("bits")) {
        if (!doc["bits"].is_array() || doc["bits"].size() > mostBits ||
            !std::all_of(doc["bits"].begin(), doc["bits"].end(),
                         [](const json& b) { return b.is_object(); })) {
            throw Error(
                fmt::format("{}: bits must be a list of at most {} bits.", source, mostBits));
        }
        project.bits.assign(doc["bits"].size(), Bit{});
    }
    for (const char* group : groups) {
        if (doc.contains(group) && !doc[group].is_object()) {
            throw Error(fmt::format("{}: {} must be a group of named values.", source, group));
        }
    }
    // Aliases say in another way what stored keys hold, so they come after all of those; a file
    // that holds the stored way too does not need them.
    const bool spreads = doc.contains(pointerTo("board.nut_spread"));
    for (const bool aliases : {false, true}) {
        for (const Key& key : keysOf(project)) {
            const json::json_pointer at = pointerTo(key.path);
            if (key.alias == aliases && !(aliases && spreads) && doc.contains(at)) {
                key.set(project, valueFromJson(key, doc[at], source));
            }
        }
    }
    for (std::size_t i = 0; i < project.bits.size(); ++i) {
        if (project.bits[i].name.empty()) { // there is no default for it
            throw Error(fmt::format("{}: bits.{} has no name; 1 to 80 characters were expected.",
                                    source, i));
        }
    }
    removeKnown(doc, project);
    project.unknown = doc.dump();
    return project;
}

Project loadProject(const std::filesystem::path& file) {
    return projectFromText(readFile(file), file.filename().string());
}

void saveProject(const Project& project, const std::filesystem::path& file) {
    writeFileSafely(file, projectToText(project), true);
}

std::string designHash(const Project& project) {
    Project usual;
    usual.bits.assign(project.bits.size(), Bit{});
    usual.name = project.name;
    usual.machine.name = project.machine.name;
    usual.offcut = project.offcut; // test slots are programs of their own
    json decided = {{"hash", hashFormat}, {"bits", project.bits.size()}};
    for (const Key& key : keysOf(project)) {
        const KeyValue value = key.get(project);
        if (!key.alias && value != key.get(usual)) {
            decided[key.path] = valueAsJson(value);
        }
    }
    return sha256(decided.dump());
}

} // namespace wren
