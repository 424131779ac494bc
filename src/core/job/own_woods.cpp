#include "job/own_woods.h"

#include "base/error.h"
#include "job/keys.h"

#include <algorithm>

#include <fmt/format.h>

namespace wren {
namespace {

const OwnWood* ownNamed(const Project& p, const std::string& id) {
    const auto it = std::find_if(p.woods.begin(), p.woods.end(),
                                 [&](const OwnWood& w) { return w.name == id; });
    return it == p.woods.end() ? nullptr : &*it;
}

/// Keys that hold a wood.
std::vector<Key> woodKeys(const Project& p) {
    std::vector<Key> keys = keysOf(p);
    std::erase_if(keys, [](const Key& key) { return !key.ofWood; });
    return keys;
}

void checkName(const std::string& name) {
    const bool plain = !name.empty() && std::all_of(name.begin(), name.end(), [](char c) {
        return (c >= 'a' && c <= 'z') || (c >= '0' && c <= '9') || c == '-';
    });
    if (!plain || name.size() > 30) {
        throw Error(fmt::format("\"{}\" is no name for a wood: up to 30 small letters, digits and "
                                "hyphens were expected, as in black-locust.",
                                name));
    }
}

} // namespace

std::optional<Wood> ownWood(const Project& project, const std::string& id) {
    const OwnWood* own = ownNamed(project, id);
    return own ? std::optional(own->wood()) : std::nullopt;
}

Wood woodOf(const Project& project, const std::string& id) {
    const std::optional<Wood> own = ownWood(project, id);
    return own ? *own : woodById(id);
}

std::vector<std::string> ownWoodIds(const Project& project) {
    std::vector<std::string> out;
    for (const OwnWood& w : project.woods) {
        out.push_back(w.name);
    }
    return out;
}

void nameOwnWood(Project& project, std::size_t number, const std::string& name) {
    const std::string before = project.woods.at(number).name;
    if (name == before) {
        return;
    }
    checkName(name);
    const bool known =
        std::any_of(woods().begin(), woods().end(), [&](const Wood& w) { return w.id == name; });
    if (known || ownNamed(project, name)) {
        throw Error(
            fmt::format("There is a wood called {} already; another name was expected.", name));
    }
    project.woods[number].name = name;
    if (ownNamed(project, before)) {
        return; // of two new ones the other keeps the name, and what is made of it
    }
    for (const Key& key : woodKeys(project)) {
        if (key.get(project) == KeyValue(before)) {
            key.set(project, name);
        }
    }
}

void checkWoods(const Project& project) {
    for (const Key& key : woodKeys(project)) {
        checkValue(key, key.get(project));
    }
}

} // namespace wren
