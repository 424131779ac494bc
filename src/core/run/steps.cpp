#include "run/steps.h"

#include "base/error.h"
#include "cut/settings.h"
#include "hold/fixture_board.h"
#include "run/on_bed.h"

#include <cmath>

#include <fmt/format.h>

namespace wren {

std::vector<Vec2> probePlaces(const Setup& setup, const Machine& machine, std::size_t station,
                              bool onFixture) {
    constexpr double corner = 4; ///< mm in from the blank's edges
    constexpr double step = 20;  ///< between places along them
    const Vec2 zero = setup.zeroOn(station);
    const Vec2 low = machine.lowCorner();
    const Blank& b = setup.blank;
    const bool bed = setup.zZero == ZZero::bed;
    std::vector<Vec2> places;
    if (!setup.stations.empty()) { // by the first pin, which every station has on the machine
        constexpr double besidePin = 20;
        const Vec2 pin = setup.zeroOf(station);
        places.push_back(zero +
                         (bed ? Vec2{pin.x, -besideBlank} : Vec2{pin.x + besidePin, pin.y / 2}));
    }
    const double off = bed ? besideBlank : -corner; // outside the blank's edges
    const auto alongEnds = [&] {
        for (double y = corner; y < b.width; y += step) {
            places.push_back(zero + Vec2{-off, y});
            places.push_back(zero + Vec2{b.length + off, y});
        }
    };
    const auto alongEdges = [&] {
        for (double x = corner; x < b.length; x += step) {
            places.push_back(zero + Vec2{x, -off});
            places.push_back(zero + Vec2{x, b.width + off});
        }
    };
    // A fixture board reaches out at the blank's ends, under a blank that slides along its edges.
    if (!bed || !onFixture || setup.stations.empty()) {
        alongEnds();
    }
    if (!bed || !onFixture || !setup.stations.empty()) {
        alongEdges();
    }
    std::erase_if(places, [&](Vec2 p) {
        return p.x < low.x || p.y < low.y || p.x > low.x + machine.travel.x ||
               p.y > low.y + machine.travel.y;
    });
    if (places.empty()) {
        throw Error(fmt::format("{} cannot reach a place for the probe plate {}; the zero stands "
                                "at X {:.1f}, Y {:.1f}.",
                                machine.name,
                                bed ? fmt::format("{:.0f} mm beside the blank", besideBlank)
                                    : std::string("near the blank's edges"),
                                zero.x, zero.y));
    }
    return places;
}

namespace {

constexpr double probeFeed = 400; ///< mm/min

/// Whatever goes wrong, the machine stands.
template <typename F>
void orHalt(Talk& talk, F f) {
    try {
        f();
    } catch (const std::exception&) {
        talk.halt();
        throw;
    }
}

} // namespace

void unlock(Talk& talk) {
    orHalt(talk, [&] {
        talk.ask();
        if (talk.status().state == "alarm") {
            talk.command("unlock", talk.speech().controller().unlock);
        }
    });
}

void home(Talk& talk) {
    orHalt(talk, [&] { talk.command("home", talk.speech().controller().home); });
}

void lift(Talk& talk) {
    orHalt(talk, [&] { talk.command("lift", talk.speech().controller().lift); });
}

void travelTo(Talk& talk, Vec2 machine) {
    orHalt(talk, [&] {
        talk.line("G21 G90");
        lift(talk);
        talk.command("travel", talk.speech().controller().travel,
                     {{"x", machine.x}, {"y", machine.y}});
    });
}

void jog(Talk& talk, Vec3 by, double feed) {
    orHalt(talk, [&] {
        talk.command("jog", talk.speech().controller().jog,
                     {{"x", by.x}, {"y", by.y}, {"z", by.z}, {"feed", feed}});
    });
}

double probe(Talk& talk, const Machine& machine) {
    double touched = 0;
    orHalt(talk, [&] {
        talk.command("probe", talk.speech().controller().probe,
                     {{"z", -(machine.travel.z - 0.1)}, {"feed", probeFeed}});
        if (!talk.probed()) {
            throw Error("The machine acknowledged the probe and did not say where it touched.");
        }
        touched = talk.probed()->z;
    });
    return touched;
}

std::string doubtOf(double plateZ, const Setup& setup, const Machine& machine,
                    std::optional<double> bedZ) {
    constexpr double measured = 0.5; ///< mm: a blank is known that well; common practice, no source
    const double zero = plateZ - machine.plate;
    const double thick = bedZ ? zero - *bedZ : setup.blank.thickness;
    if (setup.zZero == ZZero::top && std::abs(thick - setup.blank.thickness) > measured) {
        return fmt::format("By this the blank is {:.2f} mm thick, and it was measured as {:.2f} "
                           "mm: the plate lies on something else, or the blank is another.",
                           thick, setup.blank.thickness);
    }
    const double high = zero + setup.topZ() + clearanceHeight;
    const double low = zero + setup.bottomZ();
    if (high <= 1e-6 && low >= -machine.travel.z - 1e-6) {
        return {};
    }
    return fmt::format("The probe touched at {:.2f} mm, and then the blank would lie from "
                       "{:.1f} to {:.1f} mm on an axis that travels from {:.1f} to 0: "
                       "something else was touched, or the plate's thickness is wrong.",
                       plateZ, low, high - clearanceHeight, -machine.travel.z);
}

void setZero(Talk& talk, const Setup& setup, const Machine& machine, std::size_t station,
             double plateZ) {
    orHalt(talk, [&] {
        const Controller& c = talk.speech().controller();
        const Vec2 zero = setup.zeroOn(station) + setup.zeroOf(station);
        talk.command("zero", c.zero,
                     {{"offset", c.offset},
                      {"x", zero.x},
                      {"y", zero.y},
                      {"z", plateZ - machine.plate}});
    });
}

std::vector<std::string> missingWords(const Controller& c) {
    std::vector<std::string> out;
    for (const auto& [name, word] : {std::pair{"home", c.home},
                                     {"travel", c.travel},
                                     {"lift", c.lift},
                                     {"probe", c.probe},
                                     {"zero", c.zero}}) {
        if (word.empty()) {
            out.emplace_back(name);
        }
    }
    return out;
}

void readyAll(Talk& talk, const Setup& setup, const Machine& machine, std::size_t station,
              std::optional<Vec2> spot, double under) {
    const Vec2 place = spot ? *spot : probePlaces(setup, machine, station).front();
    unlock(talk);
    home(talk);
    orHalt(talk, [&] {
        talk.line("G21 G90");
        layOnBed(talk, onBed(setup, station, under));
        talk.command("travel", talk.speech().controller().travel, {{"x", place.x}, {"y", place.y}});
        const double touched = probe(talk, machine);
        constexpr double off = 1; ///< mm: it was sent there
        if (length(talk.probed()->xy() - place) > off) {
            throw Error(fmt::format("The machine was sent to probe at X {:.1f}, Y {:.1f} and says "
                                    "it did at X {:.1f}, Y {:.1f}.",
                                    place.x, place.y, talk.probed()->x, talk.probed()->y));
        }
        if (const std::string doubt = doubtOf(touched, setup, machine); !doubt.empty()) {
            throw Error(doubt);
        }
        setZero(talk, setup, machine, station, touched);
        lift(talk);
    });
}

} // namespace wren
