#pragma once

#include "base/length.h"
#include "job/project.h"

#include <functional>
#include <string>
#include <variant>
#include <vector>

namespace wren {

/// What a key holds: nothing ("auto": the recipe decides), a number, a word, or a place.
using KeyValue = std::variant<std::monostate, double, std::string, Vec2>;

enum class KeyKind { length, number, count, choice, text, place };

/// One number or word of a project, reachable by its dotted path. The same table serves the file,
/// the command line and the window's fields, so that a limit or a meaning is written once.
struct Key {
    std::string path; ///< e.g. "board.scale"
    KeyKind kind = KeyKind::length;
    std::string unit;    ///< "mm", "mm/min", "rpm" ...; empty for counts and words
    std::string meaning; ///< a few words, as a maker would say it
    double least = 0;    ///< allowed range of numbers, and of both of a place's, in the key's unit
    double most = 0;
    std::vector<std::string> choices; ///< for KeyKind::choice
    bool ofWood = false;              ///< a wood's id: the project's own are choices too
    bool mayBeAuto = false;
    /// Another way of saying something that other keys hold: it can be read and set, but files do
    /// not store it. Files of version 1 did.
    bool alias = false;
    /// An alias that files of versions 1 and 2 held: today a list does. It can be typed still, but
    /// is not listed.
    bool beforeLists = false;
    /// The path it had in older files, which is read still and may be typed; empty for none.
    std::string formerly;
    /// Throws Error when a text is not one this key can hold.
    std::function<void(const std::string&)> checkText;
    std::function<KeyValue(const Project&)> get;
    std::function<void(Project&, const KeyValue&)> set;
};

/// Every key of a project; those of its lists' items (bits.0.name ...) depend on what it holds.
std::vector<Key> keysOf(const Project& project);

/// The unit-less name at the end of a path: "width" of "body.channels.0.width".
std::string lastOf(const std::string& path);

/// The key of that path; throws Error when there is none.
Key keyAt(const Project& project, const std::string& path);

/// Reads what a maker typed for the key. Bare numbers of length keys are in `unit`. Throws Error
/// with the key, the value and the range or words that were expected.
KeyValue readValue(const Key& key, const std::string& text, LengthUnit unit = LengthUnit::mm);

/// Throws Error when the value is outside the key's range or not one of its words.
void checkValue(const Key& key, const KeyValue& value);

/// Every digit, to tell two values apart.
std::string showExactly(const KeyValue& value);
std::string showValue(const Key& key, const KeyValue& value, LengthUnit unit = LengthUnit::mm);

/// A project with one key changed. Throws Error and changes nothing when the text does not serve.
Project withKey(const Project& project, const std::string& path, const std::string& text,
                LengthUnit unit = LengthUnit::mm);

} // namespace wren
