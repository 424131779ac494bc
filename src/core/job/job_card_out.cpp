// The job card as text, lists and pages.
#include "base/csv.h"
#include "job/job_card.h"

#include <cmath>

#include <fmt/format.h>
#include <nlohmann/json.hpp>

namespace wren {
namespace {

using Rows = std::vector<std::vector<std::string>>;

/// One table of the card.
struct Table {
    std::string heading;
    std::vector<std::string> columns;
    std::vector<double> widths; ///< shares of the page
    Rows rows;
};

constexpr std::size_t widest = 50; ///< of a column of text, letters

/// Takes off a text what fits a width, whole words where it can.
std::string brokenOff(std::string& text, std::size_t width) {
    std::size_t end = text.size();
    if (text.size() > width) {
        end = text.rfind(' ', width);
        end = end == std::string::npos || end == 0 ? width : end;
    }
    const std::string first = text.substr(0, end);
    const std::size_t next = text.find_first_not_of(' ', end);
    text = next == std::string::npos ? std::string() : text.substr(next);
    return first;
}

std::string minutes(const std::optional<double>& m) {
    return m ? fmt::format("{:.0f}", *m) : "";
}

std::string day(const std::string& time) {
    return time.substr(0, 10);
}

std::string doneBy(const std::string& time, const std::string& by) {
    return day(time) + (by.empty() ? "" : ", " + by);
}

std::vector<Table> tablesOf(const JobCard& card, LengthUnit unit) {
    const auto size = [&](const std::optional<double>& mm) {
        return mm ? formatLength(*mm, unit, unit == LengthUnit::mm ? 2 : 3) : std::string("-");
    };
    std::vector<Table> out;
    Table steps{"At the machine, in order",
                {"no.", "part", "what", "bit", "planned", "likely", "taken", "done, by whom"},
                {0.05, 0.12, 0.33, 0.12, 0.08, 0.08, 0.08, 0.14},
                {}};
    for (const CardStep& s : card.steps) {
        steps.rows.push_back({s.order > 0 ? std::to_string(s.order) : "", s.part.name(), s.what,
                              s.bit, minutes(s.planned), minutes(s.expected), minutes(s.taken),
                              doneBy(s.when, s.by)});
    }
    out.push_back(std::move(steps));
    Table sizes{"Sizes as they came out",
                {"size", "drawn", "measured", "used", "read on", "what follows"},
                {0.22, 0.12, 0.12, 0.12, 0.14, 0.28},
                {}};
    for (const KnownSize& k : card.sizes) {
        sizes.rows.push_back({k.size->label, size(k.drawn), size(k.read), size(k.used),
                              day(k.when) + (k.moisture.empty() ? "" : " at " + k.moisture + " %"),
                              k.size->follows});
    }
    out.push_back(std::move(sizes));
    Table bench{"By hand", {"when", "what", "this instrument", "done, by whom"},
                {0.12, 0.45, 0.26, 0.17}, {}};
    for (const BenchStep& b : card.bench) {
        bench.rows.push_back({b.phase, b.what, b.number,
                              doneBy(b.done, b.by) +
                                  (b.minutes > 0 ? fmt::format(", {:.0f} min", b.minutes) : "") +
                                  (b.note.empty() ? "" : ": " + b.note)});
    }
    out.push_back(std::move(bench));
    if (!card.missing.empty()) {
        Table missing{"To be measured in hand first", {"what", "drawn for", "it is", "before"},
                      {0.24, 0.34, 0.16, 0.26}, {}};
        for (const NotInHand& n : card.missing) {
            missing.rows.push_back({n.wanted.what, n.wanted.size, n.state, n.wanted.before});
        }
        out.push_back(std::move(missing));
    }
    return out;
}

/// Writes tables one below the other, on as many pages as they take.
class CardPages {
public:
    CardPages(const JobCard& card, const Paper& paper)
        : pdf_("Job card of " + card.instrument), paper_(paper), name_(card.instrument) {
        next();
    }

    void paragraph(const std::string& words, Face face = Face::words) {
        const auto lines = pdf_.linesOf(words, wide(), type, face);
        need(double(lines.size()) * type * Pdf::lineStep + 1);
        for (const std::string& line : lines) {
            y_ += type * Pdf::lineStep;
            pdf_.text({margin, y_}, line, type, face);
        }
        y_ += 1;
    }

    void table(const Table& t) {
        need(24);
        y_ += 7;
        pdf_.text({margin, y_}, t.heading, 4.2, Face::strong);
        y_ += 2;
        row(t, t.columns, Face::strong);
        for (const auto& r : t.rows) {
            row(t, r, Face::words);
        }
    }

    std::string finish() { return pdf_.finish(); }

private:
    static constexpr double margin = 12, type = 2.9;

    double wide() const { return paper_.width - 2 * margin; }
    void next() {
        pdf_.page(paper_.width, paper_.height);
        ++pages_;
        y_ = margin + 3;
        pdf_.text({margin, y_}, name_, 5, Face::strong);
        pdf_.text({paper_.width - margin, y_}, fmt::format("job card, page {}", pages_), 2.9,
                  Face::words, Align::right);
        y_ += 3;
    }
    void need(double height) {
        if (y_ + height > paper_.height - margin) {
            next();
        }
    }
    void row(const Table& t, const std::vector<std::string>& cells, Face face) {
        std::vector<std::vector<std::string>> lines;
        std::size_t most = 1;
        for (std::size_t c = 0; c < cells.size(); ++c) {
            lines.push_back(pdf_.linesOf(cells[c], t.widths[c] * wide() - 2, type, face));
            most = std::max(most, lines.back().size());
        }
        const double height = double(most) * type * Pdf::lineStep + 1.6;
        need(height);
        double x = margin;
        for (std::size_t c = 0; c < cells.size(); ++c) {
            double y = y_;
            for (const std::string& line : lines[c]) {
                y += type * Pdf::lineStep;
                pdf_.text({x, y}, line, type, face);
            }
            x += t.widths[c] * wide();
        }
        y_ += height;
        pdf_.line({margin, y_}, {paper_.width - margin, y_}, {0.1, {}, {0.7, 0.7, 0.7}});
    }

    Pdf pdf_;
    Paper paper_;
    std::string name_;
    double y_ = 0;
    int pages_ = 0;
};

} // namespace

std::string cardText(const JobCard& card, LengthUnit unit) {
    std::string out = fmt::format("Job card of {}: {:.0f} minutes at the machine to go\n",
                                  card.instrument, card.expectedMinutes());
    for (const Table& t : tablesOf(card, unit)) {
        std::vector<std::size_t> wide(t.columns.size());
        for (std::size_t c = 0; c < t.columns.size(); ++c) {
            wide[c] = t.columns[c].size();
            for (const auto& r : t.rows) {
                wide[c] = std::max(wide[c], std::min(r[c].size(), widest));
            }
        }
        const auto line = [&](std::vector<std::string> cells) {
            for (bool more = true; more;) {
                more = false;
                std::string text;
                for (std::size_t c = 0; c < cells.size(); ++c) {
                    text += fmt::format("  {:<{}}", brokenOff(cells[c], wide[c]), wide[c]);
                    more = more || !cells[c].empty();
                }
                out += text.substr(0, text.find_last_not_of(' ') + 1) + "\n";
            }
        };
        out += "\n" + t.heading + "\n";
        line(t.columns);
        for (const auto& r : t.rows) {
            line(r);
        }
    }
    for (const auto* words : {&card.notes, &card.cautions}) {
        out += words->empty() ? "" : "\n";
        for (const std::string& one : *words) {
            out += "- " + one + "\n";
        }
    }
    return out;
}

std::string cardCsv(const JobCard& card) {
    std::string out = "order,part,what,bit,planned_min,likely_min,taken_min,done,by\n";
    const auto number = [](const std::optional<double>& m) {
        return m ? fmt::format("{:.1f}", *m) : std::string();
    };
    for (const CardStep& s : card.steps) {
        out += fmt::format("{},{},{},{},{},{},{},{},{}\n",
                           s.order > 0 ? std::to_string(s.order) : "", quoted(s.part.name()),
                           quoted(s.what), quoted(s.bit), number(s.planned), number(s.expected),
                           number(s.taken), s.when, quoted(s.by));
    }
    for (const BenchStep& b : card.bench) {
        out += fmt::format(",,{},,,,{},{},{}\n", quoted(b.id()),
                           b.minutes > 0 ? fmt::format("{:.1f}", b.minutes) : "", b.done,
                           quoted(b.by));
    }
    return out;
}

std::string cardJson(const JobCard& card) {
    using nlohmann::ordered_json;
    const auto maybe = [](ordered_json& out, const char* name, const std::optional<double>& v) {
        if (v) {
            out[name] = std::round(*v * 1000) / 1000;
        }
    };
    ordered_json doc{{"instrument", card.instrument}};
    for (const CardStep& s : card.steps) {
        ordered_json one{{"order", s.order}, {"part", s.part.name()}, {"what", s.what},
                         {"bit", s.bit}};
        maybe(one, "planned_min", s.planned);
        maybe(one, "likely_min", s.expected);
        maybe(one, "taken_min", s.taken);
        one["done"] = s.when;
        one["by"] = s.by;
        doc["steps"].push_back(std::move(one));
    }
    for (const KnownSize& k : card.sizes) {
        ordered_json one{{"size", k.size->name}};
        maybe(one, "drawn_mm", k.drawn);
        maybe(one, "measured_mm", k.read);
        maybe(one, "used_mm", k.used);
        one["read"] = k.when;
        one["follows"] = k.size->follows;
        doc["sizes"].push_back(std::move(one));
    }
    for (const BenchStep& b : card.bench) {
        doc["bench"].push_back({{"phase", b.phase},
                                {"what", b.what},
                                {"number", b.number},
                                {"done", b.done},
                                {"by", b.by},
                                {"minutes", b.minutes},
                                {"note", b.note}});
    }
    for (const NotInHand& n : card.missing) {
        doc["not_in_hand"].push_back({{"what", n.wanted.what},
                                      {"state", n.state},
                                      {"before", n.wanted.before},
                                      {"says", n.says}});
    }
    doc["notes"] = card.notes;
    return doc.dump(2) + "\n";
}

std::string cardPdf(const JobCard& card, LengthUnit unit, const Paper& paper) {
    CardPages pages(card, paper);
    pages.paragraph(fmt::format("{:.0f} minutes at the machine to go, by what is known.",
                                card.expectedMinutes()));
    for (const Table& t : tablesOf(card, unit)) {
        pages.table(t);
    }
    pages.paragraph(" ");
    for (const auto* words : {&card.notes, &card.cautions}) {
        for (const std::string& one : *words) {
            pages.paragraph("- " + one);
        }
    }
    return pages.finish();
}

} // namespace wren
