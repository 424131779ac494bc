#pragma once

#include "cut/bit_chooser.h"
#include "cut/finish_lines.h"
#include "hold/neck_setup.h"

namespace wren {

/// How the back is finished: one bit for all of it, or a wide one and a smaller one for the
/// transitions, where the wide one does not roll. Bits belong to the chooser's drawer.
struct FinishChoice {
    const Bit* main = nullptr; ///< none when no bit serves, which is said as a finding
    const Bit* rest = nullptr;
    FinishShare share; ///< of the main bit
    std::string why, restWhy;

    double widest() const; ///< diameter; 0 without a bit
};

/// `setup` is the back's. The quickest by cutting length over feed and what roughing pays for a
/// trench that lets the widest bit pass (`trenchMinutes` of a diameter); a second bit must save
/// more than its change costs.
FinishChoice chooseFinish(const NeckPart& part, const Setup& setup, const Machine& machine,
                          const NeckCut& cut, BitChooser& chooser,
                          const std::function<double(double)>& trenchMinutes);

} // namespace wren
