#pragma once

#include "job/keys.h"

namespace wren {

class KeyTable;

/// A list of things in a project: "body.channels", or "body.chambers.0.outline" inside of one. Each
/// thing's own keys stand under its number: "body.channels.0.width".
struct ListKey {
    std::string path;
    std::string one;  ///< what the maker calls one of it: "channel"
    std::size_t most; ///< so many at most
    std::function<std::size_t(const Project&)> size;
    std::function<void(Project&, std::size_t)> add;    ///< a fresh one, to have that number
    std::function<void(Project&, std::size_t)> copy;   ///< of that number, behind itself
    std::function<void(Project&, std::size_t)> remove; ///< of that number
    std::function<void(Project&)> clear;
    /// What a file held of one that this version does not know, as JSON; empty for nothing.
    std::function<std::string&(Project&, std::size_t)> unknown;
    std::function<void(KeyTable&, std::size_t)> members; ///< keys and lists of one of it
};

/// The lists that stand in no other, and those in one thing of a list.
const std::vector<ListKey>& outerLists();
std::vector<ListKey> listsIn(const ListKey& list, std::size_t number);
/// Every list of a project, those inside of others behind them.
std::vector<ListKey> listsOf(const Project& project);
/// The list of that path; throws Error when there is none, naming those there are.
ListKey listAt(const Project& project, const std::string& path);

/// "body.channels.0" as the list's path and the number; nothing for another path.
struct ItemPath {
    std::string list;
    std::size_t number = 0;
};
std::optional<ItemPath> itemPath(const std::string& path);

/// A project with one more at the end of a list, its keys set to what was typed. Throws Error and
/// changes nothing.
struct Setting {
    std::string key; ///< within the item: "width"
    std::string text;
};
Project withAdded(const Project& project, const std::string& list,
                  const std::vector<Setting>& settings, LengthUnit unit = LengthUnit::mm);
/// Without, or with a double of, "body.channels.0". Throws Error.
Project withRemoved(const Project& project, const std::string& item);
Project withDoubled(const Project& project, const std::string& item);

} // namespace wren
