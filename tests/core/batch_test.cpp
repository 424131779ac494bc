// Several instruments of one design: their own blanks, one order of all their programs.
#include "body_support.h"
#include "neck_support.h"

#include "base/files.h"
#include "job/batch.h"
#include "job/batch_order.h"
#include "job/posting.h"
#include "job/store.h"

#include <nlohmann/json.hpp>

#include <random>
#include <set>

using namespace wren;
using namespace wren::test;
using Catch::Matchers::Contains;

namespace {

int changesIn(const std::vector<BenchLoad>& loads, const std::vector<std::size_t>& order) {
    int n = 0;
    for (std::size_t i = 1; i < order.size(); ++i) {
        n += loads[order[i - 1]].last != loads[order[i]].first ? 1 : 0;
    }
    return n;
}

bool allowed(const std::vector<BenchLoad>& loads, const std::vector<std::size_t>& order) {
    std::set<std::size_t> done;
    for (std::size_t i : order) {
        for (std::size_t before : loads[i].after) {
            if (!done.count(before)) {
                return false;
            }
        }
        done.insert(i);
    }
    return done.size() == loads.size();
}

/// Boards alone, in thicknesses of their own.
Project boardsOf(std::initializer_list<double> thicknesses) {
    Project p = loadProject(plainFile);
    for (double t : thicknesses) {
        BatchPiece piece;
        piece.name = "Bird " + std::to_string(p.batch.size() + 1);
        piece.sizes[2] = t;
        p.batch.push_back(piece);
    }
    return p;
}

} // namespace

TEST_CASE("No order of loads wants fewer changes of bit", "[batch]") {
    std::mt19937 random(5);
    const auto upTo = [&](int n) { return std::uniform_int_distribution<int>(0, n)(random); };
    for (int round = 0; round < 60; ++round) {
        std::vector<BenchLoad> loads(std::size_t(2 + upTo(4)));
        for (std::size_t i = 0; i < loads.size(); ++i) {
            loads[i].first = std::string(1, char('a' + upTo(2)));
            loads[i].last = std::string(1, char('a' + upTo(2)));
            loads[i].kind = std::string(1, char('p' + upTo(1)));
            for (std::size_t k = 0; k < i; ++k) {
                if (upTo(3) == 0) {
                    loads[i].after.push_back(k);
                }
            }
        }
        std::vector<std::size_t> tried(loads.size());
        for (std::size_t i = 0; i < tried.size(); ++i) {
            tried[i] = i;
        }
        int fewest = 1000;
        do {
            if (allowed(loads, tried)) {
                fewest = std::min(fewest, changesIn(loads, tried));
            }
        } while (std::next_permutation(tried.begin(), tried.end()));
        const std::vector<std::size_t> order = orderOfLoads(loads);
        CHECK(allowed(loads, order));
        CHECK(changesIn(loads, order) == fewest);
    }
    // More than can be tried: an order all the same.
    std::vector<BenchLoad> many(80);
    for (std::size_t i = 40; i < 80; ++i) {
        many[i].after = {i - 40};
    }
    CHECK(allowed(many, orderOfLoads(many)));
}

TEST_CASE("Each instrument of a batch is cut from its own blank", "[batch]") {
    const Project p = boardsOf({6.9, 7.2, 7.4});
    const Batch batch = deriveBatch(p);
    REQUIRE(batch.instruments.size() == 3);
    for (std::size_t k = 0; k < 3; ++k) {
        // As if it were the only one, made with that thickness.
        Project alone = withKey(loadProject(plainFile), "blank.thickness",
                                std::to_string(*p.batch[k].sizes[2]) + "mm");
        alone.name = p.batch[k].name;
        const Derived d = derive(alone);
        const Derived& own = *batch.instruments[k];
        REQUIRE(own.programs.size() == d.programs.size());
        for (std::size_t i = 0; i < d.programs.size(); ++i) {
            CHECK(own.programs[i].program.text == d.programs[i].program.text);
        }
        CHECK_THAT(own.programs[0].program.text, Contains(p.batch[k].name));
    }
    // Every program once, each instrument's in its own order.
    std::map<std::size_t, std::size_t> next;
    for (const BatchStep& s : batch.steps) {
        CHECK(s.program == next[s.instrument]++);
    }
    for (std::size_t k = 0; k < 3; ++k) {
        CHECK(next[k] == batch.instruments[k]->programs.size());
    }
    CHECK(batch.changes <= batch.changesOneByOne);
    CHECK(batch.laid == 3);
}

TEST_CASE("Side by side each bit runs in all blanks before the next", "[batch]") {
    Project p = boardsOf({7.2, 7.3, 7.4});
    p.batchLines = 150;
    const Batch batch = deriveBatch(p);
    const std::size_t bits = std::size_t(batch.changes);
    std::set<std::string> used;
    for (const PostedProgram& program : batch.instruments[0]->programs) {
        used.insert(program.program.bit.name);
    }
    CHECK(bits == used.size());
    CHECK(batch.laid == 1);
    CHECK(batch.findings.empty());
    // Their blanks lie 150 mm apart on the machine, the middle one on the crossing.
    for (std::size_t k = 0; k < 3; ++k) {
        const Setup& s = *batch.instruments[k]->lies(Role::board);
        CHECK(s.zeroOnMachine.y + s.blank.width / 2 ==
              Approx(p.machine.crossing.y + (double(k) - 1) * 150));
    }
    p.batchLines = 60;
    CHECK(findingOf(deriveBatch(p).findings, "lines-too-close"));
}

TEST_CASE("A batch is posted to a folder for each instrument, in one order", "[batch]") {
    const Folder folder;
    Project p = boardsOf({7.2, 7.4});
    const Batch batch = deriveBatch(p);
    REQUIRE(postBatch(batch, p.name, folder / "out") == PostingRight::free);
    const auto doc = nlohmann::json::parse(readFile(folder / "out" / "batch.json"));
    CHECK(doc["order"].size() == batch.steps.size());
    for (const auto& step : doc["order"]) {
        const std::string name = step["instrument"];
        const std::string dir = name == "Bird 1" ? "1-bird-1" : "2-bird-2";
        CHECK_THAT(readFile(folder / "out" / dir / "programs" / step["program"].get<std::string>()),
                   Contains(name));
    }
    CHECK(readFile(folder / "out" / "everything-in-order.pdf").substr(0, 5) == "%PDF-");
    CHECK(readFile(folder / "out" / "1-bird-1" / "sheets" / "00-everything-in-order.pdf")
              .substr(0, 5) == "%PDF-");
    // Nothing goes out where one of them cannot be made.
    p.batch[1].sizes[2] = 3;
    CHECK(postBatch(deriveBatch(p), p.name, folder / "none") == PostingRight::refused);
    CHECK_FALSE(std::filesystem::exists(folder / "none"));
    p.batch[1].name = p.batch[0].name;
    CHECK_THAT(sentenceOf([&] { deriveBatch(p); }), Contains("a name of its own was expected"));
}

TEST_CASE("A batch is kept with its project", "[batch]") {
    const Folder folder;
    Project p = boardsOf({7.2, 7.4});
    p.batch[0].sizes[5] = 25.1;
    p.batchLines = 140;
    saveProject(p, folder / "b.wren");
    CHECK(loadProject(folder / "b.wren") == p);
    // It changes no program of the design itself.
    CHECK(designHash(p) == designHash(loadProject(plainFile)));
}

TEST_CASE("Necks of a batch and their fixture boards lie on the same lines, both sides up",
          "[batch]") {
    Project p = neckWith({{"neck_hold.make_fixture", "yes"}});
    p.batch.resize(2);
    p.batch[0].name = "One";
    p.batch[1].name = "Two";
    p.batchLines = 200;
    std::vector<Derived> drawn;
    for (const Project& each : batchProjects(p)) {
        drawn.push_back(deriveDrawing(each));
    }
    REQUIRE(drawn.size() == 2);
    for (const PartId part : {PartId(Role::board), PartId(Role::neck), PartId(Role::neckFixture)}) {
        const Held& one = drawn[0].job(part)->held;
        const Held& two = drawn[1].job(part)->held;
        for (std::size_t side = 0; side < one.sides(); ++side) {
            const Vec2 apart = two.side(side).zeroOnMachine - one.side(side).zeroOnMachine;
            CHECK(apart.x == Approx(0).margin(1e-9));
            CHECK(apart.y == Approx(200));
        }
    }
    // An instrument alone, or one blank at a time, lies on the long line as ever.
    p.batchLines.reset();
    CHECK(batchProjects(p)[1].neckBlank.line == 0);
    CHECK(batchProjects(neckWith({})).size() == 1);
}
