#pragma once

#include "job/derive.h"

namespace wren {

/// The boards a project wants for the shop, beside the instrument's own parts: fixtures for what
/// stands on pins, templates for a hand router. Needs the drawing, and what stands on pins laid.
/// What is wrong with them goes into `found`.
std::vector<Panel> shopBoards(const Derived& drawn, Findings& found);

/// A project that wants one more part, when it can be had from it: a fixture, a template.
Project wanting(const Project& project, PartId part);

/// Every part this project could make, in the order they are made.
std::vector<PartId> makeable(const Derived& drawn);

} // namespace wren
