#include "job/store.h"

#include "base/digest.h"
#include "base/error.h"
#include "base/files.h"
#include "job/list_keys.h"
#include "job/variant_name.h"

#include <algorithm>
#include <set>

#include <fmt/format.h>
#include <nlohmann/json.hpp>

namespace wren {
namespace {

using nlohmann::json;

constexpr const char* formatName = "upland-wren project";

json::json_pointer pointerTo(const std::string& path) {
    std::string pointer;
    for (char c : "/" + path) {
        pointer += c == '.' ? '/' : c;
    }
    return json::json_pointer(pointer);
}

json numberAsJson(double number) {
    const auto whole = static_cast<long long>(number);
    return static_cast<double>(whole) == number ? json(whole) : json(number);
}

json valueAsJson(const KeyValue& value) {
    if (const double* number = std::get_if<double>(&value)) {
        return numberAsJson(*number);
    }
    if (const Vec2* place = std::get_if<Vec2>(&value)) {
        return json::array({numberAsJson(place->x), numberAsJson(place->y)});
    }
    if (const std::string* word = std::get_if<std::string>(&value)) {
        return *word;
    }
    return nullptr;
}

KeyValue valueFromJson(const Key& key, const json& value, const std::string& source) {
    const bool place = key.kind == KeyKind::place;
    const bool number =
        key.kind == KeyKind::length || key.kind == KeyKind::number || key.kind == KeyKind::count;
    KeyValue out;
    if (value.is_null()) {
        out = std::monostate{};
    } else if (key.kind == KeyKind::text && key.checkText && value.is_number()) {
        out = fmt::format("{}", value.get<double>()); // a list of one, or a fret's number
    } else if (number && value.is_number()) {
        out = value.get<double>();
    } else if (place && value.is_array() && value.size() == 2 && value[0].is_number() &&
               value[1].is_number()) {
        out = Vec2{value[0].get<double>(), value[1].get<double>()};
    } else if (!number && !place && value.is_string()) {
        out = value.get<std::string>();
    } else {
        throw Error(fmt::format("{}: {} holds {} where {} was expected.", source, key.path,
                                value.type_name(),
                                place    ? "a place of two numbers"
                                : number ? "a number"
                                         : "a word"));
    }
    try {
        checkValue(key, out);
    } catch (const Error& e) {
        throw Error(fmt::format("{}: {}", source, e.what()));
    }
    return out;
}

/// On one line, with room after commas and colons.
std::string spaced(const json& value) {
    std::string out;
    bool first = true;
    if (!value.is_object() && !value.is_array()) {
        return value.dump();
    }
    for (const auto& [name, one] : value.items()) {
        out += first ? "" : ", ";
        out += (value.is_object() ? json(name).dump() + ": " : "") + spaced(one);
        first = false;
    }
    return value.is_object() ? "{" + out + "}" : "[" + out + "]";
}

void putKeys(json& doc, const std::vector<Key>& keys, const Project& project) {
    for (const Key& key : keys) {
        const KeyValue value = key.get(project);
        if (!key.alias && !std::holds_alternative<std::monostate>(value)) {
            doc[pointerTo(key.path)] = valueAsJson(value);
        }
    }
}

json projectToJson(const Project& project) {
    json doc = json::parse(project.unknown);
    Project& known = const_cast<Project&>(project); // only read through
    for (const ListKey& list : listsOf(project)) {
        json all = json::array();
        for (std::size_t i = 0; i < list.items->size(project); ++i) {
            const std::string& more = list.items->unknown(known, i);
            all.push_back(more.empty() ? json::object() : json::parse(more));
        }
        doc[pointerTo(list.path)] = std::move(all);
    }
    putKeys(doc, keysOf(project), project);
    for (const Variant& v : project.variants) {
        json one = v.unknown.empty() ? json::object() : json::parse(v.unknown);
        one["name"] = v.name;
        one["frozen"] = v.frozen;
        one["design"] = projectToJson(*v.design);
        doc["variants"].push_back(std::move(one));
    }
    doc["format"] = formatName;
    doc["version"] = projectVersion;
    return doc;
}

/// As dump(2) writes it, but small things on one line: a place, a node, a channel.
void write(const json& value, int depth, std::string& out) {
    constexpr std::size_t widest = 96;
    const std::string line = value.dump();
    const bool group = value.is_object() || value.is_array();
    if (!group || value.empty() || (depth > 1 && line.size() <= widest)) {
        out += group ? spaced(value) : line;
        return;
    }
    const std::string inner(static_cast<std::size_t>(2 * (depth + 1)), ' ');
    out += value.is_object() ? "{" : "[";
    bool first = true;
    for (const auto& [name, one] : value.items()) {
        out += (first ? "\n" : ",\n") + inner;
        out += value.is_object() ? json(name).dump() + ": " : "";
        write(one, depth + 1, out);
        first = false;
    }
    out += "\n" + std::string(static_cast<std::size_t>(2 * depth), ' ') +
           (value.is_object() ? "}" : "]");
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
constexpr int hashFormat = 3;

constexpr unsigned long long mostVersion = 1000000; ///< larger ones are no versions

/// What keys and lists are gathered under at the top of a file: those with a dot in their path.
std::set<std::string> groupsOf(const Project& project) {
    std::set<std::string> groups;
    const auto add = [&](const std::string& path) {
        const std::size_t dot = path.find('.');
        if (dot != std::string::npos) {
            groups.insert(path.substr(0, dot));
        }
    };
    for (const Key& key : keysOf(project)) {
        add(key.path);
    }
    for (const ListKey& list : listsOf(project)) {
        add(list.path);
    }
    groups.erase("bits");
    return groups;
}

/// Makes room for what these lists hold in a document, and in turn for what is in that.
void makeItems(Project& project, const std::vector<ListKey>& lists, const json& doc,
               const std::string& source) {
    for (const ListKey& list : lists) {
        const json::json_pointer at = pointerTo(list.path);
        if (!doc.contains(at) || doc[at].is_string()) {
            continue; // text is an older file's, read as a key
        }
        const json& all = doc[at];
        if (!all.is_array() || all.size() > list.most ||
            !std::all_of(all.begin(), all.end(), [](const json& b) { return b.is_object(); })) {
            throw Error(fmt::format("{}: {} must be a list of at most {} groups of named values.",
                                    source, list.path, list.most));
        }
        list.items->clear(project);
        for (std::size_t i = 0; i < all.size(); ++i) {
            list.items->add(project, i);
            makeItems(project, listsIn(list, i), doc, source);
        }
    }
}

/// Makes room in the lists of `to` for what those of `from` hold, fresh things where that is not as
/// many as usual. Of the drawer everything is fresh: a project always carries its own. `changed`
/// are the lists that are not as usual.
void makeAlike(Project& to, const std::vector<ListKey>& lists, const Project& from,
               std::vector<ListKey>& changed) {
    for (const ListKey& list : lists) {
        if (list.items->size(to) != list.items->size(from) || list.path == "bits") {
            list.items->clear(to);
            for (std::size_t i = 0; i < list.items->size(from); ++i) {
                list.items->add(to, i);
            }
            changed.push_back(list);
        }
        for (std::size_t i = 0; i < list.items->size(from); ++i) {
            makeAlike(to, listsIn(list, i), from, changed);
        }
    }
}

/// Takes what the keys cover out of the document; what is left is unknown to this version, and
/// stays with the thing it stood in.
void removeKnown(json& doc, Project& project) {
    const auto remove = [&](const std::string& path, bool lists) {
        const json::json_pointer at = pointerTo(path);
        if (doc.contains(at) && (lists || !doc[at].is_array())) {
            doc[at.parent_pointer()].erase(at.back());
        }
    };
    for (const Key& key : keysOf(project)) {
        remove(key.path, !key.beforeLists); // an older key's list is removed below
        if (!key.formerly.empty()) {
            remove(key.formerly, true);
        }
    }
    doc.erase("format");
    doc.erase("version");
    std::vector<ListKey> lists = listsOf(project);
    for (auto list = lists.rbegin(); list != lists.rend(); ++list) { // the inner ones first
        const json::json_pointer at = pointerTo(list->path);
        if (!doc.contains(at)) {
            continue;
        }
        for (std::size_t i = 0; doc[at].is_array() && i < list->items->size(project); ++i) {
            if (!doc[at][i].empty()) {
                list->items->unknown(project, i) = doc[at][i].dump();
            }
        }
        doc[at.parent_pointer()].erase(at.back());
    }
    for (const std::string& group : groupsOf(project)) {
        if (doc.contains(group) && doc[group].empty()) {
            doc.erase(group);
        }
    }
}

} // namespace

namespace {

Project projectFromJson(json doc, const std::string& source);

/// The designs kept inside a project, taken out of its document.
std::vector<Variant> takeVariants(json& doc, const std::string& source) {
    std::vector<Variant> out;
    if (!doc.contains("variants")) {
        return out;
    }
    const json all = doc["variants"];
    doc.erase("variants");
    if (!all.is_array() || all.size() > mostVariants) {
        throw Error(fmt::format("{}: variants must be a list of at most {} designs.", source,
                                mostVariants));
    }
    for (std::size_t i = 0; i < all.size(); ++i) {
        const std::string where = fmt::format("{}: variants.{}", source, i);
        json one = all[i];
        if (!one.is_object() || !one.value("name", json()).is_string() ||
            !one.value("frozen", json()).is_boolean() || !one.contains("design")) {
            throw Error(where + " must have a name, frozen as true or false, and a design.");
        }
        Variant v;
        v.name = one["name"].get<std::string>();
        v.frozen = one["frozen"].get<bool>();
        const bool twice =
            std::any_of(out.begin(), out.end(), [&](const Variant& o) { return o.name == v.name; });
        if (twice) {
            throw Error(where + " has the name of another; each its own was expected.");
        }
        checkVariantName(v.name, where + ": ");
        json design = std::move(one["design"]);
        if (design.is_object()) {
            design.erase("variants"); // a kept design keeps none itself
        }
        v.design = std::make_shared<const Project>(projectFromJson(std::move(design), where));
        for (const char* known : {"name", "frozen", "design"}) {
            one.erase(known);
        }
        v.unknown = one.empty() ? "" : one.dump();
        out.push_back(std::move(v));
    }
    return out;
}

} // namespace

std::string projectToText(const Project& project) {
    std::string text;
    write(projectToJson(project), 0, text);
    return text + "\n";
}

Project projectFromText(const std::string& text, const std::string& source) {
    return projectFromJson(parsed(text, source), source);
}

namespace {

/// The maker's own woods, which other keys are read by.
void readOwnWoods(Project& project, const json& doc, const std::string& source) {
    for (const Key& key : keysOf(project)) {
        const json::json_pointer at = pointerTo(key.path);
        if (key.path.rfind("woods.", 0) == 0 && doc.contains(at)) {
            const KeyValue value = valueFromJson(key, doc[at], source);
            try {
                key.set(project, value);
            } catch (const Error& e) {
                throw Error(fmt::format("{}: {}: {}", source, key.path, e.what()));
            }
        }
    }
}

Project projectFromJson(json doc, const std::string& source) {
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
    project.variants = takeVariants(doc, source);
    for (const std::string& group : groupsOf(project)) {
        if (doc.contains(group) && !doc[group].is_object()) {
            throw Error(fmt::format("{}: {} must be a group of named values.", source, group));
        }
    }
    makeItems(project, outerLists(), doc, source);
    readOwnWoods(project, doc, source);
    // Aliases say in another way what stored keys hold, so they come after all of those; a file
    // that holds the stored way too does not need them. A list as text is an older file's.
    const bool spreads = doc.contains(pointerTo("board.nut_spread"));
    const bool lists = version.get<long long>() >= 3;
    for (const bool aliases : {false, true}) {
        std::vector<Key> keys = keysOf(project);
        for (Key& key : keys) {
            if (!key.formerly.empty() && !doc.contains(pointerTo(key.path))) {
                key.path = key.formerly; // the name complaints give it too
            }
            const json::json_pointer at = pointerTo(key.path);
            if (key.alias != aliases || !doc.contains(at)) {
                continue;
            }
            // One line of text, or a list of one number, is an older file's list, whatever version
            // it was made with.
            const bool line =
                doc[at].is_string() || (doc[at].is_number() && key.kind == KeyKind::text);
            const bool old = key.beforeLists ? lists && !line : spreads;
            if (!(aliases && old) && !(key.beforeLists && doc[at].is_array())) {
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

} // namespace

Project loadProject(const std::filesystem::path& file) {
    return projectFromText(readFile(file), file.filename().string());
}

void saveProject(const Project& project, const std::filesystem::path& file) {
    writeFileSafely(file, projectToText(project), true);
}

std::string designHash(const Project& project) {
    return sha256(decidedKeys(project));
}

std::string decidedKeys(const Project& project) {
    Project usual;
    usual.sawing = project.sawing; // how wood is got, not what is made of it
    usual.sled = project.sled;
    usual.woodMarks = project.woodMarks; // what is seen, not what is cut
    usual.woodPhotos = project.woodPhotos;
    usual.machine.spoil = project.machine.spoil;
    usual.machine.talk = project.machine.talk; // how a program is sent, not what is in it
    usual.batch = project.batch; // each of its instruments has a hash of its own
    usual.batchLines = project.batchLines;
    std::vector<ListKey> changed;
    makeAlike(usual, outerLists(), project, changed);
    usual.name = project.name;
    usual.machine.name = project.machine.name;
    usual.offcut = project.offcut; // test slots are programs of their own
    json decided = {{"hash", hashFormat}};
    for (const ListKey& list : changed) {
        decided[list.path] = list.items->size(project);
    }
    for (const Key& key : keysOf(project)) {
        const KeyValue value = key.get(project);
        if (!key.alias && value != key.get(usual)) {
            // A key that is called something else decides nothing else.
            decided[key.formerly.empty() ? key.path : key.formerly] = valueAsJson(value);
        }
    }
    return decided.dump();
}

} // namespace wren
