#include "job/setup_sheet.h"

#include "base/length.h"
#include "exchange/pdf.h"

#include <algorithm>
#include <functional>
#include <numbers>

namespace wren {
namespace {

constexpr double pageWidth = 297;
constexpr double pageHeight = 210;
constexpr double left = 14;
constexpr double right = pageWidth - 14;
constexpr double small = 2.9;
const Pen thin{0.15, {}, {0.3, 0.32, 0.3}};
const Pen strong{0.35, {}, {0, 0, 0}};
const Pen chain{0.15, {4, 1, 0.8, 1}, {0.3, 0.32, 0.3}};
const std::array<double, 3> wood{0.95, 0.91, 0.82};

class SetupSheet {
public:
    explicit SetupSheet(const Derived& d)
        : d_(d), setup_(d.plan->setup), unit_(d.project.machine.programUnit),
          pdf_(d.project.name + ", " + setup_.part + ", " + setup_.name) {}

    std::string write() {
        pdf_.page(pageWidth, pageHeight);
        heading();
        drawing();
        const double y = 116;
        zero(y);
        programs(y);
        cautions(y);
        benchPage();
        return pdf_.finish();
    }

private:
    std::string size(double mm) const { return formatLengthValue(mm, unit_); }
    std::string sizeWithUnit(double mm) const { return formatLength(mm, unit_); }

    void heading() {
        const double w = pdf_.text({left, 17}, fmt::format("{}: {}", d_.project.name, setup_.part),
                                   7, Face::strong);
        pdf_.text({left + w + 5, 17}, "setup 1 of 1, " + setup_.name, 4.2);
        pdf_.text({right, 13},
                  fmt::format("design {}, lengths in {}", d_.designHash.substr(0, 12),
                              unit_ == LengthUnit::mm ? "mm" : "inches"),
                  small, Face::words, Align::right);
        pdf_.text({right, 17.5}, "Sheet and programs belong together: a new design, a new sheet.",
                  small, Face::words, Align::right);
        pdf_.line({left, 21}, {right, 21}, strong);
    }

    /// Heights and widths off the datum, each on a line of its own so that none is added up.
    void drawing() {
        const Blank& blank = setup_.blank;
        constexpr double width = 196; // of the room for the plan; the heights stand beside it
        constexpr double height = 62;
        const double scale = std::min(width / blank.length, height / blank.width);
        const Vec2 corner{left + 24, 27 + (height + blank.width * scale) / 2};
        const OnPage place{corner, scale};
        const Vec2 far = place.at({blank.length, blank.width});
        pdf_.fill({corner.x, far.y}, {far.x, corner.y}, wood);
        pdf_.rectangle({corner.x, far.y}, {far.x, corner.y}, strong);
        pdf_.line(place.at({0, blank.width / 2}), place.at({blank.length, blank.width / 2}), chain);
        pdf_.line(place.at({blank.length / 2, 0}), place.at({blank.length / 2, blank.width}),
                  chain);
        std::vector<double> xs{0, blank.length / 2, blank.length};
        std::vector<double> ys{0, blank.width / 2, blank.width};
        for (std::size_t i = 0; i < setup_.places.size(); ++i) {
            const SetupFromInstrument& at = setup_.places[i];
            board(at, place);
            const auto box = d_.board->boundingBox();
            const Vec3 low = at.toSetup(box[0]);
            const Vec3 high = at.toSetup(box[1]);
            xs.insert(xs.end(), {low.x, at.toSetup({}).x, high.x});
            ys.insert(ys.end(), {low.y, high.y});
        }
        datum(place);
        along(place, xs);
        across(place, ys);
        heights(right - 38, 58);
    }

    void board(const SetupFromInstrument& at, const OnPage& place) {
        const auto shifted = [&](Vec2 p) {
            const Vec3 s = at.toSetup({p.x, p.y, 0});
            return Vec2{s.x, s.y};
        };
        const auto draw = [&](Contour contour, const Pen& pen) {
            for (ContourPiece& piece : contour) {
                piece.from = shifted(piece.from);
                piece.to = shifted(piece.to);
                piece.centre = shifted(piece.centre);
            }
            pdf_.contour(contour, true, place, pen);
        };
        draw(d_.board->outline(), strong);
        for (const MarkerPocket& pocket : d_.board->pockets()) {
            draw(pocket.outline, thin);
        }
        for (const FretSlot& slot : d_.board->slots()) {
            pdf_.line(place.at(shifted(slot.low)), place.at(shifted(slot.high)), thin);
        }
        for (const Tab& tab : d_.plan->tabs) {
            const double y = d_.board->edge(tab.side, tab.x);
            const Vec2 a = place.at(shifted({tab.x - tab.length / 2, y}));
            const Vec2 b = place.at(shifted({tab.x + tab.length / 2, y}));
            const double out = tab.side > 0 ? -1.6 : 1.6;
            pdf_.rectangle({a.x, std::min(a.y, a.y + out)}, {b.x, std::max(a.y, a.y + out)}, thin);
        }
    }

    void datum(const OnPage& place) {
        const Vec2 o = place.at({0, 0});
        const Pen heavy{0.7, {}, {0.6, 0.23, 0.12}};
        pdf_.line(o, {o.x + 12, o.y}, heavy);
        pdf_.line(o, {o.x, o.y - 12}, heavy);
        pdf_.text({o.x + 13, o.y - 1}, "X", 3.4, Face::strong);
        pdf_.text({o.x + 1.2, o.y - 13}, "Y", 3.4, Face::strong);
    }

    /// Sorted, without repeats, and pushed apart on the page where the figures would touch.
    static std::vector<std::pair<double, double>>
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

    void along(const OnPage& place, const std::vector<double>& xs) {
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
            pdf_.text({at + 1, foot + 17.5}, size(v), small, Face::figures, Align::left,
                      std::numbers::pi / 2);
        }
    }

    void across(const OnPage& place, const std::vector<double>& ys) {
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

    /// The blank from its end: what is faced, how thick the board becomes, how deep the bits go.
    void heights(double x, double middle) {
        const double scale = std::min(3.0, 26 / setup_.blank.thickness);
        const double bed = middle + setup_.blank.thickness * scale / 2;
        const auto y = [&](double z) { return bed - z * scale; };
        const double top = setup_.blank.thickness;
        pdf_.fill({x, y(top)}, {x + 14, bed}, wood);
        pdf_.rectangle({x, y(top)}, {x + 14, bed}, strong);
        pdf_.line({x - 4, bed}, {x + 18, bed}, strong);
        const double zeroAt = setup_.zZero == ZZero::bed ? bed : y(top);
        const Pen heavy{0.7, {}, {0.6, 0.23, 0.12}};
        pdf_.line({x - 4, zeroAt}, {x + 4, zeroAt}, heavy);
        pdf_.text({x - 5, zeroAt + 1}, "Z 0", small, Face::strong, Align::right);
        double last = bed + 20;
        const auto mark = [&](double z, const std::string& what) {
            const double at = std::min(y(z) + 1, last - 3.4);
            last = at;
            pdf_.text({x + 16, at}, size(z) + " " + what, 2.5, Face::figures);
        };
        mark(-d_.project.cut.through, "through");
        mark(0, "bed");
        mark(d_.board->design().thickness, "crown");
        if (setup_.faced > 0) {
            mark(setup_.facedTop(), "faced");
        }
        mark(top, "blank");
    }

    void head(double x, double y, const std::string& words) {
        pdf_.text({x, y}, words, 3.8, Face::strong);
    }

    void box(double x, double y) { pdf_.rectangle({x, y - 2.6}, {x + 3, y + 0.4}, thin); }

    void zero(double y) {
        head(left, y, "Blank and zero");
        const Blank& b = setup_.blank;
        const Machine& m = d_.project.machine;
        const std::string plate = fmt::format("plate {}", sizeWithUnit(m.plate));
        const std::vector<std::string> steps{
            fmt::format("Blank {} x {} x {}, {}, measured again", size(b.length), size(b.width),
                        sizeWithUnit(b.thickness), woodById(b.wood).name),
            "Its middle marked on both ends and both edges, from the same edge and the same end",
            "Marks laid on the engraved lines, clamped outside every cut",
            "Machine homed",
            fmt::format("X-Y zero: {}; on {} machine X {} Y {}", setup_.datum, m.name,
                        size(setup_.zeroOnMachine.x), size(setup_.zeroOnMachine.y)),
            setup_.zZero == ZZero::bed
                ? fmt::format("Z zero: the bed, {}, after every bit change", plate)
                : fmt::format("Z zero: the blank's face in the waste, {}, after every bit change",
                              plate)};
        double at = y + 6;
        for (const std::string& step : steps) {
            box(left, at);
            at = pdf_.paragraph({left + 5, at}, 66, step, small) + 1;
        }
    }

    void programs(double y) {
        const double x = 92;
        const double end = 214;
        head(x, y, "Programs, in this order");
        pdf_.text({end, y}, fmt::format("{:.0f} min with acceleration", d_.seconds() / 60), small,
                  Face::words, Align::right);
        double at = y + 6;
        const double step = rowHeight(y);
        const Bit* before = nullptr;
        for (const PostedProgram& p : d_.programs) {
            const Program& program = p.program;
            if (!program.handBefore.empty()) {
                box(x, at);
                at = pdf_.paragraph({x + 5, at}, end - x - 5, "By hand: " + program.handBefore,
                                    small) +
                     0.6;
            }
            if (!before || before->name != program.bit.name) {
                box(x, at);
                pdf_.text({x + 5, at}, mounting(program.bit), small);
                at += step;
            }
            before = &program.bit;
            box(x, at);
            pdf_.text({x + 5, at}, program.file, small, Face::figures);
            pdf_.text({end - 22, at}, fmt::format("to Z {}", size(p.extents[0].z)), small,
                      Face::figures, Align::right);
            pdf_.text({end, at}, fmt::format("{:.1f} min", p.time.seconds / 60), small,
                      Face::figures, Align::right);
            at += step;
        }
        box(x, at);
        pdf_.text({x + 5, at}, "Board cut from its tabs, measured, written in the book", small);
    }

    /// So that mounting, program and what is done by hand all stay on the page.
    double rowHeight(double y) const {
        constexpr double foot = pageHeight - 8;
        double rows = 1;
        double room = foot - (y + 6);
        for (const PostedProgram& p : d_.programs) {
            rows += 2;
            room -= p.program.handBefore.empty() ? 0 : 9;
        }
        return std::clamp(room / rows, 3.6, 6.0);
    }

    /// To a thousandth: collets come in inches too.
    std::string mounting(const Bit& bit) const {
        return fmt::format("Mount {}: {} {}, collet {}; probe Z", bit.name, bitKindName(bit.kind),
                           formatLength(bit.diameter, unit_, 3),
                           formatLength(bit.colletOrShank(), unit_, 3));
    }

    void cautions(double y) {
        const double x = 222;
        head(x, y, "Mind");
        double at = y + 6;
        for (const Finding& f : d_.findings) {
            if (at > 178 || f.weight == Weight::note) {
                break;
            }
            at = pdf_.paragraph({x, at}, right - x,
                                (f.weight == Weight::stop ? "Overridden: " : "") + f.message,
                                small) +
                 1;
        }
        if (!d_.overrideReason.empty()) {
            at =
                pdf_.paragraph({x, at}, right - x, "Reason given: " + d_.overrideReason, small) + 1;
        }
        pdf_.paragraph(
            {x, at}, right - x,
            "Eye and ear protection, extraction, no gloves or loose cuffs. The first run "
            "an air pass, a hand at the stop. Spindle standing before hands go near. The "
            "maker decides; local codes and licensed people have the last word.",
            small);
    }

    void benchPage() {
        const std::vector<SideDot> dots = sideDots(d_.project.board);
        if (d_.frets.empty() && dots.empty()) {
            return;
        }
        pdf_.page(pageWidth, pageHeight);
        pdf_.text({left, 17}, fmt::format("{}: {}, at the bench", d_.project.name, setup_.part), 7,
                  Face::strong);
        pdf_.line({left, 21}, {right, 21}, strong);
        fretLengths();
        sideDotList(dots);
    }

    void fretLengths() {
        if (d_.frets.empty()) {
            return;
        }
        head(left, 30, "Frets: from the nut on the centreline, and wire edge to edge");
        double total = 0;
        for (std::size_t i = 0; i < d_.frets.size(); ++i) {
            const FretPlace& f = d_.frets[i];
            const double x = left + (i / 13) * 58.0;
            const double y = 37 + (i % 13) * 6.0;
            box(x, y);
            pdf_.text({x + 5, y},
                      fmt::format("{:>2} {:>9} {:>8}", f.fret, size(f.fromNut), size(f.wireLength)),
                      3.2, Face::figures);
            total += f.wireLength;
        }
        const FretWire& w = d_.project.board.wire;
        pdf_.text({left, 124},
                  fmt::format("{} of wire in all, without ends to nip; tang {} wide and {} deep, "
                              "slot {}{}",
                              sizeWithUnit(total), size(w.tangWidth), size(w.tangDepth),
                              size(w.measuredSlot.value_or(d_.project.board.slotWidth)),
                              w.measuredSlot ? " as measured in a test cut" : " as drawn"),
                  small);
    }

    void sideDotList(const std::vector<SideDot>& dots) {
        if (dots.empty()) {
            return;
        }
        const Markers& m = d_.project.board.markers;
        head(left, 136,
             fmt::format("Side dots, by hand in the bass edge: {} across, {} deep",
                         size(m.sideSize), size(m.sideDepth)));
        pdf_.text({left, 141}, "from the nut's line along the board, above the underside", small);
        for (std::size_t i = 0; i < dots.size(); ++i) {
            const double x = left + (i / 9) * 66.0;
            const double y = 148 + (i % 9) * 6.0;
            box(x, y);
            pdf_.text({x + 5, y},
                      fmt::format("fret {:>2} {:>8} {:>6}", dots[i].fret, size(dots[i].fromNut),
                                  size(dots[i].fromUnderside)),
                      3.2, Face::figures);
        }
    }

    const Derived& d_;
    const Setup& setup_;
    LengthUnit unit_;
    Pdf pdf_;
};

} // namespace

std::string setupSheetPdf(const Derived& derived) {
    return SetupSheet(derived).write();
}

std::string setupSheetName(const Derived& derived) {
    std::string name =
        fmt::format("01-{}-{}.pdf", derived.plan->setup.part, derived.plan->setup.name);
    std::replace(name.begin(), name.end(), ' ', '-');
    return name;
}

} // namespace wren
