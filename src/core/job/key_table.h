#pragma once

#include "job/keys.h"

#include <algorithm>
#include <array>
#include <functional>
#include <optional>
#include <string>
#include <vector>

namespace wren {

/// Collects keys, one call each.
class KeyTable {
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

    /// A number other keys hold in another way.
    void derived(std::string path, std::string meaning, double least, double most,
                 std::function<double(const Project&)> get,
                 std::function<void(Project&, double)> set) {
        Key k;
        k.path = std::move(path);
        k.unit = "mm";
        k.meaning = std::move(meaning);
        k.least = least;
        k.most = most;
        k.alias = true;
        k.get = [get](const Project& p) -> KeyValue { return get(p); };
        k.set = [set](Project& p, const KeyValue& v) { set(p, std::get<double>(v)); };
        keys_.push_back(std::move(k));
    }

    Key& last() { return keys_.back(); }
    std::vector<Key> take() { return std::move(keys_); }

private:
    std::vector<Key> keys_;
};

/// Names for the values of an enum, in the enum's own order.
template <typename Enum, std::size_t N>
struct Names {
    std::array<const char*, N> names;

    std::string of(Enum value) const { return names.at(static_cast<std::size_t>(value)); }
    Enum from(const std::string& name) const {
        const auto it = std::find(names.begin(), names.end(), name);
        return static_cast<Enum>(it == names.end() ? 0 : it - names.begin());
    }
    std::vector<std::string> all() const { return {names.begin(), names.end()}; }
};

template <typename Enum, std::size_t N, typename At>
void enumKey(KeyTable& t, const char* path, const char* meaning, Names<Enum, N> names, At at) {
    t.words(
        path, meaning, names.all(),
        [names, at](const Project& p) { return names.of(at(const_cast<Project&>(p))); },
        [names, at](Project& p, const std::string& v) { at(p) = names.from(v); });
}

template <typename At>
void yesNo(KeyTable& t, const char* path, const char* meaning, At at) {
    t.words(
        path, meaning, {"no", "yes"},
        [at](const Project& p) { return std::string(at(const_cast<Project&>(p)) ? "yes" : "no"); },
        [at](Project& p, const std::string& v) { at(p) = v == "yes"; });
}

/// A list or the like, kept as the maker wrote it; `check` throws when it cannot be read.
template <typename At>
void listKey(KeyTable& t, const char* path, const char* meaning, At at,
             std::function<void(const std::string&)> check) {
    t.words(
        path, meaning, {}, [at](const Project& p) { return at(const_cast<Project&>(p)); },
        [at](Project& p, const std::string& v) { at(p) = v; }, true);
    t.last().checkText = std::move(check);
}

// The groups, in the order the file and `wren set --list` show them.
void addBoardKeys(KeyTable& t); ///< name, board, wire, markers
void addShopKeys(KeyTable& t);  ///< blank, holding, machine
void addCutKeys(KeyTable& t);
void addNeckKeys(KeyTable& t); ///< neck, head, tuners, rod, its blank, holding and cuts
/// Bit, speed, feeds and depth of one cut, under GROUP.
void overrideKeys(KeyTable& t, const std::string& group, const std::string& cut,
                  const std::function<CutOverrides&(Project&)>& at);
void addBodyKeys(KeyTable& t); ///< body, its features, blanks, holding and cuts
/// One of the known woods.
void woodKey(KeyTable& t, const char* path, const char* meaning,
             const std::function<std::string&(Project&)>& at);
/// How a part is turned over, under GROUP.
void turnKeys(KeyTable& t, const std::string& group, const std::function<TurnHold&(Project&)>& at);
void addBitKeys(KeyTable& t, std::size_t bit);

} // namespace wren
