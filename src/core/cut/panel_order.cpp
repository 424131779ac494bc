#include "cut/panel_order.h"

#include <algorithm>
#include <cmath>
#include <set>

#include <fmt/format.h>

namespace wren {
namespace {

constexpr double shallow = 1.5; ///< bit diameters down to which a down-cut clears its chips

int rank(const Bit& bit, bool visible, bool deep, bool through) {
    const BitKind best = through            ? BitKind::compression
                         : visible && !deep ? BitKind::downCut
                                            : BitKind::flat;
    return bit.kind == best ? 2 : bit.kind == BitKind::flat ? 1 : 0;
}

/// The tasks with what each waits for, for finding the order with the fewest changes of bit.
class Runs {
public:
    using Done = std::vector<bool>;

    explicit Runs(const std::vector<OpenTask>& tasks) : tasks_(tasks) {}

    /// Bits in the order they are mounted: as few as there can be. With one bit in the spindle
    /// everything that is ready for it may as well be done, so what is done after each run is all
    /// that counts; such states are tried run by run, each once.
    std::vector<const Bit*> fewest() const {
        struct State {
            Done done;
            std::size_t from; ///< the state before
            const Bit* bit;
        };
        std::vector<State> states{{Done(tasks_.size(), false), 0, nullptr}};
        std::set<Done> seen{states[0].done};
        for (std::size_t i = 0; i < states.size(); ++i) {
            if (std::find(states[i].done.begin(), states[i].done.end(), false) ==
                states[i].done.end()) {
                std::vector<const Bit*> bits;
                for (std::size_t k = i; states[k].bit; k = states[k].from) {
                    bits.insert(bits.begin(), states[k].bit);
                }
                return bits;
            }
            for (const Bit* bit : readyBits(states[i].done)) {
                Done next = states[i].done;
                run(next, bit, [](std::size_t) {});
                if (seen.insert(next).second) {
                    states.push_back({std::move(next), i, bit});
                }
            }
        }
        return {};
    }

    /// Does everything that is or becomes ready for a bit; what belongs to the same cut together.
    template <typename See>
    void run(Done& done, const Bit* bit, See see) const {
        const CutName* last = nullptr;
        for (;;) {
            std::size_t next = tasks_.size();
            for (std::size_t i = tasks_.size(); i-- > 0;) {
                if (ready(done, i) && tasks_[i].bit == bit) {
                    const bool same = last && tasks_[i] == *last;
                    const bool had = next < tasks_.size() && last && tasks_[next] == *last;
                    next = same || !had ? i : next;
                }
            }
            if (next == tasks_.size()) {
                return;
            }
            done[next] = true;
            last = &tasks_[next];
            see(next);
        }
    }

private:
    bool ready(const Done& done, std::size_t i) const {
        return !done[i] && std::all_of(tasks_[i].after.begin(), tasks_[i].after.end(),
                                       [&](std::size_t k) { return bool(done[k]); });
    }

    /// Those something is ready for, that with the most first.
    std::vector<const Bit*> readyBits(const Done& done) const {
        std::vector<std::pair<int, const Bit*>> count;
        for (std::size_t i = 0; i < tasks_.size(); ++i) {
            if (!ready(done, i)) {
                continue;
            }
            const auto it = std::find_if(count.begin(), count.end(),
                                         [&](const auto& c) { return c.second == tasks_[i].bit; });
            if (it == count.end()) {
                count.emplace_back(1, tasks_[i].bit);
            } else {
                ++it->first;
            }
        }
        std::stable_sort(count.begin(), count.end(),
                         [](const auto& a, const auto& b) { return a.first > b.first; });
        std::vector<const Bit*> out;
        out.reserve(count.size());
        for (const auto& c : count) {
            out.push_back(c.second);
        }
        return out;
    }

    const std::vector<OpenTask>& tasks_;
};

} // namespace

BitChooser::Better widestOf(bool visible, double depth, bool through) {
    return [=](const Bit& a, const Bit& b) {
        if (std::abs(a.diameter - b.diameter) > 1e-9) {
            return a.diameter > b.diameter;
        }
        const bool deep = depth > shallow * a.diameter;
        const int ra = rank(a, visible, deep, through);
        const int rb = rank(b, visible, deep, through);
        return ra != rb ? ra > rb : a.fluteLength < b.fluteLength; // the stiffer one
    };
}

std::string whyKind(const Bit& bit, bool visible) {
    switch (bit.kind) {
    case BitKind::downCut:
        return visible ? " Down-cut: the edge is seen and the chips still get out." : " Down-cut.";
    case BitKind::compression:
        return " Compression: clean edges at both faces.";
    default:
        return visible ? " Up-cut: so deep, chips must be lifted out; mind the top edge's "
                         "fibres."
                       : " Up-cut: it lifts the chips out.";
    }
}

void shareBits(std::vector<OpenTask>& tasks) {
    for (OpenTask& t : tasks) {
        for (const OpenTask& u : tasks) {
            if (t.bit == u.bit || !cutsFlat(t.bit->kind) || t.bit->kind != u.bit->kind ||
                std::abs(t.bit->diameter - u.bit->diameter) > 1e-9 || !t.own.bit.empty()) {
                continue;
            }
            const Bit* other = u.bit;
            const Bit* mine = t.bit;
            const bool all = std::all_of(tasks.begin(), tasks.end(), [&](const OpenTask& v) {
                return v.bit != mine || (v.own.bit.empty() && v.judge(*other).can);
            });
            if (all) {
                for (OpenTask& v : tasks) {
                    if (v.bit == mine) {
                        v.bit = other;
                        v.why = fmt::format("{}: it is mounted for the {} anyway.", other->name,
                                            u.what);
                    }
                }
            }
        }
    }
}

std::vector<std::size_t> runningOrder(const std::vector<OpenTask>& tasks) {
    const Runs runs(tasks);
    Runs::Done done(tasks.size(), false);
    std::vector<std::size_t> order;
    for (const Bit* bit : runs.fewest()) {
        runs.run(done, bit, [&](std::size_t i) { order.push_back(i); });
    }
    return order;
}

} // namespace wren
