#pragma once

#include "cut/move.h"

#include <atomic>
#include <cmath>
#include <cstdint>
#include <vector>

namespace wren {

/// The wood a path takes, bin by bin along its way: written while it is swept through a stock, by
/// many threads at once. Sums are whole numbers, so they do not depend on the threads' order.
class LoadTrace {
public:
    /// `cell` of the stock it will be swept through, mm.
    LoadTrace(const Path& path, double cell);
    /// Not while it is written.
    LoadTrace(const LoadTrace& other);
    LoadTrace(LoadTrace&&) = default;
    LoadTrace& operator=(const LoadTrace& other) { return *this = LoadTrace(other); }
    LoadTrace& operator=(LoadTrace&&) = default;

    struct Taken {
        double volume = 0;    ///< mm3
        double footprint = 0; ///< of the cells that lost wood, mm2
    };
    double cell() const { return std::sqrt(cellArea_); }
    std::size_t binsOf(std::size_t move) const { return first_[move + 1] - first_[move]; }
    Taken bin(std::size_t move, std::size_t k) const;
    Taken whole(std::size_t move) const;

    /// The bins of one move, to be written.
    class Along {
    public:
        /// `height` mm of wood over so many cells, at a fraction of the move.
        void add(std::size_t k, double height, int cells) {
            slots_[k].height.fetch_add(static_cast<std::int64_t>(height * perMm),
                                       std::memory_order_relaxed);
            slots_[k].cells.fetch_add(cells, std::memory_order_relaxed);
        }
        std::size_t bins() const { return bins_; }

    private:
        friend class LoadTrace;
        struct Slot {
            std::atomic<std::int64_t> height{0};
            std::atomic<std::int32_t> cells{0};
        };
        Along(Slot* slots, std::size_t bins) : slots_(slots), bins_(bins) {}
        static constexpr double perMm = 1e6;
        Slot* slots_;
        std::size_t bins_;
    };
    /// Whether wood stood near the tool during a move, where that was asked.
    bool near(std::size_t move) const { return near_[move] != 0; }
    void setNear(std::size_t move) { near_[move].store(1, std::memory_order_relaxed); }

    Along along(std::size_t move) { return {slots_.data() + first_[move], binsOf(move)}; }

private:
    std::vector<std::size_t> first_; ///< bin of each move, and one past the last
    std::vector<Along::Slot> slots_;
    std::vector<std::atomic<char>> near_;
    double cellArea_;
};

} // namespace wren
