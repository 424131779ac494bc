#include "proof/simulate.h"

#include "base/error.h"
#include "cut/bit_chooser.h"
#include "proof/rs274.h"
#include "proof/swept_arc.h"

#include <algorithm>
#include <map>

#include <tbb/parallel_for.h>

namespace wren {
namespace {

constexpr int rowsPerBand = 16;
/// Float heights and touching surfaces make contact look like entry by less than this, mm.
constexpr double touch = 0.01;

/// Places of an arc's way up to which its chords are quicker than the arc itself.
constexpr std::size_t fewChords = 3;

using CollisionKey = std::pair<std::size_t, Collision::Kind>;
using Collisions = std::map<CollisionKey, Collision>;

void keepFirst(Collisions& all, const Collision& c) {
    const auto [it, fresh] = all.emplace(CollisionKey{c.program, c.kind}, c);
    if (!fresh) {
        if (c.move < it->second.move) {
            it->second = c;
        } else if (c.move == it->second.move) {
            it->second.depth = std::max(it->second.depth, c.depth);
        }
    }
}

/// What every band needs to know about a program before it starts.
struct Prepared {
    EndShape tool;
    EndShape body; ///< what stands above the flutes
    bool fluteMatters = false;
    EndShape holder; ///< the collet nut
    bool holderMatters = false;
    std::vector<std::pair<double, double>> reach; ///< y range of each move, without the tool
    std::vector<Vec3> places;                     ///< of all moves' ways
    std::vector<std::size_t> begins;              ///< where each move's begin, and their end

    Way way(std::size_t move) const {
        return Way(places).subspan(begins[move], begins[move + 1] - begins[move]);
    }
};

Prepared prepare(const RunProgram& program, const Stock& stock) {
    Prepared p;
    p.tool = EndShape::of(program.bit);
    const double body = std::max(program.bit.shank, program.bit.diameter) / 2;
    p.body = {body, 0, 0, body};
    double lowest = stock.topZ();
    p.reach.reserve(program.path.size());
    for (const Move& m : program.path) {
        lowest = std::min({lowest, m.from.z, m.to.z});
        double lo = std::min(m.from.y, m.to.y);
        double hi = std::max(m.from.y, m.to.y);
        if (m.isArc()) {
            lo = std::min(lo, m.centre.y - m.radius());
            hi = std::max(hi, m.centre.y + m.radius());
        }
        p.reach.emplace_back(lo, hi);
        p.begins.push_back(p.places.size());
        addWay(p.places, m);
    }
    p.begins.push_back(p.places.size());
    p.fluteMatters = stock.topZ() - lowest > program.bit.fluteLength;
    p.holder = {colletNut, 0, 0, colletNut};
    p.holderMatters = stock.topZ() - lowest > program.bit.reachOrUsual();
    return p;
}

class Band {
public:
    Band(Stock& stock, int from, int to, const std::stop_token& stop, bool near)
        : stock_(stock), from_(from), to_(to), stop_(stop), near_(near) {}

    void run(std::size_t index, const RunProgram& program, const Prepared& prepared,
             const Moment& until, LoadTrace* loads) {
        const double widest =
            std::max({prepared.tool.radius + (near_ ? nearWider : 0.0), prepared.body.radius,
                      prepared.holderMatters ? colletNut : 0.0});
        const double yLow = stock_.y(from_) - widest;
        const double yHigh = stock_.y(to_ - 1) + widest;
        const bool last = index == until.program;
        const std::size_t count =
            last ? std::min(until.moves + 1, program.path.size()) : program.path.size();
        for (std::size_t i = 0; i < count; ++i) {
            if (i % 512 == 0 && stop_.stop_requested()) {
                throw Cancelled();
            }
            if (prepared.reach[i].second < yLow || prepared.reach[i].first > yHigh) {
                continue;
            }
            if (last && i == until.moves) {
                if (until.fraction <= 0) {
                    break;
                }
                Move part = program.path[i];
                part.to = part.at(until.fraction);
                std::vector<Vec3> places;
                addWay(places, part);
                one(index, i, part, places, program.bit, prepared, loads, false);
                continue;
            }
            // What the end of the move before covers it has reached in every band.
            const bool chained = i > 0 && program.path[i - 1].cuts() &&
                                 program.path[i - 1].to == program.path[i].from;
            one(index, i, program.path[i], prepared.way(i), program.bit, prepared, loads, chained);
        }
    }

    /// Measures the pocket's floor, then raises everything inside it.
    FloorSeen floorOf(const Filling& filling) const {
        FloorSeen floor;
        for (int row = from_; row < to_; ++row) {
            const float* cells = stock_.row(row);
            over(filling.floor.at(stock_.y(row)), [&](int c) {
                const double z = cells[c];
                floor.lowest = floor.seen ? std::min(floor.lowest, z) : z;
                floor.highest = floor.seen ? std::max(floor.highest, z) : z;
                floor.seen = true;
            });
        }
        return floor;
    }

    void pour(const Filling& filling) {
        for (int row = from_; row < to_; ++row) {
            float* cells = stock_.row(row);
            over(filling.pocket.at(stock_.y(row)),
                 [&](int c) { cells[c] = std::max(cells[c], static_cast<float>(filling.fillTo)); });
        }
    }

    Collisions take() { return std::move(collisions_); }

private:
    template <typename F>
    void over(std::pair<double, double> stretch, F f) const {
        if (stretch.first > stretch.second) {
            return;
        }
        const int c0 = std::max(0, static_cast<int>(std::ceil(stock_.column(stretch.first))));
        const int c1 = std::min(stock_.columns() - 1,
                                static_cast<int>(std::floor(stock_.column(stretch.second))));
        for (int c = c0; c <= c1; ++c) {
            f(c);
        }
    }

    void one(std::size_t program, std::size_t index, const Move& move, Way way, const Bit& bit,
             const Prepared& prepared, LoadTrace* loads, bool chained) {
        if (!move.cuts()) {
            note(Collision::Kind::rapidInWood, program, index,
                 entersWood(stock_, prepared.tool, 0, way, from_, to_));
            return;
        }
        if (prepared.fluteMatters) {
            note(Collision::Kind::fluteTooShort, program, index,
                 entersWood(stock_, prepared.body, bit.fluteLength, way, from_, to_));
        }
        if (prepared.holderMatters) {
            note(Collision::Kind::holderInWood, program, index,
                 entersWood(stock_, prepared.holder, bit.reachOrUsual(), way, from_, to_));
        }
        if (near_ && loads && !loads->near(index)) {
            const double r = prepared.tool.radius + nearWider;
            if (touchesWood(stock_, {r, 0, 0, r}, -nearLower, way, from_, to_)) {
                loads->setNear(index);
            }
        }
        const auto taken = loads ? std::optional(loads->along(index)) : std::nullopt;
        if (way.size() > fewChords && isLevelArc(move)) {
            sweep(stock_, prepared.tool, move, from_, to_, taken, chained);
        } else {
            sweep(stock_, prepared.tool, way, from_, to_, taken, chained);
        }
    }

    void note(Collision::Kind kind, std::size_t program, std::size_t move, double depth) {
        if (depth > touch) {
            keepFirst(collisions_, {kind, program, move, depth});
        }
    }

    Stock& stock_;
    int from_;
    int to_;
    const std::stop_token& stop_;
    bool near_;
    Collisions collisions_;
};

} // namespace

std::vector<RunProgram> readBack(const std::vector<Program>& programs, const Setup& setup) {
    std::vector<RunProgram> out;
    const Vec3 start{0, 0, setup.topZ() + clearanceHeight};
    for (const Program& p : programs) {
        ProgramReading reading = readProgram(p.text, p.file, start);
        out.push_back({p.file, p.kinds, p.bit, movedBy(std::move(reading.path), p.zero),
                       reading.spindleOffAtEnd, reading.ends, p.station});
    }
    return out;
}

Simulation simulate(const Setup& setup, const std::vector<RunProgram>& programs, double cell,
                    Moment until, const std::stop_token& stop, const std::vector<Filling>& fillings,
                    Loads loads) {
    return simulateOn(Stock(setup.blank, setup.bottomZ(), cell), programs, until, stop, fillings,
                      loads);
}

Simulation simulateOn(Stock start, const std::vector<RunProgram>& programs, Moment until,
                      const std::stop_token& stop, const std::vector<Filling>& fillings,
                      Loads loads) {
    Simulation result{std::move(start), {}, {}, {}};
    Stock& stock = result.stock;
    std::vector<Prepared> prepared;
    prepared.reserve(programs.size());
    for (const RunProgram& p : programs) {
        prepared.push_back(prepare(p, stock));
    }
    const std::size_t count = until.program == Moment::theEnd
                                  ? programs.size()
                                  : std::min(programs.size(), until.program + 1);
    for (std::size_t i = 0; i < count && loads != Loads::ignored; ++i) {
        result.loads.emplace_back(programs[i].path, stock.cell());
    }
    const int bands = (stock.rows() + rowsPerBand - 1) / rowsPerBand;
    std::vector<Collisions> found(static_cast<std::size_t>(bands));
    std::vector<std::vector<FloorSeen>> floors(static_cast<std::size_t>(bands),
                                               std::vector<FloorSeen>(fillings.size()));
    tbb::parallel_for(0, bands, [&](int b) {
        const auto k = static_cast<std::size_t>(b);
        Band band(stock, b * rowsPerBand, std::min((b + 1) * rowsPerBand, stock.rows()), stop,
                  loads == Loads::tracedNear);
        for (std::size_t i = 0; i < count; ++i) {
            // All are measured before any is poured: they may overlap.
            for (std::size_t f = 0; f < fillings.size(); ++f) {
                if (fillings[f].beforeProgram == i) {
                    floors[k][f] = band.floorOf(fillings[f]);
                }
            }
            for (const Filling& f : fillings) {
                if (f.beforeProgram == i) {
                    band.pour(f);
                }
            }
            band.run(i, programs[i], prepared[i], until,
                     result.loads.empty() ? nullptr : &result.loads[i]);
        }
        found[k] = band.take();
    });
    Collisions all;
    for (const Collisions& some : found) {
        for (const auto& [key, c] : some) {
            keepFirst(all, c);
        }
    }
    for (const auto& [key, c] : all) {
        result.collisions.push_back(c);
    }
    for (std::size_t f = 0; f < fillings.size(); ++f) {
        FloorSeen whole;
        for (const auto& band : floors) {
            if (band[f].seen) {
                whole.lowest = whole.seen ? std::min(whole.lowest, band[f].lowest) : band[f].lowest;
                whole.highest =
                    whole.seen ? std::max(whole.highest, band[f].highest) : band[f].highest;
                whole.seen = true;
            }
        }
        result.floors.push_back(whole);
    }
    return result;
}

} // namespace wren
