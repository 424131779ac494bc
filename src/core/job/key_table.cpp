#include "job/key_table.h"

#include <tuple>

namespace wren {
namespace {

template <typename T>
KeyTable::Get getMaybe(const At<std::optional<T>>& at) {
    return [at](const Project& p) -> KeyValue {
        const std::optional<T>& o = at(const_cast<Project&>(p));
        return o ? KeyValue(static_cast<double>(*o)) : KeyValue();
    };
}

template <typename T>
KeyTable::Set setMaybe(const At<std::optional<T>>& at) {
    return [at](Project& p, const KeyValue& v) {
        const double* d = std::get_if<double>(&v);
        at(p) = d ? std::optional(static_cast<T>(*d)) : std::nullopt;
    };
}

} // namespace

Key& KeyTable::add(KeyKind kind, std::string path, std::string unit, std::string meaning,
                   double least, double most, Get get, Set set) {
    Key k;
    k.path = std::move(path);
    k.kind = kind;
    k.unit = std::move(unit);
    k.meaning = std::move(meaning);
    k.least = least;
    k.most = most;
    k.get = std::move(get);
    k.set = std::move(set);
    keys_.push_back(std::move(k));
    return keys_.back();
}

Key& KeyTable::number(KeyKind kind, std::string path, std::string unit, std::string meaning,
                      double least, double most, const At<double>& at) {
    return add(
        kind, std::move(path), std::move(unit), std::move(meaning), least, most,
        [at](const Project& p) -> KeyValue { return at(const_cast<Project&>(p)); },
        [at](Project& p, const KeyValue& v) { at(p) = std::get<double>(v); });
}

Key& KeyTable::number(KeyKind kind, std::string path, std::string unit, std::string meaning,
                      double least, double most, const At<int>& at) {
    return add(
        kind, std::move(path), std::move(unit), std::move(meaning), least, most,
        [at](const Project& p) -> KeyValue {
            return static_cast<double>(at(const_cast<Project&>(p)));
        },
        [at](Project& p, const KeyValue& v) { at(p) = static_cast<int>(std::get<double>(v)); });
}

void KeyTable::maybe(KeyKind kind, std::string path, std::string unit, std::string meaning,
                     double least, double most, const At<std::optional<double>>& at) {
    add(kind, std::move(path), std::move(unit), std::move(meaning), least, most, getMaybe(at),
        setMaybe(at))
        .mayBeAuto = true;
}

void KeyTable::maybe(KeyKind kind, std::string path, std::string unit, std::string meaning,
                     double least, double most, const At<std::optional<int>>& at) {
    add(kind, std::move(path), std::move(unit), std::move(meaning), least, most, getMaybe(at),
        setMaybe(at))
        .mayBeAuto = true;
}

void KeyTable::text(std::string path, std::string meaning, const At<std::string>& at,
                    bool mayBeAuto) {
    words(
        std::move(path), std::move(meaning), {},
        [at](const Project& p) { return at(const_cast<Project&>(p)); },
        [at](Project& p, const std::string& v) { at(p) = v; }, mayBeAuto);
}

void KeyTable::place(const std::string& path, const std::string& meaning, double reach,
                     const At<Vec2>& at) {
    add(
        KeyKind::place, path, "mm", meaning + ": along, across", -reach, reach,
        [at](const Project& p) -> KeyValue { return at(const_cast<Project&>(p)); },
        [at](Project& p, const KeyValue& v) { at(p) = std::get<Vec2>(v); });
    for (const auto& [name, words, which] :
         {std::tuple{".x", ", along", &Vec2::x}, {".y", ", across", &Vec2::y}}) {
        derived(
            path + name, meaning + words, -reach, reach,
            [at, which = which](const Project& p) { return at(const_cast<Project&>(p)).*which; },
            [at, which = which](Project& p, double v) { at(p).*which = v; });
    }
}

void yesNo(KeyTable& t, const std::string& path, const char* meaning, const At<bool>& at) {
    t.words(
        path, meaning, {"no", "yes"},
        [at](const Project& p) { return std::string(at(const_cast<Project&>(p)) ? "yes" : "no"); },
        [at](Project& p, const std::string& v) { at(p) = v == "yes"; });
}

void KeyTable::words(std::string path, std::string meaning, std::vector<std::string> choices,
                     std::function<std::string(const Project&)> get,
                     std::function<void(Project&, const std::string&)> set, bool mayBeAuto) {
    Key& k = add(
        choices.empty() ? KeyKind::text : KeyKind::choice, std::move(path), "", std::move(meaning),
        0, 0,
        [get = std::move(get), mayBeAuto](const Project& p) -> KeyValue {
            const std::string word = get(p);
            return mayBeAuto && word.empty() ? KeyValue() : KeyValue(word);
        },
        [set = std::move(set)](Project& p, const KeyValue& v) {
            const std::string* word = std::get_if<std::string>(&v);
            set(p, word ? *word : std::string());
        });
    k.choices = std::move(choices);
    k.mayBeAuto = mayBeAuto;
}

void KeyTable::notation(const std::string& path, const std::string& meaning,
                        std::function<void(Project&, const std::string&)> read) {
    words(
        path, meaning, {}, [](const Project&) { return std::string(); },
        [read](Project& p, const std::string& v) { read(p, v); }, true);
    Key& k = keys_.back();
    k.checkText = [read = std::move(read)](const std::string& v) {
        Project scratch;
        read(scratch, v);
    };
    k.alias = true;
    k.beforeLists = true;
}

void KeyTable::derived(std::string path, std::string meaning, double least, double most,
                       std::function<double(const Project&)> get,
                       std::function<void(Project&, double)> set) {
    add(
        KeyKind::length, std::move(path), "mm", std::move(meaning), least, most,
        [get = std::move(get)](const Project& p) -> KeyValue { return get(p); },
        [set = std::move(set)](Project& p, const KeyValue& v) { set(p, std::get<double>(v)); })
        .alias = true;
}

} // namespace wren
