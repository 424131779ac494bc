// Talking to a machine one thing at a time, and how it is spoken to.
#include "commands.h"

#include "base/error.h"
#include "base/files.h"
#include "job/store.h"
#include "run/steps.h"

#include <CLI/CLI.hpp>
#include <fmt/format.h>

#include <csignal>
#include <memory>

namespace wren::cli {
namespace {

SendControl control;

void stop(int) {
    control.stop = true;
}

struct LinkOptions {
    std::string file, address, describe, out, in, by, plate, shipped;
    double feed = 1500;
};

/// The description asked for: a file of its own, a project's, or the stand-in's.
Controller controllerOf(const LinkOptions& o) {
    if (!o.describe.empty()) {
        return controllerFromJson(readFile(o.describe), o.describe);
    }
    return o.file.empty() ? Controller() : loadProject(o.file).machine.talk;
}

Machine machineOf(const LinkOptions& o) {
    return o.file.empty() ? Machine() : loadProject(o.file).machine;
}

/// "X10 Y-2.5", lengths as typed.
Vec3 wayFrom(const std::string& text) {
    Vec3 by;
    std::istringstream words(text);
    std::string word;
    bool any = false;
    while (words >> word) {
        const char axis = static_cast<char>(std::toupper(static_cast<unsigned char>(word[0])));
        double* const which = axis == 'X' ? &by.x : axis == 'Y' ? &by.y : axis == 'Z' ? &by.z : nullptr;
        if (!which || word.size() < 2) {
            throw Error(fmt::format("\"{}\" is no way to jog; X10 Y-2.5 was expected.", text));
        }
        *which = parseLength(word.substr(1), LengthUnit::mm);
        any = true;
    }
    if (!any) {
        throw Error("A jog goes somewhere; X10 Y-2.5 was expected.");
    }
    return by;
}

void withTalk(const LinkOptions& o, const std::function<void(Talk&)>& f) {
    for (int signal : {SIGINT, SIGTERM, SIGHUP}) {
        std::signal(signal, stop);
    }
    const auto link = openLink(o.address);
    Talk talk(*link, controllerOf(o), control);
    f(talk);
}

void where(const Talk& talk) {
    const MachineStatus& s = talk.status();
    fmt::print("{}, machine X {:.3f} Y {:.3f} Z {:.3f}, work X {:.3f} Y {:.3f} Z {:.3f}\n",
               s.state.empty() ? "its state is not told" : s.state, s.position.x, s.position.y,
               s.position.z, s.work.x, s.work.y, s.work.z);
}

void jogBy(const LinkOptions& o) {
    const Vec3 by = wayFrom(o.by);
    withTalk(o, [&](Talk& talk) {
        jog(talk, by, o.feed);
        talk.waitForIdle();
        where(talk);
    });
}

void probeHere(const LinkOptions& o) {
    Machine machine = machineOf(o);
    if (!o.plate.empty()) {
        machine.plate = parseLength(o.plate, LengthUnit::mm);
    }
    withTalk(o, [&](Talk& talk) {
        const double touched = probe(talk, machine);
        fmt::print("The plate was touched at machine Z {:.3f}; what it lies on is at {:.3f}.\n",
                   touched, touched - machine.plate);
    });
}

void describe(const LinkOptions& o) {
    if (o.out.empty() == o.in.empty()) {
        throw Error("--export or --import was expected, one of them.");
    }
    if (!o.out.empty()) {
        Controller c = controllerOf(o);
        for (const Controller& shipped : shippedControllers()) {
            c = shipped.name == o.shipped ? shipped : c;
        }
        if (!o.shipped.empty() && c.name != o.shipped) {
            throw Error(fmt::format("No description \"{}\" is shipped; stand-in, plain or signals "
                                    "was expected.",
                                    o.shipped));
        }
        writeFilesSafely({{o.out, controllerToJson(c)}});
        fmt::print("The description \"{}\" is in {}.\n", c.name, o.out);
        return;
    }
    if (o.file.empty()) {
        throw Error("--import wants the project whose machine is spoken to so.");
    }
    Project p = loadProject(o.file);
    p.machine.talk = controllerFromJson(readFile(o.in), o.in);
    saveProject(p, o.file);
    fmt::print("{} is spoken to as \"{}\" now.\n", p.machine.name, p.machine.talk.name);
}

void ports() {
    const std::vector<SerialPort> all = serialPorts();
    for (const SerialPort& port : all) {
        fmt::print("serial:{}  {}\n", port.name, port.words);
    }
    if (all.empty()) {
        fmt::print("This computer has no serial ports.\n");
    }
}

} // namespace

void addLinkCommands(CLI::App& app) {
    auto o = std::make_shared<LinkOptions>();
    const auto talks = [&](CLI::App* c) {
        c->add_option("--to", o->address, "tcp:127.0.0.1:PORT, serial:NAME@RATE or tty:PATH")
            ->required();
        c->add_option("--project", o->file, "the project whose machine it is");
        c->add_option("--describe", o->describe, "how the controller is spoken to (JSON)");
    };
    CLI::App* j = app.add_subcommand("jog", "Move a machine by so much.");
    j->add_option("WAY", o->by, "as \"X10 Y-2.5\"; lengths in mm unless they say otherwise")
        ->required();
    j->add_option("--feed", o->feed, "mm/min (1500)")->check(CLI::Range(1.0, 60000.0));
    talks(j);
    j->callback([o] { jogBy(*o); });

    CLI::App* p = app.add_subcommand("probe", "Go down until the probe plate is touched.");
    p->add_option("--plate", o->plate, "the plate's thickness");
    talks(p);
    p->callback([o] { probeHere(*o); });

    CLI::App* d = app.add_subcommand("describe", "How a controller is spoken to, as a small file.");
    d->add_option("FILE", o->file, "the project whose machine it is");
    d->add_option("--export", o->out, "write the description there");
    d->add_option("--as", o->shipped, "with --export: one that is shipped: stand-in, plain, signals");
    d->add_option("--import", o->in, "take the description from there");
    d->callback([o] { describe(*o); });

    CLI::App* s = app.add_subcommand("ports", "The serial ports of this computer.");
    s->callback([] { ports(); });
}

} // namespace wren::cli
