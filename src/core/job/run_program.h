#pragma once

#include "book/shop_book.h"
#include "job/before_cutting.h"
#include "job/derive.h"
#include "proof/resume.h"
#include "run/sender.h"

namespace wren {

/// How one program of a job is to be run.
struct RunAsk {
    int order = 1; ///< its number, from 1
    RunHow how = RunHow::cut;
    int fromLine = 0;      ///< taken up again from that line; 0: from the beginning
    bool readied = false;  ///< the maker has homed, probed and zeroed already: nothing of it is done
    std::string by{};      ///< who stands at the machine
    std::string fit{};     ///< instead of a posted program a fit pass in the pocket of that name,
    double fitBy = 0;      ///< its walls so much further out, mm
};

/// Sends one program of a proved job to the machine at `address`, in the words of the machine's
/// description, and enters the run in the book: homes, sets the zero, probes (where it has words
/// for that and nobody did it before), streams, waits for the end, minding that the machine keeps
/// to the way that was proved. The text sent is the one just derived, so it cannot be stale. An air
/// pass, a trace or a program taken up again stands in the book under its own name.
///
/// Throws Error, before anything is sent, when the programs may not leave the house, the number or
/// line is wrong, or the machine cannot be reached. What happens after that is in the returned
/// record.
RunRecord runProgram(const Derived& derived, const RunAsk& ask, const std::string& address,
                     ShopBook& book, SendControl& control,
                     const std::function<void(const SendProgress&)>& progress = {});

/// The same over a talk that stands already; `address` is for the book.
RunRecord runOn(Talk& talk, const Derived& derived, const RunAsk& ask, const std::string& address,
                ShopBook& book, const std::function<void(const SendProgress&)>& progress = {});

/// What taking a program up again would do. Throws Error.
Resumed resumeOf(const Derived& derived, int order, int line);
/// The last line before one from which nothing is begun in the middle of a cut.
int safeLineOf(const Derived& derived, int order, int line);

} // namespace wren
