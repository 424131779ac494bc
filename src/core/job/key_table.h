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

/// Collects keys, one call each.
class KeyTable {
public:
    using Get = std::function<KeyValue(const Project&)>;
    using Set = std::function<void(Project&, const KeyValue&)>;

    /// `at` is a callable Project& -> double&, usable on const and non-const projects alike.
    template <typename At>
    Key& number(KeyKind kind, std::string path, std::string unit, std::string meaning, double least,
                double most, At at) {
        return add(kind, std::move(path), std::move(unit), std::move(meaning), least, most,
                   Get([at](const Project& p) -> KeyValue {
                       return static_cast<double>(at(const_cast<Project&>(p)));
                   }),
                   Set([at](Project& p, const KeyValue& v) {
                       auto& place = at(p);
                       place = static_cast<std::decay_t<decltype(place)>>(std::get<double>(v));
                   }));
    }

    template <typename At>
    Key& length(std::string path, std::string meaning, double least, double most, At at) {
        return number(KeyKind::length, std::move(path), "mm", std::move(meaning), least, most, at);
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
        add(kind, std::move(path), std::move(unit), std::move(meaning), least, most,
            Get([at](const Project& p) -> KeyValue {
                const auto& o = at(const_cast<Project&>(p));
                return o ? KeyValue(static_cast<double>(*o)) : KeyValue();
            }),
            Set([at](Project& p, const KeyValue& v) {
                auto& o = at(p);
                if (const double* d = std::get_if<double>(&v)) {
                    o = *d;
                } else {
                    o.reset();
                }
            }))
            .mayBeAuto = true;
    }

    void words(std::string path, std::string meaning, std::vector<std::string> choices,
               std::function<std::string(const Project&)> get,
               std::function<void(Project&, const std::string&)> set, bool mayBeAuto = false);

    /// A place, mm; and either of its numbers by itself.
    template <typename At>
    void place(const std::string& path, const std::string& meaning, double reach, At at) {
        add(KeyKind::place, path, "mm", meaning + ": along, across", -reach, reach,
            Get([at](const Project& p) -> KeyValue { return at(const_cast<Project&>(p)); }),
            Set([at](Project& p, const KeyValue& v) { at(p) = std::get<Vec2>(v); }));
        for (const auto& [name, words, which] :
             {std::tuple{".x", ", along", &Vec2::x}, {".y", ", across", &Vec2::y}}) {
            derived(
                path + name, meaning + words, -reach, reach,
                [at, which = which](const Project& p) {
                    return at(const_cast<Project&>(p)).*which;
                },
                [at, which = which](Project& p, double v) { at(p).*which = v; });
        }
    }

    /// A list; `at` is a callable Project& -> std::vector<T>&, and `members(table, head, one)` adds
    /// the keys of one of it under `head`, `one` being a callable Project& -> T&.
    template <typename T, typename Members>
    void list(const std::string& path, std::string one, std::size_t most,
              std::function<std::vector<T>&(Project&)> at, Members members) {
        ListKey l;
        l.path = path;
        l.one = std::move(one);
        l.most = most;
        l.size = [at](const Project& p) { return at(const_cast<Project&>(p)).size(); };
        l.add = [at](Project& p, std::size_t i) {
            auto& all = at(p);
            all.insert(all.begin() + static_cast<std::ptrdiff_t>(i), T{});
        };
        l.copy = [at](Project& p, std::size_t i) {
            auto& all = at(p);
            const T same = all.at(i);
            all.insert(all.begin() + static_cast<std::ptrdiff_t>(i) + 1, same);
        };
        l.remove = [at](Project& p, std::size_t i) {
            auto& all = at(p);
            all.erase(all.begin() + static_cast<std::ptrdiff_t>(i));
        };
        l.clear = [at](Project& p) { at(p).clear(); };
        l.unknown = [at](Project& p, std::size_t i) -> std::string& { return at(p).at(i).unknown; };
        l.members = [at, path, members](KeyTable& t, std::size_t i) {
            members(t, path + "." + std::to_string(i) + ".",
                    std::function<T&(Project&)>([at, i](Project& p) -> T& { return at(p).at(i); }));
        };
        lists_.push_back(std::move(l));
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

template <typename Enum, std::size_t N, typename At>
void enumKey(KeyTable& t, const std::string& path, const char* meaning, Names<Enum, N> names,
             At at) {
    t.words(
        path, meaning, names.all(),
        [names, at](const Project& p) { return names.of(at(const_cast<Project&>(p))); },
        [names, at](Project& p, const std::string& v) { at(p) = names.from(v); });
}

template <typename At>
void yesNo(KeyTable& t, const std::string& path, const char* meaning, At at) {
    t.words(
        path, meaning, {"no", "yes"},
        [at](const Project& p) { return std::string(at(const_cast<Project&>(p)) ? "yes" : "no"); },
        [at](Project& p, const std::string& v) { at(p) = v == "yes"; });
}

// The groups, in the order the file and `wren set --list` show them.
void addBoardKeys(KeyTable& t); ///< name, board, wire, markers
void addShopKeys(KeyTable& t);  ///< blank, holding, machine
void addCutKeys(KeyTable& t);
void addNeckKeys(KeyTable& t); ///< neck, head, tuners, rod, its blank, holding and cuts
/// Bit, speed, feeds and depth of one cut, under GROUP.
void overrideKeys(KeyTable& t, const std::string& group, const std::string& cut,
                  const std::function<CutOverrides&(Project&)>& at);
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
