#pragma once

#include "job/list_keys.h"

#include <algorithm>
#include <array>
#include <functional>
#include <optional>
#include <string>
#include <tuple>
#include <vector>

namespace wren {

/// Where a value stands in a project.
template <typename T>
using At = std::function<T&(Project&)>;

/// A list that stands in a vector. One class a kind of thing: what else is made of it is made once
/// for all (the compiler's time goes into this).
template <typename T>
class VectorOf final : public ListItems {
public:
    using Members = std::function<void(KeyTable&, const std::string&, const At<T>&)>;

    VectorOf(std::string path, At<std::vector<T>> at, Members members)
        : path_(std::move(path)), at_(std::move(at)), members_(std::move(members)) {}

    std::size_t size(const Project& p) const override {
        return at_(const_cast<Project&>(p)).size();
    }
    void add(Project& p, std::size_t i) const override { insert(p, i, T{}); }
    void copy(Project& p, std::size_t i) const override { insert(p, i + 1, T(at_(p).at(i))); }
    void remove(Project& p, std::size_t i) const override {
        at_(p).erase(at_(p).begin() + static_cast<std::ptrdiff_t>(i));
    }
    void clear(Project& p) const override { at_(p).clear(); }
    std::string& unknown(Project& p, std::size_t i) const override { return at_(p).at(i).unknown; }
    void members(KeyTable& t, std::size_t i) const override {
        members_(t, path_ + "." + std::to_string(i) + ".",
                 [at = at_, i](Project& p) -> T& { return at(p).at(i); });
    }

private:
    void insert(Project& p, std::size_t i, T&& one) const {
        at_(p).insert(at_(p).begin() + static_cast<std::ptrdiff_t>(i), std::move(one));
    }

    std::string path_;
    At<std::vector<T>> at_;
    Members members_;
};

/// Collects keys, one call each.
class KeyTable {
public:
    using Get = std::function<KeyValue(const Project&)>;
    using Set = std::function<void(Project&, const KeyValue&)>;

    Key& number(KeyKind kind, std::string path, std::string unit, std::string meaning, double least,
                double most, const At<double>& at);
    Key& number(KeyKind kind, std::string path, std::string unit, std::string meaning, double least,
                double most, const At<int>& at);

    /// Of these the callable may give a double& or an int&.
    template <typename F>
    Key& length(std::string path, std::string meaning, double least, double most, F at) {
        return number(KeyKind::length, std::move(path), "mm", std::move(meaning), least, most,
                      std::move(at));
    }
    template <typename F>
    void count(std::string path, std::string meaning, double least, double most, F at) {
        number(KeyKind::count, std::move(path), "", std::move(meaning), least, most, std::move(at));
    }
    template <typename F>
    void rate(std::string path, std::string unit, std::string meaning, double least, double most,
              F at) {
        number(KeyKind::number, std::move(path), std::move(unit), std::move(meaning), least, most,
               std::move(at));
    }

    /// An override: empty means the recipe decides.
    void maybe(KeyKind kind, std::string path, std::string unit, std::string meaning, double least,
               double most, const At<std::optional<double>>& at);
    void maybe(KeyKind kind, std::string path, std::string unit, std::string meaning, double least,
               double most, const At<std::optional<int>>& at);

    void words(std::string path, std::string meaning, std::vector<std::string> choices,
               std::function<std::string(const Project&)> get,
               std::function<void(Project&, const std::string&)> set, bool mayBeAuto = false);

    /// Free text; when it may be "auto" it may be empty.
    void text(std::string path, std::string meaning, const At<std::string>& at,
              bool mayBeAuto = false);

    /// A place, mm; and either of its numbers by itself.
    void place(const std::string& path, const std::string& meaning, double reach,
               const At<Vec2>& at);

    /// A list; `members(table, head, one)` adds the keys of one of it under `head`.
    template <typename T>
    void list(const std::string& path, std::string one, std::size_t most, At<std::vector<T>> at,
              typename VectorOf<T>::Members members) {
        lists_.push_back({path, std::move(one), most,
                          std::make_shared<VectorOf<T>>(path, std::move(at), std::move(members))});
    }

    /// A whole list typed as one line; `read` throws Error where it cannot be.
    void notation(const std::string& path, const std::string& meaning,
                  std::function<void(Project&, const std::string&)> read);

    /// A number other keys hold in another way.
    void derived(std::string path, std::string meaning, double least, double most,
                 std::function<double(const Project&)> get,
                 std::function<void(Project&, double)> set);

    void take(Key key) { keys_.push_back(std::move(key)); }
    Key& last() { return keys_.back(); }
    const std::vector<Key>& keys() const { return keys_; }
    const std::vector<ListKey>& lists() const { return lists_; }

private:
    Key& add(KeyKind kind, std::string path, std::string unit, std::string meaning, double least,
             double most, Get get, Set set);

    std::vector<Key> keys_;
    std::vector<ListKey> lists_;
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

template <typename Enum, std::size_t N, typename F>
void enumKey(KeyTable& t, const std::string& path, const std::string& meaning, Names<Enum, N> names,
             F at) {
    t.words(
        path, meaning, names.all(),
        [names, at](const Project& p) { return names.of(at(const_cast<Project&>(p))); },
        [names, at](Project& p, const std::string& v) { at(p) = names.from(v); });
}

void yesNo(KeyTable& t, const std::string& path, const char* meaning, const At<bool>& at);

// The groups, in the order the file and `wren set --list` show them.
void addBoardKeys(KeyTable& t); ///< name, board, wire, markers
void addShopKeys(KeyTable& t);  ///< blank, holding, machine
void addCutKeys(KeyTable& t);
void addControllerKeys(KeyTable& t);
void addNeckKeys(KeyTable& t); ///< neck, head, tuners, rod, its blank, holding and cuts
/// Bit, speed, feeds and depth of one cut, under GROUP.
void overrideKeys(KeyTable& t, const std::string& group, const std::string& cut,
                  const std::function<CutOverrides&(Project&)>& at);
void addMeasuredKeys(KeyTable& t);
void addBodyKeys(KeyTable& t);     ///< body, its features, blanks, holding and cuts
void addFeatureKeys(KeyTable& t);  ///< the body's lists
void addTemplateKeys(KeyTable& t); ///< boards for a hand router
/// The nodes of a closed outline.
void nodeList(KeyTable& t, const std::string& path,
              std::function<std::vector<ShapeNode>&(Project&)> at);
/// One of the known woods.
void woodKey(KeyTable& t, const std::string& path, const char* meaning,
             const std::function<std::string&(Project&)>& at);
/// How a part is turned over, under GROUP.
void turnKeys(KeyTable& t, const std::string& group, const std::function<TurnHold&(Project&)>& at);

} // namespace wren
