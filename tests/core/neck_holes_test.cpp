// Holes that meet slanting faces, and patterns wider than what carries them.

#include "neck_support.h"

#include "part/judge_neck_part.h"

using namespace wren;
using namespace wren::test;

namespace {

Project tilted(const char* bored = "by-machine") {
    Project p = newProject("t", 6, 648, 22, Hand::right);
    for (const auto& [key, text] : Changes{{"machine.like", "Long router"},
                                           {"neck.joint", "set"},
                                           {"head.kind", "tilted"},
                                           {"head.stock", "scarf"},
                                           {"tuners.bored", bored}}) {
        p = withKey(p, key, text);
    }
    return p;
}

PartProof provedWith(Derived& d, const std::function<void(NeckPlan&)>& spoil) {
    NeckPlan plan = planNeck(d.neck->part, d.job(Role::neck)->held, d.project.bits,
                             d.project.machine, d.project.neckCut);
    const Held& held = d.job(Role::neck)->held;
    easePart(plan, neckSides(d.neck->part, held, asPrograms(plan)), d.project.machine);
    spoil(plan);
    std::array<std::vector<RunProgram>, 2> programs;
    for (std::size_t side = 0; side < 2; ++side) {
        const std::vector<PostJob> jobs{{&plan.sides[side].setup, &plan.sides[side].cuts}};
        programs[side] =
            readBack(postPrograms(jobs, d.project.machine, {"t", ""}), plan.sides[side].setup);
    }
    return proveNeck(d.neck->part, neckSides(d.neck->part, held, programs), plan, d.project.neckCut,
                     d.project.machine);
}

} // namespace

TEST_CASE("A bore goes through a slanting face over its whole width", "[neck][holes]") {
    if (WREN_SANITIZED) {
        return;
    }
    Derived d = deriveDrawing(tilted());
    REQUIRE(d.neck);
    for (const Hole& h : d.neck->part.holes()) {
        if (h.what == "tuner") {
            // The face falls by the tangent of the tilt over the hole's radius.
            CHECK(h.endOut == Approx(9.5 / 2 * std::tan(13 * 3.14159265 / 180)).margin(0.02));
        }
    }
    const auto codes = [](const PartProof& proof) {
        std::string all;
        for (const ProofReport& side : proof.sides) {
            for (const Finding& f : side.findings) {
                all += f.weight == Weight::stop ? f.code + " " : "";
            }
        }
        return all;
    };
    CHECK(codes(provedWith(d, [](NeckPlan&) {})).empty());
    // Reckoned on its axis again, as it once was: wood stays over a third of the hole.
    const std::string shut = codes(provedWith(d, [&](NeckPlan& plan) {
        for (Cut& cut : plan.sides[1].cuts) {
            double low = 1e9;
            for (const Move& m : cut.path) {
                low = std::min(low, m.to.z);
            }
            for (Move& m : cut.path) {
                if (cut.what == "tuners" && m.cuts()) {
                    m.from.z = std::max(m.from.z, low + 1.3);
                    m.to.z = std::max(m.to.z, low + 1.3);
                }
            }
        }
    }));
    CHECK(shut.find("hole-not-open") != std::string::npos);
    const auto leans = findingOf(d.findings, "tuner-bore-leans");
    REQUIRE(leans);
    CHECK(leans->message.find("9.75 mm long") != std::string::npos); // 9.5 / cos 13 degrees
}

TEST_CASE("Bored by hand, the tuners' holes are no program's matter", "[neck][holes]") {
    Derived d = deriveDrawing(tilted("by-hand"));
    derivePrograms(d);
    for (const Cut& cut : d.job(Role::neck)->neckPlan().sides[1].cuts) {
        CHECK(cut.of != FeatureKind::tuner);
    }
    CHECK(findingOf(d.findings, "tuners-by-hand"));
    CHECK_FALSE(findingOf(d.findings, "tuner-bore-leans"));
    CHECK(d.neck->part.volume() > deriveDrawing(tilted()).neck->part.volume());
}

TEST_CASE("A pilot drilled too deep or too shallow is seen in the wood", "[neck][holes]") {
    if (WREN_SANITIZED) {
        return;
    }
    Derived d = deriveDrawing(neckWith());
    for (double off : {-1.0, 1.0}) {
        const PartProof proof = provedWith(d, [&](NeckPlan& plan) {
            for (Cut& cut : plan.sides[1].cuts) {
                for (Move& m : cut.path) {
                    if (cut.what == "bolts" && m.cuts() && m.to.z < m.from.z) {
                        m.to.z += off;
                    }
                }
            }
        });
        CHECK(findingOf(proof.sides[1].findings, off < 0 ? "hole-too-deep" : "hole-not-open"));
    }
}

TEST_CASE("Bolts wider than the heel are a stop, as longer ones are", "[neck][holes]") {
    CHECK_FALSE(findingOf(deriveDrawing(neckWith()).findings, "bolts-outside-heel"));
    const auto wide = findingOf(deriveDrawing(neckWith({{"neck.bolt_wide", "52"}})).findings,
                                "bolts-outside-heel");
    REQUIRE(wide);
    CHECK(wide->message.find("52.0 mm wide") != std::string::npos);
    // Two stand in one row along the middle, however wide a pattern of four would be.
    CHECK_FALSE(
        findingOf(deriveDrawing(neckWith({{"neck.bolt_wide", "52"}, {"neck.bolts", "2"}})).findings,
                  "bolts-outside-heel"));
}

TEST_CASE("No new project starts with a stop", "[new][long]") {
    std::vector<Changes> sets{{{"neck.joint", "bolt-on"}},
                              {{"neck.joint", "set"}},
                              {{"neck.joint", "through"}, {"machine.like", "Long router"}},
                              {{"neck.joint", "bolt-on"}, {"neck.fret_face", "carved"}},
                              {{"neck.joint", "set"}, {"head.kind", "tilted"}}};
    for (const char* head : {"chisel", "keel", "paddle"}) {
        sets.push_back({{"neck.joint", "bolt-on"}, {"head.like", head}});
    }
    for (const char* build : {"one-piece", "topped"}) {
        for (const char* body : {"fell", "tarn", "scree"}) {
            sets.push_back({{"neck.joint", "bolt-on"}, {"body.build", build}, {"body.like", body}});
        }
    }
    const std::vector<const char*> onBass{"0", "1", "2", "3", "4", "5", "6", "7", "8", "9"};
    for (int strings = 4; strings <= 9; ++strings) {
        for (Hand hand : {Hand::right, Hand::left}) {
            const Project fresh = newProject("n", strings, strings < 6 ? 864 : 648, 22, hand);
            std::vector<Changes> all = sets;
            for (int b = 0; b <= strings; ++b) {
                all.push_back(
                    {{"neck.joint", "bolt-on"}, {"tuners.bass_side", onBass[std::size_t(b)]}});
            }
            for (const Changes& changes : all) {
                Project p = fresh;
                for (const auto& [key, text] : changes) {
                    p = withKey(p, key, text);
                }
                const Derived d = deriveDrawing(p);
                for (const Finding& f : d.findings) {
                    INFO(strings << " strings, " << changes.back().first << " "
                                 << changes.back().second << ": " << f.message);
                    CHECK(f.weight != Weight::stop);
                }
            }
        }
    }
}

TEST_CASE("The sides of a slot with a round floor are judged by the ball that cuts them",
          "[neck][rod]") {
    if (WREN_SANITIZED) {
        return;
    }
    const std::string from = GENERATE("top", "back");
    INFO(from);
    Project p = newProject("t", 6, 648, 22, Hand::right);
    for (const auto& [key, text] : Changes{{"machine.like", "Long router"},
                                           {"neck.joint", "bolt-on"},
                                           {"rod.from", from.c_str()},
                                           {"rod.floor", "round"},
                                           {"rod.width", "6"},
                                           {"rod.depth", "6"},
                                           {"rod.adjuster_depth", "7"},
                                           {"rod.cover", "3"}}) {
        p = withKey(p, key, text);
    }
    Derived d = deriveDrawing(p);
    REQUIRE(d.neck);
    const std::size_t side = from == "back" ? 1 : 0;
    const auto walls = [&](double aside) {
        const PartProof proof = provedWith(d, [&](NeckPlan& plan) {
            for (Cut& cut : plan.sides[side].cuts) {
                for (Move& m : cut.path) {
                    m.from.y += cut.what == "rod" ? aside : 0;
                    m.to.y += cut.what == "rod" ? aside : 0;
                    m.centre.y += cut.what == "rod" ? aside : 0;
                }
            }
        });
        std::string said;
        for (const Finding& f : proof.sides[side].findings) {
            said += f.weight == Weight::stop ? f.message + "\n" : "";
        }
        return said;
    };
    CHECK(walls(0) == "");
    CHECK(walls(0.06).find("A side of the rod slot is out by 0.06") != std::string::npos);
}

TEST_CASE("Bolts keep clear of the rod, or it is told how", "[neck][holes]") {
    const auto told = [](std::initializer_list<std::pair<const char*, const char*>> changes) {
        return findingOf(deriveDrawing(neckWith(changes)).findings, "bolt-meets-rod");
    };
    CHECK_FALSE(told({}));                          // two rows, beside the rod
    const auto meets = told({{"neck.bolts", "2"}}); // one row, on the centreline
    REQUIRE(meets);
    CHECK(meets->value < 0);
    CHECK(meets->message.find("runs into the rod's slot") != std::string::npos);
    CHECK_FALSE(told({{"neck.bolts", "2"}, {"neck.bolt_depth", "6"}})); // ends under the rod
    CHECK_FALSE(told({{"neck.bolts", "2"}, {"rod.length", "340"}, {"rod.adjuster", "head"}}));
    // Half a millimetre under the slot.
    const Neck plain = neckWith({}).neck;
    const std::string half = std::to_string(plain.heelDepth - plain.rod.depth - 0.5);
    const auto near = told({{"neck.bolts", "2"}, {"neck.bolt_depth", half.c_str()}});
    REQUIRE(near);
    CHECK(near->value == Approx(0.5).margin(1e-6));
    CHECK(near->message.find("comes within") != std::string::npos);
    // As deep as it says it is told no more.
    const std::size_t at = near->message.find("pilots ");
    const std::string deep = near->message.substr(at + 7, near->message.find(" mm deep") - at - 7);
    CHECK_FALSE(told({{"neck.bolts", "2"}, {"neck.bolt_depth", deep.c_str()}}));
}

TEST_CASE("The head is weakest where a set's pull has least wood", "[neck][holes]") {
    const auto weakest = [](std::initializer_list<std::pair<const char*, const char*>> changes) {
        const Derived d = deriveDrawing(neckWith(changes));
        REQUIRE(d.neck);
        return *weakestHead(d.neck->part);
    };
    const HeadSection plain = weakest({});
    CHECK(plain.x < 0);
    CHECK(plain.modulus == Approx(plain.width * plain.thickness * plain.thickness / 6));
    CHECK(plain.share == 1); // before the first post
    CHECK_FALSE(plain.runOut);
    // A rectangle's modulus goes with the square of its thickness (any text on bending).
    const HeadSection thin = weakest({{"head.thickness", "10"}});
    CHECK(thin.modulus / plain.modulus ==
          Approx(std::pow(thin.thickness / plain.thickness, 2) * thin.width / plain.width));
    CHECK(weakest({{"head.kind", "tilted"}}).runOut);
    CHECK_FALSE(weakest({{"head.kind", "tilted"}, {"head.stock", "scarf"}}).runOut);
}
