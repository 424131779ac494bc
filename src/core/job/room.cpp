#include "job/room.h"

#include "base/error.h"
#include "base/sixty_fourths.h"
#include "job/clamps.h"
#include "job/hold_card.h"
#include "job/job_card.h"
#include "job/probe_spot.h"
#include "proof/spindle_room.h"

#include <algorithm>

#include <fmt/format.h>

namespace wren {
namespace {

using Kind = RoomStep::Kind;

/// Writes the steps one after the other, remembering what lies on the machine and turns in it.
class Walk {
public:
    Walk(const Derived& d, LengthUnit unit, const ShopKnows* knows)
        : d_(d), unit_(unit), talk_(d.project.machine.talk), knows_(knows),
          missing_(knows ? notInHand(d, knows->hardware) : std::vector<NotInHand>()) {}

    std::vector<RoomStep> steps() {
        for (std::size_t i = 0; i < d_.programs.size(); ++i) {
            at_ = d_.placeOf(i);
            if (at_.job) {
                program(static_cast<int>(i) + 1, d_.programs[i]);
            }
        }
        free();
        return std::move(out_);
    }

private:
    std::string mm(double v) const { return formatLength(v, unit_); }
    std::string places(Vec2 p) const {
        return fmt::format("X {} Y {}", formatLengthValue(p.x, unit_), formatLengthValue(p.y, unit_));
    }
    const Setup& setup() const { return at_.setup(); }
    std::string where() const {
        return fmt::format("{} {} {}", part_.name(), side_, station_);
    }

    RoomStep& add(Kind kind, const std::string& id, std::string title, std::string says) {
        RoomStep s;
        s.kind = kind;
        s.id = id;
        s.title = std::move(title);
        s.says = std::move(says);
        s.part = part_;
        s.side = side_;
        s.station = station_;
        out_.push_back(std::move(s));
        return out_.back();
    }

    void program(int order, const PostedProgram& p) {
        const Program& prog = p.program;
        const bool begins = !lying_ || !(part_ == prog.part);
        if (begins) {
            free();
        }
        const bool moved = begins || side_ != prog.side || station_ != prog.station;
        const bool turned = !begins && side_ != prog.side;
        part_ = prog.part;
        side_ = prog.side;
        station_ = prog.station;
        lying_ = true;
        const std::size_t first = out_.size();
        if (!prog.handBefore.empty()) {
            RoomStep& s = add(Kind::hand, "hand " + p.motion, "At the bench", prog.handBefore + ".");
            s.minutes = prog.handMinutes;
        }
        if (moved) {
            lay(begins, turned);
        }
        if (begins) {
            mind(out_[first]);
        }
        if (moved || bit_ != prog.bit.name) {
            mount(p, moved);
        }
        run(order, p);
        for (std::size_t i = first; i < out_.size(); ++i) {
            out_[i].program = order;
        }
    }

    /// What the book has to say before a part is begun.
    void mind(RoomStep& step) const {
        std::vector<std::string> names;
        for (const NotInHand& n : notInHandFor(missing_, part_)) {
            names.push_back(fmt::format("{} ({})", n.wanted.what, n.state));
        }
        if (!names.empty()) {
            step.caution = fmt::format("Cuts depend on what is not measured in hand: {}.",
                                       fmt::join(names, ", "));
        }
        for (const std::string& note : knows_ ? notesFor(knows_->notes, part_)
                                              : std::vector<std::string>()) {
            step.says += " From the last time: " + note + (note.back() == '.' ? "" : ".");
        }
    }

    void lay(bool begins, bool turned) {
        const Held& held = at_.job->held;
        const Blank& b = setup().blank;
        if (begins && !held.marks.empty()) {
            std::vector<std::string> marks;
            for (const RegisterMark& m : held.marks) {
                marks.push_back(fmt::format("{}: {} from the end, {} from the edge", m.what,
                                            mm(m.fromEnd), mm(m.fromEdge)));
            }
            add(Kind::mark, "mark " + where(), "Mark the blank",
                "From the same end and the same edge throughout. " +
                    fmt::format("{}.", fmt::join(marks, "; ")))
                .number = fmt::format("{} x {} x {}", formatLengthValue(b.length, unit_),
                                      formatLengthValue(b.width, unit_), mm(b.thickness));
        }
        const std::string name = setup().nameIn(station_);
        if (begins) {
            add(Kind::lay, "lay " + where(), fmt::format("Lay the {} down", part_.name()),
                fmt::format("{}, its marks on the engraved lines{}. What it lies on is brushed "
                            "clean first.",
                            upper(name),
                            held.pins.empty() ? "" : "; its pin holes on their pins once drilled"));
        } else if (turned) {
            add(Kind::turn, "turn " + where(), "Turn it over",
                held.turn == TurnOver::sideForSide
                    ? "Side for side, the head's end stays where it is; on the same pins or marks."
                    : "End for end, the front edge stays in front; on the same pins or marks.")
                .caution = "Chips between blank and bed make both sides disagree: brush them away.";
        } else {
            add(Kind::turn, "slide " + where(), fmt::format("Slide it to station {}",
                                                            setup().numberOf(station_)),
                fmt::format("By {}, onto the pins' other places.", mm(held.pitch)));
        }
        clamp();
        RoomStep& home = add(Kind::home, "home " + where(), "Home the machine",
                             "Spindle up first, then to its corner. The bed is clear of tools.");
        home.byHand = talk_.home.empty();
        home.caution = "It moves as soon as the key is pressed.";
    }

    void clamp() {
        const std::vector<std::size_t> own =
            clampsOf(d_.project, part_, side_, setup().numberOf(station_));
        std::vector<std::string> all;
        for (std::size_t i : own) {
            const Clamp& c = d_.project.clamps[i];
            all.push_back(fmt::format("{} {} at {}, {}", clampName(c.kind), i + 1,
                                      formatLengthValue(c.at.x, unit_, 0),
                                      formatLengthValue(c.at.y, unit_, 0)));
        }
        add(Kind::clamp, "clamp " + where(), "Clamp it",
            all.empty() ? "Outside every cut, cleats against the side it is pushed to. No clamp is "
                          "told, so none is checked."
                        : fmt::format("{}; from the blank's front left corner. Every move was "
                                      "checked against these places.",
                                      fmt::join(all, ", ")))
            .caution = "Pull at it: what can be moved by hand, a bit moves.";
    }

    /// Where the plate lies, if there is such a place.
    std::optional<Vec2> travel(const std::string& motion) {
        try {
            const Vec2 spot = probeSpot(d_, *at_.job, side_, station_);
            RoomStep& s = add(Kind::travel, "spot " + motion, "Go to the plate's place",
                              fmt::format("Spindle up, then over {}. No program cuts there and no "
                                          "clamp stands there.",
                                          plateOn()));
            s.number = "machine " + places(spot);
            s.spot = spot;
            s.byHand = talk_.travel.empty() || talk_.lift.empty();
            return spot;
        } catch (const Error&) {
            return {}; // told among the findings
        }
    }

    std::string plateOn() const {
        return setup().zZero == ZZero::top ? "the blank's face"
               : at_.job->held.under > 0   ? "the fixture board"
                                           : "the bed beside the blank";
    }

    void mount(const PostedProgram& p, bool moved) {
        const Bit& bit = p.program.bit;
        if (bit_ != bit.name) {
            if (!talk_.travel.empty() && !talk_.lift.empty()) {
                RoomStep& park =
                    add(Kind::park, "park " + p.motion, "To where bits are changed",
                        "Spindle off and up, then to the front edge of the bed, off the work.");
                park.number = "machine " + places(parkPlace(d_.project.machine));
                park.caution = "It moves as soon as the key is pressed.";
            }
            const double out = bit.reach > 0 ? bit.reach
                                             : leastOut(bit, setup().topZ() - p.extents[0].z);
            RoomStep& s =
                add(Kind::mount, "mount " + p.motion, fmt::format("Mount {}", bit.name),
                    fmt::format("{} {}, collet {}. Nut and collet free of dust.",
                                upper(bitKindName(bit.kind)), mm(bit.diameter),
                                mm(bit.colletOrShank())));
            s.number = fmt::format("{}{} out of the nut", bit.reach > 0 ? "" : "at least ", mm(out));
            s.caution = "Spindle standing, and its switch off, before a hand goes near.";
        } else if (!moved) {
            return;
        }
        bit_ = bit.name;
        const std::optional<Vec2> spot = travel(p.motion);
        RoomStep& s = add(Kind::probe, "probe " + p.motion, "Probe Z",
                          fmt::format("Does the plate lie on {}? Return says yes: it is touched, "
                                      "and the zero of X, Y and Z is set.",
                                      plateOn()));
        s.spot = spot;
        s.number = fmt::format("plate {}", mm(d_.project.machine.plate));
        s.caution = "The clip is on the bit and the plate's wire is whole: touch it by hand first.";
        s.byHand = talk_.probe.empty() || talk_.zero.empty();
    }

    void run(int order, const PostedProgram& p) {
        const std::string what = fmt::format("{}", fmt::join(p.program.what, " + "));
        RoomStep& air = add(Kind::air, "air " + p.motion, "Air pass",
                            fmt::format("The moves of program {}, {}, over the work.", order, what));
        air.minutes = p.time.seconds / 60;
        air.caution = "Look along the way for clamps, cables and the hose; a hand at the stop.";
        RoomStep& cut = add(Kind::cut, "cut " + p.motion, fmt::format("Cut {}", what),
                            fmt::format("Program {} of {} with {}.", order, d_.programs.size(),
                                        p.program.bit.name));
        cut.number = fmt::format("{:.0f} min, down to Z {}", p.time.seconds / 60,
                                 formatLengthValue(p.extents[0].z, unit_));
        cut.minutes = p.time.seconds / 60;
        if (knows_) {
            cut.advice = adviceFor(p, setup().blank.wood, knows_->experience);
        }
        if (cut.advice) {
            cut.number = fmt::format("{:.0f} min likely, {:.0f} planned", cut.advice->minutes,
                                     cut.minutes);
            cut.minutes = cut.advice->minutes;
        }
        const auto cuts = [&](CutKind kind) {
            return std::count(p.program.kinds.begin(), p.program.kinds.end(), kind) > 0;
        };
        if (knows_ && cuts(CutKind::slots)) {
            cut.says += slotsOf(p.program.bit.name);
        }
        const bool heavy = std::any_of(
            p.program.kinds.begin(), p.program.kinds.end(), [](CutKind k) {
                return k == CutKind::rough || k == CutKind::pocket || k == CutKind::outline;
            });
        cut.caution = heavy ? "Eyes and ears, dust extraction, a hand at the stop. After the first "
                              "heavy pass hold it and measure: a bit may creep in its collet."
                            : "Eyes and ears, dust extraction, a hand at the stop.";
    }

    /// A reading belongs to a bit and a wood: on a new bit it is void.
    std::string slotsOf(const std::string& bit) const {
        const std::string& wood = setup().blank.wood;
        for (const BitLife& life : knows_->lives) {
            const auto slot = life.bit == bit ? life.slotIn(wood) : std::nullopt;
            if (slot) {
                return fmt::format(" Its slots in {} measured {} on {}.", wood, mm(slot->width),
                                   slot->time.substr(0, 10));
            }
        }
        return fmt::format(" No slot of this bit has been measured in {}: cut test slots and try "
                           "the wire first.",
                           wood);
    }

    /// The part before, whose last program has run.
    void free() {
        if (!lying_) {
            return;
        }
        RoomStep& s = add(Kind::free, "free " + part_.name(),
                          fmt::format("Take the {} off", part_.name()),
                          "Spindle standing. Its tabs are sawn, then planed or filed flush; it is "
                          "measured and the sizes are written down.");
        s.caution = "A part that hangs by one tab snaps: saw the thin side last.";
        s.program = out_.size() > 1 ? out_[out_.size() - 2].program : 0;
        lying_ = false;
    }

    static std::string upper(std::string text) {
        text[0] = static_cast<char>(std::toupper(static_cast<unsigned char>(text[0])));
        return text;
    }

    const Derived& d_;
    LengthUnit unit_;
    const Controller& talk_;
    const ShopKnows* knows_;
    std::vector<NotInHand> missing_;
    std::vector<RoomStep> out_;
    ProgramPlace at_;
    PartId part_;
    std::size_t side_ = 0, station_ = 0;
    bool lying_ = false;
    std::string bit_;
};

bool isDone(const RoomStep& s, const std::set<std::string>& ticked,
            const std::vector<bool>& programsDone) {
    const auto i = static_cast<std::size_t>(s.program - 1);
    const bool ran = s.program > 0 && i < programsDone.size() && programsDone[i];
    // What comes before a program that has run is behind it; the part's release is not.
    return ticked.count(s.id) > 0 || (ran && s.kind != Kind::free);
}

} // namespace

std::string lyingOf(const RoomStep& s) {
    return fmt::format("{} {} {}", s.part.name(), s.side, s.station);
}

Vec2 parkPlace(const Machine& machine) {
    constexpr double fromFront = 20; // mm; common practice, no source
    return {machine.lowCorner().x + machine.travel.x / 2, machine.lowCorner().y + fromFront};
}

std::vector<RoomStep> roomSteps(const Derived& d, LengthUnit unit, const ShopKnows* knows) {
    return Walk(d, unit, knows).steps();
}

std::size_t nextStep(const std::vector<RoomStep>& steps, const std::set<std::string>& ticked,
                     const std::vector<bool>& programsDone) {
    std::size_t next = 0;
    for (std::size_t i = 0; i < steps.size(); ++i) { // behind the last that is done
        if (isDone(steps[i], ticked, programsDone)) {
            next = i + 1;
        }
    }
    return next;
}

std::optional<double> timeBehind(const Derived& d, int program, int line) {
    const ProgramPlace place = d.placeOf(static_cast<std::size_t>(program - 1));
    if (!place.job) {
        return {};
    }
    const Path& path = place.job->read[place.side][place.index].path;
    const MotionTime& time = d.programs[static_cast<std::size_t>(program - 1)].time;
    if (path.size() != time.ends.size() || time.seconds <= 0) {
        return {};
    }
    const auto next = std::partition_point(path.begin(), path.end(),
                                           [&](const Move& m) { return m.line < line; });
    return next == path.begin()
               ? 0
               : time.ends[static_cast<std::size_t>(next - path.begin()) - 1] / time.seconds;
}

double freeMinutes(const std::vector<RoomStep>& steps, std::size_t from) {
    double sum = 0;
    for (std::size_t i = from; i < steps.size(); ++i) {
        if (steps[i].kind == Kind::air && i > from) {
            continue; // the one before has shown the way
        }
        if (steps[i].kind != Kind::cut && steps[i].kind != Kind::air) {
            break;
        }
        sum += steps[i].minutes;
    }
    return sum;
}

} // namespace wren
