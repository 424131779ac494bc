#include "proof/stock.h"

#include <algorithm>
#include <cmath>
#include <tuple>
#include <utility>

#include <tbb/parallel_for.h>

namespace wren {

Stock::Stock(const Blank& blank, double bottomZ, double cell)
    : cell_(cell), nx_(std::max(1, static_cast<int>(std::ceil(blank.length / cell - 1e-9)))),
      ny_(std::max(1, static_cast<int>(std::ceil(blank.width / cell - 1e-9)))), bottom_(bottomZ),
      top_(bottomZ + blank.thickness),
      high_(static_cast<std::size_t>(nx_) * static_cast<std::size_t>(ny_),
            static_cast<float>(top_)) {}

/// In its own place: a copy of so many cells would take longer than the turning.
Stock Stock::turned(bool rows, double shift, double bottomZ) && {
    if (low_.empty()) {
        low_.assign(high_.size(), static_cast<float>(bottom_));
    }
    const auto over = [&](float z) { return static_cast<float>(bottomZ + (top_ - z)); };
    const auto turn = [&](std::size_t a, std::size_t b) { // b becomes what a was, and a what b was
        std::tie(high_[a], low_[a], high_[b], low_[b]) =
            std::tuple(over(low_[b]), over(high_[b]), over(low_[a]), over(high_[a]));
        if (!hollows_.empty()) {
            const Hollow was = hollows_[a];
            hollows_[a] = {over(hollows_[b].high), over(hollows_[b].low)};
            hollows_[b] = {over(was.high), over(was.low)};
        }
    };
    if (rows) {
        tbb::parallel_for(0, (ny_ + 1) / 2, [&](int r) {
            for (int c = 0; c < nx_; ++c) {
                turn(index(c, r), index(c, ny_ - 1 - r));
            }
        });
    } else {
        tbb::parallel_for(0, ny_, [&](int r) {
            for (int c = 0; c < (nx_ + 1) / 2; ++c) {
                turn(index(c, r), index(nx_ - 1 - c, r));
            }
        });
    }
    const double tall = top_ - bottom_;
    bottom_ = bottomZ;
    top_ = bottomZ + tall;
    (rows ? y0_ : x0_) = shift;
    return std::move(*this);
}

Stock Stock::turnedSideForSide(double, double width, double bottomZ) && {
    return std::move(*this).turned(true, width - y0_ - ny_ * cell_, bottomZ);
}

Stock Stock::turnedEndForEnd(double length, double, double bottomZ) && {
    return std::move(*this).turned(false, length - x0_ - nx_ * cell_, bottomZ);
}

Stock Stock::turnedSideForSide(double length, double width, double bottomZ) const& {
    return Stock(*this).turnedSideForSide(length, width, bottomZ);
}

Stock Stock::turnedEndForEnd(double length, double width, double bottomZ) const& {
    return Stock(*this).turnedEndForEnd(length, width, bottomZ);
}

Stock Stock::movedBy(Vec2 way) const {
    Stock out = *this;
    out.x0_ += way.x;
    out.y0_ += way.y;
    return out;
}

void Stock::keep(int column, double low, double high) {
    for (int r = 0; r < ny_; ++r) {
        keepCell(column, r, low, high);
    }
}

void Stock::keepCell(int column, int row, double low, double high) {
    if (low_.empty()) {
        low_.assign(high_.size(), static_cast<float>(bottom_));
    }
    const std::size_t i = index(column, row);
    high_[i] = std::min(high_[i], static_cast<float>(high));
    low_[i] = std::max(low_[i], static_cast<float>(low));
}

void Stock::shutIn(int column, int row, double low, double high) {
    if (hollows_.empty()) {
        hollows_.resize(high_.size());
    }
    hollows_[index(column, row)] = {static_cast<float>(low), static_cast<float>(high)};
}

Stock Stock::lifted(double by) const {
    Stock out = *this;
    out.bottom_ += by;
    out.top_ += by;
    const auto up = static_cast<float>(by);
    for (std::vector<float>* heights : {&out.high_, &out.low_}) {
        for (float& z : *heights) {
            z += up;
        }
    }
    for (Hollow& h : out.hollows_) {
        h = {h.low + up, h.high + up};
    }
    return out;
}

void Stock::glueOn(const Stock& above, double seam, double top) {
    if (low_.empty()) {
        low_.assign(high_.size(), static_cast<float>(bottom_));
    }
    top_ = top;
    for (int r = 0; r < ny_; ++r) {
        for (int c = 0; c < nx_; ++c) {
            if (!above.wood(c, r)) {
                continue;
            }
            const std::size_t i = index(c, r);
            const double under = seam + (above.low(c, r) - above.bottom_);
            const float over = static_cast<float>(seam + (above.high(c, r) - above.bottom_));
            constexpr double glue = 0.01;
            if (!wood(c, r)) {
                low_[i] = static_cast<float>(under);
            } else if (high_[i] < under - glue) {
                shutIn(c, r, high_[i], under);
            }
            high_[i] = over;
        }
    }
}

void Stock::openCutHollows() {
    const auto open = [&](std::size_t i) {
        Hollow& h = hollows_[i];
        if (h.high <= h.low) {
            return;
        }
        if (high_[i] <= h.high) {
            high_[i] = std::min(high_[i], h.low);
            h = {};
        } else if (!low_.empty() && low_[i] >= h.low) {
            low_[i] = std::max(low_[i], h.high);
            h = {};
        }
    };
    tbb::parallel_for(0, hollows_.empty() ? 0 : ny_, [&](int r) {
        for (int c = 0; c < nx_; ++c) {
            open(index(c, r));
        }
    });
}

Stock::Heights Stock::heights(int from, int to) const {
    const auto at = [&](int r) { return high_.begin() + static_cast<std::ptrdiff_t>(index(0, r)); };
    return {from, {at(from), at(std::max(from, to))}};
}

void Stock::putBack(const Heights& kept) {
    std::copy(kept.high.begin(), kept.high.end(),
              high_.begin() + static_cast<std::ptrdiff_t>(index(0, kept.from)));
}

double Stock::volume() const {
    double sum = 0;
    for (int r = 0; r < ny_; ++r) {
        for (int c = 0; c < nx_; ++c) {
            sum += std::max(0.0, static_cast<double>(high(c, r)) - low(c, r));
        }
    }
    for (const Hollow& h : hollows_) {
        sum -= static_cast<double>(h.high) - h.low;
    }
    return sum * cell_ * cell_;
}

} // namespace wren
