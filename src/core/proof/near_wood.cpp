#include "proof/near_wood.h"

#include "cut/bit_chooser.h"
#include "proof/hasher.h"
#include "proof/simulate.h"

#include <algorithm>
#include <cmath>

namespace wren {
namespace {

std::vector<double> numbersOf(const Path& path) {
    std::vector<double> out;
    out.reserve(path.size() * 15);
    for (const Move& m : path) {
        out.insert(out.end(), {double(m.motion), m.from.x, m.from.y, m.from.z, m.to.x, m.to.y,
                               m.to.z, m.feed, m.dwell, m.rpm, double(m.spindleOn)});
        if (m.isArc()) {
            out.insert(out.end(), {double(m.plane), m.centre.x, m.centre.y, m.centre.z});
        }
    }
    return out;
}

std::vector<double> numbersOf(const Bit& b) {
    return {double(b.kind), b.diameter, b.fluteLength, double(b.flutes), b.shank,  b.corner,
            b.tip,          b.angle,    b.reach,       b.collet,         b.maxRpm, b.maxFeed};
}

/// How far to the side anything that turns with the bit reaches.
double widestOf(const Stock& stock, const Bit& bit, const Path& path) {
    double lowest = stock.topZ();
    for (const Move& m : path) {
        lowest = std::min({lowest, m.from.z, m.to.z});
    }
    const bool nut = stock.topZ() - lowest > bit.reachOrUsual();
    return std::max({bit.diameter / 2, bit.shank / 2, nut ? colletNut : 0.0}) + nearWider;
}

} // namespace

StockSquares::StockSquares(const Stock& stock)
    : columns_(stock.columns()), rows_(stock.rows()), across_((stock.columns() + side - 1) / side),
      down_((stock.rows() + side - 1) / side) {}

std::size_t StockSquares::cellsIn(int square) const {
    const auto wide = static_cast<std::size_t>(std::min(side, columns_ - square % across_ * side));
    const auto high = static_cast<std::size_t>(std::min(side, rows_ - square / across_ * side));
    return wide * high;
}

Hash NearWood::keyOf(const Stock& stock, const Bit& bit, const Path& path) {
    Hasher hash;
    hash.add(numbersOf(path));
    hash.add(numbersOf(bit));
    hash.add(std::vector<double>{stock.cell(), double(stock.columns()), double(stock.rows()),
                                 stock.x(0), stock.y(0), stock.topZ(), stock.bottomZ()});
    return hash.hash();
}

NearWood::NearWood(const Stock& stock, const Bit& bit, const Path& path)
    : key_(keyOf(stock, bit, path)) {
    const StockSquares all(stock);
    std::vector<char> met(all.count(), 0);
    const double reach = widestOf(stock, bit, path) + stock.cell();
    const auto meet = [&](Vec3 a, Vec3 b) {
        const auto square = [](double cells, int most) {
            return std::clamp(static_cast<int>(std::floor(cells / StockSquares::side)), 0,
                              most - 1);
        };
        const int c0 = square(stock.column(std::min(a.x, b.x) - reach), all.across());
        const int c1 = square(stock.column(std::max(a.x, b.x) + reach), all.across());
        const int r0 = square(stock.row(std::min(a.y, b.y) - reach), all.down());
        const int r1 = square(stock.row(std::max(a.y, b.y) + reach), all.down());
        for (int r = r0; r <= r1; ++r) {
            std::fill_n(met.begin() + std::ptrdiff_t(r) * all.across() + c0, c1 - c0 + 1, 1);
        }
    };
    std::vector<Vec3> way;
    for (const Move& m : path) {
        if (!m.cuts() && std::min(m.from.z, m.to.z) >= stock.topZ()) {
            continue; // nothing stands there
        }
        way.clear();
        addWay(way, m);
        for (std::size_t i = 0; i + 1 < way.size(); ++i) {
            // In short pieces: the box about a long slanting one holds far more than it comes near.
            const Vec3 whole = way[i + 1] - way[i];
            const int n = 1 + static_cast<int>(length(whole.xy()) / 8);
            for (int k = 0; k < n; ++k) {
                meet(way[i] + whole * (double(k) / n), way[i] + whole * (double(k + 1) / n));
            }
        }
    }
    for (std::size_t i = 0; i < met.size(); ++i) {
        if (met[i]) {
            squares_.push_back(static_cast<int>(i));
        }
    }
}

} // namespace wren
