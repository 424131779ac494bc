#include "way_file.h"
#include "wire.h"

#include "base/error.h"
#include "base/files.h"
#include "job/check.h"
#include "run/machine_sim.h"

#include <CLI/CLI.hpp>
#include <fmt/format.h>

#include <chrono>
#include <cmath>
#include <csignal>
#include <cstdio>
#include <cstdlib>
#include <unistd.h>

namespace {

volatile std::sig_atomic_t asked = 0;

void leave(int) {
    asked = 1;
}

void work(wren::Wire& wire, wren::MachineSim& machine, double speed, bool withParent,
          wren::WayFile* way) {
    using Clock = std::chrono::steady_clock;
    std::string incoming;
    auto last = Clock::now();
    const pid_t parent = ::getppid();
    while (!asked && !(withParent && ::getppid() != parent)) {
        const bool busy = machine.state() == wren::MachineSim::State::run;
        if (wire.receive(incoming, busy ? 2 : 50)) {
            machine.dropBuffer();
            incoming.clear();
        }
        const auto now = Clock::now();
        machine.advance(std::chrono::duration<double>(now - last).count() * speed);
        last = now;
        machine.feed(incoming);
        incoming.clear();
        if (way) {
            way->flush();
        }
        const std::string out = machine.takeBytes();
        if (!out.empty()) {
            wire.send(out);
        }
        if (machine.hungUp() && !wire.hangUp()) {
            return; // a terminal is gone for good
        }
    }
}

wren::Controller controllerFor(const std::string& manner, const std::string& describe) {
    if (!describe.empty()) {
        return wren::controllerFromJson(wren::readFile(describe), describe);
    }
    std::vector<std::string> names;
    for (const wren::Controller& c : wren::shippedControllers()) {
        if (c.name == manner || manner.empty()) {
            return c;
        }
        names.push_back(c.name);
    }
    throw wren::Error(fmt::format("There is no manner \"{}\"; one of {} was expected.", manner,
                                  fmt::join(names, ", ")));
}

} // namespace

int main(int argc, char** argv) {
    CLI::App app{
        "A simulated bench router: takes G-code on a pseudo-terminal, or with --tcp on a "
        "loopback port. It speaks the words of a description; its own are in docs/controller.md: "
        "lines are answered with ok or error:N; ? tells state and position; home, jog X Y Z F, "
        "probe Z F, hold, resume and reset are understood.",
        "wren-controller"};
    wren::MachineSimOptions options;
    int port = -1;
    double speed = 1;
    std::string travel, wayFile;
    bool withParent = false;
    std::string manner, describe;
    std::vector<std::string> faults;
    app.add_option("--manner", manner, "the words it speaks: stand-in, plain or signals");
    app.add_option("--describe", describe, "the words it speaks, from a description (JSON)");
    app.add_option("--fault", faults,
                   fmt::format("KIND@LINE, what goes wrong at the answer to its so-many-eth line: {}",
                               fmt::join(wren::faultNames, ", ")));
    app.add_option("--tcp", port, "listen on 127.0.0.1:PORT (0: any free one) instead")
        ->check(CLI::Range(0, 65535));
    app.add_option("--speed", speed, "run so many times faster than real time")
        ->check(CLI::Range(0.01, 100000.0))
        ->check([](const std::string& text) { // "nan" is in every range
            return std::isfinite(std::strtod(text.c_str(), nullptr)) ? "" : "a number was expected";
        });
    app.add_flag("--with-parent", withParent, "end when the program that started it does");
    app.add_option("--travel", travel, "travel X,Y,Z in mm (900,600,110)");
    app.add_option("--buffer", options.bufferBytes, "bytes of unanswered lines it holds (512)")
        ->check(CLI::Range(32, 65536));
    app.add_option("--bed-z", options.bedZ, "machine Z at which the bit touches the bed (-100)");
    app.add_option("--plate-on", options.plateOn,
                   "height above the bed of what the probe plate lies on (0)");
    app.add_option("--way", wayFile, "writes down the way it really goes, as G-code, to this file");
    try {
        app.parse(argc, argv);
    } catch (const CLI::Success& help) {
        return app.exit(help);
    } catch (const CLI::ParseError& e) {
        fmt::print(stderr, "wren-controller: {} (see wren-controller --help)\n", e.what());
        return 2;
    }
    std::signal(SIGINT, leave);
    std::signal(SIGTERM, leave);
    std::signal(SIGPIPE, SIG_IGN);
    try {
        if (!travel.empty()) {
            options.machine.travel = wren::parseBed(travel);
        }
        options.controller = controllerFor(manner, describe);
        for (const std::string& fault : faults) {
            options.faults.push_back(wren::faultFrom(fault));
        }
        if (options.controller.buffer > 0) {
            options.bufferBytes = static_cast<std::size_t>(options.controller.buffer);
        }
        wren::Wire wire = port >= 0 ? wren::Wire::tcp(port) : wren::Wire::pseudoTerminal();
        fmt::print("{}\n", wire.address());
        std::fflush(stdout);
        std::optional<wren::WayFile> way;
        if (!wayFile.empty()) {
            way.emplace(wayFile);
            options.gone = [&way](const wren::Move& m, wren::Vec3 zero) { way->add(m, zero); };
        }
        wren::MachineSim machine(options);
        work(wire, machine, speed, withParent, way ? &*way : nullptr);
    } catch (const wren::Error& e) {
        fmt::print(stderr, "wren-controller: {}\n", e.what());
        return 1;
    }
    return 0;
}
