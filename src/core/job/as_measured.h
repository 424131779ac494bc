#pragma once

#include "job/project.h"

#include <optional>

namespace wren {

/// A size across the grain of a piece of this wood, mm, at another moisture: what it was at the
/// first, per cent; the same where wood or moisture is not known.
double movedTo(double size, const std::string& wood, Sawn sawn, std::optional<double> from,
               std::optional<double> to);

/// The real heel's width today: as it was read, moved on by what its wood has taken up or lost
/// since; none where it was not read. mm.
std::optional<double> heelToday(const Project& project);

/// The body its parts are cut to: the drawn one, but for what came out otherwise, what is cut
/// already and what a top's piece has too much.
Body bodyToCut(const Project& project);

} // namespace wren
