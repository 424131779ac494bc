#include "cut/register_cut.h"

#include "cut/panel_tasks.h"

namespace wren {

std::optional<Cut> registerCut(const Held& held, const Drawer& drawer, const Machine& machine,
                               Findings& findings) {
    if (held.pins.empty()) {
        return {};
    }
    Setup face = held.face;
    face.faced = 0; // nothing has been taken off it yet
    Panel blank; // as a piece with nothing but these holes
    blank.id = face.part;
    blank.bottom = face.fromInstrument.toInstrument({0, 0, face.bottomZ()}).z;
    blank.top = face.fromInstrument.toInstrument({0, 0, face.topZ()}).z;
    for (const RegisterPin& pin : held.pins) {
        blank.holes.push_back(
            {"register", pin.at, held.pinSize, blank.top, blank.bottom, false, true});
        blank.holes.back().feature = {FeatureKind::registerPin};
    }
    const BodyCut cut;
    BitChooser chooser(drawer, findings, face.part);
    const auto task = holesTask({blank, face, cut, machine.spoilDepth}, blank.holes, chooser);
    if (!task) {
        return {};
    }
    Cut out{*task};
    out.bit = *task->bit;
    out.feeds = feedsFor(out.bit, held.blank.species(), machine, {});
    out.why = task->why;
    out.path = task->path(out.bit, out.feeds);
    return out;
}

} // namespace wren
