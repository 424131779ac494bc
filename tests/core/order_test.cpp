// The order of cuts and the choice of bits, against trying everything.

#include "cut/order.h"

#include "support.h"

#include <algorithm>
#include <numeric>
#include <random>

using namespace wren;

namespace {

constexpr double change = 90;

double secondsOf(const std::vector<OpenCut>& cuts, const std::vector<SettledCut>& settled) {
    double sum = 0;
    std::size_t inSpindle = static_cast<std::size_t>(-1);
    for (const SettledCut& s : settled) {
        const std::size_t bit = cuts[s.cut].bits[s.choice];
        sum += cuts[s.cut].seconds[s.choice] + (bit == inSpindle ? 0 : change);
        inSpindle = bit;
    }
    return sum;
}

bool respects(const std::vector<OpenCut>& cuts, const std::vector<std::size_t>& order) {
    for (std::size_t i = 0; i < order.size(); ++i) {
        for (std::size_t before : cuts[order[i]].after) {
            if (std::find(order.begin(), order.begin() + static_cast<std::ptrdiff_t>(i), before) ==
                order.begin() + static_cast<std::ptrdiff_t>(i)) {
                return false;
            }
        }
    }
    return true;
}

/// Every order, every choice.
double leastByTrying(const std::vector<OpenCut>& cuts) {
    std::vector<std::size_t> order(cuts.size());
    std::iota(order.begin(), order.end(), std::size_t{0});
    double least = 1e18;
    do {
        if (!respects(cuts, order)) {
            continue;
        }
        std::vector<std::size_t> choice(cuts.size(), 0);
        for (bool more = true; more;) {
            std::vector<SettledCut> settled;
            for (std::size_t c : order) {
                settled.push_back({c, choice[c]});
            }
            least = std::min(least, secondsOf(cuts, settled));
            more = false;
            for (std::size_t i = 0; i < choice.size() && !more; ++i) {
                more = ++choice[i] < cuts[i].bits.size();
                choice[i] = more ? choice[i] : 0;
            }
        }
    } while (std::next_permutation(order.begin(), order.end()));
    return least;
}

} // namespace

TEST_CASE("A slower bit is taken where it saves a change, and only there", "[order]") {
    // The outline could use bit 2 a little quicker, but bit 1 is in the spindle.
    const std::vector<OpenCut> cuts{{{}, {1}, {100}}, {{0}, {1, 2}, {150, 100}}};
    const auto settled = settleOrder(cuts, change);
    REQUIRE(settled.size() == 2);
    CHECK(settled[1].choice == 0);
    const std::vector<OpenCut> far{{{}, {1}, {100}}, {{0}, {1, 2}, {500, 100}}};
    CHECK(settleOrder(far, change)[1].choice == 1);
}

TEST_CASE("Cuts with the same bit come together where nothing forbids it", "[order]") {
    const std::vector<OpenCut> cuts{{{}, {7}, {10}}, {{}, {8}, {10}}, {{}, {7}, {10}}};
    const auto settled = settleOrder(cuts, change);
    CHECK(secondsOf(cuts, settled) == 30 + 2 * change);
    // A dependence that forbids it costs a change more.
    const std::vector<OpenCut> tied{{{}, {7}, {10}}, {{0}, {8}, {10}}, {{1}, {7}, {10}}};
    CHECK(secondsOf(tied, settleOrder(tied, change)) == 30 + 3 * change);
    CHECK(settleOrder({}, change).empty());
}

TEST_CASE("No order and no choice of bits is quicker than the one settled on", "[order]") {
    std::mt19937 random(7);
    const auto pick = [&](int n) {
        return static_cast<std::size_t>(random() % static_cast<unsigned>(n));
    };
    for (int round = 0; round < 60; ++round) {
        std::vector<OpenCut> cuts(3 + pick(3));
        for (std::size_t i = 0; i < cuts.size(); ++i) {
            for (std::size_t before = 0; before < i; ++before) {
                if (pick(3) == 0) {
                    cuts[i].after.push_back(before);
                }
            }
            for (std::size_t bit = 0; bit < 4; ++bit) {
                if (pick(2) == 0 || (bit == 3 && cuts[i].bits.empty())) {
                    cuts[i].bits.push_back(bit);
                    cuts[i].seconds.push_back(static_cast<double>(10 + pick(300)));
                }
            }
        }
        INFO("round " << round);
        const auto settled = settleOrder(cuts, change);
        REQUIRE(settled.size() == cuts.size());
        std::vector<std::size_t> order;
        for (const SettledCut& s : settled) {
            order.push_back(s.cut);
        }
        CHECK(respects(cuts, order));
        CHECK(secondsOf(cuts, settled) == Approx(leastByTrying(cuts)));
    }
}
