#pragma once

#include "geom/vec.h"

#include <array>
#include <string>

namespace wren {

/// What a maker sees in a blank and keeps clear of.
enum class WoodMarkKind { seam, knot, nail };

/// As files and commands call them, in the enum's order.
inline constexpr std::array<const char*, 3> woodMarkNames{"seam", "knot", "nail"};
inline const char* woodMarkName(WoodMarkKind kind) {
    return woodMarkNames[static_cast<std::size_t>(kind)];
}

/// One of them in a part's blank: a glue seam or a crack as a line, a knot or an old nail's hole as
/// what lies round a line as short as a point. Places from the blank's front left corner, face up,
/// along and across, mm.
struct WoodMark {
    std::string part = "fretboard"; ///< as `wren list FILE --of parts` names it
    WoodMarkKind kind = WoodMarkKind::seam;
    Vec2 from{0, 20}, to{100, 20};
    double width = 0;      ///< across it: of a knot or a hole; 0 for a seam
    std::string unknown{}; ///< what a file held of it that this version does not know

    friend bool operator==(const WoodMark&, const WoodMark&) = default;
};

/// A photograph of a part's real blank, face up, placed by two of its places: where they are on the
/// picture (per cent of its width from the left and of its height from the top), and where on the
/// blank (mm from its front left corner). At first its lower corners and the blank's.
struct WoodPhoto {
    std::string part = "fretboard";
    std::string file;
    Vec2 aOn{0, 100}, bOn{100, 100};
    Vec2 a{0, 0}, b{100, 0};
    /// Half of it is shown, mirrored about the blank's long middle line: two leaves of a board
    /// opened like a book.
    bool mirrored = false;
    std::string unknown{};

    friend bool operator==(const WoodPhoto&, const WoodPhoto&) = default;
};

/// Carries a photograph's pixels to places on the blank: turned and sized, never stretched.
class PhotoPlace {
public:
    /// `wide`, `high`: of the picture, pixels. Both its places must differ, on either.
    PhotoPlace(const WoodPhoto& photo, double wide, double high)
        : origin_(pixel(photo.aOn, wide, high)), at_(photo.a) {
        const Vec2 on = pixel(photo.bOn, wide, high) - origin_;
        const Vec2 there = photo.b - photo.a;
        const double k = dot(on, on);
        turn_ = {dot(on, there) / k, cross(on, there) / k};
    }
    Vec2 onBlank(Vec2 pixels) const {
        const Vec2 p = Vec2{pixels.x, -pixels.y} - origin_;
        return at_ + Vec2{turn_.x * p.x - turn_.y * p.y, turn_.y * p.x + turn_.x * p.y};
    }
    static bool holds(const WoodPhoto& photo) {
        return length(photo.b - photo.a) > 1e-6 && length(photo.bOn - photo.aOn) > 1e-6;
    }

private:
    /// Y upward.
    static Vec2 pixel(Vec2 share, double wide, double high) {
        return {share.x / 100 * wide, -share.y / 100 * high};
    }
    Vec2 origin_, at_;
    Vec2 turn_; ///< a complex number: mm for a pixel, turned
};

} // namespace wren
