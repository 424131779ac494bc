#pragma once

#include "proof/stock.h"

#include "cut/move.h"
#include "shop/bit.h"

#include <algorithm>
#include <array>
#include <cstdint>
#include <vector>

namespace wren {

/// 128 bits that stand for something: two that differ have different ones.
using Hash = std::array<std::uint64_t, 2>;

/// A stock's cells in squares, row by row; those at its right and upper end may be smaller.
class StockSquares {
public:
    explicit StockSquares(const Stock& stock);

    int across() const { return across_; }
    int down() const { return down_; }
    std::size_t count() const {
        return static_cast<std::size_t>(across_) * static_cast<std::size_t>(down_);
    }
    std::size_t cellsIn(int square) const;
    /// Calls f(column, row, count) for every row of a square's cells.
    template <typename F>
    void overRows(int square, F f) const {
        const int c = square % across_ * side;
        const int first = square / across_ * side;
        for (int r = first; r < std::min(first + side, rows_); ++r) {
            f(c, r, std::min(side, columns_ - c));
        }
    }

    static constexpr int side = 32; ///< cells

private:
    int columns_ = 0;
    int rows_ = 0;
    int across_ = 0;
    int down_ = 0;
};

/// The squares of a stock that a path's tool, or what is above it, may come near. Rapids count
/// where they go below the wood's upper face. The path lies in the stock's frame.
class NearWood {
public:
    NearWood(const Stock& stock, const Bit& bit, const Path& path);

    const std::vector<int>& squares() const { return squares_; }
    /// Of the path, the bit and the frame: what the squares follow from.
    const Hash& key() const { return key_; }
    static Hash keyOf(const Stock& stock, const Bit& bit, const Path& path);

private:
    std::vector<int> squares_; ///< ascending
    Hash key_;
};

} // namespace wren
