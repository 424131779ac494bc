#pragma once

#include "cut/bit_chooser.h"
#include "cut/cut_kind.h"
#include "cut/move.h"

#include <cstddef>
#include <functional>
#include <string>
#include <vector>

namespace wren {

/// One cut of one feature, before its place in the order is settled.
struct OpenTask : CutName {
    const Bit* bit = nullptr;
    CutOverrides own{};
    std::string why{};
    std::function<Path(const Bit&, const Feeds&)> path{};
    BitJudge judge{};
    std::vector<std::size_t> after{};
    double stepover = 0;
};

/// The widest; of one width the kind that suits: a down-cut leaves the mouth's edge clean where it
/// is seen and the chips still find their way out, a compression bit does so at both faces of a
/// through cut, an up-cut lifts the chips out of everything deep. Of those the stiffest.
BitChooser::Better widestOf(bool visible, double depth, bool through);
/// A sentence about a bit's kind, with a blank before it.
std::string whyKind(const Bit& bit, bool visible);

/// Where two bits of one size and kind are wanted and one of them can do all the other does, it
/// does: the change costs more than its length.
void shareBits(std::vector<OpenTask>& tasks);

/// An order with as few changes of bit as what waits for what allows; what belongs to the same cut
/// stands together. Each task's `after` holds lower indices only.
std::vector<std::size_t> runningOrder(const std::vector<OpenTask>& tasks);

} // namespace wren
