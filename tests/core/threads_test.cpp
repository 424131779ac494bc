// What scripts/threads.sh runs under the thread sanitizer: everything that is worked out side by
// side.

#include "body_support.h"

#include <future>

using namespace wren;
using namespace wren::test;

TEST_CASE("Parts side by side come out as they do again", "[threads]") {
    if (WREN_SANITIZED) {
        return; // the other sanitizers see each way of it elsewhere
    }
    const Project p = bodyWith({{"body.build", "topped"}});
    const Derived once = derive(p);
    const Derived again = derive(p);
    REQUIRE(once.programs.size() == again.programs.size());
    for (std::size_t i = 0; i < once.programs.size(); ++i) {
        CHECK(once.programs[i].program.text == again.programs[i].program.text);
    }
    REQUIRE(once.findings.size() == again.findings.size());
    for (std::size_t i = 0; i < once.findings.size(); ++i) {
        CHECK(once.findings[i].message == again.findings[i].message);
    }
}

TEST_CASE("Two designs are derived at once, and one of them is given up", "[threads]") {
    const Project p = bodyWith();
    std::stop_source stop;
    auto given = std::async(std::launch::async, [&] {
        try {
            derive(withKey(p, "body.thickness", "40"), stop.get_token());
            return false;
        } catch (const Cancelled&) {
            return true;
        }
    });
    Derived kept = deriveDrawing(p);
    stop.request_stop();
    derivePrograms(kept);
    CHECK(given.get());
    CHECK_FALSE(kept.programs.empty());
}
