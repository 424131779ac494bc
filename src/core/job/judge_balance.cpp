#include "job/judge_balance.h"

#include "job/balance.h"

#include <algorithm>

#include <fmt/format.h>

namespace wren {
namespace {

// Common practice, no source.
constexpr double heavyGuitar = 4500, heavyBass = 5200; ///< g
constexpr double bassScale = 740;                      ///< mm, from here on it is one

/// The strap button nearest to the head.
std::size_t frontButton(const Derived& d) {
    const std::vector<StrapButton>& straps = d.project.body.straps;
    const auto it = std::min_element(
        straps.begin(), straps.end(),
        [](const StrapButton& a, const StrapButton& b) { return a.at.x < b.at.x; });
    return static_cast<std::size_t>(it - straps.begin());
}

} // namespace

Findings judgeBalance(const Derived& d) {
    Findings out;
    if (!d.body || !d.neck || !d.board || !d.weighed) {
        return out;
    }
    const Balance b = balanceAsKnown(d);
    if (b.dives()) {
        const std::vector<std::string> ways = keepsHeadUp(b);
        Finding& f = sayOf(Role::body, out, Weight::caution, "head-dives",
                           fmt::format("It balances {:.0f} mm before the front strap button, so "
                                       "its head goes down: {} would keep it up.",
                                       -b.behindButton(), fmt::join(ways, ", or ")),
                           b.behindButton(), 0);
        f.atX = b.centre.x;
        f.feature = {FeatureKind::strap, frontButton(d)};
    }
    const double most = d.project.board.scaleLength >= bassScale ? heavyBass : heavyGuitar;
    if (b.mass > most) {
        sayOf(Role::body, out, Weight::note, "heavy",
              fmt::format("With its fittings it weighs {:.1f} kg; more than {:.1f} kg are a burden "
                          "on the shoulder: lighter wood, chambers or a thinner body would do.",
                          b.mass / 1000, most / 1000),
              b.mass, most)
            .atX = b.centre.x;
    }
    return out;
}

} // namespace wren
