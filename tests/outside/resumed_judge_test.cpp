// Programs stopped and taken up again, cut by the judge that shares no code with us: what is left is
// the whole program's wood, and no rapid goes through it.

#include "second_judge.h"

#include "support.h"

#include "job/derive.h"
#include "proof/resume.h"

#include <random>

using namespace wren;

namespace {

constexpr double cell = 0.5;

judge::Tool toolOf(const Bit& bit) {
    return {bitKindName(bit.kind), bit.diameter, bit.corner, bit.angle};
}

} // namespace

TEST_CASE("A program stopped and taken up again leaves the whole one's wood to a judge of its own",
          "[outside][judge][resume]") {
    const Derived d = derive(test::plainWith());
    const Setup& setup = d.job(Role::board)->held.face;
    std::mt19937 random(11);
    const judge::Point above{0, 0, setup.topZ() + 6};
    judge::Field before(setup.blank.length, setup.blank.width, setup.topZ(), cell);
    for (std::size_t i = 0; i < d.programs.size(); ++i) {
        const Program& p = d.programs[i].program;
        const judge::Tool tool = toolOf(p.bit);
        const std::vector<judge::Step> steps = judge::readProgram(p.text, above);
        judge::Field whole = before;
        for (const judge::Step& s : steps) {
            if (!s.rapid) {
                whole.cut(s, tool);
            }
        }
        for (int n = 0; n < 3; ++n) {
            const std::size_t stopped =
                std::uniform_int_distribution<std::size_t>(5, steps.size() - 2)(random);
            const int line = steps[stopped].line;
            for (const int from : {line, lastSafeLine(p.text, p.file, setup, p.zero, line)}) {
                INFO(p.file << " stopped in line " << line << ", taken up at " << from);
                judge::Field again = before;
                for (std::size_t k = 0; k <= stopped; ++k) {
                    if (!steps[k].rapid) {
                        again.cut(steps[k], tool);
                    }
                }
                const std::string rest = resumedFrom(p.text, p.file, setup, p.zero, from).text;
                double rapid = 0;
                for (const judge::Step& s : judge::readProgram(rest, above)) {
                    if (s.rapid) {
                        rapid = std::max(rapid, again.woodOver(s.to, tool));
                    } else {
                        CHECK((s.spindle && s.feed > 0));
                        again.cut(s, tool);
                    }
                }
                double worst = 0;
                for (int y = 0; y < whole.ny(); ++y) {
                    for (int x = 0; x < whole.nx(); ++x) {
                        worst = std::max(worst, std::abs(whole.at(x, y) - again.at(x, y)));
                    }
                }
                CHECK(worst < 0.01);
                CHECK(rapid < 0.01);
            }
        }
        before = whole;
    }
}
