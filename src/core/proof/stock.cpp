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

double Stock::volume() const {
    double sum = 0;
    for (float h : high_) {
        sum += std::max(0.0, static_cast<double>(h) - bottom_);
    }
    return sum * cell_ * cell_;
}

} // namespace wren
