#include "cut/board_recipe.h"
#include "cut/contact.h"
#include "cut/plain_time.h"
#include "cut/radius_cut.h"
#include "design/scale.h"
#include "hold/setup.h"

#include "support.h"

#include <fmt/format.h>

#include <BRepAlgoAPI_Common.hxx>
#include <BRepBuilderAPI_MakeEdge.hxx>
#include <BRepBuilderAPI_MakeFace.hxx>
#include <BRepBuilderAPI_MakePolygon.hxx>
#include <BRepBuilderAPI_MakeWire.hxx>
#include <BRepGProp.hxx>
#include <BRepOffsetAPI_ThruSections.hxx>
#include <BRepPrimAPI_MakePrism.hxx>
#include <GC_MakeArcOfCircle.hxx>
#include <GProp_GProps.hxx>

using namespace wren;
using test::plainWith;

namespace {

double distanceToLine(Vec2 p, Vec2 a, Vec2 b) {
    return std::abs(cross(b - a, p - a)) / length(b - a);
}

} // namespace

TEST_CASE("Each fret crosses the outer strings at those strings' own scales", "[outside][fan]") {
    // Equal temperament on each string by itself; the straight line through the two points is the
    // fret, to the edges (the definition of a multi-scale board, common practice, no source).
    const Fretboard b = plainWith({{"board.scale", "864"},
                                   {"board.treble_scale", "813"},
                                   {"board.square_fret", "7"},
                                   {"board.end", "slanted"}})
                            .board;
    const Fan fan(b);
    for (int n = 1; n <= b.frets; ++n) {
        const double share = 1 - std::pow(2.0, -n / 12.0);
        const FretLine line = fan.line(n);
        const std::pair<int, double> strings[] = {{-1, 864.0}, {1, 813.0}};
        for (const auto& [which, scale] : strings) {
            const Vec2 nut = fan.string(which, 0);
            const Vec2 bridge = fan.string(which, 1);
            CHECK(bridge.x - nut.x == Approx(scale).margin(1e-9));
            CHECK(distanceToLine(nut + (bridge - nut) * share, line.bass, line.treble) < 1e-9);
        }
        CHECK(line.bass.y == Approx(fan.edgeAt(-1, line.bass.x)).margin(1e-9));
        CHECK(line.treble.y == Approx(fan.edgeAt(1, line.treble.x)).margin(1e-9));
    }
}

TEST_CASE("As the scales come together the fan becomes the plain board", "[outside][fan]") {
    double last = 1e9;
    for (const char* treble : {"610", "619", "619.9", "620"}) {
        const Fretboard b =
            plainWith({{"board.treble_scale", treble}, {"board.square_fret", "9"}}).board;
        double most = 0;
        for (const FretPlace& f : fretTable(b)) {
            const double plain = 620 * (1 - std::pow(2.0, -f.fret / 12.0));
            most = std::max({most, std::abs(f.onBassEdge - plain), std::abs(f.fromNut - plain),
                             std::abs(f.onTrebleEdge - plain)});
        }
        CHECK(most < last);
        last = most;
    }
    CHECK(last < 1e-9);
}

TEST_CASE("A cone's sections are circles and its own lines are straight", "[outside][cone]") {
    // Radius linear along the board: a circular cone lying on its ridge. Sections square to X obey
    // the circle's equation; generators run straight through the apex (any solid geometry text).
    const Fretboard b = plainWith({{"board.radius", "250"}, {"board.far_radius", "400"}}).board;
    const BoardPart part(b);
    const double last = fretFromNut(620, 22);
    CHECK(part.face().radiusAt(0) == Approx(250));
    CHECK(part.face().radiusAt(last) == Approx(400));
    const double growth = 150 / last;
    const Vec3 apex{-250 / growth, 0, 6};
    for (double x : {0.0, 100.0, 333.0, last}) {
        const double r = 250 + growth * x;
        for (double y : {-25.0, -7.0, 0.0, 18.0}) {
            const Vec3 p{x, y, part.face(x, y)};
            CHECK(p.y * p.y + (p.z - (6 - r)) * (p.z - (6 - r)) == Approx(r * r));
            // Halfway to the apex it is still on the face.
            const Vec3 half = (p + apex) * 0.5;
            CHECK(part.face(half.x, half.y) == Approx(half.z).margin(1e-9));
        }
    }
}

TEST_CASE("A coned board's volume is that of its solid", "[outside][cone][volume]") {
    Fretboard b = plainWith({{"board.radius", "250"},
                             {"board.far_radius", "400"},
                             {"board.frets", "0"},
                             {"board.past_last_fret", "450"}})
                      .board;
    const BoardPart part(b);
    // The cone by a ruled loft through two of its circles, cut by the board's outline.
    BRepOffsetAPI_ThruSections loft(Standard_True, Standard_True);
    for (double x : {-20.0, 480.0}) {
        const double r = part.face().radiusAt(x);
        const double c = 0.16; // the same angles at both ends, so that rulings join
        const auto at = [&](double s) {
            return gp_Pnt(x, s * r, b.thickness - r + r * std::sqrt(1 - s * s));
        };
        const gp_Pnt low(x, -c * r, -1);
        const gp_Pnt high(x, c * r, -1);
        BRepBuilderAPI_MakeWire wire;
        wire.Add(BRepBuilderAPI_MakeEdge(GC_MakeArcOfCircle(at(-c), at(0), at(c)).Value()));
        wire.Add(BRepBuilderAPI_MakeEdge(at(c), high));
        wire.Add(BRepBuilderAPI_MakeEdge(high, low));
        wire.Add(BRepBuilderAPI_MakeEdge(low, at(-c)));
        loft.AddWire(wire.Wire());
    }
    BRepBuilderAPI_MakePolygon outline;
    for (const ContourPiece& side : part.outline()) {
        outline.Add(gp_Pnt(side.from.x, side.from.y, 0));
    }
    outline.Close();
    const TopoDS_Shape prism = BRepPrimAPI_MakePrism(BRepBuilderAPI_MakeFace(outline.Wire()).Face(),
                                                     gp_Vec(0, 0, b.thickness + 1));
    GProp_GProps props;
    BRepGProp::VolumeProperties(BRepAlgoAPI_Common(prism, loft.Shape()), props, 1e-7);
    CHECK(part.volume() == Approx(props.Mass()).epsilon(1e-6));
}

namespace {

/// The worked case of a workshop (common practice, no source): a 1/8 in flat end mill, roughing
/// 0.030 in deep and 0.030 in across at 100 in/min, finishing lengthwise 0.015 in across at 150,
/// plunging at 20: 4257 in of cutting, 31.6 minutes without acceleration. Those totals solve to
/// 3291 in of finishing, 49.4 square inches of board, and 966 in of roughing.
constexpr double finishingInches = 3291;
constexpr double caseMinutes = 31.6;

/// A board of that area: 18 in long.
Project caseBoard() {
    Project p = plainWith({{"board.frets", "0"},
                           {"board.past_last_fret", "18 in"},
                           {"board.nut_width", "65 mm"},
                           {"board.last_fret_width", "74.4 mm"},
                           {"board.radius", "12 in"},
                           {"board.thickness", "6.35"},
                           {"blank.length", "520"},
                           {"blank.width", "100"},
                           {"blank.thickness", "6.5"},
                           {"cut.stepover", "0.015 in"}});
    Bit small;
    small.name = "eighth";
    small.diameter = 3.175;
    small.fluteLength = 12;
    p.bits.push_back(small);
    return p;
}

double feedLength(const Path& path, double feed) {
    double sum = 0;
    for (const Move& m : path) {
        sum += m.cuts() && m.feed == feed ? m.length() : 0;
    }
    return sum;
}

} // namespace

TEST_CASE("A board of the worked case's area at its stepover takes its finishing distance",
          "[outside][time]") {
    const Project p = caseBoard();
    const BoardPart board(p.board);
    CHECK(board.areaOfFace() / 25.4 / 25.4 == Approx(49.4).epsilon(0.005));
    const Setup setup = layBoard(board, p.blank, p.machine, ZZero::bed);
    const Bit& bit = *findBit(p.bits, "eighth");
    const Feeds feeds{24000, 150 * 25.4, 20 * 25.4, 0.030 * 25.4, ""};
    const double finishing = feedLength(skimPath(board, setup, bit, feeds, p.cut), feeds.feed);
    CHECK(finishing / 25.4 == Approx(finishingInches).epsilon(0.05));
}

TEST_CASE("The recommended bit does the worked case in under 40 % of its minutes",
          "[outside][time]") {
    Project p = caseBoard();
    const BoardPart board(p.board);
    const Setup setup = layBoard(board, p.blank, p.machine, ZZero::bed);
    // The ridge the case leaves, from its own cutter and stepover.
    const double ridge = radiusFigures(board, *findBit(p.bits, "eighth"), p.cut, {}).ridge;
    CHECK(ridge > 0.005);
    p.cut.stepover.reset();
    p.cut.scallop = ridge;
    p.cut.radius.feed = 100 * 25.4; // no pass faster than the case's roughing
    p.cut.radius.plunge = 20 * 25.4;
    const BoardPlan plan = planBoard(board, setup, p.bits, p.machine, p.cut);
    const Cut* radius = plan.face().cutOf(CutKind::radius);
    REQUIRE(radius);
    const double minutes = plainSeconds(radius->path, p.machine) / 60;
    WARN(fmt::format(
        "worked case {:.1f} min; {} at the same ridge of {:.3f} mm: {:.1f} min, {:.0f} %",
        caseMinutes, radius->bit.name, ridge, minutes, 100 * minutes / caseMinutes));
    CHECK(minutes <= 0.4 * caseMinutes);
}
