#pragma once

#include "proof/load_trace.h"
#include "proof/swept.h"

#include <algorithm>
#include <array>
#include <cstddef>
#include <vector>

namespace wren {

/// Cells of a row that are lowered together where the swept surface is smooth.
inline constexpr int mostTogether = 32;

/// What a move takes in one band of rows, bin by bin; the trace, which all bands share, is told
/// once.
class Tally {
public:
    explicit Tally(LoadTrace::Along along) : along_(along), first_(along.bins()) {
        if (emptyBins().size() < along_.bins()) {
            emptyBins().resize(along_.bins());
        }
        bins_ = emptyBins().data();
    }
    ~Tally() {
        for (std::size_t k = first_; k <= last_ && k < along_.bins(); ++k) {
            if (bins_[k].cells > 0) {
                along_.add(k, bins_[k].height, bins_[k].cells);
                bins_[k] = {};
            }
        }
    }
    Tally(const Tally&) = delete;
    Tally& operator=(const Tally&) = delete;

    std::size_t count() const { return along_.bins(); }
    void add(std::size_t bin, float height) {
        first_ = std::min(first_, bin);
        last_ = std::max(last_, bin);
        bins_[bin].height += height;
        ++bins_[bin].cells;
    }

private:
    struct Bin {
        double height = 0;
        int cells = 0;
    };
    /// Empty between moves.
    static std::vector<Bin>& emptyBins() {
        thread_local std::vector<Bin> all;
        return all;
    }

    LoadTrace::Along along_;
    Bin* bins_;
    std::size_t first_;
    std::size_t last_ = 0;
};

/// Books the wood cells lose under the bin of the way in which the tool reaches them.
template <typename Piece>
class Meter {
public:
    /// A piece from one fraction of the whole move to another.
    Meter(Tally& tally, const Piece& piece, double from, double to)
        : tally_(tally), piece_(piece), from_(from), span_(to - from) {}

    /// What each place of a row loses, mm.
    void take(const PlacesInRow& places, const float* lost) {
        std::array<double, mostTogether> x;
        std::array<float, mostTogether> height;
        int n = 0;
        for (int i = 0; i < places.count; ++i) {
            x[static_cast<std::size_t>(n)] = places.x(i);
            height[static_cast<std::size_t>(n)] = lost[i];
            n += lost[i] >= rounding ? 1 : 0;
        }
        if (n > 0) {
            book(x.data(), height.data(), n, places.y);
        }
    }

private:
    static constexpr float rounding = 0.0005F; ///< mm

    void book(const double* x, const float* height, int n, double y) {
        std::array<double, mostTogether> at;
        std::array<int, mostTogether> bin;
        const int last = static_cast<int>(tally_.count()) - 1;
        if (last > 0) {
            piece_.reached(x, n, y, at.data());
        }
        const double bins = last > 0 ? last + 1 : 0;
        for (int i = 0; i < n && last > 0; ++i) {
            const auto k = static_cast<std::size_t>(i);
            const double along = std::min(std::max(from_ + span_ * at[k], 0.0), 1.0);
            bin[k] = std::min(static_cast<int>(along * bins), last);
        }
        for (int i = 0; i < n; ++i) {
            const auto k = static_cast<std::size_t>(i);
            tally_.add(last > 0 ? static_cast<std::size_t>(bin[k]) : 0, height[k]);
        }
    }

    Tally& tally_;
    const Piece& piece_;
    double from_;
    double span_;
};

} // namespace wren
