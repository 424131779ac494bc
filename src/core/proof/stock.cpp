#include "proof/stock.h"

#include <algorithm>
#include <cmath>

namespace wren {

Stock::Stock(const Blank& blank, double bottomZ, double cell)
    : cell_(cell), nx_(std::max(1, static_cast<int>(std::ceil(blank.length / cell - 1e-9)))),
      ny_(std::max(1, static_cast<int>(std::ceil(blank.width / cell - 1e-9)))), bottom_(bottomZ),
      top_(bottomZ + blank.thickness),
      high_(static_cast<std::size_t>(nx_) * static_cast<std::size_t>(ny_),
            static_cast<float>(top_)) {}

Stock Stock::turned(bool rows, double shift, double bottomZ) const {
    Stock out = *this;
    out.bottom_ = bottomZ;
    out.top_ = bottomZ + (top_ - bottom_);
    (rows ? out.y0_ : out.x0_) = shift;
    out.low_.resize(high_.size());
    for (int r = 0; r < ny_; ++r) {
        for (int c = 0; c < nx_; ++c) {
            const std::size_t to = rows ? out.index(c, ny_ - 1 - r) : out.index(nx_ - 1 - c, r);
            out.high_[to] = static_cast<float>(bottomZ + (top_ - low(c, r)));
            out.low_[to] = static_cast<float>(bottomZ + (top_ - high(c, r)));
        }
    }
    return out;
}

Stock Stock::turnedSideForSide(double, double width, double bottomZ) const {
    return turned(true, width - y0_ - ny_ * cell_, bottomZ);
}

Stock Stock::turnedEndForEnd(double length, double, double bottomZ) const {
    return turned(false, length - x0_ - nx_ * cell_, bottomZ);
}

Stock Stock::movedBy(Vec2 way) const {
    Stock out = *this;
    out.x0_ += way.x;
    out.y0_ += way.y;
    return out;
}

void Stock::keep(int column, double low, double high) {
    if (low_.empty()) {
        low_.assign(high_.size(), static_cast<float>(bottom_));
    }
    for (int r = 0; r < ny_; ++r) {
        const std::size_t i = index(column, r);
        high_[i] = std::min(high_[i], static_cast<float>(high));
        low_[i] = std::max(low_[i], static_cast<float>(low));
    }
}

double Stock::volume() const {
    double sum = 0;
    for (int r = 0; r < ny_; ++r) {
        for (int c = 0; c < nx_; ++c) {
            sum += std::max(0.0, static_cast<double>(high(c, r)) - low(c, r));
        }
    }
    return sum * cell_ * cell_;
}

} // namespace wren
