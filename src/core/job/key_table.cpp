#include "job/key_table.h"

namespace wren {

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
