#include "cut/contact.h"
#include "cut/plain_time.h"
#include "cut/radius_cut.h"
#include "cut/slot_cut.h"
#include "geom/contour.h"

#include "support.h"

#include <set>

using namespace wren;
using test::findingOf;
using test::plainWith;

namespace {

struct Planned {
    Project project;
    BoardPart board;
    BoardPlan plan;

    explicit Planned(Project p)
        : project(std::move(p)), board(project.board),
          plan(planBoard(board, layBoard(board, project.blank, project.machine, project.zZero),
                         project.bits, project.machine, project.cut)) {}

    const Cut& cut(const std::string& what) const {
        for (const Cut& c : plan.face().cuts) {
            if (c.what == what) {
                return c;
            }
        }
        FAIL("no such cut: " + what);
        return plan.face().cuts.front();
    }
    Vec3 local(Vec3 setup) const { return plan.face().setup.fromInstrument.toInstrument(setup); }
};

} // namespace

TEST_CASE("Every path hangs together and begins and ends above the wood", "[cuts]") {
    const Planned p(plainWith());
    REQUIRE(p.plan.face().cuts.size() == 3);
    for (const Cut& c : p.plan.face().cuts) {
        INFO(c.what);
        REQUIRE(c.path.size() > 10);
        const double clear = p.plan.face().setup.topZ() + clearanceHeight;
        CHECK(c.path.front().from.z == Approx(clear));
        CHECK(c.path.back().to.z == Approx(clear));
        for (std::size_t i = 1; i < c.path.size(); ++i) {
            CHECK(c.path[i].from == c.path[i - 1].to);
        }
        for (const Move& m : c.path) {
            if (m.motion == Motion::rapid) {
                // Down at rapid only to a millimetre above the blank.
                CHECK((m.to.z >= p.plan.face().setup.topZ() + approachHeight - 1e-9));
            } else {
                CHECK(m.feed > 0);
            }
        }
    }
}

TEST_CASE("Finishing passes run lengthwise, level, touching the face", "[cuts][radius]") {
    for (const char* bit : {"ball-12", "ball-6", "flat-6"}) {
        INFO(bit);
        const Planned p(plainWith({{"cut.radius.bit", bit}}));
        const Cut& c = p.cut("radius");
        const ArchedFace face{6, 300, 0};
        int level = 0;
        double leastStock = 1e9;
        for (const Move& m : c.path) {
            const Vec3 a = p.local(m.from);
            const Vec3 b = p.local(m.to);
            if (m.cuts() && std::abs(a.y - b.y) < 1e-9 && std::abs(b.x - a.x) > 60) {
                CHECK(a.z == Approx(b.z).margin(1e-9));
                const double touch = tipOver(face, a.x, a.y, EndShape::of(c.bit));
                CHECK(a.z >= touch - 1e-9);
                level += std::abs(a.z - touch) < 1e-9;
                if (a.z > touch + 1e-6) {
                    leastStock = std::min(leastStock, a.z - touch);
                }
            }
        }
        CHECK(level > 40);
        CHECK(leastStock > 0.2); // the others keep their stock
    }
}

TEST_CASE("A thick blank is roughed in levels no deeper than a pass", "[cuts][radius]") {
    const Planned p(plainWith({{"blank.thickness", "12"}, {"cut.radius.depth_per_pass", "2"}}));
    std::set<long> levels;
    double last = p.plan.face().setup.topZ();
    for (const Move& m : p.cut("radius").path) {
        if (m.cuts() && m.from.y == m.to.y && std::abs(m.to.x - m.from.x) > 60) {
            levels.insert(std::lround(m.to.z * 1e6));
            last = std::min(last, m.to.z);
        }
    }
    CHECK(levels.count(std::lround(10.0 * 1e6)) == 1);
    CHECK(levels.count(std::lround(8.0 * 1e6)) == 1);
    CHECK(*levels.rbegin() <= std::lround(10.0 * 1e6));
}

TEST_CASE("Slots are entered and turned in the waste, and step down in tiny bites",
          "[cuts][slots]") {
    const Planned p(plainWith());
    const Cut& c = p.cut("slots");
    const double r = c.bit.radius();
    double deepest = 0;
    for (const Move& m : c.path) {
        if (!m.cuts()) {
            continue;
        }
        const Vec3 a = p.local(m.from);
        const Vec3 b = p.local(m.to);
        if (std::abs(a.y - b.y) < 1e-9) { // straight down
            CHECK(p.board.outsideBy(a.xy()) > r);
            if (a.z < p.board.face(a.x, a.y)) {
                CHECK(a.z - b.z <= 0.5 * c.bit.diameter + 1e-9);
            }
        } else {
            // Never below the floor the disc would touch.
            const ArchedFace floor = ArchedFace{6, 300, 0}.raised(-2);
            for (double t : {0.0, 0.5, 1.0}) {
                const Vec3 at = p.local(m.at(t));
                CHECK(at.z >= tipOver(floor, at.x, at.y, EndShape::of(c.bit)) - 0.0021);
                deepest = std::max(deepest, 6 - at.z);
            }
        }
    }
    CHECK(deepest > 2);
}

TEST_CASE("A bit narrower than the slot cuts its two walls", "[cuts][slots]") {
    const Planned p(plainWith({{"cut.slots.bit", "slot-0.55-long"}}));
    const Cut& c = p.cut("slots");
    double left = 1e9;
    double right = -1e9;
    const double first = p.board.slots()[0].middle();
    for (const Move& m : c.path) {
        const double x = p.local(m.to).x - first;
        if (m.cuts() && std::abs(x) < 5) {
            left = std::min(left, x - c.bit.radius());
            right = std::max(right, x + c.bit.radius());
        }
    }
    CHECK(left == Approx(-0.29).margin(1e-9));
    CHECK(right == Approx(0.29).margin(1e-9));
}

TEST_CASE("Slots before the radius are offered only where the flutes reach", "[cuts][slots]") {
    const Planned p(plainWith());
    // 2.0 deep, 1.35 of drop and a little beyond the edge, 0.8 still on top.
    CHECK(p.plan.slotsFirstPossible);
    CHECK(p.plan.slotsFirstWhy.find("slot-0.55-long") != std::string::npos);
    const Planned thick(plainWith({{"blank.thickness", "9"}}));
    CHECK_FALSE(thick.plan.slotsFirstPossible);
    const Planned first(plainWith({{"cut.school", "slots-first"}}));
    CHECK(first.plan.face().cuts[0].what == "slots");
    CHECK(first.plan.face().cuts[0].bit.name == "slot-0.55-long"); // the other is too short
    const Planned cannot(plainWith({{"cut.school", "slots-first"}, {"blank.thickness", "9"}}));
    CHECK(findingOf(cannot.plan.findings, "no-slot-bit"));
}

TEST_CASE("The outline climbs round the board at its bit's radius, down ramps, through",
          "[cuts][outline]") {
    const Planned p(plainWith());
    const Cut& c = p.cut("outline");
    double lowest = 1e9;
    double turned = 0;
    double onWall = 0;
    for (const Move& m : c.path) {
        if (!m.cuts()) {
            continue;
        }
        lowest = std::min(lowest, p.local(m.to).z);
        const bool straightDown = m.from.xy() == m.to.xy();
        if (straightDown) {
            CHECK(m.to.z >=
                  p.plan.face().setup.topZ() - 1e-9); // only to the wood's face; then ramps
            continue;
        }
        CHECK(m.motion != Motion::arcCounter);
        for (double t : {0.0, 0.3, 0.7, 1.0}) {
            const Vec2 at = p.local(m.at(t)).xy();
            const double d = p.board.outsideBy(at) - c.bit.radius();
            CHECK(d > -1e-6);
            CHECK(d < p.project.cut.wallStock + 1e-6);
            onWall += std::abs(d) < 1e-6 ? m.length() / 4 : 0;
        }
        turned += cross(p.local(m.from).xy(), p.local(m.to).xy());
    }
    CHECK(lowest == Approx(-0.3));
    CHECK(turned < 0);                    // clockwise: climbing
    CHECK(onWall > 2 * p.board.length()); // the last lap alone touches the finished wall
}

TEST_CASE("A ball end goes through by its tip as well", "[cuts][outline]") {
    const Planned p(plainWith({{"cut.outline.bit", "ball-6"}, {"machine.spoil_depth", "6"}}));
    double lowest = 1e9;
    for (const Move& m : p.cut("outline").path) {
        lowest = std::min(lowest, p.local(m.to).z);
    }
    CHECK(lowest == Approx(-3.3));
}

TEST_CASE("Tabs stand clear of the fret ends and are cut over at their height", "[cuts][tabs]") {
    for (const char* frets : {"5", "22", "24"}) {
        const Planned p(plainWith({{"board.frets", frets}}));
        CHECK(p.plan.tabs.size() == 6);
        const double foot =
            p.project.cut.tabLength / 2 + p.project.cut.tabHeight + p.project.cut.through;
        for (const Tab& t : p.plan.tabs) {
            for (const FretSlot& slot : p.board.slots()) {
                CHECK(std::abs(slot.middle() - t.x) > foot + 0.29);
            }
            double lowest = 1e9; // of the path beside the tab
            for (const Move& m : p.cut("outline").path) {
                for (int i = 0; i <= 400; ++i) {
                    const Vec3 at = p.local(m.at(i / 400.0));
                    if (m.cuts() && at.y * t.side > 0 && std::abs(at.x - t.x) < t.length / 2) {
                        lowest = std::min(lowest, at.z);
                    }
                }
            }
            CHECK(lowest == Approx(p.project.cut.tabHeight).margin(1e-6));
        }
    }
}

TEST_CASE("Where the gaps are too narrow for the tabs, fewer are placed and it is said",
          "[cuts][tabs]") {
    const Planned p(plainWith({{"cut.tab_length", "30"}}));
    CHECK(p.plan.tabs.size() < 6);
    const auto f = findingOf(p.plan.findings, "few-tabs");
    REQUIRE(f);
    CHECK(f->weight == Weight::caution);
}

TEST_CASE("The recipe takes the quickest bit for the radius and says why", "[recipe]") {
    const Planned p(plainWith());
    const Cut& c = p.cut("radius");
    CHECK(c.bit.name == "ball-12");
    CHECK(c.why.find("quickest") != std::string::npos);
    REQUIRE(p.plan.surfacing.size() == 4);
    double chosen = 0;
    double least = 1e9;
    for (const SurfacingChoice& s : p.plan.surfacing) {
        least = std::min(least, s.minutes);
        chosen = s.chosen ? s.minutes : chosen;
    }
    CHECK(chosen == least);
    CHECK(chosen == Approx(plainSeconds(c.path, p.project.machine) / 60));
}

TEST_CASE("A drawer without the right bit is a stop that says what is missing", "[recipe]") {
    Project p = plainWith();
    p.bits.erase(p.bits.begin(), p.bits.begin() + 2); // both slotting bits
    const Planned noSlots(p);
    const auto f = findingOf(noSlots.plan.findings, "no-slot-bit");
    REQUIRE(f);
    CHECK(f->message.find("0.58 mm") != std::string::npos);
    CHECK(noSlots.plan.face().cuts.size() == 2);
    p = plainWith({{"blank.thickness", "30"}});
    CHECK(findingOf(Planned(p).plan.findings, "no-outline-bit"));
    p = plainWith({{"cut.outline.bit", "lost-bit"}});
    CHECK(findingOf(Planned(p).plan.findings, "no-bit")->message.find("lost-bit") !=
          std::string::npos);
    p.bits.clear();
    CHECK(Planned(p).plan.face().cuts.empty());
}

TEST_CASE("A narrow frame is a caution, a slot bite out of bounds too", "[recipe]") {
    CHECK(findingOf(Planned(plainWith({{"blank.width", "64"}})).plan.findings, "thin-frame"));
    const auto none =
        findingOf(Planned(plainWith({{"blank.width", "61"}})).plan.findings, "no-room-for-tabs");
    REQUIRE(none);
    CHECK(none->weight == Weight::stop);
    CHECK(none->value < none->limit);
    CHECK_FALSE(findingOf(Planned(plainWith()).plan.findings, "thin-frame"));
    CHECK(findingOf(Planned(plainWith({{"cut.slots.depth_per_pass", "0.5"}})).plan.findings,
                    "slot-bite"));
}
