#include "commands.h"

#include "base/error.h"
#include "base/heap.h"
#include "job/shop_boards.h"
#include "job/store.h"

#include <CLI/CLI.hpp>
#include <fmt/format.h>
#include <fmt/ranges.h>

#include <algorithm>
#include <cstdio>

namespace wren::cli {

void complain(const std::string& sentence) {
    fmt::print(stderr, "wren: {}\n", sentence);
}

Project projectWith(const std::string& file, const std::string& part) {
    const Project project = loadProject(file);
    const std::optional<PartId> id = PartId::named(part);
    return id ? wanting(project, *id) : project;
}

PartId partOf(const Derived& d, const std::string& name, const std::string& file) {
    const std::vector<PartId> parts = makeable(d);
    const std::optional<PartId> part = PartId::named(name);
    if (part && std::find(parts.begin(), parts.end(), *part) != parts.end()) {
        return *part;
    }
    if (part) { // wanted, and why it is not there
        const Findings found = deriveDrawing(wanting(d.project, *part), &d).findings;
        const auto why = std::find_if(found.begin(), found.end(), [&](const Finding& f) {
            return f.part == *part && f.weight == Weight::stop;
        });
        if (why != found.end()) {
            throw Error(why->message);
        }
    }
    std::vector<std::string> names;
    names.reserve(parts.size());
    for (PartId p : parts) {
        names.push_back(p.name());
    }
    throw Error(fmt::format("There is no part \"{}\" in {}; its parts are: {}.", name, file,
                            fmt::join(names, ", ")));
}

} // namespace wren::cli

int main(int argc, char** argv) {
    wren::keepFreedPages();
    CLI::App app{
        "Upland Wren without the window: from a design to proven programs and a logged run.",
        "wren"};
    app.set_version_flag("--version", WREN_VERSION);
    app.require_subcommand(1);
    wren::cli::addDesignCommands(app);
    wren::cli::addWholeCommands(app);
    wren::cli::addProgramCommands(app);
    wren::cli::addTrustCommands(app);
    wren::cli::addBedCommands(app);
    wren::cli::addMachineCommands(app);
    wren::cli::addLinkCommands(app);
    wren::cli::addMeasureCommand(app);
    wren::cli::addCardCommand(app);

    try {
        app.parse(argc, argv); // runs the command
    } catch (const CLI::Success& asked) {
        return app.exit(asked); // --help, --version
    } catch (const CLI::ParseError& e) {
        wren::cli::complain(std::string(e.what()) + " (see wren --help)");
        return wren::cli::usage;
    } catch (const wren::cli::Exit& e) {
        return e.code;
    } catch (const wren::Error& e) {
        wren::cli::complain(e.what());
        return wren::cli::refused;
    } catch (const std::exception& e) {
        wren::cli::complain(fmt::format("An unexpected fault: {}.", e.what()));
        return wren::cli::refused;
    }
    return 0;
}
