#include "proof/load.h"

#include <algorithm>
#include <cmath>
#include <utility>

#include <fmt/format.h>

namespace wren {
namespace {

/// Energy to cut wood to chips, J/cm3 at a specific gravity of 0.6; from memory, for the size of
/// it.
constexpr double cuttingEnergy = 60;

/// The section of the bit's end down to a depth, mm2.
double sectionOf(const Bit& bit, double depth) {
    const EndShape end = EndShape::of(bit);
    if (end.plainFlat()) {
        return bit.diameter * depth;
    }
    constexpr int slices = 200;
    double sum = 0;
    for (int i = 0; i < slices; ++i) {
        sum += 2 * end.radiusAt(depth * (i + 0.5) / slices);
    }
    return sum * depth / slices;
}

constexpr double thin = 0.02;          ///< mm: what rounding leaves is no wood
constexpr double drillSideways = 0.02; ///< of its section: a drill has no edges for it
constexpr double steep = 0.25;         ///< mm of fall per mm of way, from which a move goes down
constexpr double joinsOver = 30;       ///< mm of light way between heavy ones that are one stretch
constexpr double feedRoom = 1.25;      ///< more than the recipe's own feeds

/// mm down per mm of way.
double fallOf(const Move& m) {
    const double way = m.length();
    return way > 0 ? (m.from.z - m.to.z) / way : 0;
}

/// mm2 of the bit seen from below.
double endOf(const Bit& bit) {
    return 3.14159265358979 / 4 * bit.diameter * bit.diameter;
}

/// How deep a plunge goes, as if it met wood under the whole of its end: a skim beside a wall is
/// next to nothing, however tall the wall is.
double plungeOf(const LoadTrace::Taken& t, const Bit& bit) {
    return t.volume / std::max(endOf(bit), t.footprint); // a few cells may be wider than the bit
}

/// A move, with so many before it as make its fall tell more than how its ends were rounded; no
/// steeper than by itself, or what follows a plunge would be blamed for it.
struct Going {
    double way = 0;  ///< mm
    double fall = 0; ///< mm down per mm of it
    LoadTrace::Taken taken;
};
Going goingAt(const Path& path, const LoadTrace& trace, std::size_t i) {
    constexpr double tells = 0.05; // mm; posted places are rounded to 0.001 mm or finer
    Going out;
    const double end = path[i].to.z;
    double start = end;
    for (std::size_t k = i + 1; k-- > 0 && path[k].cuts() && out.way < tells;) {
        const LoadTrace::Taken t = trace.whole(k);
        out.way += path[k].length();
        out.taken.volume += t.volume;
        out.taken.footprint += t.footprint;
        start = path[k].from.z;
    }
    out.fall = out.way > 0 ? std::min((start - end) / out.way, fallOf(path[i])) : 0;
    return out;
}

/// Whether a move drives the bit's end into wood. A finishing pass may run down a flank: it takes
/// next to nothing on its way.
bool drivenDown(const Going& g, bool straight, const OwnPass& own, double share) {
    return g.fall > steep && g.taken.volume > thin * g.taken.footprint &&
           (straight || g.taken.volume > g.way * own.area * share);
}

/// What a move may take per mm of its way, mm2: the bit's own pass, or going steeply down its own
/// end, since at the plunging feed it takes just that.
double grantedTo(const Move& m, const Bit& bit, const OwnPass& own) {
    if (bit.kind == BitKind::drill) {
        return drillSideways * own.area;
    }
    return fallOf(m) > steep ? std::max(own.area, endOf(bit)) : own.area;
}

/// The wood taken over the last loadWindow() mm before a place of a path.
struct LoadPlace {
    std::size_t move = 0;
    double fraction = 0;  ///< of that move
    double bin = 0;       ///< of the bin it ends, mm
    double way = 0;       ///< looked at, mm
    double volume = 0;    ///< mm3
    double footprint = 0; ///< mm2
    double ofOwn = 0;     ///< per mm of way, times what is granted to the moves
};

/// A bin of a way: how long it is, and what is taken in it.
struct LoadBin {
    double way, volume, footprint, ofOwn;

    double perMm() const { return way > 0 ? volume / way : 0; }
};

/// Beside a bit a few cells wide one cell of a wall may come away at once, as tall as the slot is
/// deep: the heaviest bin of a window counts no more than the next. By how much that one exceeds.
LoadBin spikeOf(const std::vector<LoadBin>& window, std::size_t first) {
    const LoadBin* most = nullptr;
    const LoadBin* next = nullptr;
    for (std::size_t i = first; i < window.size(); ++i) {
        if (!most || window[i].perMm() > most->perMm()) {
            next = std::exchange(most, &window[i]);
        } else if (!next || window[i].perMm() > next->perMm()) {
            next = &window[i];
        }
    }
    if (!next || most->volume <= 0) {
        return {};
    }
    const double over = 1 - next->perMm() / most->perMm();
    return {0, most->volume * over, 0, most->ofOwn * over};
}

/// Calls f(place) bin by bin along the cutting ways of a path; straight plunges are no ways.
template <typename F>
void overWindows(const Path& path, const LoadTrace& trace, const Bit& bit, const OwnPass& own,
                 F f) {
    std::vector<LoadBin> window;
    for (std::size_t i = 0; i < path.size(); ++i) {
        const Move& m = path[i];
        if (!m.cuts() || goesStraightDown(m)) {
            window.clear();
            continue;
        }
        const std::size_t n = trace.binsOf(i);
        const double granted = grantedTo(m, bit, own);
        const double bin = m.length() / double(n);
        for (std::size_t k = 0; k < n; ++k) {
            const LoadTrace::Taken t = trace.bin(i, k);
            window.push_back({bin, t.volume, t.footprint, t.volume / granted});
            LoadPlace place;
            place.move = i;
            place.fraction = (double(k) + 1) / double(n);
            place.bin = bin;
            std::size_t first = window.size();
            while (first > 0 && place.way < loadWindow(bit)) {
                const LoadBin& part = window[--first];
                place.way += part.way;
                place.volume += part.volume;
                place.footprint += part.footprint;
                place.ofOwn += part.ofOwn;
            }
            if (fewCellsWide(bit)) {
                const LoadBin spike = spikeOf(window, first);
                place.volume -= spike.volume;
                place.ofOwn -= spike.ofOwn;
            }
            window.erase(window.begin(), window.begin() + static_cast<std::ptrdiff_t>(first));
            place.way = std::max(place.way, loadWindow(bit));
            // A bit a few cells wide is counted a cell wider or narrower than it cuts, and takes no
            // more than its width.
            const double wide = place.footprint / place.way;
            const bool whole = fewCellsWide(bit) && wide > bit.diameter - trace.cell();
            const double share = whole ? bit.diameter / wide : 1;
            place.volume *= share;
            place.ofOwn *= share / place.way;
            f(place);
        }
    }
}

/// Keeps the heaviest places of a program.
class Worst {
public:
    Worst(const RunProgram& program, const LoadTrace& trace, const OwnPass& own)
        : program_(program), trace_(trace) {
        out_.program = program.file;
        out_.own = own;
        out_.ofAllowed.assign(program.path.size(), 0.0F);
    }

    ProgramLoad take() {
        for (std::size_t i = 0; i < program_.path.size(); ++i) {
            const Move& m = program_.path[i];
            if (!m.cuts()) {
                continue;
            }
            timeOf(i);
            const LoadTrace::Taken t = trace_.whole(i);
            if (t.volume > thin * t.footprint) {
                judgeFeed(i);
                if (goesStraightDown(m)) {
                    judgePlunge(i, t);
                }
            }
        }
        overWindows(program_.path, trace_, program_.bit, out_.own, [&](const LoadPlace& p) {
            if (p.footprint > 0) {
                const double width = std::min(p.footprint / p.way, program_.bit.diameter);
                const double area = p.volume / p.way;
                keep(out_.peak, p.move, p.fraction,
                     {area / width, width, area, p.ofOwn / out_.own.headroom()});
            }
        });
        return std::move(out_);
    }

private:
    struct Seen {
        double depth, width, area, ofAllowed;
    };

    void timeOf(std::size_t i) {
        const Move& m = program_.path[i];
        const std::size_t n = trace_.binsOf(i);
        const double seconds = n > 0 && m.feed > 0 ? m.length() / double(n) / m.feed * 60 : 0;
        for (std::size_t k = 0; k < n && m.feed > 0; ++k) {
            const bool wood = trace_.bin(i, k).footprint > 0;
            (wood ? out_.cutSeconds : out_.airSeconds) += seconds;
            if (wood && !out_.touch) {
                out_.touch = touchIn(i, k);
            }
        }
    }

    /// In a bin the end goes as deep as the wood it takes there is high.
    FirstTouch touchIn(std::size_t i, std::size_t k) const {
        const Move& m = program_.path[i];
        const double n = double(trace_.binsOf(i));
        const LoadTrace::Taken t = trace_.bin(i, k);
        const double from = m.at(double(k) / n).z;
        const double to = m.at((double(k) + 1) / n).z;
        const double z = std::min(from, to + t.volume / t.footprint);
        const double share = from > to ? (from - z) / (from - to) : 0;
        return {m.line, m.at((double(k) + share) / n)};
    }

    /// The chip along the way, and how fast the end is driven down.
    void judgeFeed(std::size_t i) {
        const Move& m = program_.path[i];
        const Going going = goingAt(program_.path, trace_, i);
        if (drivenDown(going, goesStraightDown(m), out_.own, 0.5)) {
            const double down = m.feed * going.fall;
            keep(out_.fall, i, 1, {0, 0, down, down / (out_.own.plunge * feedRoom)});
        }
        if (m.rpm > 0 && !goesStraightDown(m)) {
            const double chip = m.feed / (m.rpm * std::max(1, program_.bit.flutes));
            keep(out_.chip, i, 1, {0, 0, chip, chip / (out_.own.chip * feedRoom)});
        }
    }

    void judgePlunge(std::size_t i, const LoadTrace::Taken& t) {
        if (program_.bit.kind == BitKind::drill) {
            return;
        }
        const double deep = plungeOf(t, program_.bit);
        const double width =
            std::min(program_.bit.diameter, 2 * std::sqrt(t.footprint / 3.14159265358979));
        keep(out_.plunge, i, 1,
             {deep, width, t.footprint, deep / (out_.own.depth * out_.own.headroom())});
    }

    void keep(LoadPeak& worst, std::size_t move, double fraction, const Seen& seen) {
        float& own = out_.ofAllowed[move];
        own = std::max(own, static_cast<float>(seen.ofAllowed));
        if (seen.ofAllowed > worst.ofAllowed) {
            const Move& m = program_.path[move];
            worst = {seen.depth, seen.width, seen.area,     seen.ofAllowed,
                     m.line,     move,       m.at(fraction)};
        }
    }

    const RunProgram& program_;
    const LoadTrace& trace_;
    ProgramLoad out_;
};

/// "at 12.3 mm from the nut and 4.5 mm off the centreline".
std::string placeOf(const Setup& setup, Vec3 at) {
    return "at " + setup.told(setup.fromInstrument.toInstrument(at).xy());
}

Finding& stopFor(const Setup& setup, const RunProgram& program, const LoadPeak& peak,
                 const char* code, std::string message, double value, double limit,
                 Findings& findings) {
    Finding& f = sayOf(setup.part, findings, Weight::stop, code, std::move(message), value, limit);
    f.program = program.file;
    f.line = peak.line;
    f.atX = setup.fromInstrument.toInstrument(peak.at).x;
    return f;
}

} // namespace

const LoadPeak& ProgramLoad::worst() const {
    const LoadPeak* most = &peak;
    return plunge.ofAllowed > most->ofAllowed ? plunge : *most;
}

double ProgramLoad::most() const {
    return worst().ofAllowed;
}

int ProgramLoad::mostLine() const {
    return worst().line;
}

OwnPass ownPass(const Bit& bit, const Wood& wood, const Machine& machine,
                const std::vector<Cut>& cuts) {
    const auto passOf = [&](const Feeds& f) {
        OwnPass p;
        p.depth = f.depthPerPass;
        p.area = sectionOf(bit, f.depthPerPass);
        p.chip = f.rpm > 0 ? f.feed / (f.rpm * std::max(1, bit.flutes)) : 0;
        p.plunge = f.plunge;
        return p;
    };
    OwnPass own = passOf(feedsFor(bit, wood, machine));
    own.slender = bit.diameter >= 2 && bit.fluteLength > 5 * bit.diameter;
    for (const Cut& cut : cuts) {
        if (!(cut.bit == bit)) {
            continue;
        }
        const OwnPass set = passOf(cut.feeds);
        own.byHand = own.byHand || set.area > own.area || set.chip > own.chip;
        own.depth = std::max(own.depth, set.depth);
        own.area = std::max(own.area, set.area);
        own.chip = std::max(own.chip, set.chip);
        own.plunge = std::max(own.plunge, set.plunge);
    }
    return own;
}

ProgramLoad loadOf(const RunProgram& program, const LoadTrace& trace, const OwnPass& own,
                   const Wood& wood) {
    ProgramLoad load = Worst(program, trace, own).take();
    if (load.peak.ofAllowed > 0) {
        const double feed = program.path[load.peak.move].feed;
        load.watts = load.peak.area * feed / 60 / 1000 * cuttingEnergy * wood.specificGravity / 0.6;
    }
    return load;
}

bool goesStraightDown(const Move& m) {
    return m.cuts() && !m.isArc() && m.to.z < m.from.z && length(m.to.xy() - m.from.xy()) < 1e-6;
}

std::vector<std::size_t> plungesDeeperThan(double ofOwn, const RunProgram& program,
                                           const LoadTrace& trace, const OwnPass& own) {
    std::vector<std::size_t> out;
    for (std::size_t i = 0; i < program.path.size(); ++i) {
        if (program.bit.kind == BitKind::drill || !goesStraightDown(program.path[i])) {
            continue;
        }
        if (plungeOf(trace.whole(i), program.bit) > ofOwn * own.depth) {
            out.push_back(i);
        }
    }
    return out;
}

double feedDown(const Move& move, const OwnPass& own) {
    return fallOf(move) > steep ? std::min(move.feed, own.plunge / fallOf(move)) : move.feed;
}

double feedAllowed(const Move& move, const LoadTrace::Taken& taken, const OwnPass& own) {
    const Going alone{move.length(), fallOf(move), taken};
    return drivenDown(alone, goesStraightDown(move), own, 0.2) ? feedDown(move, own) : move.feed;
}

std::vector<PathStretch> heavierThan(double ofOwn, const RunProgram& program,
                                     const LoadTrace& trace, const OwnPass& own) {
    std::vector<PathStretch> out;
    double since = 0; // mm of way since the last one ended
    std::size_t last = 0;
    overWindows(program.path, trace, program.bit, own, [&](const LoadPlace& p) {
        since += p.bin;
        const bool broken =
            std::any_of(program.path.begin() + static_cast<std::ptrdiff_t>(last),
                        program.path.begin() + static_cast<std::ptrdiff_t>(p.move),
                        [](const Move& m) { return !m.cuts() || goesStraightDown(m); });
        last = p.move;
        if (broken) {
            since = 1e9;
        }
        if (p.ofOwn <= ofOwn) {
            return;
        }
        if (out.empty() || since > joinsOver) {
            out.push_back({p.move, p.fraction, p.move, p.fraction});
        }
        out.back().lastMove = p.move;
        out.back().lastFraction = p.fraction;
        since = 0;
    });
    return out;
}

Findings judgeLoads(const Setup& setup, const std::vector<RunProgram>& programs,
                    const std::vector<ProgramLoad>& loads) {
    Findings out;
    for (std::size_t i = 0; i < loads.size(); ++i) {
        const RunProgram& p = programs[i];
        const ProgramLoad& l = loads[i];
        const double room = l.own.headroom();
        if (l.peak.ofAllowed > 1) {
            const double most = l.own.area * room;
            const int digits = most < 1 ? 3 : 1;
            stopFor(setup, p, l.peak, "overload",
                    p.bit.kind == BitKind::drill
                        ? fmt::format("{}, line {}: {} is a drill and is moved sideways through "
                                      "{:.1f} mm of wood, {}.",
                                      p.file, l.peak.line, p.bit.name, l.peak.depth,
                                      placeOf(setup, l.peak.at))
                        : fmt::format(
                              "{}, line {}: {} takes {:.1f} mm deep over {:.1f} mm of its width, "
                              "{:.{}f} mm2, {}; its own pass takes {:.{}f} mm2 and {:.{}f} mm2 are "
                              "allowed.",
                              p.file, l.peak.line, p.bit.name, l.peak.depth, l.peak.width,
                              l.peak.area, digits, placeOf(setup, l.peak.at), l.own.area, digits,
                              most, digits),
                    l.peak.area, most, out);
        }
        if (l.plunge.ofAllowed > 1) {
            stopFor(setup, p, l.plunge, "plunge-deep",
                    fmt::format("{}, line {}: {} goes straight down through {:.1f} mm of wood, {}; "
                                "{:.1f} mm, its own pass and a little more, is allowed.",
                                p.file, l.plunge.line, p.bit.name, l.plunge.depth,
                                placeOf(setup, l.plunge.at), l.own.depth * room),
                    l.plunge.depth, l.own.depth * room, out);
        }
        if (l.fall.ofAllowed > 1) {
            stopFor(setup, p, l.fall, "plunge-fast",
                    fmt::format("{}, line {}: {} is driven down into wood at {:.0f} mm/min, {}; "
                                "{:.0f} mm/min is allowed.",
                                p.file, l.fall.line, p.bit.name, l.fall.area,
                                placeOf(setup, l.fall.at), l.own.plunge * 1.25),
                    l.fall.area, l.own.plunge * 1.25, out);
        }
        if (l.chip.ofAllowed > 1) {
            stopFor(setup, p, l.chip, "chip-load",
                    fmt::format("{}, line {}: {} takes {:.3f} mm a tooth, {}; {:.3f} mm is "
                                "allowed.",
                                p.file, l.chip.line, p.bit.name, l.chip.area,
                                placeOf(setup, l.chip.at), l.own.chip * 1.25),
                    l.chip.area, l.own.chip * 1.25, out);
        }
    }
    return out;
}

} // namespace wren
