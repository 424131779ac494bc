#pragma once

#include "proof/proof.h"

namespace wren {

/// Judges the through cut and what holds the board afterwards: a skin left where it should be
/// through, and a board that nothing ties to its frame any more.
Findings judgeHolding(const BoardPart& board, const Setup& setup, const std::vector<Tab>& tabs,
                      const CutSettings& cut, const std::vector<RunProgram>& programs,
                      const Stock& stock);

} // namespace wren
