#pragma once

#include "part/neck_part.h"

#include <QImage>

#include <array>
#include <vector>

namespace wren::app {

/// A picture of the neck's back laid flat: along the neck as it is, across by the length of the way
/// round it, so that the flanks show as wide as they are.
struct Unrolled {
    QImage picture;  ///< one pixel a `pitch` both ways, the spine in the middle row, +Y up
    double from = 0; ///< X of its left side
    double pitch = 0.4;
    std::vector<std::array<double, 2>> edges; ///< way round to the edge at -Y and +Y, each column

    double half() const { return picture.height() * pitch / 2; } ///< mm
};

/// From a picture in plan whose pixels are `cell` mm, its corner of low X and high Y at `corner`.
/// Asks the back's definition some hundred thousand times: for a worker thread.
Unrolled unrolledBack(const NeckPart& part, const QImage& plan, Vec2 corner, double cell);

} // namespace wren::app
