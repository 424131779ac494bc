#include "job/order_sheet.h"

#include "exchange/pdf.h"

#include <algorithm>
#include <set>

#include <fmt/format.h>

namespace wren {
namespace {

// A page, mm.
constexpr double wide = 210, high = 297, left = 16, right = wide - 16, foot = high - 16;
constexpr double type = 3, row = 5.4;

class OrderSheet {
public:
    OrderSheet(const Batch& batch, std::string title, LengthUnit unit)
        : batch_(batch), title_(std::move(title)), unit_(unit),
          pdf_(title_ + ": everything in order") {}

    std::string pdf() {
        page();
        for (std::size_t i = 0; i < batch_.steps.size(); ++i) {
            step(i);
        }
        whenDone();
        return pdf_.finish();
    }

private:
    void page() {
        ++pages_;
        pdf_.page(wide, high);
        pdf_.text({left, 19}, title_ + ": everything in order", 6.4, Face::strong);
        pdf_.text({right, 19}, fmt::format("page {}", pages_), type, Face::words, Align::right);
        pdf_.line({left, 22.5}, {right, 22.5}, Pen{0.5, {}, Pen().colour});
        pdf_.text({left, foot + 7},
                  "Eye and ear protection, extraction, no gloves or loose cuffs. Spindle standing "
                  "before hands go near.",
                  2.7);
        y_ = 30;
        if (pages_ > 1) {
            return;
        }
        double seconds = 0;
        for (const BatchStep& s : batch_.steps) {
            seconds += batch_.program(s).time.seconds;
        }
        pdf_.text({left, y_},
                  fmt::format("{} programs, {:.1f} h of cutting; {} changes of bit, Z probed after "
                              "each; blanks are laid on {} times.",
                              batch_.steps.size(), seconds / 3600, batch_.changes, batch_.laid),
                  type);
        pdf_.text({right, y_}, "begun on ______________", type, Face::words, Align::right);
        y_ += row + 3;
    }

    void room(double needs) {
        if (y_ + needs > foot) {
            page();
        }
    }

    void box(double x) { pdf_.rectangle({x, y_ - 2.8}, {x + 3.2, y_ + 0.4}); }

    /// Lines with a box before the first of them.
    void boxed(double x, const std::string& words, Face face = Face::words) {
        const auto lines = pdf_.linesOf(words, right - x - 5, type, face);
        room(double(lines.size()) * type * Pdf::lineStep);
        box(x);
        y_ = pdf_.paragraph({x + 5, y_}, right - x - 5, words, type, face) + 1.2;
    }

    std::string size(double mm) const { return formatLengthValue(mm, unit_); }

    /// The instruments whose blanks lie there from this step on.
    std::vector<std::size_t> lying(std::size_t i) const {
        std::vector<std::size_t> out;
        for (std::size_t k = i; k < batch_.steps.size() && (k == i || !batch_.steps[k].laid); ++k) {
            const std::size_t one = batch_.steps[k].instrument;
            if (std::find(out.begin(), out.end(), one) == out.end()) {
                out.push_back(one);
            }
        }
        return out;
    }

    void lay(std::size_t i) {
        const Program& p = batch_.program(batch_.steps[i]).program;
        const std::vector<std::size_t> here = lying(i);
        room(14 + row * double(here.size()));
        y_ += 2.5;
        pdf_.fill({left, y_ - 4.2}, {right, y_ + 1.6}, {0.95, 0.91, 0.82});
        std::string what = p.part.name();
        what[0] = char(std::toupper(what[0]));
        pdf_.text({left + 2, y_}, fmt::format("{}, {}", what, p.setup), 3.6, Face::strong);
        y_ += row + 1.2;
        for (std::size_t k : here) {
            const Derived& d = *batch_.instruments[k];
            const Setup& setup = d.job(p.part)->held.side(p.side);
            const Blank& b = setup.blank;
            const Vec2 zero = setup.zeroOn(p.station) + setup.zeroOf(p.station);
            boxed(left, fmt::format("Lay on {}{} x {} x {} {} of {}; X-Y zero at machine X {} "
                                    "Y {}; see its sheet",
                                    batch_.instruments.size() > 1 ? d.project.name + ": " : "",
                                    size(b.length), size(b.width), size(b.thickness),
                                    unit_ == LengthUnit::mm ? "mm" : "in", b.species().name,
                                    size(zero.x), size(zero.y)));
        }
    }

    /// The next of blanks that lie side by side.
    bool another(std::size_t i) const {
        return i > 0 && batch_.steps[i - 1].instrument != batch_.steps[i].instrument;
    }

    void step(std::size_t i) {
        const BatchStep& s = batch_.steps[i];
        const PostedProgram& posted = batch_.program(s);
        const Program& p = posted.program;
        const bool other =
            i > 0 && batch_.program(batch_.steps[i - 1]).program.station != p.station;
        if (s.laid || other) {
            lay(i);
        }
        if (!p.handBefore.empty()) {
            boxed(left + 6, "By hand: " + p.handBefore);
        }
        if (s.changed) {
            boxed(left + 6, fmt::format("Put in {}, spindle stopped; probe Z", p.bit.name),
                  Face::strong);
        } else if (s.laid || other) {
            boxed(left + 6, fmt::format("{} stays in; probe Z on the new blank", p.bit.name),
                  Face::strong);
        } else if (another(i)) {
            boxed(left + 6, "The next blank: its own X-Y zero, probe Z on it", Face::strong);
        }
        room(row);
        box(left + 12);
        const std::string whose = batch_.instruments.size() > 1
                                      ? batch_.instruments[s.instrument]->project.name + ": "
                                      : std::string();
        double x = left + 17;
        x += pdf_.text({x, y_}, whose, type, Face::strong);
        const double fits = (right - 22 - x) / (0.6 * double(p.file.size()));
        pdf_.text({x, y_}, p.file, std::min(type, fits), Face::figures);
        pdf_.text({right, y_}, fmt::format("{:.1f} min", posted.time.seconds / 60), type,
                  Face::figures, Align::right);
        y_ += row;
    }

    void whenDone() {
        y_ += 3;
        boxed(left, "Each part measured when it comes off, and written in the book with its date: "
                    "thickness, width, and for the neck its heel, before the pocket it goes into "
                    "is cut.");
    }

    const Batch& batch_;
    std::string title_;
    LengthUnit unit_;
    Pdf pdf_;
    int pages_ = 0;
    double y_ = 0;
};

} // namespace

Batch inRunningOrder(const Derived& d, const std::vector<PartId>& parts) {
    Batch batch;
    batch.instruments.push_back({std::shared_ptr<const Derived>(), &d}); // not its own
    const Program* before = nullptr;
    for (std::size_t i = 0; i < d.programs.size(); ++i) {
        const Program& p = d.programs[i].program;
        if (!parts.empty() && std::find(parts.begin(), parts.end(), p.part) == parts.end()) {
            continue;
        }
        const bool laid = !before || before->part != p.part || before->side != p.side;
        const bool changed = !before || before->bit.name != p.bit.name;
        batch.steps.push_back({0, i, laid, changed});
        batch.laid += laid ? 1 : 0;
        batch.changes += changed ? 1 : 0;
        before = &p;
    }
    batch.changesOneByOne = batch.changes;
    return batch;
}

std::string orderSheetPdf(const Batch& batch, const std::string& title, LengthUnit unit) {
    return OrderSheet(batch, title, unit).pdf();
}

} // namespace wren
