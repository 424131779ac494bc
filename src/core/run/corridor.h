#pragma once

#include "cut/move.h"

#include <optional>

namespace wren {

/// The way a program was proved to go, as something a machine may be asked to keep to. Places are
/// the program's; what the machine does not report, as steps it has lost, is not seen.
class Corridor {
public:
    static constexpr double width = 0.5; ///< mm to either side, in space

    /// Of a program's moves with their lines, from where the tool stands before it.
    explicit Corridor(Path path) : path_(std::move(path)) {}

    /// How far a reported place lies off the moves that may be under way: from the last that it was
    /// seen at to those of line `sent`. None within the corridor.
    struct Stray {
        double by = 0;
        int line = 0; ///< it was last seen to keep to
    };
    std::optional<Stray> strays(Vec3 place, int sent);

    /// The same once it stands: off the place where the way ends.
    std::optional<Stray> endsElsewhere(Vec3 place) const;

private:
    Path path_;
    std::size_t from_ = 0; ///< the first move it may still be on
};

/// The nearest a place comes to a move, mm.
double distanceToMove(Vec3 place, const Move& move);

} // namespace wren
