#include "base/sixty_fourths.h"
#include "cut/neck_paths.h"
#include "job/part_sheet.h"
#include "job/sheet_page.h"
#include "shop/wood.h"

#include <fmt/format.h>

namespace wren {
namespace {

class NeckSheet : SheetPage {
public:
    NeckSheet(const Derived& d, const PartJob& job, std::size_t side)
        : SheetPage(d, job.plan().sides[side].setup), part_(d.neck->part), held_(job.held),
          side_(side) {}

    std::string write() {
        pdf_.page(pageWidth, pageHeight);
        heading(static_cast<int>(side_) + 1, 2);
        layOut(steps());
        drawing();
        tick("Blank, turning over and zero", steps());
        programs(side_ == 0 ? "Left as it lies until the back has been cut"
                            : "Neck sawn from its tabs, measured, written in the book");
        cautions();
        if (part_.carved() && side_ == 0) {
            benchPage();
        }
        return pdf_.finish();
    }

private:
    const char* faceWord() const { return part_.carved() ? "fret face" : "glue face"; }

    Vec2 lay(Vec2 p) const { return setup_.fromInstrument.toSetup({p.x, p.y, 0}).xy(); }

    void circle(const OnPage& place, Vec2 at, double diameter, const Pen& pen) {
        const Vec2 c = lay(at);
        const double r = diameter / 2;
        const Contour ring{{ContourPiece::Kind::arcClockwise, {c.x - r, c.y}, {c.x + r, c.y}, c},
                           {ContourPiece::Kind::arcClockwise, {c.x + r, c.y}, {c.x - r, c.y}, c}};
        pdf_.contour(ring, true, place, pen);
    }

    void drawing() {
        const OnPage place = blankPlace();
        const double shortLine = held_.marks[2].fromEnd; // off the middle where it is to slide
        blank(place, shortLine);
        for (std::size_t k = 0; k < setup_.places.size(); ++k) {
            pdf_.contour(laid(part_.outline().contour(), setup_.at(k)), true, place, strong);
        }
        for (const NeckPocket& p : part_.pockets()) {
            const auto corners = p.corners();
            for (std::size_t i = 0; i < 4 && p.fromBack == (side_ == 1); ++i) {
                pdf_.line(place.at(lay(corners[i])), place.at(lay(corners[(i + 1) % 4])), thin);
            }
        }
        if (part_.carved() && side_ == 0) {
            for (const FretSlot& slot : part_.carved()->slots()) {
                pdf_.line(place.at(lay(slot.low)), place.at(lay(slot.high)), thin);
            }
        }
        for (const Hole& h : part_.holes()) {
            if (h.fromBack == (side_ == 1)) {
                circle(place, h.at, h.diameter, thin);
            }
        }
        const Blank& b = setup_.blank;
        std::vector<double> xs{0, shortLine, b.length};
        std::vector<double> ys{0, b.width / 2, b.width};
        for (const RegisterPin& pin : held_.pins) {
            circle(place, pin.at, held_.pinSize, strong);
            xs.push_back(lay(pin.at).x);
            ys.push_back(lay(pin.at).y);
        }
        for (double x : {part_.outline().tip(), 0.0, part_.outline().end()}) {
            xs.push_back(lay({x, 0}).x);
        }
        if (held_.notch) {
            xs.push_back(lay(*held_.notch).x);
        }
        if (held_.pitch > 0) {
            xs.push_back(held_.seam);
            seam(held_, place);
        }
        clamps(place);
        datum(place);
        figures(place, xs, ys);
    }

    std::vector<std::string> steps() const {
        const Blank& b = setup_.blank;
        std::vector<std::string> out;
        const bool pins = !held_.pins.empty();
        if (side_ == 0) {
            out.push_back(
                setup_.scarfed
                    ? fmt::format("Glued up by the scarf's two cuts: plank {}, {} x {}, {} deep "
                                  "over all, {}; packed under the shaft",
                                  sizeWithUnit(setup_.scarfed->plank), size(b.length),
                                  size(b.width), sizeWithUnit(b.thickness), b.species().name)
                    : fmt::format("Blank {} x {} x {}, {}, planed both sides, measured again",
                                  size(b.length), size(b.width), sizeWithUnit(b.thickness),
                                  b.species().name));
            const auto& marks = held_.marks;
            out.push_back(fmt::format("Marked from the head end and the front edge: {:.1f} mm ({}) "
                                      "along, {:.1f} mm ({}) across",
                                      marks[2].fromEnd, sixtyFourths(marks[2].fromEnd),
                                      marks[0].fromEdge, sixtyFourths(marks[0].fromEdge)));
            out.push_back(fmt::format(
                "Marks on the engraved lines, {} up, clamped outside every cut", faceWord()));
        } else {
            const bool side = held_.turn == TurnOver::sideForSide;
            out.push_back(fmt::format("Turned over {}, {} on the bed",
                                      side ? "side for side about the long line"
                                           : "end for end about the short line",
                                      faceWord()));
            out.push_back(
                held_.pitch > 0
                    ? fmt::format("On the same {} pins, in the holes of its other edge",
                                  sizeWithUnit(held_.pinSize))
                : pins ? fmt::format("On {} pins in the waste; they stand unevenly, so it fits "
                                     "one way only",
                                     sizeWithUnit(held_.pinSize))
                     : "The same marks on the same lines");
            out.push_back(
                fmt::format("Expect the sides to meet within {} mm; read the notches in the "
                            "front edge afterwards",
                            size(held_.expectedError)));
        }
        for (const std::string& step : zeroSteps(held_)) {
            out.push_back(step);
        }
        out.push_back(zStep());
        for (const std::string& step : clampSteps()) {
            out.push_back(step);
        }
        return out;
    }

    const NeckPart& part_;
    const Held& held_;
    std::size_t side_;
};

} // namespace

std::string neckSheetPdf(const Derived& derived, const PartJob& job, std::size_t side) {
    return NeckSheet(derived, job, side).write();
}

} // namespace wren
