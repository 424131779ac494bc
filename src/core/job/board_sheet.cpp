#include "job/part_sheet.h"
#include "job/sheet_page.h"

#include <fmt/format.h>

namespace wren {
namespace {

class BoardSheet : SheetPage {
public:
    BoardSheet(const Derived& d, const PartJob& job)
        : SheetPage(d, job.plan().face().setup), job_(job), plan_(job.boardPlan()) {}

    std::string write() {
        pdf_.page(pageWidth, pageHeight);
        heading(1, 1);
        layOut(steps(), 196); // the heights stand beside the plan
        drawing();
        tick("Blank and zero", steps());
        programs("Board cut from its tabs, measured, written in the book");
        cautions();
        benchPage();
        return pdf_.finish();
    }

private:
    /// Heights and widths off the datum, each on a line of its own so that none is added up.
    void drawing() {
        const OnPage place = blankPlace();
        blank(place);
        const Blank& b = setup_.blank;
        std::vector<double> xs{0, b.length / 2, b.length};
        std::vector<double> ys{0, b.width / 2, b.width};
        for (std::size_t i = 0; i < setup_.places.size(); ++i) {
            const SetupFromInstrument& at = setup_.places[i];
            board(at, place);
            const auto box = d_.board->boundingBox();
            const Vec3 low = at.toSetup(box[0]);
            const Vec3 high = at.toSetup(box[1]);
            xs.insert(xs.end(), {low.x, at.toSetup({}).x, high.x});
            ys.insert(ys.end(), {low.y, high.y});
        }
        for (const RegisterPin& pin : job_.held.pins) { // of its stations
            const Vec3 on = setup_.fromInstrument.toSetup({pin.at.x, pin.at.y, 0});
            pdf_.contour(circleContour(on.xy(), job_.held.pinSize), true, place, strong);
            xs.push_back(on.x);
            ys.push_back(on.y);
        }
        seam(job_.held, place);
        clamps(place);
        datum(place);
        figures(place, xs, ys);
        heights(right - 38, 58);
    }

    void board(const SetupFromInstrument& at, const OnPage& place) {
        const auto shifted = [&](Vec2 p) {
            const Vec3 s = at.toSetup({p.x, p.y, 0});
            return Vec2{s.x, s.y};
        };
        const auto draw = [&](Contour contour, const Pen& pen) {
            for (ContourPiece& piece : contour) {
                piece.from = shifted(piece.from);
                piece.to = shifted(piece.to);
                piece.centre = shifted(piece.centre);
            }
            pdf_.contour(contour, true, place, pen);
        };
        draw(d_.board->outline(), strong);
        for (const MarkerPocket& pocket : d_.board->pockets()) {
            draw(pocket.outline, thin);
        }
        for (const FretSlot& slot : d_.board->slots()) {
            pdf_.line(place.at(shifted(slot.low)), place.at(shifted(slot.high)), thin);
        }
        for (const Tab& tab : plan_.tabs) {
            const double y = d_.board->edge(tab.side, tab.x);
            const Vec2 a = place.at(shifted({tab.x - tab.length / 2, y}));
            const Vec2 b = place.at(shifted({tab.x + tab.length / 2, y}));
            const double out = tab.side > 0 ? -1.6 : 1.6;
            pdf_.rectangle({a.x, std::min(a.y, a.y + out)}, {b.x, std::max(a.y, a.y + out)}, thin);
        }
    }

    /// The blank from its end: what is faced, how thick the board becomes, how deep the bits go.
    void heights(double x, double middle) {
        const double scale = std::min(3.0, 26 / setup_.blank.thickness);
        const double bed = middle + setup_.blank.thickness * scale / 2;
        const auto y = [&](double z) { return bed - z * scale; };
        const double top = setup_.blank.thickness;
        pdf_.fill({x, y(top)}, {x + 14, bed}, wood);
        pdf_.rectangle({x, y(top)}, {x + 14, bed}, strong);
        pdf_.line({x - 4, bed}, {x + 18, bed}, strong);
        const double zeroAt = setup_.zZero == ZZero::bed ? bed : y(top);
        const Pen heavy{0.7, {}, {0.6, 0.23, 0.12}};
        pdf_.line({x - 4, zeroAt}, {x + 4, zeroAt}, heavy);
        pdf_.text({x - 5, zeroAt + 1}, "Z 0", small, Face::strong, Align::right);
        double last = bed + 20;
        const auto mark = [&](double z, const std::string& what) {
            const double at = std::min(y(z) + 1, last - 3.4);
            last = at;
            pdf_.text({x + 16, at}, size(z) + " " + what, 2.5, Face::figures);
        };
        mark(-d_.project.cut.through, "through");
        mark(0, "bed");
        mark(d_.board->design().thickness, "crown");
        if (setup_.faced > 0) {
            mark(setup_.facedTop(), "faced");
        }
        mark(top, "blank");
    }

    std::vector<std::string> steps() const {
        const Blank& b = setup_.blank;
        std::vector<std::string> out{
            fmt::format("Blank {} x {} x {}, {}, measured again", size(b.length), size(b.width),
                        sizeWithUnit(b.thickness), b.species().name),
            "Its middle marked on both ends and both edges, from the same edge and the same end",
            "Marks laid on the engraved lines, clamped outside every cut",
            "Machine homed"};
        for (const std::string& step : zeroSteps(job_.held)) {
            out.push_back(step);
        }
        out.push_back(zStep());
        for (const std::string& step : clampSteps()) {
            out.push_back(step);
        }
        return out;
    }

    const PartJob& job_;
    const BoardPlan& plan_;
};

} // namespace

std::string boardSheetPdf(const Derived& derived, const PartJob& job) {
    return BoardSheet(derived, job).write();
}

} // namespace wren
