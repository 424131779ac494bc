#pragma once

#include "job/keys.h"

#include <memory>

namespace wren {

class KeyTable;

/// What can be done with the things of a list.
class ListItems {
public:
    virtual ~ListItems() = default;
    virtual std::size_t size(const Project&) const = 0;
    virtual void add(Project&, std::size_t i) const = 0;    ///< a fresh one, to have that number
    virtual void copy(Project&, std::size_t i) const = 0;   ///< of that number, behind itself
    virtual void remove(Project&, std::size_t i) const = 0; ///< of that number
    virtual void clear(Project&) const = 0;
    /// What a file held of one that this version does not know, as JSON; empty for nothing.
    virtual std::string& unknown(Project&, std::size_t i) const = 0;
    virtual void members(KeyTable&, std::size_t i) const = 0; ///< keys and lists of one of it
};

/// A list of things in a project: "body.channels", or "body.chambers.0.outline" inside of one. Each
/// thing's own keys stand under its number: "body.channels.0.width".
struct ListKey {
    std::string path;
    std::string one;  ///< what the maker calls one of it: "channel"
    std::size_t most; ///< so many at most
    std::shared_ptr<const ListItems> items;
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
