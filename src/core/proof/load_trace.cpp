#include "proof/load_trace.h"

#include <algorithm>
#include <cmath>

namespace wren {
namespace {

constexpr double binLength = 1; ///< mm of way, at most

std::vector<std::size_t> binsAlong(const Path& path) {
    std::vector<std::size_t> first{0};
    first.reserve(path.size() + 1);
    for (const Move& m : path) {
        // Straight down there is one place only.
        const bool down = !m.isArc() && m.from.xy() == m.to.xy();
        const double bins = m.cuts() ? (down ? 1 : std::ceil(m.length() / binLength)) : 0;
        first.push_back(first.back() +
                        static_cast<std::size_t>(m.cuts() ? std::max(1.0, bins) : 0.0));
    }
    return first;
}

} // namespace

LoadTrace::LoadTrace(const Path& path, double cell)
    : first_(binsAlong(path)), slots_(first_.back()), near_(path.size()), cellArea_(cell * cell) {}

LoadTrace::LoadTrace(const LoadTrace& other)
    : first_(other.first_), slots_(other.slots_.size()), near_(other.near_.size()),
      cellArea_(other.cellArea_) {
    for (std::size_t i = 0; i < slots_.size(); ++i) {
        slots_[i].height = other.slots_[i].height.load();
        slots_[i].cells = other.slots_[i].cells.load();
    }
    for (std::size_t i = 0; i < near_.size(); ++i) {
        near_[i] = other.near_[i].load();
    }
}

LoadTrace::Taken LoadTrace::bin(std::size_t move, std::size_t k) const {
    const Along::Slot& s = slots_[first_[move] + k];
    return {double(s.height) / Along::perMm * cellArea_, double(s.cells) * cellArea_};
}

LoadTrace::Taken LoadTrace::whole(std::size_t move) const {
    Taken sum;
    for (std::size_t k = 0; k < binsOf(move); ++k) {
        const Taken t = bin(move, k);
        sum.volume += t.volume;
        sum.footprint += t.footprint;
    }
    return sum;
}

} // namespace wren
