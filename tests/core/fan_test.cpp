#include "design/fan.h"
#include "hold/setup.h"
#include "job/derive.h"

#include "support.h"

#include <fmt/format.h>

using namespace wren;
using test::findingOf;
using test::plainWith;

namespace {

Project fanned(std::initializer_list<std::pair<const char*, const char*>> more = {}) {
    Project p = plainWith({{"board.strings", "7"},
                           {"board.hand", "left"},
                           {"board.nut_width", "50"},
                           {"board.last_fret_width", "66"},
                           {"board.scale", "686"},
                           {"board.treble_scale", "648"},
                           {"board.square_fret", "8"},
                           {"board.end", "slanted"},
                           {"board.far_radius", "420"},
                           {"blank.length", "560"},
                           {"blank.width", "92"}});
    p.bits = starterDrawer();
    for (const auto& [key, text] : more) {
        p = withKey(p, key, text);
    }
    return p;
}

} // namespace

TEST_CASE("A left-handed board is the right-handed one mirrored", "[fan]") {
    const Fretboard left = fanned().board;
    const Fretboard right = fanned({{"board.hand", "right"}}).board;
    for (double fret : {0.0, 3.0, 12.0, 22.0}) {
        const FretLine l = Fan(left).line(fret);
        const FretLine r = Fan(right).line(fret);
        CHECK(l.bass.x == Approx(r.bass.x));
        CHECK(l.bass.y == Approx(-r.bass.y));
        CHECK(l.treble.x == Approx(r.treble.x));
        CHECK(l.treble.y == Approx(-r.treble.y));
        CHECK(r.bass.y < 0);
    }
}

TEST_CASE("The chosen fret is square, the others lean to either side of it", "[fan]") {
    for (const char* square : {"nut", "7.5", "12", "bridge"}) {
        const Fretboard b = fanned({{"board.square_fret", square}}).board;
        const Fan fan(b);
        const FretLine l = fan.line(b.squareFret);
        CHECK(l.bass.x == Approx(l.treble.x).margin(1e-9));
        CHECK(fan.line(0).middle() == Approx(0).margin(1e-9)); // the origin stays at the nut
    }
}

TEST_CASE("Equal gaps leave the same air between all strings", "[fan]") {
    const Fretboard b =
        plainWith({{"board.spacing", "gaps"}, {"board.gauges", "1.17 0.91 0.66 0.43 0.33 0.25"}})
            .board;
    const std::vector<double> at = stringCentres(b, 36);
    std::vector<double> g;
    for (const StringGauge& gauge : b.gauges) {
        g.push_back(gauge.thickness);
    }
    CHECK(at.front() == -18);
    CHECK(at.back() == Approx(18));
    const double gap = at[1] - at[0] - (g[0] + g[1]) / 2;
    for (std::size_t i = 2; i < at.size(); ++i) {
        CHECK(at[i] - at[i - 1] - (g[i] + g[i - 1]) / 2 == Approx(gap));
    }
    CHECK(
        findingOf(judgeFretboard(plainWith({{"board.spacing", "gaps"}}).board), "gauges-missing"));
}

TEST_CASE("Fans that cross, slots that meet and frets beyond the end are stopped", "[fan]") {
    const auto stopOf = [](const Project& p, const char* code) {
        const auto f = findingOf(judgeFretboard(p.board), code);
        INFO(code);
        REQUIRE(f);
        CHECK(f->weight == Weight::stop);
        CHECK_FALSE(f->overridable);
        return *f;
    };
    stopOf(fanned({{"board.scale", "1300"},
                   {"board.treble_scale", "250"},
                   {"board.nut_spread", "20"},
                   {"board.square_fret", "nut"},
                   {"board.overhang", "12"}}),
           "frets-cross");
    const Finding beyond = stopOf(fanned({{"board.end", "straight"}, {"board.square_fret", "nut"}}),
                                  "fret-beyond-board");
    CHECK(beyond.limit == 1.0);
    CHECK(beyond.value < 0);
    CHECK(beyond.message.find(fmt::format("lies {:.2f} mm beyond", -beyond.value)) !=
          std::string::npos);
    stopOf(plainWith(
               {{"board.radius", "100"}, {"board.thickness", "2.2"}, {"board.slot_depth", "0.5"}}),
           "face-through-board");
    stopOf(plainWith({{"board.end", "radiused"}, {"board.end_radius", "20"}}),
           "end-radius-too-small");
}

TEST_CASE("The wire's fit is judged by the slot as measured, when it was", "[wire]") {
    const auto found = [](const char* measured, const char* code) {
        return findingOf(judgeFretboard(plainWith({{"wire.measured_slot", measured}}).board), code);
    };
    CHECK_FALSE(found("auto", "fret-loose"));
    CHECK(found("0.65", "fret-loose")->weight == Weight::caution);
    CHECK(found("0.79", "fret-loose")->weight == Weight::stop); // wider than the barbs
    CHECK(found("0.5", "fret-tight"));
    CHECK(
        findingOf(judgeFretboard(plainWith({{"board.slot_depth", "1.6"}}).board), "slot-shallow"));
}

TEST_CASE("A left-handed seven-string fan over a cone is proved from its text", "[fan][proof]") {
    std::vector<std::pair<const char*, const char*>> boards{
        {"board.nut_shelf", "6"},     {"cut.radius.bit", "taper-1.5"}, {"cut.face_blank", "always"},
        {"board.blind_margin", "2"},  {"board.zero_fret", "yes"},      {"board.end", "radiused"},
        {"cut.radius.bit", "flat-6"}, {"machine.arcs", "no"}};
    boards.resize(WREN_SANITIZED ? 3 : boards.size());
    for (const auto& [key, text] : boards) {
        INFO(key << "=" << text);
        const Derived d = derive(fanned({{"board.past_last_fret", "20"}, {key, text}}));
        for (const Finding& f : d.findings) {
            INFO(f.message);
            CHECK(f.weight != Weight::stop);
        }
        REQUIRE(d.proofOf(Role::board));
        CHECK(d.proofOf(Role::board)->gougeMax <= 0.01);
        CHECK(d.proofOf(Role::board)->excessMax <= d.project.cut.scallop + 0.02);
        CHECK(d.proofOf(Role::board)->wallMax <= 0.02);
    }
}

TEST_CASE("Several boards come out of one blank, each proved", "[nest][long]") {
    Project p = fanned({{"blank.boards", "3"}, {"blank.width", "260"}});
    const Derived d = derive(p);
    REQUIRE(d.proofOf(Role::board));
    CHECK(d.proofOf(Role::board)->passed);
    CHECK(d.lies(Role::board)->places.size() == 3);
    p = withKey(p, "blank.width", "220");
    const auto f = findingOf(derive(p).findings, "blank-too-small");
    REQUIRE(f);
    CHECK(f->value < f->limit);
}

TEST_CASE("A fretless bass board needs no slots and still comes out whole", "[fan][proof]") {
    Project p = plainWith({{"board.strings", "4"},
                           {"board.scale", "864"},
                           {"board.frets", "0"},
                           {"board.past_last_fret", "650"},
                           {"board.nut_width", "42"},
                           {"board.last_fret_width", "63"},
                           {"markers.side_frets", "3 5 7 9 12"},
                           {"blank.length", "700"},
                           {"blank.width", "90"}});
    const Derived d = derive(p);
    REQUIRE(d.proofOf(Role::board));
    CHECK(d.proofOf(Role::board)->passed);
    CHECK(d.boardPlan()->face().cutOf(CutKind::slots) == nullptr);
    CHECK(sideDots(p.board).size() == 6); // two at the octave
}
