#pragma once

#include "exchange/drawing.h"
#include "part/body_part.h"

namespace wren {

/// The finished body from the front at full size, body frame: outline, every pocket and hole on a
/// layer of its name, what is drilled by hand, bridge line, centre line and heel.
Drawing bodyDrawing(const BodyPart& part, const std::string& title);
/// One piece of it as it leaves the machine.
Drawing panelDrawing(const Panel& panel, const std::string& title);
/// The cavity as templates for a hand router: hole, ledge, and the lid with its drilling, side by
/// side. Nothing without a cavity.
Drawing cavityTemplates(const BodyPart& part, const std::string& title);

/// Hardware and drilling: what,x,y,diameter,depth,from,by in mm, body frame, a line each.
std::string drillingCsv(const BodyPart& part);

} // namespace wren
