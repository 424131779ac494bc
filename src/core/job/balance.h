#pragma once

#include "job/weights.h"

#include <optional>
#include <string>
#include <vector>

namespace wren {

/// Fittings of one kind, where they hang together.
struct FittingMass {
    std::string what;
    int count = 1;
    double mass = 0;    ///< g, of all of them
    Vec3 centre;        ///< instrument frame, mm
    bool usual = false; ///< a usual figure, not weighed by the maker
};

/// What the instrument weighs and where it balances; g, mm, instrument frame.
struct Balance {
    std::vector<PieceMass> parts;
    std::vector<FittingMass> fittings;
    double mass = 0;
    Vec3 centre;
    /// X of the strap buttons nearest to the head and furthest from it; none without two of them.
    std::optional<std::array<double, 2>> buttons;
    std::vector<Wood> ownWoods; ///< the maker's, which a lighter neck may be made of too

    /// How far the centre lies behind the front strap button, toward the bridge; the head of an
    /// instrument that balances before its button goes down (common practice, no source).
    double behindButton() const { return buttons ? centre.x - (*buttons)[0] : 0; }
    bool dives() const { return buttons && behindButton() < 0; }
};

/// Weighs it where that is not done yet (some tenths of a second).
Balance balanceOf(Derived& derived);
/// As far as it is weighed.
Balance balanceAsKnown(const Derived& derived);

/// What would keep the head up, a sentence each, the least change first; nothing where it stays up.
std::vector<std::string> keepsHeadUp(const Balance& balance);

std::string balanceJson(const Balance& balance);
std::string balanceText(const Balance& balance);

} // namespace wren
