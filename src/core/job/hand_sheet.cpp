#include "job/hand_sheet.h"

#include "base/error.h"
#include "base/unit_text.h"
#include "exchange/template_pdf.h"

#include <algorithm>

#include <fmt/format.h>

namespace wren {
namespace {

using Maker = HandSheet (*)(const Derived&, const HandSizes&);

struct Kind {
    HandSheetKind told;
    Maker make;
};

const std::vector<Kind>& kinds() {
    static const std::vector<Kind> all{
        {{"facets", "Facets of the neck", "flats for carving the neck by hand"},
         [](const Derived& d, const HandSizes& size) { return facetSheet(d, size, {}); }},
        {{"nut", "Slots of the nut", "string slots of the nut, by both rules of spacing"},
         nutSheet},
        {{"frets", "Fret wire", "lengths of wire and tang, fret by fret"}, fretSheet},
        {{"dots", "Dots", "places of markers and side dots, to be drilled"}, dotSheet},
        {{"sawing", "Pieces to saw", "pieces to saw, laid out on the shop's boards"}, sawingSheet},
        {{"backset", "Back-set",
          "a neck angle planed by hand, into a through neck's plank or a heel"},
         backSetSheet},
        {{"sled", "Router sled", "lengths of a router's sled over each blank"}, sledSheet},
        {{"bush", "Templates", "offsets and bit lengths for templates and a hand router"},
         bushSheet},
        {{"ferrules", "String holes", "drilling guide for strings through the body"}, ferruleSheet},
        {{"jack", "Jack", "drilling guide for jacks in edge or cup"}, jackSheet}};
    return all;
}

// A page, mm.
constexpr double wide = 297, high = 210, left = 14, right = wide - 14, foot = high - 10;
constexpr double listsFrom = 104, small = 2.9, row = 4.6;

/// The drawing in the room over the lists, to the largest round scale that fits.
double drawnOn(Pdf& pdf, const Drawing& drawing) {
    const auto box = drawing.box();
    const Vec2 size = box[1] - box[0];
    const double fits =
        std::min((right - left) / std::max(size.x, 1.0), (listsFrom - 36) / std::max(size.y, 1.0));
    double scale = 0.05;
    for (double s : {0.1, 0.2, 0.25, 0.5, 1.0, 2.0, 4.0}) {
        scale = s <= fits ? s : scale;
    }
    const Vec2 middle = (box[0] + box[1]) * 0.5;
    const OnPage place{
        {(left + right) / 2 - middle.x * scale, (26 + listsFrom - 8) / 2 + middle.y * scale},
        scale};
    for (const DrawnLine& line : drawing.lines) {
        const bool faint = line.layer == "centreline" || line.layer == "reference";
        pdf.contour(line.pieces, line.closed, place, faint ? Pen{0.15, {4, 1.2, 0.8, 1.2}} : Pen{});
    }
    for (const DrawnText& text : drawing.texts) {
        pdf.text(place.at(text.at), text.text, std::max(2.2, text.height * scale), Face::figures);
    }
    return scale;
}

class Page {
public:
    Page(const Derived& d, const HandSheet& sheet)
        : sheet_(sheet), unit_(sheet.unit),
          pdf_(fmt::format("{}: {}", d.project.name, sheet.title)), name_(d.project.name) {}

    Pdf& write() {
        begin();
        if (!sheet_.drawing.lines.empty()) {
            const double scale = drawnOn(pdf_, sheet_.drawing);
            pdf_.text({right, 26},
                      scale < 1 ? fmt::format("drawn 1 to {:g}", 1 / scale)
                                : fmt::format("drawn {:g} to 1", scale),
                      small, Face::words, Align::right);
        } else {
            top_ = 30;
        }
        x_ = left;
        y_ = top_;
        words("What to do", sheet_.steps, true);
        words("Mind", sheet_.cautions, false);
        nextColumn();
        for (const HandSheet::Table& table : sheet_.tables) {
            put(table);
        }
        return pdf_;
    }

private:
    void begin() {
        pdf_.page(wide, high);
        pdf_.text({left, 17}, fmt::format("{}: {}", name_, sheet_.title), 7, Face::strong);
        pdf_.text({right, 17}, unit_ == LengthUnit::mm ? "sizes in mm" : "sizes in inches", small,
                  Face::words, Align::right);
        pdf_.line({left, 21}, {right, 21}, {0.5, {}});
    }

    void nextColumn() {
        x_ += column_ > 0 ? column_ + 8 : 0;
        y_ = top_;
        column_ = 0;
    }

    /// Goes on where something so wide and so high finds room.
    void makeRoom(double width, double height) {
        if (y_ > top_ && y_ + height > foot) {
            nextColumn();
        }
        if (x_ + width > right && x_ > left) {
            begin();
            top_ = 30;
            x_ = left;
            y_ = top_;
        }
        column_ = std::max(column_, width);
    }

    void words(const char* heading, const std::vector<std::string>& all, bool boxes) {
        if (all.empty()) {
            return;
        }
        constexpr double column = 84;
        column_ = column;
        pdf_.text({x_, y_}, heading, 3.6, Face::strong);
        y_ += 5.5;
        for (const std::string& one : all) {
            if (boxes) {
                pdf_.rectangle({x_, y_ - 2.4}, {x_ + 2.6, y_ + 0.2}, {0.2, {}});
            }
            y_ = pdf_.paragraph({x_ + (boxes ? 5 : 0), y_}, column - (boxes ? 5 : 0),
                                inUnit(one, unit_), small) +
                 1.2;
        }
        y_ += 3;
    }

    std::vector<double> widths(const HandSheet::Table& table) {
        std::vector<double> out;
        for (std::size_t c = 0; c < table.columns.size(); ++c) {
            double w = 0;
            for (const std::string& part : headOf(table.columns[c])) {
                w = std::max(w, pdf_.widthOf(part, small, Face::words));
            }
            for (const auto& r : table.rows) {
                w = std::max(w, pdf_.widthOf(r[c], small, Face::figures));
            }
            out.push_back(w + 3.5);
        }
        return out;
    }

    /// A column's heading in two lines where it has several words.
    static std::vector<std::string> headOf(const std::string& words) {
        const std::size_t middle = words.find(' ', words.size() / 2 < 3 ? 0 : words.size() / 2 - 3);
        return middle == std::string::npos || words.size() < 9
                   ? std::vector<std::string>{words}
                   : std::vector<std::string>{words.substr(0, middle), words.substr(middle + 1)};
    }

    void put(const HandSheet::Table& table) {
        const std::vector<double> w = widths(table);
        double sum = 0;
        for (double one : w) {
            sum += one;
        }
        sum = std::max(sum, pdf_.widthOf(table.heading, 3.6, Face::strong));
        makeRoom(sum, 13 + row * static_cast<double>(std::min<std::size_t>(table.rows.size(), 4)));
        headed(table, w);
        for (const auto& r : table.rows) {
            if (y_ > foot) {
                makeRoom(sum, row);
                headed(table, w);
            }
            cells(r, w, Face::figures);
            y_ += row;
        }
        y_ += 4;
    }

    void headed(const HandSheet::Table& table, const std::vector<double>& w) {
        pdf_.text({x_, y_}, table.heading, 3.6, Face::strong);
        y_ += 5.5;
        std::vector<std::string> upper, lower;
        for (const std::string& column : table.columns) {
            const std::vector<std::string> parts = headOf(column);
            upper.push_back(parts.size() > 1 ? parts[0] : "");
            lower.push_back(parts.back());
        }
        cells(upper, w, Face::words);
        y_ += 3.4;
        cells(lower, w, Face::words);
        double sum = 0;
        for (double one : w) {
            sum += one;
        }
        pdf_.line({x_, y_ + 1.2}, {x_ + sum - 3, y_ + 1.2}, {0.2, {}});
        y_ += row + 0.6;
    }

    /// Figures end at a column's right; its first column begins at the left.
    void cells(const std::vector<std::string>& texts, const std::vector<double>& w, Face face) {
        double x = x_;
        for (std::size_t c = 0; c < texts.size(); ++c) {
            pdf_.text({c == 0 ? x : x + w[c] - 3.5, y_}, texts[c], small, face,
                      c == 0 ? Align::left : Align::right);
            x += w[c];
        }
    }

    const HandSheet& sheet_;
    LengthUnit unit_;
    Pdf pdf_;
    std::string name_;
    double top_ = listsFrom, x_ = left, y_ = listsFrom;
    double column_ = 0; ///< width of what stands in this one
};

} // namespace

const std::vector<HandSheetKind>& handSheetKinds() {
    static const std::vector<HandSheetKind> all = [] {
        std::vector<HandSheetKind> out;
        for (const Kind& kind : kinds()) {
            out.push_back(kind.told);
        }
        return out;
    }();
    return all;
}

HandSheet handSheet(const Derived& d, const std::string& name, LengthUnit unit,
                    const std::vector<double>& at) {
    if (!d.board) {
        throw Error("There is no sheet yet: the fretboard's numbers cannot be made.");
    }
    const HandSizes size(unit);
    std::string names;
    for (const Kind& kind : kinds()) {
        if (kind.told.name == name) {
            HandSheet out = at.empty() ? kind.make(d, size) : facetSheet(d, size, at);
            out.unit = unit;
            return out;
        }
        names += (names.empty() ? "" : ", ") + kind.told.name;
    }
    throw Error(fmt::format("\"{}\" is not a sheet; one of {} was expected.", name, names));
}

std::vector<HandSheet> handSheets(const Derived& d, LengthUnit unit) {
    std::vector<HandSheet> out;
    for (const Kind& kind : kinds()) {
        try {
            out.push_back(handSheet(d, kind.told.name, unit));
        } catch (const Error&) {
            // nothing of the kind
        }
    }
    return out;
}

std::string handSheetPdf(const Derived& d, const HandSheet& sheet, const Paper& paper) {
    Page page(d, sheet);
    Pdf& pdf = page.write();
    if (sheet.toLayOn) {
        addFullSize(pdf, sheet.drawing, paper, {});
    }
    return pdf.finish();
}

std::string handSheetText(const HandSheet& sheet) {
    std::string out = sheet.title + "\n";
    for (const HandSheet::Table& table : sheet.tables) {
        std::vector<std::size_t> w;
        for (std::size_t c = 0; c < table.columns.size(); ++c) {
            std::size_t most = table.columns[c].size();
            for (const auto& r : table.rows) {
                most = std::max(most, r[c].size());
            }
            w.push_back(most + (c == 0 ? 0 : 2));
        }
        const auto line = [&](const std::vector<std::string>& texts) {
            for (std::size_t c = 0; c < texts.size(); ++c) {
                out += c == 0 ? fmt::format("  {:<{}}", texts[c], w[c])
                              : fmt::format("{:>{}}", texts[c], w[c]);
            }
            out += "\n";
        };
        out += "\n" + table.heading + "\n";
        line(table.columns);
        for (const auto& r : table.rows) {
            line(r);
        }
    }
    for (const auto* words : {&sheet.steps, &sheet.cautions}) {
        out += words->empty() ? "" : "\n";
        for (const std::string& one : *words) {
            out += "- " + inUnit(one, sheet.unit) + "\n";
        }
    }
    return out;
}

} // namespace wren
