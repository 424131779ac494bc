#pragma once

#include "proof/near_wood.h"

#include <memory>
#include <utility>
#include <vector>

namespace wren {

/// How a cut left the squares it came near.
struct Left {
    std::vector<float> heights; ///< of their cells, square by square
    std::vector<Hash> hashes;   ///< of each square
};

/// Wood whose squares are known by what stands in them. What a cut that comes again leaves is put
/// in only once another cut, or somebody at the end, looks.
class KnownWood {
public:
    explicit KnownWood(Stock stock);

    /// Of what `near` stands for, the wood it meets, and of `more` that decides what comes of it.
    Hash keyOf(const NearWood& near, const std::vector<double>& more) const;
    void leave(const NearWood& near, const std::shared_ptr<const Left>& left);
    /// Cuts it: `cut` takes the wood and gives it back. Only squares of `near` may change, and only
    /// they are sure to stand as they are.
    template <typename Cut>
    Left cut(const NearWood& near, Cut cut) {
        for (int square : near.squares()) {
            bringUp(square);
        }
        stock_ = cut(std::move(stock_));
        return leftIn(near);
    }

    const Stock& frame() const { return stock_; } ///< for its measures alone
    Stock take() &&;                              ///< all of it as it stands

private:
    Hash hashOf(int square) const;
    void bringUp(int square);
    Left leftIn(const NearWood& near);

    /// A square's cells among what a cut left.
    struct Pending {
        std::shared_ptr<const Left> left; ///< none: it stands in the stock
        std::size_t from = 0;
    };

    Stock stock_;
    StockSquares squares_;
    std::vector<Hash> hashes_;
    std::vector<Pending> pending_;
};

} // namespace wren
