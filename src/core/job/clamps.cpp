#include "job/clamps.h"

#include "geom/inset.h"
#include "proof/clamp_check.h"
#include "proof/spindle_room.h"

#include <algorithm>
#include <cmath>
#include <numbers>

#include <fmt/format.h>

namespace wren {
namespace {

constexpr double clearOf = 3; ///< mm from all that moves, where a clamp is suggested

/// Shear that holds for sure, N/mm2; common practice, no source.
double holdOf(ClampKind kind) {
    return kind == ClampKind::tape ? 0.01 : kind == ClampKind::tapeAndGlue ? 0.03 : 0.02;
}

bool takesNoRoom(ClampKind kind) {
    return kind == ClampKind::tape || kind == ClampKind::tapeAndGlue || kind == ClampKind::vacuum;
}

const char* wordOf(ToolPart part) {
    switch (part) {
    case ToolPart::flutes:
        return "the bit";
    case ToolPart::shank:
        return "the bit's shank";
    case ToolPart::nut:
        return "the collet nut";
    case ToolPart::nose:
        return "the spindle's nose";
    case ToolPart::shoe:
        return "the dust shoe";
    }
    return "the bit";
}

/// Clamps and their boxes in one setup.
struct Placed {
    std::size_t index;
    const Clamp* clamp;
    std::optional<ClampBox> box;
};

std::vector<Placed> placedIn(const Derived& d, const PartJob& job, std::size_t side,
                             int number = 0) {
    std::vector<Placed> out;
    for (std::size_t i : clampsOf(d.project, job.id, side, number)) {
        const Clamp& c = d.project.clamps[i];
        out.push_back({i, &c, boxOf(c, job.held.side(side))});
    }
    return out;
}

std::string nameOf(std::size_t index) {
    return fmt::format("clamp {}", index + 1);
}

Finding& say(Findings& out, PartId part, Weight weight, const char* code, std::string message,
             double value, double limit, std::size_t index) {
    Finding& f = sayOf(part, out, weight, code, std::move(message), value, limit);
    f.feature = {FeatureKind::clamp, index};
    return f;
}

std::vector<Vec2> pinsIn(const PartJob& job, const Setup& setup) {
    std::vector<Vec2> out;
    for (const RegisterPin& pin : job.held.pins) {
        out.push_back(setup.fromInstrument.toSetup({pin.at.x, pin.at.y, 0}).xy());
    }
    return out;
}

bool onPin(const ClampBox& box, const std::vector<Vec2>& pins, double radius) {
    return std::any_of(pins.begin(), pins.end(), [&](Vec2 pin) {
        const Vec2 p = box.own(pin);
        return std::abs(p.x) < box.half.x + radius && std::abs(p.y) < box.half.y + radius;
    });
}

/// How far a strap reaches over a piece without waste, by its deeper end's middle.
double onOutline(const ClampBox& box, const Panel& panel, const Setup& setup) {
    const std::vector<std::vector<Vec2>> wood{pointsOf(panel.outline, 0.1)};
    double most = -1;
    for (double end : {-1.0, 1.0}) {
        const Vec2 at = box.middle + box.way * (end * box.half.x);
        const Vec2 p = setup.fromInstrument.toInstrument({at.x, at.y, 0}).xy();
        if (insideOf(wood, p)) {
            most = std::max(most, distanceTo(panel.outline, p));
        }
    }
    return most;
}

/// How far a box reaches over the blank, mm; less than 0 where it does not.
double onWood(const ClampBox& box, const Blank& b) {
    double least = 1e300;
    for (Vec2 corner : box.corners()) {
        const double outside =
            std::max({-corner.x, -corner.y, corner.x - b.length, corner.y - b.width});
        least = std::min(least, outside);
    }
    return -least;
}

bool onBed(const ClampBox& box, const Setup& setup, std::size_t station, const Machine& m) {
    // Straps and cleats may stand a hand's width outside the travel: the bed is larger.
    constexpr double beyond = 60;
    const Vec2 low = m.lowCorner();
    const std::array<Vec2, 4> corners = box.corners();
    return std::all_of(corners.begin(), corners.end(), [&](Vec2 c) {
        const Vec2 p = setup.zeroOn(station) + c - low;
        return p.x > -beyond && p.y > -beyond && p.x < m.travel.x + beyond &&
               p.y < m.travel.y + beyond;
    });
}

/// In one station of a setup.
void judgePlaces(Findings& out, const Derived& d, const PartJob& job, std::size_t side,
                 std::size_t station) {
    const Setup& setup = job.held.side(side);
    const std::string setupName = setup.nameIn(station);
    const std::vector<Placed> all = placedIn(d, job, side, setup.numberOf(station));
    const std::vector<Vec2> pins = pinsIn(job, setup);
    for (std::size_t i = 0; i < all.size(); ++i) {
        if (!all[i].box) {
            continue;
        }
        const ClampBox& box = *all[i].box;
        const std::string name = nameOf(all[i].index);
        for (std::size_t k = 0; k < i; ++k) {
            if (all[k].box && overlap(box, *all[k].box)) {
                say(out, job.id, Weight::stop, "clamps-overlap",
                    fmt::format("On the {}, {}, {} and {} stand in one another's place.",
                                job.name(), setupName, nameOf(all[k].index), name),
                    0, 0, all[i].index);
            }
        }
        if (onPin(box, pins, job.held.pinSize / 2)) {
            say(out, job.id, Weight::stop, "clamp-on-pin",
                fmt::format("On the {}, {}, {} stands on a register pin.", job.name(), setupName,
                            name),
                0, 0, all[i].index);
        }
        if (!onBed(box, setup, station, d.project.machine)) {
            say(out, job.id, Weight::stop, "clamp-off-bed",
                fmt::format("On the {}, {}, {} lies off the bed of {}, which travels {:.0f} x "
                            "{:.0f} mm.",
                            job.name(), setupName, name, d.project.machine.name,
                            d.project.machine.travel.x, d.project.machine.travel.y),
                0, 0, all[i].index);
        }
        const bool free = job.panel && job.panel->free;
        const double on = free ? onOutline(box, *job.panel, setup) : onWood(box, setup.blank);
        if (all[i].clamp->kind == ClampKind::strap && on < strapOnWood - (free ? 1 : 1e-9)) {
            say(out, job.id, Weight::caution, "strap-beside-wood",
                fmt::format(
                    "On the {}, {}, {} lies {:.1f} mm on the blank; {:.0f} mm are wanted to "
                    "hold it down.",
                    job.name(), setupName, name, std::max(0.0, on), strapOnWood),
                on, strapOnWood, all[i].index);
        }
    }
}

/// Sideways at a bit's heaviest, N: power over the speed of its edge (Machinery's Handbook,
/// machining power); ten times that, for blows, peel and dust under the tape (common practice, no
/// source).
double forceOf(const ProgramLoad& load, const RunProgram& program) {
    constexpr double blows = 10;
    const double rpm = program.path[load.peak.move].rpm;
    const double speed = std::numbers::pi * program.bit.diameter / 1000 * rpm / 60; // m/s
    return speed > 0 ? blows * load.watts / speed : 0;
}

void judgeTape(Findings& out, const Derived& d, const PartJob& job, std::size_t side) {
    const std::vector<Placed> all = placedIn(d, job, side);
    const bool alone = !all.empty() && std::all_of(all.begin(), all.end(), [](const Placed& p) {
        return takesNoRoom(p.clamp->kind);
    });
    if (!alone || !job.proof) {
        return;
    }
    double holds = 0;
    for (const Placed& p : all) {
        holds = std::max(holds, holdOf(p.clamp->kind));
    }
    const Blank& b = job.held.blank;
    double most = 0;
    const RunProgram* worst = nullptr;
    const ProofReport& report = job.proof->sides[side];
    for (std::size_t i = 0; i < report.loads.size() && i < job.read[side].size(); ++i) {
        const double force = forceOf(report.loads[i], job.read[side][i]);
        if (force > most) {
            most = force;
            worst = &job.read[side][i];
        }
    }
    const double force = holds * b.length * b.width;
    if (worst && most > force) {
        Finding& f = say(
            out, job.id, Weight::caution, "held-by-tape",
            fmt::format("{} wants about {:.0f} N to be held and the {} has {} alone, which holds "
                        "{:.0f} N over {:.0f} cm2: straps or cleats as well would be safe.",
                        worst->file, most, job.name(),
                        all[0].clamp->kind == ClampKind::vacuum ? "vacuum" : "tape", force,
                        b.length * b.width / 100),
            most, force, all[0].index);
        f.program = worst->file;
    }
}

} // namespace

std::vector<std::size_t> clampsOf(const Project& p, PartId part, std::size_t side, int number) {
    std::vector<std::size_t> out;
    for (std::size_t i = 0; i < p.clamps.size(); ++i) {
        const Clamp& c = p.clamps[i];
        if (c.part == part.name() && c.side == static_cast<int>(side) + 1 && c.standsIn(number)) {
            out.push_back(i);
        }
    }
    return out;
}

Findings judgeClampPlaces(const Derived& d) {
    Findings out;
    for (std::size_t i = 0; i < d.project.clamps.size(); ++i) {
        const Clamp& c = d.project.clamps[i];
        const std::optional<PartId> part = PartId::named(c.part);
        const PartJob* job = part ? d.job(*part) : nullptr;
        if (!job || (c.side == 2 && !job->held.back)) {
            say(out, part.value_or(Role::board), Weight::caution, "clamp-for-nothing",
                fmt::format("Clamp {} is for the {}, {}, and there is none.", i + 1, c.part,
                            c.side == 2 ? "turned over" : "face up"),
                0, 0, i);
            continue;
        }
        const std::size_t stations = job->held.face.stations.size();
        if (c.station > static_cast<int>(stations)) {
            say(out, *part, Weight::caution, "clamp-for-nothing",
                stations == 0
                    ? fmt::format("Clamp {} is for station {} of the {}, which is cut where it "
                                  "lies.",
                                  i + 1, c.station, c.part)
                    : fmt::format("Clamp {} is for station {} of the {}, which has {}.", i + 1,
                                  c.station, c.part, stations),
                c.station, static_cast<double>(stations), i);
        }
    }
    for (const PartJob& job : d.parts) {
        for (std::size_t side = 0; job.placed && side < job.held.sides(); ++side) {
            const std::size_t n = job.held.side(side).stations.size();
            for (std::size_t k = 0; k < std::max<std::size_t>(1, n); ++k) {
                judgePlaces(out, d, job, side, k);
            }
        }
    }
    return out;
}

Findings judgeClampsOf(const Derived& d, const PartJob& job, std::size_t side,
                       const RunProgram& program) {
    Findings out;
    const int number = job.held.side(side).numberOf(program.station);
    for (const Placed& p : placedIn(d, job, side, number)) {
        const auto touch =
            p.box ? firstTouch(program, *p.box, d.project.machine.end) : std::nullopt;
        if (!touch) {
            continue;
        }
        const Move& m = program.path[touch->move];
        Finding& f = say(out, job.id, Weight::stop, "meets-clamp",
                         fmt::format("{}, line {}: {} comes {:.1f} mm into {}, which stands at "
                                     "{:.0f}, {:.0f} from the blank's corner.",
                                     program.file, m.line, wordOf(touch->with), touch->by,
                                     nameOf(p.index), p.clamp->at.x, p.clamp->at.y),
                         touch->by, 0, p.index);
        f.program = program.file;
        f.line = m.line;
        f.atX = job.held.side(side).fromInstrument.toInstrument(m.to).x;
    }
    return out;
}

/// The neck of a glued instrument, where it leaves the body, as a thing no bit may meet.
ClampBox neckBeside(const Derived& d, const Setup& setup) {
    constexpr double along = 300;
    const BodyPlace& place = d.body->part.place();
    const double end = place.neckEnd;
    const double x = place.toInstrument({end, 0, 0}).x;
    const std::array<double, 2> edges = d.neck->part.outline().across(x);
    const auto lies = [&](double at, double y) {
        return setup.fromInstrument.toSetup({at, y, 0}).xy();
    };
    const double middle = (edges[0] + edges[1]) / 2;
    ClampBox box;
    box.middle = lies(end - along, middle);
    box.half = {along, std::abs(edges[1] - edges[0]) / 2};
    box.way = unit(lies(end, middle) - box.middle);
    box.high = setup.topZ();
    return box;
}

void judgeBesideNeck(Findings& out, const Derived& d, const PartJob& job, std::size_t side) {
    const Setup& setup = job.held.side(side);
    const ClampBox neck = neckBeside(d, setup);
    for (const RunProgram& program : job.read[side]) {
        if (const auto touch = firstTouch(program, neck, d.project.machine.end)) {
            const Move& m = program.path[touch->move];
            Finding& f =
                sayOf(job.id, out, Weight::stop, "meets-neck",
                      fmt::format("{}, line {}: {} comes {:.1f} mm into the neck where it leaves "
                                  "the body: a contour that ends before it was expected.",
                                  program.file, m.line, wordOf(touch->with), touch->by),
                      touch->by, 0);
            f.program = program.file;
            f.line = m.line;
            f.atX = setup.fromInstrument.toInstrument(m.to).x;
        }
    }
}

namespace {

/// Each clamp that is met is told once, with the first program that meets it.
Findings judgeClampsOnce(const Derived& d, const PartJob& job, std::size_t side) {
    Findings out;
    std::vector<int> more;
    for (const RunProgram& program : job.read[side]) {
        for (Finding& f : judgeClampsOf(d, job, side, program)) {
            const auto same = std::find_if(out.begin(), out.end(), [&](const Finding& g) {
                return g.feature == f.feature;
            });
            if (same == out.end()) {
                out.push_back(std::move(f));
                more.push_back(0);
            } else {
                ++more[static_cast<std::size_t>(same - out.begin())];
            }
        }
    }
    for (std::size_t i = 0; i < out.size(); ++i) {
        if (more[i] > 0) {
            out[i].message += fmt::format(" {} more program{} of this setup meet{} it too.", more[i],
                                          more[i] == 1 ? "" : "s", more[i] == 1 ? "s" : "");
        }
    }
    return out;
}

} // namespace

Findings judgeClamps(const Derived& d) {
    Findings out;
    for (const PartJob& job : d.parts) {
        for (std::size_t side = 0; job.panel && job.panel->free && side < job.held.sides();
             ++side) {
            judgeBesideNeck(out, d, job, side);
        }
        for (std::size_t side = 0; job.placed && side < job.held.sides(); ++side) {
            const Findings met = judgeClampsOnce(d, job, side);
            out.insert(out.end(), met.begin(), met.end());
            judgeTape(out, d, job, side);
            const Findings room = judgeSpindleRoom(job.held.side(side), d.project.machine,
                                                   job.held.under, job.read[side]);
            out.insert(out.end(), room.begin(), room.end());
        }
    }
    return out;
}

namespace {

/// The programs of a setup that run in one of its stations.
std::vector<RunProgram> runIn(const PartJob& job, std::size_t side, std::size_t station) {
    std::vector<RunProgram> out;
    for (const RunProgram& program : job.read[side]) {
        if (program.station == station) {
            out.push_back(program);
        }
    }
    return out;
}

/// Places along a blank's edges for clamps of one kind, in one station.
class Places {
public:
    Places(const Derived& d, const PartJob& job, const Clamp& like, std::size_t station)
        : d_(d), job_(job), setup_(job.held.side(std::size_t(like.side - 1))), station_(station),
          pins_(pinsIn(job, setup_)), like_(like) {
        const ClampKind kind = like.kind;
        const ClampBox box = *boxOf(like_, setup_);
        // A strap points inward and ends on the wood; a cleat lies along the edge, against it.
        inward_ = kind == ClampKind::strap;
        outside_ = inward_ ? box.half.x - strapOnWood : box.half.y;
        const Blank& b = setup_.blank;
        constexpr double around = 100;
        low_.emplace(runIn(job, std::size_t(like.side - 1), station), d.project.machine.end,
                     box.high + clearOf, Vec2{-around, -around},
                     Vec2{b.length + around, b.width + around});
    }

    std::vector<Clamp> find() {
        if (job_.panel && job_.panel->free) {
            roundOutline();
            return std::move(out_);
        }
        const Blank& b = setup_.blank;
        for (double share : {0.2, 0.8}) {
            for (bool far : {false, true}) {
                tryNear(b.length * share, true, far);
            }
        }
        for (bool far : {false, true}) { // the ends, where a long edge has no room
            if (out_.size() < 4) {
                tryNear(b.width / 2, false, far);
            }
        }
        return std::move(out_);
    }

private:
    /// Straps square to the outline of a piece without waste, as far from one another as they go.
    void roundOutline() {
        std::vector<Clamp> may;
        for (const ContourPiece& piece : clockwise(job_.panel->outline)) {
            for (double s = 2; s < piece.length(); s += 8) {
                const Vec2 out = leftOf(piece.wayAt(s)); // the wood lies on its right
                const Vec2 p = piece.at(s) + out * outside_;
                const Vec3 at = setup_.fromInstrument.toSetup({p.x, p.y, 0});
                const Vec2 way =
                    at.xy() - setup_.fromInstrument.toSetup({piece.at(s).x, piece.at(s).y, 0}).xy();
                Clamp c = like_;
                c.at = {std::round(at.x), std::round(at.y)};
                c.turn = std::round(std::atan2(way.y, way.x) * 180 / std::numbers::pi);
                if (fits(c) &&
                    onOutline(*boxOf(c, setup_), *job_.panel, setup_) >= strapOnWood - 1) {
                    may.push_back(c);
                }
            }
        }
        while (out_.size() < 4 && !may.empty()) {
            const auto apart = [&](const Clamp& c) {
                double least = out_.empty() ? length(c.at) : 1e9; // the first: at the far corner
                for (const Clamp& other : out_) {
                    least = std::min(least, length(c.at - other.at));
                }
                return least;
            };
            const auto best =
                std::max_element(may.begin(), may.end(), [&](const Clamp& a, const Clamp& b) {
                    return apart(a) < apart(b);
                });
            const Clamp chosen = *best;
            may.erase(best);
            if (fits(chosen)) {
                out_.push_back(chosen);
            }
        }
    }

    /// As near to a place along an edge as there is room.
    void tryNear(double along, bool longEdge, bool far) {
        constexpr double step = 5;
        const double length = longEdge ? setup_.blank.length : setup_.blank.width;
        for (double off = 0; off <= length; off += step) {
            for (double x : {along - off, along + off}) {
                if (x >= 0 && x <= length && fits(at(x, longEdge, far))) {
                    out_.push_back(at(x, longEdge, far));
                    return;
                }
            }
        }
    }

    Clamp at(double along, bool longEdge, bool far) const {
        Clamp c = like_;
        c.turn = longEdge == inward_ ? 90 : 0;
        const double edge = longEdge ? setup_.blank.width : setup_.blank.length;
        const double across = far ? edge + outside_ : -outside_;
        c.at = longEdge ? Vec2{along, across} : Vec2{across, along};
        return c;
    }

    bool fits(const Clamp& c) const {
        const ClampBox box = *boxOf(c, setup_);
        if (!onBed(box, setup_, station_, d_.project.machine)) {
            return false;
        }
        const bool apart = std::none_of(out_.begin(), out_.end(), [&](const Clamp& other) {
            return overlap(box, *boxOf(other, setup_));
        });
        return apart && low_->free(box, clearOf) &&
               !onPin(box, pins_, job_.held.pinSize / 2 + clearOf);
    }

    const Derived& d_;
    const PartJob& job_;
    const Setup& setup_;
    std::size_t station_;
    std::vector<Vec2> pins_;
    Clamp like_;
    bool inward_ = true;
    double outside_ = 0; ///< of its middle from the edge
    std::optional<LowPlaces> low_;
    std::vector<Clamp> out_;
};

/// Where the blank lies in one station of a setup.
std::vector<Clamp> suggestedIn(const Derived& d, const PartJob& job, std::size_t side,
                               std::size_t station) {
    Clamp like;
    like.part = job.name();
    like.side = static_cast<int>(side) + 1;
    like.station = job.held.side(side).numberOf(station);
    std::vector<Clamp> straps = Places(d, job, like, station).find();
    if (straps.size() >= 2) {
        return straps;
    }
    like.kind = ClampKind::cleat;
    std::vector<Clamp> cleats = Places(d, job, like, station).find();
    like.kind = ClampKind::tapeAndGlue;
    like.at = {job.held.blank.length / 2, job.held.blank.width / 2};
    cleats.insert(cleats.begin(), like);
    return cleats;
}

} // namespace

std::vector<Clamp> suggestedClamps(const Derived& d, const PartJob& job, std::size_t side) {
    if (job.read[side].empty()) {
        return {};
    }
    std::vector<Clamp> out;
    const std::size_t stations = job.held.side(side).stations.size();
    for (std::size_t k = 0; k < std::max<std::size_t>(1, stations); ++k) {
        const std::vector<Clamp> some = suggestedIn(d, job, side, k);
        out.insert(out.end(), some.begin(), some.end());
    }
    return out;
}

Project withClamps(const Project& project, PartId part, const std::vector<Clamp>& clamps) {
    Project p = project;
    std::erase_if(p.clamps, [&](const Clamp& c) { return c.part == part.name(); });
    p.clamps.insert(p.clamps.end(), clamps.begin(), clamps.end());
    return p;
}

} // namespace wren
