#pragma once

#include "book/memory.h"
#include "exchange/pdf.h"
#include "job/bench_steps.h"
#include "job/in_hand.h"
#include "job/measure.h"

namespace wren {

/// A program, or work at the bench before it, as the card lists it; minutes.
struct CardStep {
    PartId part;
    int order = 0; ///< the program's number; 0: at the bench
    std::string what, bit;
    double planned = 0;
    std::optional<double> expected; ///< by what its like took; none: nothing is known of it
    std::optional<double> taken;    ///< none: not done yet
    std::string when;               ///< it was done
    std::string by;                 ///< whom
};

/// An instrument on its way through the shop: what is done, what comes, what its sizes came out as.
struct JobCard {
    std::string instrument;
    std::vector<CardStep> steps; ///< in running order
    std::vector<BenchStep> bench;
    std::vector<KnownSize> sizes;
    std::vector<NotInHand> missing;
    std::vector<std::string> notes; ///< for the next time, and of this instrument
    std::vector<std::string> cautions;

    double expectedMinutes() const; ///< of what is not done yet
};

/// Of a derived instrument and what the book knows. `withStandIns`: what simulated machines took
/// counts as experience.
JobCard jobCard(const Derived& derived, const ShopMemory& memory, LengthUnit unit,
                bool withStandIns = false);

/// Notes kept for the next time such a part is begun, of whatever instrument.
std::vector<std::string> notesFor(const std::vector<Record>& notes, PartId part);

std::string cardText(const JobCard& card, LengthUnit unit);
std::string cardCsv(const JobCard& card); ///< the steps: order,part,what,bit,planned_min,...
std::string cardJson(const JobCard& card);
std::string cardPdf(const JobCard& card, LengthUnit unit, const Paper& paper);

} // namespace wren
