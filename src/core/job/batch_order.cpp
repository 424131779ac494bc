#include "job/batch_order.h"

#include <algorithm>
#include <cstdint>
#include <limits>
#include <optional>
#include <unordered_map>

namespace wren {
namespace {

constexpr std::size_t none = std::numeric_limits<std::size_t>::max();

int costOf(const std::vector<BenchLoad>& loads, std::size_t last, std::size_t next) {
    constexpr int change = 1000; // a change of bit weighs more than any number of other blanks
    if (last == none) {
        return 0;
    }
    return (loads[last].last == loads[next].first ? 0 : change) +
           (loads[last].kind == loads[next].kind ? 0 : 1);
}

/// Tries every order that is allowed, each set of loads done and last one of them once.
class Search {
public:
    explicit Search(const std::vector<BenchLoad>& loads) : loads_(loads) {
        for (const BenchLoad& load : loads) {
            std::uint64_t mask = 0;
            for (std::size_t i : load.after) {
                mask |= bit(i);
            }
            after_.push_back(mask);
        }
    }

    /// Nothing where there is too much to try.
    std::optional<std::vector<std::size_t>> run() {
        if (loads_.size() > 64) {
            return {};
        }
        least(0, none);
        if (tooMany_) {
            return {};
        }
        std::vector<std::size_t> out;
        std::uint64_t done = 0;
        std::size_t last = none;
        while (out.size() < loads_.size()) {
            last = best_.at(key(done, last)).next;
            done |= bit(last);
            out.push_back(last);
        }
        return out;
    }

private:
    struct Best {
        int cost = 0;
        std::size_t next = none;
    };
    struct Key {
        std::uint64_t done;
        std::size_t last;
        friend bool operator==(const Key&, const Key&) = default;
    };
    struct Hash {
        std::size_t operator()(const Key& k) const {
            return std::hash<std::uint64_t>()(k.done * 0x9e3779b97f4a7c15ULL) ^
                   (k.last * 0x85ebca6b);
        }
    };
    static std::uint64_t bit(std::size_t i) { return std::uint64_t(1) << i; }
    static Key key(std::uint64_t done, std::size_t last) { return {done, last}; }

    int least(std::uint64_t done, std::size_t last) {
        const auto known = best_.find(key(done, last));
        if (known != best_.end()) {
            return known->second.cost;
        }
        if (best_.size() >= 1000000) {
            tooMany_ = true;
            return 0;
        }
        Best best{std::numeric_limits<int>::max(), none};
        for (std::size_t i = 0; i < loads_.size() && !tooMany_; ++i) {
            if ((done & bit(i)) == 0 && (after_[i] & ~done) == 0) {
                const int cost = costOf(loads_, last, i) + least(done | bit(i), i);
                if (cost < best.cost) {
                    best = {cost, i};
                }
            }
        }
        best.cost = best.next == none ? 0 : best.cost;
        best_[key(done, last)] = best;
        return best.cost;
    }

    const std::vector<BenchLoad>& loads_;
    std::vector<std::uint64_t> after_;
    std::unordered_map<Key, Best, Hash> best_;
    bool tooMany_ = false;
};

std::vector<std::size_t> stepByStep(const std::vector<BenchLoad>& loads) {
    std::vector<std::size_t> out;
    std::vector<char> done(loads.size(), 0);
    while (out.size() < loads.size()) {
        std::size_t best = none;
        int least = std::numeric_limits<int>::max();
        for (std::size_t i = 0; i < loads.size(); ++i) {
            const bool may = !done[i] && std::all_of(loads[i].after.begin(), loads[i].after.end(),
                                                     [&](std::size_t k) { return done[k] != 0; });
            const int cost = may ? costOf(loads, out.empty() ? none : out.back(), i) : 0;
            if (may && cost < least) {
                least = cost;
                best = i;
            }
        }
        done[best] = 1;
        out.push_back(best);
    }
    return out;
}

} // namespace

std::vector<std::size_t> orderOfLoads(const std::vector<BenchLoad>& loads) {
    const auto exact = Search(loads).run();
    return exact ? *exact : stepByStep(loads);
}

} // namespace wren
