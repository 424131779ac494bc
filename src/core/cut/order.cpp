#include "cut/order.h"

#include <algorithm>
#include <limits>

namespace wren {
namespace {

class Search {
public:
    Search(const std::vector<OpenCut>& cuts, double change) : cuts_(cuts), change_(change) {}

    std::vector<SettledCut> run() {
        extend();
        return std::move(best_);
    }

private:
    void extend() {
        if (order_.size() == cuts_.size()) {
            settleBits();
            return;
        }
        for (std::size_t i = 0; i < cuts_.size(); ++i) {
            const bool taken = std::find(order_.begin(), order_.end(), i) != order_.end();
            const bool ready =
                std::all_of(cuts_[i].after.begin(), cuts_[i].after.end(), [&](std::size_t a) {
                    return std::find(order_.begin(), order_.end(), a) != order_.end();
                });
            if (!taken && ready) {
                order_.push_back(i);
                extend();
                order_.pop_back();
            }
        }
    }

    /// The cheapest bits along one order: for every bit of a cut the cheapest way to arrive there.
    void settleBits() {
        std::vector<std::vector<double>> cost(order_.size());
        std::vector<std::vector<std::size_t>> from(order_.size());
        for (std::size_t k = 0; k < order_.size(); ++k) {
            const OpenCut& cut = cuts_[order_[k]];
            for (std::size_t j = 0; j < cut.bits.size(); ++j) {
                double least = k == 0 ? 0 : std::numeric_limits<double>::infinity();
                std::size_t who = 0;
                for (std::size_t i = 0; k > 0 && i < cost[k - 1].size(); ++i) {
                    const bool same = cuts_[order_[k - 1]].bits[i] == cut.bits[j];
                    const double c = cost[k - 1][i] + (same ? 0 : change_);
                    if (c < least) {
                        least = c;
                        who = i;
                    }
                }
                cost[k].push_back(least + cut.seconds[j]);
                from[k].push_back(who);
            }
        }
        if (order_.empty()) {
            return;
        }
        const auto end = std::min_element(cost.back().begin(), cost.back().end());
        if (*end >= bestCost_ - 1e-9) {
            return;
        }
        bestCost_ = *end;
        best_.assign(order_.size(), {});
        auto choice = static_cast<std::size_t>(end - cost.back().begin());
        for (std::size_t k = order_.size(); k-- > 0;) {
            best_[k] = {order_[k], choice};
            choice = from[k][choice];
        }
    }

    const std::vector<OpenCut>& cuts_;
    double change_;
    std::vector<std::size_t> order_;
    std::vector<SettledCut> best_;
    double bestCost_ = std::numeric_limits<double>::infinity();
};

} // namespace

std::vector<SettledCut> settleOrder(const std::vector<OpenCut>& cuts, double secondsPerChange) {
    return Search(cuts, secondsPerChange).run();
}

} // namespace wren
