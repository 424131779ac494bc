#pragma once

#include "base/error.h"
#include "run/link.h"
#include "run/machine_sim.h"

#include <algorithm>
#include <chrono>
#include <string>
#include <thread>

namespace wren::test {

/// A stand-in on a wire of its own, its time going on as it is listened to.
class SimLink : public Link {
public:
    explicit SimLink(const MachineSimOptions& options) : sim(options) {}

    void send(std::string_view bytes) override {
        said += bytes;
        sim.feed(bytes);
    }
    std::string receive(int milliseconds) override {
        for (int i = 0; i < 20; ++i) {
            sim.advance(stepSeconds);
            if (sim.hungUp()) {
                throw Error("The machine at the wire is gone (hung up).");
            }
            const std::string out = sim.takeBytes();
            if (!out.empty()) {
                return out;
            }
        }
        std::this_thread::sleep_for(std::chrono::milliseconds(std::min(milliseconds, 1)));
        return {};
    }

    MachineSim sim;
    double stepSeconds = 0.05; ///< of the machine's time
    std::string said;          ///< everything that was sent
};

} // namespace wren::test
