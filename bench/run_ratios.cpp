// Streaming: short moves without starving, and a program as long as they come.
#include "book/search.h"
#include "proof/rs274.h"
#include "run/machine_sim.h"
#include "run/sender.h"

#include <benchmark/benchmark.h>

#include <chrono>
#include <fstream>
#include <string>

#include <fmt/format.h>

using namespace wren;

namespace {

/// A stand-in that takes moves as fast as they come, and counts when it had none.
class Sink : public Link {
public:
    explicit Sink(const MachineSimOptions& o) : sim(o) {}
    void send(std::string_view bytes) override { sim.feed(bytes); }
    std::string receive(int) override {
        sim.advance(step);
        starved += sim.state() == MachineSim::State::idle ? 1 : 0;
        ++asked;
        return sim.takeBytes();
    }
    MachineSim sim;
    double step = 0.005;
    long starved = 0, asked = 0;
};

std::string shortMoves(int n, double length) {
    std::string text = "G21\nG90 G17 G94 G54\nG1 F3000\n";
    for (int i = 0; i < n; ++i) {
        text += fmt::format("X{:.3f} Y{:.3f}\n", 100 + length * (i % 800 < 400 ? i % 400 : 400 - i % 400), 100 + 0.01 * (i % 3));
    }
    return text + "M2\n";
}

long residentKb() {
    std::ifstream in("/proc/self/statm");
    long pages = 0;
    in >> pages >> pages;
    return pages * 4;
}

/// How many short moves go out for a second of computing; wants 1,000.
void shortMovesASecond(benchmark::State& state) {
    MachineSimOptions o;
    o.machine.acceleration = {1e6, 1e6, 1e6};
    o.machine.cornerSpeed = 1000;
    o.machine.maxFeed = 60000;
    Sink sink(o);
    SendControl control;
    Sender sender(sink, control);
    constexpr int moves = 20000;
    const std::string text = shortMoves(moves, 0.05);
    for (auto _ : state) {
        const auto from = std::chrono::steady_clock::now();
        const SendResult r = sender.send(text);
        const double seconds =
            std::chrono::duration<double>(std::chrono::steady_clock::now() - from).count();
        state.counters["moves_a_second"] = moves / seconds;
        state.counters["moves_a_machine_second"] = moves / r.machineSeconds;
        state.counters["starved_percent"] = 100.0 * double(sink.starved) / double(sink.asked);
        state.counters["done"] = r.outcome == SendOutcome::done ? 1 : 0;
        state.counters["wants"] = 1000;
    }
}
BENCHMARK(shortMovesASecond)->Iterations(1)->Unit(benchmark::kMillisecond);

/// A million lines: read within 2 s, and streamed in memory that does not grow with what is sent.
void millionLines(benchmark::State& state) {
    const std::string text = shortMoves(1000000, 0.05);
    for (auto _ : state) {
        const auto from = std::chrono::steady_clock::now();
        const ProgramReading reading = readProgram(text, "million");
        const double opened =
            std::chrono::duration<double>(std::chrono::steady_clock::now() - from).count();
        MachineSimOptions o;
        o.machine.acceleration = {1e6, 1e6, 1e6};
        o.machine.cornerSpeed = 1000;
        o.machine.maxFeed = 60000;
        Sink sink(o);
        sink.step = 0.05;
        SendControl control;
        Sender sender(sink, control);
        long atTenth = 0, most = 0;
        const SendResult r = sender.send(text, [&](const SendProgress& p) {
            if (p.acknowledged % 50000 == 0) {
                const long now = residentKb();
                atTenth = p.acknowledged == 100000 ? now : atTenth;
                most = std::max(most, now);
            }
        });
        state.counters["lines"] = reading.lines;
        state.counters["opened_s"] = opened;
        state.counters["wants_s"] = 2;
        state.counters["grown_kb"] = double(most - atTenth);
        state.counters["done"] = r.outcome == SendOutcome::done ? 1 : 0;
    }
}
BENCHMARK(millionLines)->Iterations(1)->Unit(benchmark::kMillisecond);

} // namespace

/// A hundred thousand runs searched as one types: the share of 100 ms it takes.
void searchedRuns(benchmark::State& state) {
    std::vector<RunRecord> runs;
    for (int i = 0; i < 100000; ++i) {
        RunRecord r;
        r.start = fmt::format("2026-{:02}-{:02}T10:00:00Z", 1 + i % 12, 1 + i % 28);
        r.project = fmt::format("Whinchat {}", i % 400);
        r.part = i % 3 ? "neck" : "body";
        r.program = fmt::format("{:02}-{}-outline-flat-6.nc", i % 31, r.part);
        r.bit = "flat-6";
        r.wood = i % 2 ? "white-ash" : "hard-maple";
        r.cuts = "rough + outline";
        r.outcome = "done";
        runs.push_back(std::move(r));
    }
    const std::vector<std::string> texts = searchTexts(runs);
    std::size_t hits = 0;
    double worst = 0;
    for (auto _ : state) {
        for (const char* typed : {"w", "whinchat 39", "ash body outline", "nothing at all", ""}) {
            const auto from = std::chrono::steady_clock::now();
            hits += found(texts, typed).size();
            worst = std::max(worst, std::chrono::duration<double, std::milli>(
                                        std::chrono::steady_clock::now() - from)
                                        .count());
        }
    }
    state.counters["worst_ms"] = worst;
    state.counters["of_100_ms"] = worst / 100;
    state.counters["hits"] = double(hits);
}
BENCHMARK(searchedRuns)->Iterations(1)->Unit(benchmark::kMillisecond);
