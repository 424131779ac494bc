#include "cut/at_places.h"

namespace wren {
namespace {

bool ofTheBlank(const Cut& cut) {
    return cut.kind == CutKind::notch || cut.of == FeatureKind::registerPin;
}

} // namespace

void cutAtPlaces(PartPlan& plan) {
    for (SidePlan& side : plan.sides) {
        const std::vector<SetupFromInstrument>& places = side.setup.places;
        for (Cut& cut : side.cuts) {
            const Path first = cut.path;
            for (std::size_t k = 1; k < places.size() && !ofTheBlank(cut); ++k) {
                const Vec3 off = places[k].toSetup({}) - places[0].toSetup({});
                append(cut.path, movedBy(first, off.xy()));
            }
        }
    }
}

} // namespace wren
