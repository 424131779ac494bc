#include "base/error.h"
#include "job/key_table.h"
#include "job/own_woods.h"

#include <charconv>
#include <cmath>
#include <sstream>

#include <fmt/format.h>

namespace wren {

namespace {

/// All keys but those of lists' items: the same for every project, so made once.
const KeyTable& commonTable() {
    static const KeyTable table = [] {
        KeyTable t;
        addBoardKeys(t);
        addShopKeys(t);
        addCutKeys(t);
        addControllerKeys(t);
        addNeckKeys(t);
        addBodyKeys(t);
        addMeasuredKeys(t);
        addTemplateKeys(t);
        return t;
    }();
    return table;
}

/// Calls f(list, number, table of that one's keys) for everything in these lists, and in theirs.
template <typename F>
void overItems(const std::vector<ListKey>& lists, const Project& p, F f) {
    for (const ListKey& list : lists) {
        for (std::size_t i = 0; i < list.items->size(p); ++i) {
            KeyTable t;
            list.items->members(t, i);
            f(list, i, t);
            overItems(t.lists(), p, f);
        }
    }
}

/// The number after a list's path, and a dot or nothing behind it; none for another path.
std::optional<std::size_t> numberIn(const ListKey& list, const std::string& path) {
    const std::size_t from = list.path.size() + 1;
    if (path.size() <= from || path.compare(0, from, list.path + ".") != 0) {
        return std::nullopt;
    }
    std::size_t number = 0;
    const char* end = path.c_str() + path.size();
    const auto read = std::from_chars(path.c_str() + from, end, number);
    const bool whole = read.ec == std::errc() && (read.ptr == end || *read.ptr == '.');
    return whole ? std::optional(number) : std::nullopt;
}

/// With what depends on the project among its words.
Key in(const Project& p, Key key) {
    if (key.ofWood) {
        for (const std::string& id : ownWoodIds(p)) {
            key.choices.push_back(id);
        }
    }
    return key;
}

[[noreturn]] void failNumber(const ListKey& list, std::size_t number, std::size_t size) {
    throw Error(fmt::format("There is no {}.{}: {} holds {} of them, counted from 0.", list.path,
                            number, list.path, size));
}

/// The key of that path in a table or in what its lists hold; nullopt when there is none.
std::optional<Key> keyIn(const KeyTable& table, const Project& p, const std::string& path) {
    for (const Key& key : table.keys()) {
        if (key.path == path || (!path.empty() && key.formerly == path)) {
            return key;
        }
    }
    for (const ListKey& list : table.lists()) {
        if (const std::optional<std::size_t> n = numberIn(list, path)) {
            if (*n >= list.items->size(p)) {
                failNumber(list, *n, list.items->size(p));
            }
            KeyTable t;
            list.items->members(t, *n);
            return keyIn(t, p, path);
        }
    }
    return std::nullopt;
}

} // namespace

std::vector<Key> keysOf(const Project& project) {
    std::vector<Key> keys = commonTable().keys();
    overItems(commonTable().lists(), project, [&](const ListKey&, std::size_t, const KeyTable& t) {
        keys.insert(keys.end(), t.keys().begin(), t.keys().end());
    });
    if (!project.woods.empty()) {
        for (Key& key : keys) {
            key = in(project, std::move(key));
        }
    }
    return keys;
}

Key keyAt(const Project& project, const std::string& path) {
    if (const std::optional<Key> key = keyIn(commonTable(), project, path)) {
        return in(project, *key);
    }
    throw Error(
        fmt::format("There is no key \"{}\"; `wren set FILE --list` shows them all.", path));
}

std::string lastOf(const std::string& path) {
    const std::size_t dot = path.rfind('.');
    return dot == std::string::npos ? path : path.substr(dot + 1);
}

const std::vector<ListKey>& outerLists() {
    return commonTable().lists();
}

std::vector<ListKey> listsIn(const ListKey& list, std::size_t number) {
    KeyTable t;
    list.items->members(t, number);
    return t.lists();
}

std::vector<ListKey> listsOf(const Project& project) {
    std::vector<ListKey> lists = commonTable().lists();
    overItems(commonTable().lists(), project, [&](const ListKey&, std::size_t, const KeyTable& t) {
        lists.insert(lists.end(), t.lists().begin(), t.lists().end());
    });
    return lists;
}

ListKey listAt(const Project& project, const std::string& path) {
    std::vector<std::string> known;
    for (const ListKey& list : listsOf(project)) {
        if (list.path == path) {
            return list;
        }
        known.push_back(list.path);
    }
    known.resize(std::min(known.size(), commonTable().lists().size()));
    throw Error(fmt::format("There is no list \"{}\"; one of {} was expected.", path,
                            fmt::join(known, ", ")));
}

std::optional<ItemPath> itemPath(const std::string& path) {
    const std::size_t dot = path.rfind('.');
    std::size_t number = 0;
    if (dot == std::string::npos || dot + 1 == path.size()) {
        return std::nullopt;
    }
    const char* end = path.c_str() + path.size();
    const auto read = std::from_chars(path.c_str() + dot + 1, end, number);
    return read.ec == std::errc() && read.ptr == end
               ? std::optional(ItemPath{path.substr(0, dot), number})
               : std::nullopt;
}

namespace {

/// The list of "body.channels.0", which has to be there.
ListKey listOfItem(const Project& project, const std::string& item, std::size_t& number) {
    const std::optional<ItemPath> at = itemPath(item);
    if (!at) {
        throw Error(fmt::format("\"{}\" names nothing in a list; body.channels.0 or the like was "
                                "expected.",
                                item));
    }
    ListKey list = listAt(project, at->list);
    if (at->number >= list.items->size(project)) {
        failNumber(list, at->number, list.items->size(project));
    }
    number = at->number;
    return list;
}

void checkRoom(const ListKey& list, const Project& project) {
    if (list.items->size(project) >= list.most) {
        throw Error(fmt::format("{} holds {} already; no more than that were expected.", list.path,
                                list.most));
    }
}

} // namespace

Project withAdded(const Project& project, const std::string& path,
                  const std::vector<Setting>& settings, LengthUnit unit) {
    const ListKey list = listAt(project, path);
    checkRoom(list, project);
    Project changed = project;
    const std::size_t number = list.items->size(project);
    list.items->add(changed, number);
    for (const Setting& s : settings) {
        changed = withKey(changed, fmt::format("{}.{}.{}", path, number, s.key), s.text, unit);
    }
    return changed;
}

Project withRemoved(const Project& project, const std::string& item) {
    std::size_t number = 0;
    const ListKey list = listOfItem(project, item, number);
    Project changed = project;
    list.items->remove(changed, number);
    if (list.path == "woods") {
        try {
            checkWoods(changed);
        } catch (const Error&) {
            throw Error(fmt::format("{} is used in this design; give what is made of it another "
                                    "wood first.",
                                    project.woods[number].name));
        }
    }
    return changed;
}

Project withDoubled(const Project& project, const std::string& item) {
    std::size_t number = 0;
    const ListKey list = listOfItem(project, item, number);
    checkRoom(list, project);
    Project changed = project;
    list.items->copy(changed, number);
    return changed;
}

namespace {

/// Whether text is UTF-8 without control characters and without code points that are no characters.
bool printable(const std::string& text) {
    for (std::size_t i = 0; i < text.size();) {
        const auto byte = [&](std::size_t k) { return static_cast<unsigned char>(text[k]); };
        const unsigned char first = byte(i);
        const int more = first < 0x80   ? 0
                         : first < 0xC2 ? -1
                         : first < 0xE0 ? 1
                         : first < 0xF0 ? 2
                         : first < 0xF5 ? 3
                                        : -1;
        if (more < 0 || i + static_cast<std::size_t>(more) >= text.size() + (more == 0)) {
            return false;
        }
        unsigned code = more == 0 ? first : first & (0x3FU >> more);
        for (int k = 1; k <= more; ++k) {
            const unsigned char next = byte(i + static_cast<std::size_t>(k));
            if ((next & 0xC0U) != 0x80U) {
                return false;
            }
            code = code << 6U | (next & 0x3FU);
        }
        const bool surrogate = code >= 0xD800 && code <= 0xDFFF;
        const bool tooLong = (more == 2 && code < 0x800) || (more == 3 && code < 0x10000);
        if (code < 0x20 || (code >= 0x7F && code < 0xA0) || surrogate || tooLong ||
            code > 0x10FFFF || (code & 0xFFFEU) == 0xFFFEU) {
            return false;
        }
        i += static_cast<std::size_t>(more) + 1;
    }
    return true;
}

} // namespace

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
    if (const Vec2* place = std::get_if<Vec2>(&value)) {
        for (double v : {place->x, place->y}) {
            if (!std::isfinite(v) || v < key.least || v > key.most) {
                throw Error(fmt::format("{}: {:g} mm is outside {:g} to {:g}.", key.path, v,
                                        key.least, key.most));
            }
        }
        return;
    }
    const std::string& word = std::get<std::string>(value);
    if (key.kind == KeyKind::choice &&
        std::find(key.choices.begin(), key.choices.end(), word) == key.choices.end()) {
        throw Error(fmt::format("{}: \"{}\" is not one of {}.", key.path, word,
                                fmt::join(key.choices, ", ")));
    }
    if (!printable(word)) {
        throw Error(
            fmt::format("{}: it holds bytes that are no text; letters, digits and signs were "
                        "expected.",
                        key.path));
    }
    const std::size_t most = key.checkText ? 8000 : 80; // lists are longer than names
    if (key.kind == KeyKind::text && (word.empty() || word.size() > most)) {
        throw Error(
            fmt::format("{}: a word or name of 1 to {} characters was expected.", key.path, most));
    }
    if (key.checkText) {
        try {
            key.checkText(word);
        } catch (const Error& e) {
            throw Error(fmt::format("{}: {}", key.path, e.what()));
        }
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

/// "12, -4.5", "1 1/2in, 20mm", or two bare numbers.
Vec2 placeFrom(const std::string& text, LengthUnit unit) {
    std::string::size_type between = text.find(',');
    if (between == std::string::npos) {
        std::istringstream words(text);
        std::string x, y, more;
        words >> x >> y;
        if (y.empty() || (words >> more)) {
            throw Error(fmt::format("\"{}\" is not a place; two lengths with a comma between them "
                                    "were expected, as in 12, -4.5.",
                                    text));
        }
        return {parseLength(x, unit), parseLength(y, unit)};
    }
    return {parseLength(text.substr(0, between), unit),
            parseLength(text.substr(between + 1), unit)};
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
            case KeyKind::place:
                value = placeFrom(text, unit);
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

std::string showExactly(const KeyValue& value) {
    if (const double* number = std::get_if<double>(&value)) {
        return fmt::format("{:a}", *number);
    }
    if (const Vec2* place = std::get_if<Vec2>(&value)) {
        return fmt::format("{:a},{:a}", place->x, place->y);
    }
    const std::string* word = std::get_if<std::string>(&value);
    return word ? *word : std::string();
}

std::string showValue(const Key& key, const KeyValue& value, LengthUnit unit) {
    if (std::holds_alternative<std::monostate>(value)) {
        return "auto";
    }
    if (const std::string* word = std::get_if<std::string>(&value)) {
        return *word;
    }
    const auto shown = [unit](double v) {
        return formatLength(v, unit, std::abs(v * 100 - std::round(v * 100)) > 1e-6 ? 3 : 2);
    };
    if (const Vec2* place = std::get_if<Vec2>(&value)) {
        return shown(place->x) + ", " + shown(place->y);
    }
    const double number = std::get<double>(value);
    if (key.kind == KeyKind::length) {
        return shown(number);
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
