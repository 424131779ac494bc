#include "job/hand_steps.h"

#include <algorithm>
#include <vector>

#include <fmt/format.h>

namespace wren {
namespace {

constexpr double gluing = 30;
constexpr double releasing = 10;
constexpr double eachHole = 5;
constexpr double fixing = 10;

HandStep gluedUp(const Panel& body) {
    const bool apart =
        std::any_of(body.pockets.begin(), body.pockets.end(),
                    [](const PanelPocket& p) { return p.stage == PocketStage::before; });
    const bool hollow = !body.shutIn.empty() || apart;
    return {fmt::format("{} glued up on the pins, {}{}curing overnight, then the pin holes cleaned",
                        fmt::join(namesOf(body.layers), ", "),
                        apart ? "plugs sawn out of them and their tabs pared off, " : "",
                        hollow ? "channels and wire holes masked and the dust out first, " : ""),
            gluing};
}

HandStep benchWork(const BodyPart& part) {
    std::vector<std::string> names;
    for (const BenchHole& h : part.benchHoles()) {
        if (std::find(names.begin(), names.end(), h.what) == names.end()) {
            names.push_back(h.what);
        }
    }
    if (names.empty()) {
        return {};
    }
    const bool wings = part.winged();
    return {fmt::format("the {} sawn free, {} holes for {} drilled before {}",
                        wings ? "wings" : "body", wings ? "their" : "its", fmt::join(names, ", "),
                        wings ? "they are glued on" : "the neck goes on"),
            releasing + eachHole * double(part.benchHoles().size())};
}

} // namespace

HandStep handStepBefore(const BodyPart* part, const Panel& panel) {
    if (panel.id.role == Role::neckFixture || panel.id.role == Role::bodyFixture) {
        return {"Fix the fixture board to the bed. It is the blank of this program: Z is zeroed on "
                "its face, and no part lies on it yet",
                fixing};
    }
    if (panel.free) {
        return {"wings glued to the neck in line with it, cured overnight, squeezed-out glue scraped "
                "off, the face level; the bridge line and the centreline marked across the whole",
                gluing};
    }
    if (!panel.layers.empty()) {
        return gluedUp(panel);
    }
    return panel.id == Role::lid ? benchWork(*part) : HandStep{};
}

} // namespace wren
