#include "way_file.h"

#include "base/error.h"

#include <fmt/format.h>

namespace wren {

WayFile::WayFile(const std::string& file) : out_(file, std::ios::trunc) {
    if (!out_) {
        throw Error(fmt::format("{} cannot be written.", file));
    }
    out_ << "G21 G90 G17\n";
}

void WayFile::turn(const Move& gone) {
    const bool turning = gone.spindleOn && gone.rpm > 0;
    if (turning && (!turning_ || gone.rpm != rpm_)) {
        out_ << fmt::format("M3 S{:.0f}\n", gone.rpm);
    } else if (!turning && turning_) {
        out_ << "M5\n";
    }
    turning_ = turning;
    rpm_ = gone.rpm;
}

void WayFile::add(const Move& gone, Vec3 zero) {
    const auto place = [](Vec3 p) { return fmt::format("X{:.6f} Y{:.6f} Z{:.6f}", p.x, p.y, p.z); };
    turn(gone);
    if (!zero_ || length(*zero_ - zero) > 0) { // told anew where it stands
        out_ << "(work zero on the machine: " << place(zero) << ")\nG0 " << place(gone.from - zero)
             << '\n';
        zero_ = zero;
    }
    const Vec3 to = gone.to - zero;
    if (gone.isArc() && gone.plane == ArcPlane::xy) {
        const Vec3 in = gone.centre - gone.from;
        out_ << fmt::format("G{} {} I{:.6f} J{:.6f} F{:.1f}\n",
                            gone.motion == Motion::arcClockwise ? 2 : 3, place(to), in.x, in.y,
                            gone.feed);
        return;
    }
    const int n = gone.isArc() ? chordsFor(gone, 0.001) : 1;
    for (int i = 1; i <= n; ++i) {
        const Vec3 at = i == n ? to : gone.at(static_cast<double>(i) / n) - zero;
        out_ << (gone.cuts() ? fmt::format("G1 {} F{:.1f}\n", place(at), gone.feed)
                             : fmt::format("G0 {}\n", place(at)));
    }
}

} // namespace wren
