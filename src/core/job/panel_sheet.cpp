#include "job/part_sheet.h"
#include "job/sheet_page.h"
#include "shop/wood.h"

#include <algorithm>

#include <fmt/format.h>

namespace wren {
namespace {

class PanelSheet : SheetPage {
public:
    PanelSheet(const Derived& d, const PartJob& job, std::size_t side)
        : SheetPage(d, job.plan().sides[side].setup), held_(job.held), panel_(*job.panel),
          side_(side) {}

    std::string write() {
        pdf_.page(pageWidth, pageHeight);
        heading(static_cast<int>(side_) + 1, held_.back ? 2 : 1);
        layOut(steps(), right - left - 28, true);
        drawing();
        tick("Blank and zero", steps());
        programs(lastStep());
        cautions();
        const bool last = panel_.id == Role::body || panel_.id == PartId(Role::wing, 2);
        if (last && side_ == (held_.back ? 1U : 0U)) {
            byHand();
        }
        return pdf_.finish();
    }

private:
    std::string lastStep() const {
        if (held_.back && side_ == 0) {
            return "Left as it lies until the back has been cut";
        }
        if (panel_.id == Role::core) {
            return "Wire channels masked, dust out, ready for the top";
        }
        if (panel_.free) {
            return "Edges by hand; measured, written in the book";
        }
        if (panel_.id == Role::neckCradle) {
            return "Left where it lies: the neck goes into it face up, packed under its heel";
        }
        if (!panel_.outlined) {
            return "Left where it lies: while it is not moved, its pins and its zero hold";
        }
        return panel_.id.ofShop() ? "Sawn from its tabs, its edges smoothed for the bearing or bush"
                                  : "Sawn from its tabs, measured, written in the book";
    }

    Vec2 lay(Vec2 p) const { return setup_.fromInstrument.toSetup({p.x, p.y, 0}).xy(); }

    /// Of a piece without waste: centreline and bridge line, which lie on the engraved ones.
    void ownLines(const OnPage& place) {
        const Blank& b = setup_.blank;
        const Vec2 crossing = lay({panel_.told.line, 0});
        pdf_.line(place.at({0, crossing.y}), place.at({b.length, crossing.y}), chain);
        pdf_.line(place.at({crossing.x, 0}), place.at({crossing.x, b.width}), chain);
        pdf_.text(place.at({b.length, crossing.y}) + Vec2{2, 1}, "the neck's centreline", small);
        pdf_.text(place.at({crossing.x, b.width}) + Vec2{1, -1}, "bridge line", small);
    }

    void drawing() {
        const OnPage place = blankPlace();
        if (panel_.free) {
            ownLines(place);
        } else {
            blank(place);
        }
        const auto contour = [&](const Contour& c, const Pen& pen) {
            for (std::size_t k = 0; k < setup_.places.size(); ++k) {
                pdf_.contour(laidBorder(c, setup_.at(k)), true, place, pen);
            }
        };
        contour(panel_.outline, strong);
        for (const PanelPocket& p : panel_.pockets) {
            for (std::size_t i = 0; i < p.borders.size() && p.fromBack == (side_ == 1); ++i) {
                contour(p.borders[i], thin);
            }
        }
        for (const Hole& h : panel_.holes) {
            if (h.fromBack == (side_ == 1)) {
                contour(circleContour(h.at, h.diameter), thin);
            }
        }
        const Blank& b = setup_.blank;
        const Vec2 crossing =
            panel_.free ? lay({panel_.told.line, 0}) : Vec2{b.length / 2, b.width / 2};
        std::vector<double> xs{0, crossing.x, b.length};
        std::vector<double> ys{0, crossing.y, b.width};
        for (const RegisterPin& pin : held_.pins) {
            contour(circleContour(pin.at, held_.pinSize), strong);
            xs.push_back(lay(pin.at).x);
            ys.push_back(lay(pin.at).y);
        }
        for (const Hole& h : panel_.holes) {
            if (panel_.id.ofShop()) { // pins and the zero hole are what it is made for
                xs.push_back(lay(h.at).x);
                ys.push_back(lay(h.at).y);
            }
        }
        for (Vec2 corner : panel_.box()) {
            xs.push_back(lay(corner).x);
            ys.push_back(lay(corner).y);
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
        const std::vector<std::string> held = clampSteps();
        std::vector<std::string> out;
        if (panel_.free) {
            out.emplace_back(
                side_ == 0 ? "The neck's centreline on the engraved long line, the bridge line on "
                             "the short one; the neck held up beyond the bed"
                           : "Turned over about its centreline, the face on the bed, packed where "
                             "the neck's face stands over the body's; the same lines on the same "
                             "engraved ones");
            out.insert(out.end(), held.begin(), held.end());
        } else if (side_ == 0) {
            out.push_back(
                panel_.layers.empty()
                    ? fmt::format("Blank {} x {} x {}, {}, measured again", size(b.length),
                                  size(b.width), sizeWithUnit(b.thickness), b.species().name)
                    : fmt::format(
                          "The {} glued up on the pins, wire holes masked, cured, {} thick; "
                          "pin holes cleaned",
                          fmt::join(namesOf(panel_.layers), " and "), sizeWithUnit(b.thickness)));
            if (setup_.faced > 0) {
                out.push_back(fmt::format("The first program takes {} off the face",
                                          sizeWithUnit(setup_.faced)));
            }
            const char* up = panel_.id == Role::lid ? "Inner face" : "Face";
            out.push_back(fmt::format("{} up. {}", up,
                                      held.empty() ? "Clamped outside every cut, cleats round it"
                                                   : held.front()));
            if (held.size() > 1) {
                out.insert(out.end(), held.begin() + 1, held.end());
            }
        } else {
            const bool side = held_.turn == TurnOver::sideForSide;
            out.push_back(fmt::format("Turned over {}, face on the bed",
                                      side ? "side for side about the long line"
                                           : "end for end about the short line"));
            if (held_.sawn) {
                out.push_back(
                    fmt::format("Outside sawn {} off the outline, the pins' ears left on; "
                                "clamped inside, clear of every cut",
                                sizeWithUnit(held_.sawn->off)));
            }
            out.push_back(
                fmt::format("Expect the sides to meet within {} mm", size(held_.expectedError)));
        }
        if (!held_.pins.empty()) {
            const bool within = d_.project.bodyHold.pinsIn == PinsIn::part;
            out.push_back(panel_.layers.empty() && side_ == 0
                              ? fmt::format("{} pin holes are drilled in the {}, through into "
                                            "the fixture board",
                                            sizeWithUnit(held_.pinSize), within ? "part" : "waste")
                              : fmt::format("On {} pins; they stand unevenly, so it fits one way "
                                            "only",
                                            sizeWithUnit(held_.pinSize)));
        }
        for (const std::string& step : zeroSteps(held_)) {
            out.push_back(step);
        }
        out.push_back(zStep());
        if (side_ == 1) {
            out.insert(out.end(), held.begin(), held.end());
        }
        return out;
    }

    void byHand() {
        const std::vector<BenchHole>& holes = d_.body->part.benchHoles();
        if (holes.empty()) {
            return;
        }
        pdf_.page(pageWidth, pageHeight);
        heading(static_cast<int>(side_) + 1, held_.back ? 2 : 1);
        head(left, 32, "At the bench, before any finish");
        double y = 40;
        for (const BenchHole& h : holes) {
            box(left, y);
            const Vec2 p = d_.body->part.place().fromBridge(h.at);
            pdf_.text({left + 7, y},
                      fmt::format("{}, {}: {} from the bridge line, {} off the centreline; {}",
                                  h.what, sizeWithUnit(h.diameter), size(p.x), size(p.y), h.how),
                      3.4);
            y += 8;
        }
    }

    const Held& held_;
    const Panel& panel_;
    std::size_t side_;
};

} // namespace

std::string panelSheetPdf(const Derived& d, const PartJob& job, std::size_t side) {
    return PanelSheet(d, job, side).write();
}

} // namespace wren
