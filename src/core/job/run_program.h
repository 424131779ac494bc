#pragma once

#include "book/shop_book.h"
#include "job/before_cutting.h"
#include "job/derive.h"
#include "run/sender.h"

namespace wren {

/// Sends one program of a proved job to the machine at `address` and enters the run in the book:
/// homes, sets the zero, probes, streams, waits for the end. The text sent is the one just derived,
/// so it cannot be stale. `order` counts from 1. An air pass or a trace stands in the book under
/// its own name: the program itself is still to be run.
///
/// Throws Error, before anything is sent, when the programs may not leave the house, the number is
/// wrong, or the machine cannot be reached. What happens after that is in the returned record.
RunRecord runProgram(const Derived& derived, int order, const std::string& address, ShopBook& book,
                     SendControl& control,
                     const std::function<void(const SendProgress&)>& progress = {},
                     RunHow how = RunHow::cut);

} // namespace wren
