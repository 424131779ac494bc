// What holding adds: clamps looked for and checked, foreign programs proved.

#include "best.h"

#include "job/check_on_part.h"
#include "job/clamps.h"
#include "job/store.h"

#include <benchmark/benchmark.h>

#include <fmt/format.h>

namespace {

using namespace wren;

/// Places for clamps at every setup of the demo; and its posted moves against the demo's own clamps,
/// over the whole of its proof.
void clampsOfAll(benchmark::State& state) {
    const Project demo = loadProject(WREN_DEMO);
    const Derived d = derive(demo);
    for (auto _ : state) {
        const double places = bestOfFive([&] {
            for (const PartJob& job : d.parts) {
                for (std::size_t side = 0; side < job.held.sides(); ++side) {
                    benchmark::DoNotOptimize(suggestedClamps(d, job, side));
                }
            }
        });
        const auto check = [&] { benchmark::DoNotOptimize(judgeClamps(d)); };
        Derived planned = deriveDrawing(demo);
        derivePrograms(planned);
        const auto prove = [&] {
            Derived proved = planned;
            deriveProof(proved);
        };
        const auto [checked, proved] = bestInTurn(check, prove);
        state.counters["places_ms"] = 1000 * places;
        state.counters["check_ms"] = 1000 * checked;
        state.counters["of_proof"] = checked / (proved - checked);
    }
}
BENCHMARK(clampsOfAll)->Iterations(1)->Unit(benchmark::kMillisecond);

/// 200,000 lines to and fro over the board's face, half of them in its wood; the last strays.
void foreignProgram(benchmark::State& state) {
    const Derived d = derive(loadProject(WREN_DEMO));
    const PartJob& board = *d.job(Role::board);
    const Setup& s = board.held.face;
    std::string text = "G21 G90\nS12000 M3\nG0 Z15\nX40 Y10\nG1 Z6.6 F600\n";
    constexpr int lines = 200000;
    for (int i = 0; i < lines; ++i) {
        text += fmt::format("G1 X{:.3f} Y{:.3f} F2000\n", 40.0 + (i % 400), 8 + 60.0 * i / lines);
    }
    text += "Z3\nX60\nG0 Z15\nM5\nM2\n";
    const Bit& bit = *findBit(d.project.bits, "flat-6");
    for (auto _ : state) {
        bool strays = false;
        const double seconds = bestOfFive([&] {
            const ProgramCheck c = checkOnPart(d, board, {}, text, "foreign.nc", bit);
            strays = std::any_of(c.findings.begin(), c.findings.end(),
                                 [](const Finding& f) { return f.code == "strays"; });
        });
        state.counters["seconds"] = seconds;
        state.counters["strays"] = strays ? 1 : 0;
        state.counters["blank_mm"] = s.blank.length;
    }
}
BENCHMARK(foreignProgram)->Iterations(1)->Unit(benchmark::kMillisecond);

} // namespace
