#include "job/sheet_page.h"

#include "base/error.h"
#include "base/unit_text.h"
#include "job/clamps.h"
#include "job/probe_spot.h"
#include "proof/spindle_room.h"
#include "shop/wood.h"

#include <algorithm>
#include <cmath>
#include <numbers>

#include <fmt/format.h>
#include <fmt/ranges.h>

namespace wren {
namespace {

constexpr double pageFoot = 202; ///< of the page: nothing is written below
constexpr double stepsWidth = 66;
constexpr double underHead = 6; ///< from a heading to the first line under it

/// Sorted, without repeats, and pushed apart on the page where the figures would touch.
std::vector<std::pair<double, double>>
spread(std::vector<double> values, const std::function<double(double)>& page, double room) {
    std::sort(values.begin(), values.end());
    std::vector<std::pair<double, double>> out; // value, where its figure stands
    for (double v : values) {
        if (!out.empty() && std::abs(out.back().first - v) < 0.005) {
            continue;
        }
        const double at = page(v);
        out.emplace_back(v, out.empty() ? at : std::max(at, out.back().second + room));
    }
    return out;
}

} // namespace

const Pen SheetPage::thin{0.15, {}, {0.3, 0.32, 0.3}};
const Pen SheetPage::strong{0.35, {}, {0, 0, 0}};
const Pen SheetPage::chain{0.15, {4, 1, 0.8, 1}, {0.3, 0.32, 0.3}};

SheetPage::SheetPage(const Derived& derived, const Setup& setup)
    : d_(derived), setup_(setup), unit_(derived.project.machine.programUnit),
      pdf_(derived.project.name + ", " + setup.part.name() + ", " + setup.name) {
    for (const PostedProgram& p : derived.programs) {
        if (p.program.part == setup.part && p.program.side == setup.side) {
            own_.push_back(&p);
        }
    }
}

void SheetPage::heading(int number, int of) {
    const double w = pdf_.text(
        {left, 17}, fmt::format("{}: {}", d_.project.name, setup_.part.name()), 7, Face::strong);
    pdf_.text({left + w + 5, 17}, fmt::format("setup {} of {}, {}", number, of, setup_.name), 4.2);
    pdf_.text({right, 13},
              fmt::format("cut on ____________ by ____________   design {}, lengths in {}",
                          d_.designHash.substr(0, 12), unit_ == LengthUnit::mm ? "mm" : "inches"),
              small, Face::words, Align::right);
    pdf_.text({right, 17.5}, "Sheet and programs belong together: a new design, a new sheet.",
              small, Face::words, Align::right);
    pdf_.line({left, 21}, {right, 21}, strong);
}

void SheetPage::layOut(const std::vector<std::string>& steps, double widest, bool mayBeBeside) {
    layout_ = under(steps, widest);
    const Layout side = beside(steps);
    if (mayBeBeside && planScale(side) > planScale(layout_)) {
        layout_ = side;
    }
}

/// The drawing has what the lists under it leave of the page.
SheetPage::Layout SheetPage::under(const std::vector<std::string>& steps, double widest) {
    constexpr double highest = 116;
    double programs = 12;
    for (const PostedProgram* p : own_) {
        programs += 12 + (p->program.handBefore.empty() ? 0 : 9);
    }
    const double lists =
        std::max(highest, pageFoot - std::max({stepsRoom(steps), cautionsRoom(61), programs}));
    return {widest, lists, 92, lists, 214, 222, right};
}

SheetPage::Layout SheetPage::beside(const std::vector<std::string>& steps) {
    constexpr double highest = 116;
    constexpr double programs = 168;
    const double lists = std::max(highest, pageFoot - std::max(stepsRoom(steps), cautionsRoom(68)));
    return {programs - left - 34, lists, programs, 31, right, 92, programs - 8};
}

double SheetPage::roomOf(const std::string& words, double width) {
    return static_cast<double>(pdf_.linesOf(words, width, small).size()) * small * Pdf::lineStep;
}

double SheetPage::stepsRoom(const std::vector<std::string>& steps) {
    double room = underHead;
    for (const std::string& step : steps) {
        room += roomOf(step, stepsWidth) + 1;
    }
    return room;
}

double SheetPage::cautionsRoom(double width) {
    double room = underHead;
    for (const std::string& words : cautionWords()) {
        room += roomOf(words, width) + 1;
    }
    return room;
}

double SheetPage::planScale(const Layout& layout) const {
    constexpr double aroundPlan = 54; // heading above it, figures under it
    const Blank& b = setup_.blank;
    return std::min(layout.planWidth / b.length, (layout.lists - aroundPlan) / b.width);
}

/// In the middle of the height it has.
OnPage SheetPage::blankPlace() const {
    const double scale = planScale(layout_);
    const double height = layout_.lists - 54;
    return {{left + 24, 27 + (height + setup_.blank.width * scale) / 2}, scale};
}

void SheetPage::blank(const OnPage& place, std::optional<double> shortLine) {
    const Blank& b = setup_.blank;
    const Vec2 corner = place.at({0, 0});
    const Vec2 far = place.at({b.length, b.width});
    pdf_.fill({corner.x, far.y}, {far.x, corner.y}, wood);
    pdf_.rectangle({corner.x, far.y}, {far.x, corner.y}, strong);
    pdf_.line(place.at({0, b.width / 2}), place.at({b.length, b.width / 2}), chain);
    const double x = shortLine.value_or(b.length / 2);
    pdf_.line(place.at({x, 0}), place.at({x, b.width}), chain);
    woodMarks(place);
}

void SheetPage::figures(const OnPage& place, const std::vector<double>& xs,
                        const std::vector<double>& ys) {
    along(place, xs);
    across(place, ys);
}

void SheetPage::clamps(const OnPage& place) {
    for (std::size_t i : clampsOf(d_.project, setup_.part, setup_.side)) {
        if (const auto box = boxOf(d_.project.clamps[i], setup_)) {
            constexpr double underHeading = 24; // what stands further out is left to the numbers
            std::array<Vec2, 4> corners = box->corners();
            Vec2 middle;
            for (Vec2& corner : corners) {
                corner = place.at(corner);
                corner.y = std::max(corner.y, underHeading);
                middle = middle + corner * 0.25;
            }
            for (std::size_t k = 0; k < 4; ++k) {
                pdf_.line(corners[k], corners[(k + 1) % 4], strong);
            }
            // Its number on the end that stands off the blank, clear of the figures.
            const Vec2 blank = place.at(Vec2{setup_.blank.length, setup_.blank.width} * 0.5);
            const Vec2 along = (corners[1] - corners[0]) * 0.5;
            const double out = dot(along, middle - blank) < 0 ? -1 : 1;
            const bool stands = length(corners[1] - corners[0]) > 12;
            const int station = d_.project.clamps[i].station;
            pdf_.text(middle + (stands ? along * (out * 0.75) : Vec2{}) + Vec2{0, 1},
                      station > 0 ? fmt::format("{}, st. {}", i + 1, station)
                                  : fmt::format("{}", i + 1),
                      small, Face::strong, Align::middle);
        }
    }
    probe(place);
}

void SheetPage::probe(const OnPage& place) {
    const PartJob& job = *d_.job(setup_.part);
    try {
        const Vec2 spot =
            place.at(probeSpot(d_, job, setup_.side) - job.held.side(setup_.side).zeroOn(0));
        constexpr double half = 2.2;
        const Pen pen{0.3, {}, {0.5, 0.32, 0.03}};
        pdf_.rectangle(spot - Vec2{half, half}, spot + Vec2{half, half}, pen);
        pdf_.line(spot - Vec2{half, half}, spot + Vec2{half, half}, pen);
        pdf_.line(spot + Vec2{-half, half}, spot + Vec2{half, -half}, pen);
        pdf_.text(spot + Vec2{0, -half - 0.8}, "Z", small, Face::strong, Align::middle);
    } catch (const Error&) {
        // told among the findings
    }
}

std::string SheetPage::zStep() const {
    const PartJob& job = *d_.job(setup_.part);
    return fmt::format("Z zero: {} where Z stands, plate {}, after every bit change",
                       setup_.zZero == ZZero::top ? "the blank's face"
                       : job.held.under > 0       ? "the fixture board"
                                                  : "the bed",
                       sizeWithUnit(d_.project.machine.plate));
}

std::vector<std::string> SheetPage::zeroSteps(const Held& held) const {
    const Machine& m = d_.project.machine;
    std::vector<std::string> out;
    if (held.pitch > 0 && setup_.side == 0) {
        out.push_back(fmt::format("Board under it drilled for the pins of both stations, {} "
                                  "apart; the blank is drilled by its first setup",
                                  sizeWithUnit(held.pitch)));
    }
    for (std::size_t k = 0; k < std::max<std::size_t>(1, setup_.stations.size()); ++k) {
        const Vec2 at = setup_.zeroOn(k) + setup_.zeroOf(k);
        const int number = setup_.numberOf(k);
        out.push_back(fmt::format("{}X-Y zero: {}; on {} machine X {} Y {}",
                                  number > 0 ? fmt::format("Station {}, ", number) : "",
                                  setup_.datum, m.name, size(at.x), size(at.y)));
    }
    return out;
}

void SheetPage::seam(const Held& held, const OnPage& place) {
    if (held.pitch > 0) {
        pdf_.line(place.at({held.seam, 0}), place.at({held.seam, setup_.blank.width}), thin);
    }
}

/// "strap 5 at 404, -35, 6 at 144, 133"
std::string SheetPage::clampsIn(int station, bool apart) const {
    std::string out;
    std::optional<ClampKind> last;
    for (std::size_t i : clampsOf(d_.project, setup_.part, setup_.side, station)) {
        const Clamp& c = d_.project.clamps[i];
        if ((c.station != 0) != apart) {
            continue;
        }
        out += last == c.kind ? "," : (out.empty() ? "" : "; ") + std::string(clampName(c.kind));
        last = c.kind;
        if (boxOf(c, setup_)) {
            out += fmt::format(" {} at {}, {}", i + 1, formatLengthValue(c.at.x, unit_, 0),
                               formatLengthValue(c.at.y, unit_, 0));
        }
    }
    return out;
}

std::vector<std::string> SheetPage::clampSteps() const {
    std::vector<std::string> out;
    const std::string always = clampsIn(0, false);
    if (!always.empty()) {
        out.push_back(fmt::format("Held by {}, from the front left corner", always));
    }
    for (const SlideStation& station : setup_.stations) {
        const std::string own = clampsIn(station.number, true);
        if (!own.empty()) {
            out.push_back(fmt::format("In station {} held by {}, from the front left corner",
                                      station.number, own));
        }
    }
    return out;
}

void SheetPage::datum(const OnPage& place) {
    const Vec2 o = place.at(setup_.zeroOf(0));
    const Pen heavy{0.7, {}, {0.6, 0.23, 0.12}};
    pdf_.line(o, {o.x + 12, o.y}, heavy);
    pdf_.line(o, {o.x, o.y - 12}, heavy);
    pdf_.text({o.x + 13, o.y - 1}, "X", 3.4, Face::strong);
    pdf_.text({o.x + 1.2, o.y - 13}, "Y", 3.4, Face::strong);
}

void SheetPage::along(const OnPage& place, const std::vector<double>& xs) {
    const double foot = place.origin.y;
    const auto figures = spread(
        xs,
        [&](double v) {
            return place.at({v, 0}).x;
        },
        4.2);
    for (const auto& [v, at] : figures) {
        const double x = place.at({v, 0}).x;
        pdf_.line({x, foot + 1}, {x, foot + 3.5}, thin);
        pdf_.line({x, foot + 3.5}, {at, foot + 6}, thin);
        const double tall = pdf_.widthOf(size(v), small, Face::figures);
        pdf_.fill({at - 1.6, foot + 17.8 - tall}, {at + 1.6, foot + 17.8}, {1, 1, 1});
        pdf_.text({at + 1, foot + 17.5}, size(v), small, Face::figures, Align::left,
                  std::numbers::pi / 2);
    }
}

void SheetPage::across(const OnPage& place, const std::vector<double>& ys) {
    const double foot = place.origin.x;
    const auto figures = spread(
        ys,
        [&](double v) {
            return -place.at({0, v}).y;
        },
        4);
    for (const auto& [v, up] : figures) {
        const double y = place.at({0, v}).y;
        pdf_.line({foot - 1, y}, {foot - 3.5, y}, thin);
        pdf_.line({foot - 3.5, y}, {foot - 6, -up}, thin);
        pdf_.text({foot - 7, -up + 1}, size(v), small, Face::figures, Align::right);
    }
}

void SheetPage::head(double x, double y, const std::string& words) {
    pdf_.text({x, y}, words, 3.8, Face::strong);
}

void SheetPage::box(double x, double y) {
    pdf_.rectangle({x, y - 2.6}, {x + 3, y + 0.4}, thin);
}

void SheetPage::tick(const std::string& title, const std::vector<std::string>& steps) {
    head(left, layout_.lists, title);
    double at = layout_.lists + underHead;
    for (const std::string& step : steps) {
        box(left, at);
        at = pdf_.paragraph({left + 5, at}, stepsWidth, step, small) + 1;
    }
}

void SheetPage::programs(const std::string& last) {
    const double x = layout_.programsX;
    const double y = layout_.programsY;
    const double end = layout_.programsEnd;
    head(x, y, "Programs, in this order");
    double seconds = 0;
    for (const PostedProgram* p : own_) {
        seconds += p->time.seconds;
    }
    pdf_.text({end, y}, fmt::format("{:.0f} min with acceleration", seconds / 60), small,
              Face::words, Align::right);
    double at = y + 6;
    const double step = rowHeight();
    const Bit* before = nullptr;
    for (const PostedProgram* posted : own_) {
        const PostedProgram& p = *posted;
        const Program& program = p.program;
        if (!program.handBefore.empty()) {
            box(x, at);
            at = pdf_.paragraph({x + 5, at}, end - x - 5, "By hand: " + program.handBefore, small) +
                 0.6;
        }
        if (!before || before->name != program.bit.name) {
            box(x, at);
            pdf_.text({x + 5, at}, mounting(p), small);
            at += step;
        }
        before = &program.bit;
        box(x, at);
        const std::string does = whatItDoes(p);
        // A figure is 0.6 of its height wide; a long name is written smaller.
        const double fits = (end - x - 24 - pdf_.widthOf(does, small, Face::figures)) /
                            (0.6 * static_cast<double>(program.file.size()));
        pdf_.text({x + 5, at}, program.file, std::min(small, fits), Face::figures);
        pdf_.text({end - 17, at}, does, small, Face::figures, Align::right);
        pdf_.text({end, at}, fmt::format("{:.1f} min", p.time.seconds / 60), small, Face::figures,
                  Align::right);
        at += step;
    }
    box(x, at);
    pdf_.text({x + 5, at}, last, small);
}

/// "first at 12, 40; to Z -1.2": where the bit first meets wood, off the program's zero, and how
/// deep it goes.
std::string SheetPage::whatItDoes(const PostedProgram& p) const {
    std::string deep = fmt::format("to Z {}", size(p.extents[0].z));
    const ProgramLoad* load = d_.loadOf(p.program.file);
    if (!load || !load->touch) {
        return deep;
    }
    const Vec2 at = load->touch->at.xy() - p.program.zero;
    return fmt::format("first at {}, {}; {}", formatLengthValue(at.x, unit_, 0),
                       formatLengthValue(at.y, unit_, 0), deep);
}

/// So that mounting, program and what is done by hand all stay on the page.
double SheetPage::rowHeight() const {
    double rows = 1;
    double room = pageFoot - (layout_.programsY + 6);
    for (const PostedProgram* p : own_) {
        rows += 2;
        room -= p->program.handBefore.empty() ? 0 : 9;
    }
    return std::clamp(room / rows, 3.6, 6.0);
}

/// To a thousandth: collets come in inches too.
std::string SheetPage::mounting(const PostedProgram& first) const {
    const Bit& bit = first.program.bit;
    double lowest = setup_.topZ(); // of all that is run before the bit is changed
    bool its = false;
    for (const PostedProgram* p : own_) {
        its = p == &first || (its && p->program.bit.name == bit.name);
        lowest = its ? std::min(lowest, p->extents[0].z) : lowest;
    }
    const std::string out =
        bit.reach > 0 ? formatLength(bit.reach, unit_, 1)
                      : "at least " + formatLength(leastOut(bit, setup_.topZ() - lowest), unit_, 1);
    return fmt::format("Mount {}: {} {}, collet {}, {} out of it; probe Z", bit.name,
                       bitKindName(bit.kind), formatLength(bit.diameter, unit_, 3),
                       formatLength(bit.colletOrShank(), unit_, 3), out);
}

std::vector<std::string> SheetPage::cautionWords() const {
    std::vector<std::string> all;
    for (const Finding& f : d_.findings) {
        if (f.weight == Weight::note) {
            break;
        }
        if (f.part != setup_.part) {
            continue;
        }
        const Override* given = overrideOf(d_.overrides, f);
        all.push_back((f.weight == Weight::stop ? "Overridden: " : "") + inUnit(f.message, unit_) +
                      (given ? " Reason given: " + given->reason : ""));
    }
    all.emplace_back("Eye and ear protection, extraction, no gloves or loose cuffs. The first run "
                     "an air pass, a hand at the stop. Spindle standing before hands go near. The "
                     "maker decides; local codes and licensed people have the last word.");
    return all;
}

/// The heaviest first; what the page does not hold is said to be elsewhere. The last, which is not
/// of this part alone, is there in any case.
void SheetPage::cautions() {
    const double x = layout_.cautionsX;
    const double width = layout_.cautionsEnd - x;
    const double step = small * Pdf::lineStep;
    head(x, layout_.lists, "Mind");
    double at = layout_.lists + underHead;
    std::vector<std::string> all = cautionWords();
    const std::string last = std::move(all.back());
    all.pop_back();
    const double end = pageFoot - roomOf(last, width) - 1;
    bool whole = true;
    for (std::size_t i = 0; i < all.size() && whole; ++i) {
        std::vector<std::string> lines = pdf_.linesOf(all[i], width, small);
        const auto room = static_cast<std::size_t>(std::max(1.0, (end - at) / step));
        whole = lines.size() + (i + 1 < all.size() ? 1 : 0) <= room;
        if (!whole) {
            lines.resize(std::min(lines.size(), room - 1));
            lines.emplace_back("... the rest is in report.json");
        }
        for (const std::string& line : lines) {
            pdf_.text({x, at}, line, small);
            at += step;
        }
        at += 1;
    }
    pdf_.paragraph({x, at}, width, last, small);
}

} // namespace wren
