#include "geom/frames.h"

namespace wren {

SetupFromInstrument SetupFromInstrument::faceUp(Vec3 origin) {
    SetupFromInstrument t;
    t.origin_ = origin;
    return t;
}

SetupFromInstrument SetupFromInstrument::turnedAboutX(Vec3 origin) {
    SetupFromInstrument t;
    t.axes_ = {1, -1, -1};
    t.origin_ = origin;
    return t;
}

SetupFromInstrument SetupFromInstrument::turnedAboutY(Vec3 origin) {
    SetupFromInstrument t;
    t.axes_ = {-1, 1, -1};
    t.origin_ = origin;
    return t;
}

std::array<double, 16> SetupFromInstrument::matrix() const {
    return {axes_.x, 0, 0,       origin_.x, 0, axes_.y, 0, origin_.y, //
            0,       0, axes_.z, origin_.z, 0, 0,       0, 1};
}

} // namespace wren
