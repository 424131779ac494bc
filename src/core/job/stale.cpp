#include "job/stale.h"

#include "job/keys.h"
#include "job/store.h"

#include <algorithm>

#include <fmt/format.h>
#include <nlohmann/json.hpp>

namespace wren {
namespace {

using nlohmann::json;

std::string shown(const json& value, const Key& key) {
    if (value.is_number()) {
        return showValue(key, KeyValue(value.get<double>()));
    }
    if (value.is_array() && value.size() == 2) {
        return showValue(key, KeyValue(Vec2{value[0].get<double>(), value[1].get<double>()}));
    }
    return value.is_string() ? value.get<std::string>() : value.is_null() ? "auto" : value.dump();
}

} // namespace

namespace {

/// Whether a path goes into a list: "tuners.trees.0.at".
bool inList(const std::string& path) {
    return std::adjacent_find(path.begin(), path.end(), [](char a, char b) {
               return a == '.' && b >= '0' && b <= '9';
           }) != path.end();
}

/// Lists that have grown or shrunk; a length that is as usual is not written down.
void addLists(std::vector<std::string>& out, const json& then, const json& today,
              const std::vector<Key>& keys) {
    const auto lengthIn = [](const json& doc, const std::string& path) {
        const auto it = doc.find(path);
        return it == doc.end() ? std::string("as usual") : it->dump();
    };
    json both = then;
    both.update(today);
    for (const auto& item : both.items()) {
        const std::string& path = item.key();
        const bool key = std::any_of(keys.begin(), keys.end(), [&](const Key& k) {
            return !k.alias && (k.path == path || k.formerly == path);
        });
        const std::string was = lengthIn(then, path), is = lengthIn(today, path);
        if (item.value().is_number_unsigned() && !key && path != "hash" && !inList(path) &&
            was != is) {
            out.push_back(fmt::format("{}: how many, {}, was {}", path, is, was));
        }
    }
}

} // namespace

std::vector<std::string> changesBetween(const std::string& before, const Project& now) {
    const json then = json::parse(before, nullptr, false);
    const json today = json::parse(decidedKeys(now));
    std::vector<std::string> out;
    if (!then.is_object()) {
        return out;
    }
    const Project usual;
    const std::vector<Key> keys = keysOf(now);
    for (const Key& key : keys) {
        const std::string& path = key.formerly.empty() ? key.path : key.formerly;
        const auto a = then.find(path);
        const auto b = today.find(path);
        if (key.alias || (a == then.end() && b == today.end()) ||
            (a != then.end() && b != today.end() && *a == *b)) {
            continue;
        }
        const std::string was = a != then.end()    ? shown(*a, key)
                                : inList(key.path) ? std::string("as usual")
                                                   : showValue(key, key.get(usual));
        out.push_back(fmt::format("{}: {}, was {}", key.path, showValue(key, key.get(now)), was));
    }
    addLists(out, then, today, keys);
    return out;
}

Staleness stalenessOf(const PostedFolder& posted, const Derived& d,
                      const std::vector<RunRecord>& runs) {
    Staleness out;
    out.changed = changesBetween(posted.decided, d.project);
    for (std::size_t i = 0; i < posted.motions.size(); ++i) {
        const std::string& motion = posted.motions[i];
        const bool same = std::any_of(d.programs.begin(), d.programs.end(),
                                      [&](const PostedProgram& p) { return p.motion == motion; });
        if (same) {
            ++out.good;
            continue;
        }
        const bool cut = std::any_of(runs.begin(), runs.end(), [&](const RunRecord& r) {
            return r.project == d.project.name && r.motion == motion && r.outcome == "done";
        });
        out.stale.push_back({posted.files[i], posted.parts[i], cut});
    }
    return out;
}

std::string stalenessText(const PostedFolder& posted, const Staleness& found) {
    std::string out = fmt::format("{}: {} programs as they would be posted today, {} not\n",
                                  posted.folder.string(), found.good, found.stale.size());
    for (const Staleness::Stale& s : found.stale) {
        out += fmt::format("  {} {}{}\n", s.cut ? "cut already" : "stale      ", s.program,
                           s.cut ? ": what it made can no longer change" : "");
    }
    for (const std::string& change : found.changed) {
        out += "  changed " + change + "\n";
    }
    return out;
}

} // namespace wren
