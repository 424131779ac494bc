#include "job/key_table.h"
#include "job/own_woods.h"
#include "shop/wood.h"

#include <fmt/format.h>

namespace wren {
namespace {

void blankKeys(KeyTable& t) {
    t.length("blank.length", "blank length", 50, 3000,
             [](Project& p) -> double& { return p.blank.length; });
    t.length("blank.width", "blank width", 10, 1000,
             [](Project& p) -> double& { return p.blank.width; });
    t.length("blank.thickness", "blank thickness, as measured", 1, 60,
             [](Project& p) -> double& { return p.blank.thickness; });
    woodKey(t, "blank.wood", "wood", [](Project& p) -> std::string& { return p.blank.wood; });
    t.length("blank.line", "it lies on an engraved line so far behind the long one", -1000, 1000,
             [](Project& p) -> double& { return p.blank.line; });
    t.count("blank.boards", "boards cut from it", 1, 12,
            [](Project& p) -> int& { return p.blank.boards; });
    t.length("blank.gap", "between neighbouring boards", 2, 200,
             [](Project& p) -> double& { return p.blank.gap; });
    t.words(
        "hold.z_zero", "face Z is zeroed on", {"bed", "top"},
        [](const Project& p) { return std::string(zZeroName(p.zZero)); },
        [](Project& p, const std::string& v) { p.zZero = v == "top" ? ZZero::top : ZZero::bed; });
}

void offcutKeys(KeyTable& t) {
    t.length("test.length", "offcut for test slots: length", 40, 300,
             [](Project& p) -> double& { return p.offcut.length; });
    t.length("test.width", "offcut for test slots: width, along the slots", 15, 200,
             [](Project& p) -> double& { return p.offcut.width; });
    t.length("test.thickness", "offcut for test slots: thickness", 2, 60,
             [](Project& p) -> double& { return p.offcut.thickness; });
}

void sawingKeys(KeyTable& t) {
    const auto of = [&t](const char* path, const char* meaning, double most,
                         double Sawing::*which) {
        t.length(path, meaning, 0, most,
                 [which](Project& p) -> double& { return p.sawing.*which; });
    };
    of("sawing.kerf", "wood a saw cut takes", 15, &Sawing::kerf);
    of("sawing.longer", "a piece is sawn so much longer than its blank", 300, &Sawing::longer);
    of("sawing.wider", "a piece is sawn so much wider than its blank", 100, &Sawing::wider);
    of("sawing.planing", "planed off a piece's thickness, both faces together", 40,
       &Sawing::planing);
    t.list<RoughBoard>(
        "sawing.boards", "board", 40,
        [](Project& p) -> std::vector<RoughBoard>& { return p.sawing.boards; },
        [](KeyTable& own, const std::string& head, const At<RoughBoard>& one) {
            woodKey(own, head + "wood", "wood of a board in the shop",
                    [one](Project& p) -> std::string& { return one(p).wood; });
            own.length(head + "length", "its length, along the grain", 50, 6000,
                       [one](Project& p) -> double& { return one(p).length; });
            own.length(head + "width", "its width", 10, 1500,
                       [one](Project& p) -> double& { return one(p).width; });
            own.length(head + "thickness", "its thickness, rough", 1, 200,
                       [one](Project& p) -> double& { return one(p).thickness; });
        });
    t.length("sled.bit_to_end", "a router's sled: from the bit's edge to its end", 0, 600,
             [](Project& p) -> double& { return p.sled.bitToEnd; });
    t.length("sled.bearing", "a router's sled: width of what each end lies on", 0, 300,
             [](Project& p) -> double& { return p.sled.bearing; });
}

void clampKeys(KeyTable& t) {
    t.list<Clamp>(
        "clamps", "clamp", 200, [](Project& p) -> std::vector<Clamp>& { return p.clamps; },
        [](KeyTable& own, const std::string& head, const At<Clamp>& one) {
            own.text(head + "part", "what it holds, as the list of parts names it",
                     [one](Project& p) -> std::string& { return one(p).part; });
            own.count(head + "side", "the setup it stands in: 1 face up, 2 turned over", 1, 2,
                      [one](Project& p) -> int& { return one(p).side; });
            own.count(head + "station",
                      "the station it stands in, of a part cut in stations; 0: every one", 0, 9,
                      [one](Project& p) -> int& { return one(p).station; });
            enumKey(own, head + "kind", "what holds the blank there",
                    Names<ClampKind, clampNames.size()>{clampNames},
                    [one](Project& p) -> ClampKind& { return one(p).kind; });
            own.place(head + "at", "its middle, from the blank's front left corner as it lies", 3000,
                      [one](Project& p) -> Vec2& { return one(p).at; });
            own.rate(head + "turn", "deg", "turned so far from lying along X", -180, 180,
                     [one](Project& p) -> double& { return one(p).turn; });
        });
}

void woodSeenKeys(KeyTable& t) {
    constexpr double far = 6000;
    t.list<WoodMark>(
        "wood_marks", "mark in a blank", 100,
        [](Project& p) -> std::vector<WoodMark>& { return p.woodMarks; },
        [](KeyTable& own, const std::string& head, const At<WoodMark>& one) {
            own.text(head + "part", "whose blank it is in, as the list of parts names it",
                     [one](Project& p) -> std::string& { return one(p).part; });
            enumKey(own, head + "kind", "a glue seam, a knot or an old nail",
                    Names<WoodMarkKind, woodMarkNames.size()>{woodMarkNames},
                    [one](Project& p) -> WoodMarkKind& { return one(p).kind; });
            own.place(head + "from", "one end, from the blank's front left corner, face up", far,
                      [one](Project& p) -> Vec2& { return one(p).from; });
            own.place(head + "to", "the other end; the same for a point", far,
                      [one](Project& p) -> Vec2& { return one(p).to; });
            own.length(head + "width", "across it, of a knot or a hole", 0, 200,
                       [one](Project& p) -> double& { return one(p).width; });
        });
    t.list<WoodPhoto>(
        "photographs", "photograph", 20,
        [](Project& p) -> std::vector<WoodPhoto>& { return p.woodPhotos; },
        [](KeyTable& own, const std::string& head, const At<WoodPhoto>& one) {
            own.text(head + "part", "whose blank it shows, as the list of parts names it",
                     [one](Project& p) -> std::string& { return one(p).part; });
            own.text(head + "file", "the picture",
                     [one](Project& p) -> std::string& { return one(p).file; });
            const auto share = [&](const char* name, const char* meaning, Vec2 WoodPhoto::*on,
                                   double Vec2::*which) {
                own.rate(head + name, "%", meaning, -100, 200, [one, on, which](Project& p) -> double& {
                    return one(p).*on.*which;
                });
            };
            share("a_across", "first known place on the picture, from its left", &WoodPhoto::aOn,
                  &Vec2::x);
            share("a_down", "first known place on the picture, from its top", &WoodPhoto::aOn,
                  &Vec2::y);
            share("b_across", "second known place on the picture, from its left", &WoodPhoto::bOn,
                  &Vec2::x);
            share("b_down", "second known place on the picture, from its top", &WoodPhoto::bOn,
                  &Vec2::y);
            own.place(head + "a", "the first, from the blank's front left corner, face up", far,
                      [one](Project& p) -> Vec2& { return one(p).a; });
            own.place(head + "b", "the second, from the blank's front left corner, face up", far,
                      [one](Project& p) -> Vec2& { return one(p).b; });
            yesNo(own, head + "mirrored",
                  "half of it is shown twice, as two leaves opened like a book",
                  [one](Project& p) -> bool& { return one(p).mirrored; });
        });
}

void weightKeys(KeyTable& t) {
    const auto of = [&t](const char* path, const char* meaning,
                         std::optional<double> FittingWeights::*which) {
        t.maybe(KeyKind::number, path, "g", meaning, 0.5, 3000,
                [which](Project& p) -> std::optional<double>& { return p.fittings.*which; });
    };
    of("weights.tuner", "one tuner, weighed; auto: usual", &FittingWeights::tuner);
    of("weights.bridge", "the bridge with its screws, weighed; auto: usual",
       &FittingWeights::bridge);
    of("weights.pickup", "one pickup, weighed; auto: usual", &FittingWeights::pickup);
    of("weights.control", "one pot or switch, weighed; auto: usual", &FittingWeights::control);
    of("weights.jack", "the jack with its plate, weighed; auto: usual", &FittingWeights::jack);
    of("weights.strap_button", "one strap button, weighed; auto: usual",
       &FittingWeights::strapButton);
    of("weights.rod", "the truss rod, weighed; auto: usual", &FittingWeights::rod);
    t.list<OwnFitting>(
        "weights.others", "weight", 20,
        [](Project& p) -> std::vector<OwnFitting>& { return p.fittings.others; },
        [](KeyTable& own, const std::string& head, const At<OwnFitting>& one) {
            own.text(head + "what", "what it is",
                     [one](Project& p) -> std::string& { return one(p).what; });
            own.number(KeyKind::number, head + "mass", "g", "what it weighs", 0.5, 5000,
                       At<double>([one](Project& p) -> double& { return one(p).mass; }));
            own.place(head + "at", "where it hangs, from the bridge line", 900,
                      [one](Project& p) -> Vec2& { return one(p).at; });
        });
}

void glueKeys(KeyTable& t) {
    t.rate("glue.rate", "g/m2", "glue for a joint, one side coated", 20, 1000,
           [](Project& p) -> double& { return p.glue.rate; });
    t.rate("glue.epoxy_ratio", "", "epoxy: parts of resin to one of hardener, by weight", 0.2, 20,
           [](Project& p) -> double& { return p.glue.epoxyRatio; });
    t.length("glue.epoxy_layer", "epoxy poured at once, at most", 0.5, 50,
             [](Project& p) -> double& { return p.glue.epoxyLayer; });
    t.rate("glue.open", "min", "from the first glue to the clamps, at most", 1, 120,
           [](Project& p) -> double& { return p.glue.open; });
    t.rate("glue.clamped", "min", "a joint stays in its clamps", 5, 2880,
           [](Project& p) -> double& { return p.glue.clamped; });
    t.rate("glue.rest", "h", "until what is glued or poured is cut", 0, 336,
           [](Project& p) -> double& { return p.glue.rest; });
}

constexpr const char* ownMachine = "own";

/// The shelf's machine this one equals in all but its name.
std::string shelfName(const Machine& machine) {
    for (Machine shelf : starterMachines()) {
        std::string name = shelf.name;
        shelf.name = machine.name;
        if (shelf == machine) {
            return name;
        }
    }
    return ownMachine;
}

void shelfKey(KeyTable& t) {
    std::vector<std::string> names;
    for (const Machine& m : starterMachines()) {
        names.push_back(m.name);
    }
    names.emplace_back(ownMachine);
    t.words(
        "machine.like", "a machine from the shelf to start from", names,
        [](const Project& p) { return shelfName(p.machine); },
        [](Project& p, const std::string& v) {
            for (const Machine& m : starterMachines()) {
                if (m.name == v) {
                    p.machine = m;
                }
            }
        });
    t.last().alias = true;
}

void batchKeys(KeyTable& t) {
    t.list<BatchPiece>(
        "batch", "instrument", 12,
        [](Project& p) -> std::vector<BatchPiece>& { return p.batch; },
        [](KeyTable& own, const std::string& head, const At<BatchPiece>& one) {
            own.words(
                head + "name", "what one instrument of the batch is called", {},
                [one](const Project& p) { return one(const_cast<Project&>(p)).name; },
                [one](Project& p, const std::string& v) { one(p).name = v; });
            for (std::size_t i = 0; i < blankSizes.size(); ++i) {
                const BlankSize& size = blankSizes[i];
                own.maybe(KeyKind::length, head + size.key, "mm",
                          std::string(size.meaning) + ", as measured; auto: as the design has it",
                          size.least, size.most,
                          [one, i](Project& p) -> std::optional<double>& {
                              return one(p).sizes[i];
                          });
            }
        });
    t.maybe(KeyKind::length, "batch_layout.lines", "mm",
            "a batch's boards lie side by side on lines so far apart, its necks too; auto for one "
            "blank at a time",
            60, 500, [](Project& p) -> std::optional<double>& { return p.batchLines; });
}

void bedKeys(KeyTable& t) {
    const auto end = [&t](const char* path, const char* meaning, double most,
                          double SpindleEnd::*which) {
        t.length(path, meaning, 0, most,
                 [which](Project& p) -> double& { return p.machine.end.*which; });
    };
    t.maybe(KeyKind::length, "machine.gap", "mm",
            "from the spindle's nose, all the way up, to the spoil board; empty when not measured",
            20, 1000,
            [](Project& p) -> std::optional<double>& { return p.machine.end.gap; });
    end("machine.nut_length", "from the collet nut's face up to the spindle's nose", 100,
        &SpindleEnd::nutLength);
    end("machine.nose_width", "width of the spindle over the collet nut; 0 when not measured", 300,
        &SpindleEnd::noseWidth);
    end("machine.shoe_width", "width of a dust shoe's hard parts; 0 for none", 500,
        &SpindleEnd::shoeWidth);
    end("machine.shoe_below", "how far the dust shoe's hard parts hang below the nose", 200,
        &SpindleEnd::shoeBelowNose);
    const auto board = [&t](const char* path, const char* meaning, double least, double most,
                            double SpoilBoard::*which) {
        t.length(path, meaning, least, most,
                 [which](Project& p) -> double& { return p.machine.spoil.*which; });
    };
    board("machine.spoil_thickness", "thickness of the spoil board today", 1, 100,
          &SpoilBoard::thickness);
    board("machine.spoil_least", "thinner than this the spoil board is replaced", 0, 100,
          &SpoilBoard::least);
    board("machine.spoil_uneven", "the spoil board's highest place less its lowest, as measured", 0,
          10, &SpoilBoard::uneven);
    enumKey(t, "machine.bed_hold", "what clamps are screwed into",
            Names<BedHold, bedHoldNames.size()>{bedHoldNames},
            [](Project& p) -> BedHold& { return p.machine.spoil.hold; });
    board("machine.bed_pitch", "between the bed's inserts, or its slots", 10, 500,
          &SpoilBoard::pitch);
    board("machine.bed_first", "the first of them from the travel's front left corner", 0, 500,
          &SpoilBoard::first);
}

void machineKeys(KeyTable& t) {
    shelfKey(t);
    t.words(
        "machine.name", "the machine's name", {}, [](const Project& p) { return p.machine.name; },
        [](Project& p, const std::string& v) { p.machine.name = v; });
    t.words(
        "machine.units", "unit its programs are written in", {"mm", "inch"},
        [](const Project& p) {
            return std::string(p.machine.programUnit == LengthUnit::inch ? "inch" : "mm");
        },
        [](Project& p, const std::string& v) {
            p.machine.programUnit = v == "inch" ? LengthUnit::inch : LengthUnit::mm;
        });
    yesNo(t, "machine.arcs", "it takes arcs (G2, G3)",
          [](Project& p) -> bool& { return p.machine.arcs; });
    enumKey(t, "machine.home", "corner it homes to",
            Names<HomeCorner, 4>{{"front-left", "front-right", "back-left", "back-right"}},
            [](Project& p) -> HomeCorner& { return p.machine.home; });
    t.length("machine.travel_x", "travel left to right", 100, 5000,
             [](Project& p) -> double& { return p.machine.travel.x; });
    t.length("machine.travel_y", "travel front to back", 100, 5000,
             [](Project& p) -> double& { return p.machine.travel.y; });
    t.length("machine.travel_z", "travel up and down", 20, 1000,
             [](Project& p) -> double& { return p.machine.travel.z; });
    t.rate("machine.rapid", "mm/min", "rapid rate", 100, 60000,
           [](Project& p) -> double& { return p.machine.rapid; });
    t.rate("machine.max_feed", "mm/min", "highest cutting feed", 100, 60000,
           [](Project& p) -> double& { return p.machine.maxFeed; });
    t.rate("machine.acceleration_x", "mm/s2", "acceleration left to right", 10, 20000,
           [](Project& p) -> double& { return p.machine.acceleration.x; });
    t.rate("machine.acceleration_y", "mm/s2", "acceleration front to back", 10, 20000,
           [](Project& p) -> double& { return p.machine.acceleration.y; });
    t.rate("machine.acceleration_z", "mm/s2", "acceleration up and down", 10, 20000,
           [](Project& p) -> double& { return p.machine.acceleration.z; });
    t.rate("machine.corner_speed", "mm/s", "sudden change of velocity it takes at corners", 0.5,
           200, [](Project& p) -> double& { return p.machine.cornerSpeed; });
    t.rate("machine.spindle_min", "rpm", "slowest spindle speed", 500, 60000,
           [](Project& p) -> double& { return p.machine.spindleMin; });
    t.rate("machine.spindle_max", "rpm", "fastest spindle speed", 500, 60000,
           [](Project& p) -> double& { return p.machine.spindleMax; });
    t.length("machine.spoil_depth", "how far a bit may enter the spoil board", 0, 20,
             [](Project& p) -> double& { return p.machine.spoilDepth; });
    t.length("machine.crossing_x", "where the engraved lines cross, from home, X", -5000, 5000,
             [](Project& p) -> double& { return p.machine.crossing.x; });
    t.length("machine.crossing_y", "where the engraved lines cross, from home, Y", -5000, 5000,
             [](Project& p) -> double& { return p.machine.crossing.y; });
    t.length("machine.plate", "thickness of the probe plate", 0, 60,
             [](Project& p) -> double& { return p.machine.plate; });
    bedKeys(t);
}

} // namespace

void woodKey(KeyTable& t, const std::string& path, const char* meaning,
             const std::function<std::string&(Project&)>& at) {
    std::vector<std::string> ids;
    for (const Wood& w : woods()) {
        ids.push_back(w.id);
    }
    t.words(
        path, meaning, ids, [at](const Project& p) { return at(const_cast<Project&>(p)); },
        [at](Project& p, const std::string& v) { at(p) = v; });
    t.last().ofWood = true;
}

namespace {

void ownWoodKeys(KeyTable& t) {
    t.list<OwnWood>(
        "woods", "wood", 40, [](Project& p) -> std::vector<OwnWood>& { return p.woods; },
        [](KeyTable& own, const std::string& head, const At<OwnWood>& one) {
            const std::size_t number = itemPath(head.substr(0, head.size() - 1))->number;
            own.words(
                head + "name", "name of a wood of one's own, as in black-locust", {},
                [one](const Project& p) { return one(const_cast<Project&>(p)).name; },
                [number](Project& p, const std::string& v) { nameOwnWood(p, number, v); });
            own.rate(head + "density", "g/cm3",
                     "what it weighs as it is worked, at about 12 % moisture", 0.05, 3,
                     [one](Project& p) -> double& { return one(p).density; });
            std::vector<std::string> known;
            for (const Wood& w : woods()) {
                known.push_back(w.id);
            }
            own.words(
                head + "cuts_like", "the known wood it is cut like, for feeds and bites", known,
                [one](const Project& p) { return one(const_cast<Project&>(p)).cutsLike; },
                [one](Project& p, const std::string& v) { one(p).cutsLike = v; });
        });
}

void bitKeys(KeyTable& t, const std::string& head, const std::function<Bit&(Project&)>& one) {
    const auto of = [one](double Bit::*which) {
        return [one, which](Project& p) -> double& { return one(p).*which; };
    };
    t.text(head + "name", "the bit's name",
           [one](Project& p) -> std::string& { return one(p).name; });
    t.words(
        head + "kind", "kind of bit", bitKindNames(),
        [one](const Project& p) {
            return std::string(bitKindName(one(const_cast<Project&>(p)).kind));
        },
        [one](Project& p, const std::string& v) { one(p).kind = bitKindFromName(v); });
    t.length(head + "diameter", "cutting diameter", 0.2, 60, of(&Bit::diameter));
    t.length(head + "flute_length", "length of the flutes", 0.5, 120, of(&Bit::fluteLength));
    t.count(head + "flutes", "number of flutes", 1, 8,
            [one](Project& p) -> int& { return one(p).flutes; });
    t.length(head + "shank", "shank diameter", 0.5, 30, of(&Bit::shank));
    t.length(head + "corner", "corner radius of a bull-nose", 0, 30, of(&Bit::corner));
    t.length(head + "tip", "diameter of a tapered ball's end or a V's flat", 0, 30, of(&Bit::tip));
    t.rate(head + "angle", "deg", "whole angle of a V, drill point or taper; 0 for the usual", 0,
           179, of(&Bit::angle));
    t.length(head + "reach", "from tip to collet nut; 0 for twice the flutes", 0, 250,
             of(&Bit::reach));
    t.length(head + "collet", "collet it needs; 0 for the shank's", 0, 30, of(&Bit::collet));
    t.rate(head + "max_rpm", "rpm", "its own speed limit; 0 for none", 0, 60000, of(&Bit::maxRpm));
    t.rate(head + "max_feed", "mm/min", "its own feed limit; 0 for none", 0, 20000,
           of(&Bit::maxFeed));
}

} // namespace

void addShopKeys(KeyTable& t) {
    blankKeys(t);
    weightKeys(t);
    glueKeys(t);
    offcutKeys(t);
    sawingKeys(t);
    clampKeys(t);
    woodSeenKeys(t);
    batchKeys(t);
    ownWoodKeys(t);
    machineKeys(t);
    t.list<Bit>(
        "bits", "bit", 200, [](Project& p) -> Drawer& { return p.bits; }, bitKeys);
}

} // namespace wren
