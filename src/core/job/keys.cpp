#include "base/error.h"
#include "job/key_table.h"

#include <charconv>
#include <cmath>
#include <iterator>

#include <fmt/format.h>

namespace wren {

namespace {

/// All keys but the bits': the same for every project, so made once.
const std::vector<Key>& commonKeys() {
    static const std::vector<Key> keys = [] {
        KeyTable t;
        addBoardKeys(t);
        addShopKeys(t);
        addCutKeys(t);
        addNeckKeys(t);
        addBodyKeys(t);
        return t.take();
    }();
    return keys;
}

std::vector<Key> bitKeys(std::size_t bit) {
    KeyTable t;
    addBitKeys(t, bit);
    return t.take();
}

/// The number in "bits.NUMBER.something"; none for any other path.
std::optional<std::size_t> bitIn(const std::string& path) {
    std::size_t bit = 0;
    const char* digits = path.c_str() + 5;
    if (path.rfind("bits.", 0) != 0 ||
        std::from_chars(digits, path.c_str() + path.size(), bit).ptr == digits) {
        return std::nullopt;
    }
    return bit;
}

} // namespace

std::vector<Key> keysOf(const Project& project) {
    std::vector<Key> keys = commonKeys();
    for (std::size_t i = 0; i < project.bits.size(); ++i) {
        std::vector<Key> more = bitKeys(i);
        std::move(more.begin(), more.end(), std::back_inserter(keys));
    }
    return keys;
}

Key keyAt(const Project& project, const std::string& path) {
    const std::optional<std::size_t> bit = bitIn(path);
    const auto among = [&](const std::vector<Key>& keys) -> const Key* {
        const auto it = std::find_if(keys.begin(), keys.end(),
                                     [&](const Key& key) { return key.path == path; });
        return it == keys.end() ? nullptr : &*it;
    };
    if (const Key* key = among(commonKeys())) {
        return *key;
    }
    if (bit && *bit < project.bits.size()) {
        const std::vector<Key> own = bitKeys(*bit);
        if (const Key* key = among(own)) {
            return *key;
        }
    }
    throw Error(
        fmt::format("There is no key \"{}\"; `wren set FILE --list` shows them all.", path));
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
