#include "proof/known_wood.h"

#include "proof/hasher.h"

#include <algorithm>
#include <array>

#include <tbb/parallel_for.h>

namespace wren {

KnownWood::KnownWood(Stock stock)
    : stock_(std::move(stock)), squares_(stock_), hashes_(squares_.count()),
      pending_(squares_.count()) {
    tbb::parallel_for(std::size_t{0}, squares_.count(),
                      [&](std::size_t i) { hashes_[i] = hashOf(static_cast<int>(i)); });
}

Hash KnownWood::hashOf(int square) const {
    // In one piece: short ones go through the hash's own buffer, one after the other.
    std::array<float, std::size_t{2} * StockSquares::side * StockSquares::side> all;
    std::size_t n = 0;
    const auto add = [&](const float* cells, int count) {
        std::copy_n(cells, count, all.begin() + static_cast<std::ptrdiff_t>(n));
        n += static_cast<std::size_t>(count);
    };
    squares_.overRows(square, [&](int c, int r, int count) {
        const float* cells = stock_.row(r) + c;
        add(cells, count);
        if (const float* under = stock_.undersideOf(cells)) {
            add(under, count);
        }
    });
    return Hasher::of(all.data(), n * sizeof(float));
}

Hash KnownWood::keyOf(const NearWood& near, const std::vector<double>& more) const {
    Hasher hash;
    hash.add(near.key().data(), sizeof(Hash));
    hash.add(more);
    for (int square : near.squares()) {
        hash.add(hashes_[static_cast<std::size_t>(square)].data(), sizeof(Hash));
    }
    return hash.hash();
}

void KnownWood::leave(const NearWood& near, const std::shared_ptr<const Left>& left) {
    std::size_t from = 0;
    for (std::size_t k = 0; k < near.squares().size(); ++k) {
        const auto square = static_cast<std::size_t>(near.squares()[k]);
        hashes_[square] = left->hashes[k];
        pending_[square] = {left, from};
        from += squares_.cellsIn(near.squares()[k]);
    }
}

void KnownWood::bringUp(int square) {
    Pending& pending = pending_[static_cast<std::size_t>(square)];
    if (!pending.left) {
        return;
    }
    auto from = pending.left->heights.begin() + static_cast<std::ptrdiff_t>(pending.from);
    squares_.overRows(square, [&](int c, int r, int count) {
        std::copy_n(from, count, stock_.row(r) + c);
        from += count;
    });
    pending.left = nullptr;
}

Left KnownWood::leftIn(const NearWood& near) {
    Left left;
    for (int square : near.squares()) {
        squares_.overRows(square, [&](int c, int r, int count) {
            const float* cells = std::as_const(stock_).row(r) + c;
            left.heights.insert(left.heights.end(), cells, cells + count);
        });
        hashes_[static_cast<std::size_t>(square)] = hashOf(square);
        left.hashes.push_back(hashes_[static_cast<std::size_t>(square)]);
    }
    return left;
}

Stock KnownWood::take() && {
    tbb::parallel_for(std::size_t{0}, squares_.count(),
                      [&](std::size_t i) { bringUp(static_cast<int>(i)); });
    return std::move(stock_);
}

} // namespace wren
