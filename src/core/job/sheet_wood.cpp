#include "job/sheet_page.h"

#include "hold/wood_seen.h"

#include <algorithm>

#include <fmt/format.h>

namespace wren {
namespace {

const Pen ink{0.35, {}, {0.5, 0.32, 0.03}};
const Pen dotted{0.35, {3, 0.8, 0.5, 0.8, 0.5, 0.8}, {0.5, 0.32, 0.03}};
constexpr double least = 1.2; // mm on the page: what is smaller is drawn so large

} // namespace

/// Where they lie with this side up. A photograph stays on the screen: figures over it could not be
/// read.
void SheetPage::woodMarks(const OnPage& place) {
    const PartJob& job = *d_.job(setup_.part);
    const auto at = [&](Vec2 faceUp) {
        const Vec3 part = job.held.face.fromInstrument.toInstrument({faceUp.x, faceUp.y, 0});
        return place.at(setup_.fromInstrument.toSetup(part).xy());
    };
    for (std::size_t i = 0; i < d_.project.woodMarks.size(); ++i) {
        const WoodMark& m = d_.project.woodMarks[i];
        if (m.part != setup_.part.name()) {
            continue;
        }
        const Vec2 from = at(m.from), to = at(m.to), middle = (from + to) * 0.5;
        const double r = std::max(least, m.width / 2 * place.scale);
        const bool seam = m.kind == WoodMarkKind::seam;
        if (seam) {
            pdf_.line(from, to, dotted);
        } else {
            const Vec2 low{std::min(from.x, to.x) - r, std::min(from.y, to.y) - r};
            const Vec2 high{std::max(from.x, to.x) + r, std::max(from.y, to.y) + r};
            pdf_.oval(low, high, ink);
        }
        if (m.kind == WoodMarkKind::nail) {
            pdf_.line(from - Vec2{r, r}, from + Vec2{r, r}, ink);
            pdf_.line(from + Vec2{-r, r}, from + Vec2{r, -r}, ink);
        }
        pdf_.text(middle - Vec2{0, (seam ? 0 : r) + 0.8},
                  fmt::format("{} {}", woodMarkName(m.kind), i + 1), small, Face::words,
                  Align::middle);
    }
}

} // namespace wren
