// What programs did to wood is remembered, and used only where it holds.

#include "proof/cut_memory.h"

#include "body_support.h"

#include <random>

using namespace wren;
using namespace wren::test;

namespace {

Bit sixFlat() {
    Bit bit;
    bit.name = "flat 6";
    bit.diameter = 6;
    bit.shank = 6;
    bit.fluteLength = 22;
    return bit;
}

Move cutTo(Vec3 from, Vec3 to) {
    Move m;
    m.motion = Motion::line;
    m.from = from;
    m.to = to;
    m.feed = 1200;
    return m;
}

Stock wideBlank() {
    return Stock({200, 120, 20, "maple"}, 0, 0.5);
}

RunProgram lineAt(double x, double z) {
    return {"p",  {},  sixFlat(), {cutTo({x, 20, 25}, {x, 20, z}), cutTo({x, 20, z}, {x, 40, z})},
            true, true};
}

/// Of a program over a stock.
Hash keyOn(const Stock& stock, const Bit& bit, const Path& path, double more = 1) {
    return KnownWood(stock).keyOf(NearWood(stock, bit, path), {more});
}

/// All three steps, remembering, on top of what was derived before.
Derived again(const Project& project, const Derived* before) {
    Derived d = deriveDrawing(project, before);
    d.remembers = true;
    derivePrograms(d, {}, before);
    deriveProof(d, {}, before);
    return d;
}

void checkSame(const Derived& one, const Derived& other) {
    REQUIRE(one.programs.size() == other.programs.size());
    for (std::size_t i = 0; i < one.programs.size(); ++i) {
        INFO(one.programs[i].program.file);
        CHECK(one.programs[i].program.text == other.programs[i].program.text);
    }
    REQUIRE(one.findings.size() == other.findings.size());
    for (std::size_t i = 0; i < one.findings.size(); ++i) {
        CHECK(one.findings[i].message == other.findings[i].message);
    }
    for (const PartJob& job : one.parts) {
        const PartJob* there = other.job(job.id);
        REQUIRE(there);
        REQUIRE((job.proof != nullptr) == (there->proof != nullptr));
        if (!job.proof) {
            continue;
        }
        INFO(job.name());
        long apart = 0;
        for (int r = 0; r < job.proof->stock->rows(); ++r) {
            for (int c = 0; c < job.proof->stock->columns(); ++c) {
                apart += job.proof->stock->high(c, r) != there->proof->stock->high(c, r) ? 1 : 0;
            }
        }
        CHECK(apart == 0);
        for (std::size_t side = 0; side < 2; ++side) {
            const ProofReport& a = job.proof->sides[side];
            const ProofReport& b = there->proof->sides[side];
            CHECK(a.gougeMax == b.gougeMax);
            CHECK(a.excessMax == b.excessMax);
            REQUIRE(a.loads.size() == b.loads.size());
            for (std::size_t i = 0; i < a.loads.size(); ++i) {
                CHECK(a.loads[i].most() == b.loads[i].most());
                CHECK(a.loads[i].airSeconds == b.loads[i].airSeconds);
            }
        }
    }
}

} // namespace

TEST_CASE("A program's key is of its own wood: a change far off leaves it, one near by does not",
          "[memory]") {
    const RunProgram program = lineAt(30, 15);
    Stock stock = wideBlank();
    const Hash key = keyOn(stock, program.bit, program.path);
    const auto cut = [&](double x) {
        Stock other = wideBlank();
        other = simulateOn(std::move(other), {lineAt(x, 18)}).stock;
        return keyOn(other, program.bit, program.path);
    };
    CHECK(cut(150) == key);
    CHECK(cut(32) != key);
    // Any one cell under the tool counts, from above and from below.
    Stock turned = wideBlank();
    turned.keepCell(0, 0, 0, 20); // an underside of its own, as after it was turned over
    const Hash whole = keyOn(turned, program.bit, program.path);
    for (double x = 27.1; x < 33; x += 0.5) {
        for (double y : {18.0, 31.0, 42.0}) {
            for (bool below : {false, true}) {
                Stock other = turned;
                other.keepCell(int(other.column(x)), int(std::as_const(other).row(y)),
                               below ? 0.1 : 0, below ? 20 : 19.9);
                INFO(x << " " << y << (below ? " below" : " above"));
                CHECK(keyOn(other, program.bit, program.path) != whole);
            }
        }
    }
    CHECK(keyOn(stock, program.bit, program.path, 2) != key);
    Bit longer = program.bit;
    longer.fluteLength += 1;
    CHECK(keyOn(stock, longer, program.path) != key);
    Path faster = program.path;
    faster.back().feed += 1;
    CHECK(keyOn(stock, program.bit, faster) != key);
}

TEST_CASE("What a tool comes near holds all it changes, whatever it is", "[memory]") {
    std::mt19937 random(4);
    std::uniform_real_distribution<double> x(-10, 210), y(-10, 130), z(2, 25), turn(-3, 3);
    for (int round = 0; round < 25; ++round) {
        Path path;
        Vec3 at{x(random), y(random), 25};
        for (int i = 0; i < 6; ++i) {
            Move m = cutTo(at, {x(random), y(random), z(random)});
            if (i % 3 == 1) { // an arc about a place near by
                const Vec2 centre = at.xy() + Vec2{8, turn(random) * 5};
                const double a = turn(random);
                const Vec2 out = at.xy() - centre;
                m.motion = a < 0 ? Motion::arcClockwise : Motion::arcCounter;
                m.centre = {centre.x, centre.y, 0};
                m.to = {centre.x + out.x * std::cos(a) - out.y * std::sin(a),
                        centre.y + out.x * std::sin(a) + out.y * std::cos(a), at.z};
            }
            path.push_back(m);
            at = m.to;
        }
        Bit bit = sixFlat();
        bit.fluteLength = 5; // its shank and the nut come down into the wood
        bit.shank = 8;
        bit.reach = 9;
        const RunProgram program{"p", {}, bit, path, true, true};
        const Stock before = wideBlank();
        const NearWood near(before, bit, path);
        Simulation run = simulateOn(before, {program}, {}, {}, {}, Loads::traced);
        // Another of the same wood is left as the cut left the first, and looked at.
        KnownWood cut(before);
        const Left left = cut.cut(near, [&](const Stock&) { return run.stock; });
        KnownWood other(before);
        other.leave(near, std::make_shared<const Left>(left));
        CHECK(other.keyOf(near, {}) == KnownWood(run.stock).keyOf(near, {}));
        const Stock replayed = std::move(other).take();
        long apart = 0;
        for (int r = 0; r < before.rows(); ++r) {
            for (int c = 0; c < before.columns(); ++c) {
                apart += replayed.high(c, r) != run.stock.high(c, r) ? 1 : 0;
            }
        }
        CHECK(apart == 0);
    }
}

TEST_CASE("Programs run from memory come to what they come to run, collisions and loads too",
          "[memory][load]") {
    const std::vector<RunProgram> programs{lineAt(30, 15), lineAt(31, 3), lineAt(150, -1)};
    RunProgram rapid = lineAt(90, 12);
    rapid.path[1].motion = Motion::rapid; // through the wood
    std::vector<RunProgram> all = programs;
    all.push_back(rapid);
    const Simulation once = simulateOn(wideBlank(), all, {}, {}, {}, Loads::traced);
    auto first = std::make_shared<CutMemory>("router");
    const Simulation kept = simulateRemembering(wideBlank(), all, {}, Loads::traced, *first);
    first->settle();
    CutMemory second("router", first);
    const Simulation found = simulateRemembering(wideBlank(), all, {}, Loads::traced, second);
    for (const Simulation* s : {&kept, &found}) {
        REQUIRE(s->collisions.size() == once.collisions.size());
        for (std::size_t i = 0; i < once.collisions.size(); ++i) {
            CHECK(s->collisions[i].program == once.collisions[i].program);
            CHECK(s->collisions[i].move == once.collisions[i].move);
            CHECK(s->collisions[i].depth == once.collisions[i].depth);
        }
        REQUIRE(s->loads.size() == all.size());
        for (std::size_t i = 0; i < all.size(); ++i) {
            for (std::size_t m = 0; m < all[i].path.size(); ++m) {
                CHECK(s->loads[i].whole(m).volume == once.loads[i].whole(m).volume);
            }
        }
        CHECK(s->stock.volume() == once.stock.volume());
    }
    CHECK_FALSE(once.collisions.empty());
}

TEST_CASE("What was kept for another router is not found, nor what has not come again",
          "[memory]") {
    const RunProgram program = lineAt(30, 15);
    const Stock stock = wideBlank();
    const Hash key = keyOn(stock, program.bit, program.path);
    auto first = std::make_shared<CutMemory>("one");
    first->keep(key, {{}, program.path, std::nullopt, {}});
    CHECK(first->find(key));
    CHECK_FALSE(CutMemory("another", first).find(key));
    auto second = std::make_shared<CutMemory>("one", first);
    second->settle(); // before it was asked for
    CHECK_FALSE(second->find(key));
    auto third = std::make_shared<CutMemory>("one", first);
    CHECK(third->find(key));
    third->settle();
    CHECK(third->find(key));
}

TEST_CASE("After each of many changes programs and proof are those of the design from nothing",
          "[memory][body][long]") {
    Project p = bodyWith({{"body.build", "topped"}, {"body.front_edge", "round"}});
    Derived last = again(p, nullptr);
    if (!WREN_SANITIZED) {
        checkSame(last, derive(p));
    }
    std::vector<std::pair<const char*, const char*>> changes{
        {"body.pickups.0.from_bridge", "136.5"},
        {"cavity.wood", "7"},
        {"machine.rapid", "4200"},
        {"body.front_edge_size", "4"},
        {"body.top", "7"}};
    changes.resize(WREN_SANITIZED ? 1 : changes.size());
    for (const auto& [key, text] : changes) {
        INFO(key);
        p = withKey(p, key, text);
        last = again(p, &last);
        checkSame(last, derive(p));
    }
}

TEST_CASE("What is taken over without a memory is that of the design from nothing",
          "[memory][body]") {
    if (WREN_SANITIZED) {
        return; // the one before takes the same way, and more
    }
    const Project p = bodyWith({{"body.build", "topped"}});
    const Derived first = derive(p);
    const Project moved = withKey(p, "body.pickups.0.from_bridge", "136.5");
    Derived second = deriveDrawing(moved, &first);
    derivePrograms(second, {}, &first);
    deriveProof(second, {}, &first);
    checkSame(second, derive(moved));
}

TEST_CASE("A memory holds on to no older one, whether its part could be proved or not",
          "[memory][body][long]") {
    for (bool provable : {true, false}) {
        Project p = bodyWith();
        if (!provable) { // no bit cuts anything of the body
            std::erase_if(p.bits, [](const Bit& b) { return b.kind != BitKind::vee; });
        }
        Derived first = again(p, nullptr);
        REQUIRE(first.job(Role::body));
        REQUIRE(first.job(Role::body)->memory);
        CHECK((first.job(Role::body)->proof != nullptr) == provable);
        const std::weak_ptr<const CutMemory> oldest = first.job(Role::body)->memory;
        const Derived second = again(withKey(p, "body.pickups.0.from_bridge", "136.5"), &first);
        CHECK(second.job(Role::body)->memory != first.job(Role::body)->memory);
        first = Derived();
        CHECK(oldest.expired());
    }
}
