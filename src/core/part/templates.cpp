#include "part/templates.h"

#include "base/error.h"
#include "geom/inset.h"
#include "part/board_marks.h"
#include "part/body_shapes.h"
#include "part/router_base.h"

#include <algorithm>
#include <map>

#include <fmt/format.h>

namespace wren {
namespace {

constexpr double rounding = 10; ///< of a board's corners
constexpr double pinEdge = 8;   ///< of wood between a pin and any edge
constexpr double lineDepth = 0.6;
constexpr double apart = 4; ///< between the places looked at for pins

using Box = std::array<Vec2, 2>;

Box boxOf(const std::vector<Contour>& all) {
    Box box{Vec2{1e9, 1e9}, Vec2{-1e9, -1e9}};
    for (const Contour& c : all) {
        const Box one = wren::boxOf(c);
        box[0] = {std::min(box[0].x, one[0].x), std::min(box[0].y, one[0].y)};
        box[1] = {std::max(box[1].x, one[1].x), std::max(box[1].y, one[1].y)};
    }
    return box;
}

Vec2 middleOf(const Box& b) {
    return (b[0] + b[1]) * 0.5;
}

class Maker {
public:
    Maker(const BodyPart& part, const Templates& wanted)
        : part_(part), t_(wanted), body_(*part.panel(Role::body)) {}

    std::vector<Panel> all() {
        if (t_.outline) {
            outer(Role::outlineTemplate, part_.outline(), "FACE");
            // One pin where the neck comes, off the middle so that the board fits one face only,
            // and one under the bridge.
            addLocatingPin(out_.back(), {part_.place().neckEnd - 25, body_.told.side * 9},
                           t_.pinSize);
            addLocatingPin(out_.back(), {part_.place().bridge + 12, 0}, t_.pinSize);
        }
        if (t_.neckPocket) {
            opened(Role::pocketTemplate, {FeatureKind::neckPocket});
        }
        for (const PickupPlace& p : part_.pickups()) {
            if (t_.pickups) {
                opened(PartId(Role::pickupTemplate, static_cast<int>(p.feature.index) + 1),
                       p.feature);
            }
        }
        if (t_.cavity && !part_.hollow().empty()) {
            cavity();
        }
        for (Panel& b : out_) {
            label(b);
        }
        return std::move(out_);
    }

private:
    Panel& board(PartId id, const Contour& outline) {
        Panel p;
        p.id = id;
        p.wood = t_.wood;
        p.outline = outline;
        p.top = t_.thickness;
        p.told = body_.told;
        out_.push_back(std::move(p));
        return out_.back();
    }

    /// What the router runs round.
    Panel& outer(PartId id, const Contour& outline, const char* face) {
        face_[id] = face;
        const Contour edge = shrunk(outline, t_.offset());
        if (edge.empty()) {
            throw Error(fmt::format("A guide bush of {:.1f} mm round a bit of {:.1f} mm leaves "
                                    "nothing of the {}; a narrower bush was expected.",
                                    t_.bush, t_.bit, id.shortName()));
        }
        return board(id, edge);
    }

    /// A board with openings, lying where it is used: mirrored for the back.
    Panel& inner(PartId id, const std::vector<Contour>& borders, FeatureId feature, bool back) {
        const Box box = boxOf(borders);
        const double beside = 2 * (t_.land + t_.offset());
        const Vec2 size = box[1] - box[0] + Vec2{beside, beside};
        face_[id] = back ? "BACK" : "FACE";
        Panel& b = board(id, shapeOutline(boxShape(middleOf(box), size.x, size.y, rounding)));
        for (const Contour& border : borders) {
            PanelPocket p =
                pocketOf("opening", grown(clockwise(border), t_.offset()), b.bottom, b.top);
            p.cut = "openings";
            p.through = true;
            p.feature = feature;
            b.pockets.push_back(p);
        }
        pinsBeside(b, back);
        if (back) {
            b = turnedFace(std::move(b));
        }
        return b;
    }

    void opened(PartId id, FeatureId feature) {
        std::vector<Contour> borders;
        for (const PanelPocket& p : body_.pockets) {
            if (p.feature == feature) {
                borders.push_back(p.borders.front());
            }
        }
        if (!borders.empty()) {
            inner(id, borders, feature, false);
        }
    }

    void cavity() {
        const Contour hole = part_.hollow();
        const double ledge = part_.design().cavity.ledge;
        if (ledge > 0) {
            inner(Role::ledgeTemplate, {grown(hole, ledge)}, {FeatureKind::ledge}, true);
        }
        const std::vector<Hole> same = ledge > 0 ? out_.back().holes : std::vector<Hole>{};
        Panel& b = inner(Role::cavityTemplate, {hole}, {FeatureKind::cavity}, true);
        if (ledge > 0) { // both go onto the same pins
            b.holes = same;
        }
        if (const Panel* lid = part_.panel(Role::lid)) {
            Panel& l = outer(Role::lidTemplate, lid->outline, "INNER FACE");
            addLocatingPins(l, placesAlong(shrunk(l.outline, pinEdge), apart), t_.pinSize);
        }
    }

    /// Which face is up and which side is the bass, in the land or on the board.
    void label(Panel& b) const {
        const Box box = b.box();
        const double wide = box[1].y - box[0].y;
        const bool open = !b.pockets.empty();
        const double high = std::min(t_.letters, open ? t_.land / 3 : wide / 8);
        const double beside = open ? (wide - t_.land) / 2 : wide / 6;
        for (const auto& [words, side] :
             {std::pair{face_.at(b.id), -1.0}, std::pair{std::string("BASS SIDE"), 1.0}}) {
            engraveWords(b, words, middleOf(box) + Vec2{0, side * b.told.side * beside}, high,
                         lineDepth);
        }
    }

    /// In the land round the openings, where firm wood of the body lies under it.
    void pinsBeside(Panel& b, bool back) const {
        std::vector<Contour> hollows;
        for (const PanelPocket& p : body_.pockets) {
            if (p.fromBack == back || p.through) {
                hollows.push_back(grown(clockwise(p.borders.front()), pinEdge + t_.offset()));
            }
        }
        const std::vector<std::vector<Vec2>> firm = polygonsOf({shrunk(part_.outline(), pinEdge)});
        const std::vector<std::vector<Vec2>> soft = polygonsOf(hollows);
        const Box box = b.box();
        const double in = t_.land / 2 + t_.letters;
        const Vec2 size = box[1] - box[0] - Vec2{2 * in, 2 * in};
        std::vector<Vec2> places =
            placesAlong(shapeOutline(boxShape(middleOf(box), size.x, size.y, 1)), apart);
        std::erase_if(places, [&](Vec2 p) {
            return !insideOf(firm, p) ||
                   std::any_of(soft.begin(), soft.end(),
                               [&](const auto& ring) { return inside(ring, p); });
        });
        addLocatingPins(b, places, t_.pinSize);
    }

    const BodyPart& part_;
    const Templates& t_;
    const Panel& body_;
    std::map<PartId, std::string> face_; ///< what is up, as it is engraved
    std::vector<Panel> out_;
};

} // namespace

std::vector<Panel> templateBoards(const BodyPart& part, const Templates& wanted) {
    return Maker(part, wanted).all();
}

Findings judgeTemplates(const Templates& t, const std::vector<Panel>& boards) {
    Findings out;
    for (const Panel& b : boards) {
        if (t.bush > 0 && t.bush <= t.bit) {
            sayOf(b.id, out, Weight::stop, "template-bush",
                  fmt::format("The {}: a guide bush of {:.2f} mm was found round a bit of {:.2f} "
                              "mm; a wider bush was expected, or 0 for a bearing.",
                              b.name(), t.bush, t.bit),
                  t.bush, t.bit);
        }
        if (b.holes.size() < 2) {
            sayOf(b.id, out, Weight::caution, "template-pins",
                  fmt::format("The {} finds no two places for locating pins over firm wood: it "
                              "cannot be put back by itself, tape or screws hold it.",
                              b.name()),
                  double(b.holes.size()), 2);
        }
        if (const std::string how = routerTips(b, t.base, t.land); !how.empty()) {
            sayOf(b.id, out, Weight::caution, "template-base",
                  fmt::format("The {} {}.", b.name(), how), t.base, 2 * t.land);
        }
        double hollow = 1e9;
        for (const PanelPocket& p : b.pockets) {
            hollow = std::min(hollow, tightestHollow(p.borders.front()) - t.offset());
        }
        if (hollow < t.bit / 2 - 0.01) {
            sayOf(b.id, out, Weight::caution, "template-corner",
                  fmt::format("A router's bit of {:.2f} mm leaves corners of {:.2f} mm in the {}; "
                              "{:.2f} mm are drawn: a smaller bit, or the corners by chisel.",
                              t.bit, t.bit / 2, b.name(), hollow),
                  t.bit / 2, hollow);
        }
    }
    return out;
}

} // namespace wren
