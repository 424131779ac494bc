#pragma once

// What a stand-in really did (wren-controller --way) in place of what was posted, and the wood that
// comes of it.

#include "support.h"

#include "base/files.h"
#include "job/derive.h"
#include "proof/part_run.h"
#include "proof/rs274.h"

#include <map>
#include <sstream>

namespace wren::test {

/// The ways a stand-in writes down, cut apart where the hands move on.
class WayRead {
public:
    /// Begins with another stand-in's file.
    void follow(const std::string& file) {
        file_ = file;
        seen_ = 0;
        at_ = {};
    }
    /// What was gone since the last call, in the last work zero it had.
    Path since() {
        std::string text = readFile(file_).substr(seen_);
        text.resize(text.rfind('\n') == std::string::npos ? 0 : text.rfind('\n') + 1);
        seen_ += text.size();
        if (const auto zero = text.rfind("(work zero"); zero != std::string::npos) {
            text = text.substr(zero);
        }
        const Path path = readProgram("G21 G90 G17\n" + text, file_, at_).path;
        at_ = path.empty() ? at_ : path.back().to;
        return path;
    }

private:
    std::string file_;
    std::size_t seen_ = 0;
    Vec3 at_;
};

/// The part's wood as those ways leave it, beside that of its posted programs: the furthest that
/// any cell's height is off, mm, where no cell beside it has that height (a wall between the two
/// middles of cells is the same wall).
inline double woodOff(const Derived& d, const PartJob& job, const std::map<int, Path>& gone,
                      double cell) {
    PartJob done = job;
    for (std::size_t i = 0; i < d.programs.size(); ++i) {
        const ProgramPlace place = d.placeOf(i);
        if (place.job == &job) {
            RunProgram& read = done.read[place.side][place.index];
            const auto way = gone.find(int(i) + 1);
            read.path = way == gone.end() ? Path()
                                          : movedBy(way->second, place.setup().zeroOf(read.station));
        }
    }
    const std::size_t last = job.held.sides() - 1;
    const Stock want = stockAt(sidesOf(d, job), last, {}, cell);
    const Stock have = stockAt(sidesOf(d, done), last, {}, cell);
    REQUIRE(want.rows() == have.rows());
    const auto off = [&](const Stock& a, const Stock& b, bool high) {
        double worst = 0;
        for (int r = 1; r + 1 < a.rows(); ++r) {
            for (int c = 1; c + 1 < a.columns(); ++c) {
                const auto of = [&](const Stock& s, int x, int y) {
                    const double empty = s.bottomZ();
                    return !s.wood(x, y) ? empty : double(high ? s.high(x, y) : s.low(x, y));
                };
                const double v = of(a, c, r);
                double least = std::abs(v - of(b, c, r));
                for (int k = 0; k < 9 && least > 0.01; ++k) {
                    least = std::min(least, std::abs(v - of(b, c - 1 + k % 3, r - 1 + k / 3)));
                }
                worst = std::max(worst, least);
            }
        }
        return worst;
    };
    return std::max({off(want, have, true), off(have, want, true), off(want, have, false),
                     off(have, want, false)});
}

} // namespace wren::test
