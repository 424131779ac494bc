#include "book/records.h"

#include "base/error.h"
#include "base/length.h"
#include "base/csv.h"

#include <algorithm>
#include <charconv>
#include <chrono>
#include <cmath>
#include <cstdlib>
#include <string_view>

#include <fmt/format.h>
#include <nlohmann/json.hpp>

namespace wren {
namespace {

FieldOf words(const char* name, const char* meaning, bool needed = false) {
    return {name, FieldKind::words, meaning, needed, 0, 0, {}};
}
FieldOf number(const char* name, const char* meaning, double least, double most) {
    return {name, FieldKind::number, meaning, false, least, most, {}};
}
FieldOf size(const char* name, const char* meaning, double least, double most) {
    return {name, FieldKind::length, meaning, false, least, most, {}};
}
FieldOf choice(const char* name, const char* meaning, std::vector<std::string> choices) {
    return {name, FieldKind::choice, meaning, true, 0, 0, std::move(choices)};
}

/// The text as it is kept: a length in mm, a number as it is.
std::string kept(const RecordKind& kind, const FieldOf& field, const std::string& text) {
    const std::string what = fmt::format("{}.{}", kind.name, field.name);
    if (field.kind == FieldKind::choice &&
        std::find(field.choices.begin(), field.choices.end(), text) == field.choices.end()) {
        throw Error(fmt::format("{}: \"{}\" is none of {}.", what, text,
                                fmt::join(field.choices, ", ")));
    }
    if (field.kind == FieldKind::words || field.kind == FieldKind::choice) {
        if (text.empty() || text.size() > 2000) {
            throw Error(fmt::format("{}: 1 to 2000 signs were expected.", what));
        }
        return text;
    }
    double value = 0;
    if (field.kind == FieldKind::length) {
        value = lengthWithUnit(text, what);
    } else {
        const auto [end, code] = std::from_chars(text.data(), text.data() + text.size(), value);
        if (code != std::errc() || end != text.data() + text.size() || !std::isfinite(value)) {
            throw Error(fmt::format("{}: \"{}\" is no number.", what, text));
        }
    }
    if (value < field.least || value > field.most) {
        throw Error(fmt::format("{}: {:g} is outside {:g} to {:g}{}.", what, value, field.least,
                                field.most, field.kind == FieldKind::length ? " mm" : ""));
    }
    return fmt::format("{:.7g}", value);
}

} // namespace

std::string timeFrom(const std::string& text, const std::string& what) {
    constexpr std::string_view day = "0000-00-00", moment = "0000-00-00T00:00:00Z";
    const auto like = [&](std::string_view form) {
        return text.size() == form.size() &&
               std::equal(text.begin(), text.end(), form.begin(), [](char c, char f) {
                   return f == '0' ? c >= '0' && c <= '9' : c == f;
               });
    };
    const bool formed = like(day) || like(moment);
    const auto number = [&](std::size_t from) { return formed ? std::atoi(text.c_str() + from) : 0; };
    const std::chrono::year_month_day date{std::chrono::year(number(0)),
                                           std::chrono::month(unsigned(number(5))),
                                           std::chrono::day(unsigned(number(8)))};
    if (!formed || !date.ok()) {
        throw Error(fmt::format("{}: \"{}\" is no day; one as 2026-03-14 was expected.", what, text));
    }
    return like(day) ? text + "T12:00:00Z" : text;
}

double lengthWithUnit(const std::string& text, const std::string& what) {
    const bool unit = text.find_first_of("m\"i") != std::string::npos;
    if (!unit) {
        throw Error(fmt::format("{}: \"{}\" has no unit; mm or in was expected behind it, as in "
                                "55.93mm.",
                                what, text));
    }
    return parseLength(text, LengthUnit::mm);
}

const std::vector<RecordKind>& recordKinds() {
    static const std::vector<RecordKind> all{
        {"bit",
         "bits",
         "what became of a real bit",
         {words("name", "as in the drawer", true),
          choice("event", "what became of it", {"new", "sharpened", "broken"}),
          words("note", "whatever else")}},
        {"blank",
         "blanks",
         "a piece of wood on the rack",
         {words("name", "what it is called", true), words("wood", "as in wren set --list", true),
          size("length", "as measured", 1, 6000), size("width", "as measured", 1, 2000),
          size("thickness", "as measured", 0.5, 300),
          size("bow", "how far it is off straight along", 0, 50),
          size("twist", "how far its corners are off a plane", 0, 50),
          size("square", "how far its ends are out of square", 0, 50),
          words("figure", "how its grain runs"),
          number("moisture", "per cent", 0, 60), words("from", "where it came from"),
          words("since", "since when it rests, as 2026-03-14"),
          words("reserved", "for which instrument"), words("photograph", "a picture of it"),
          words("gone", "yes: it is cut up, or given away"),
          words("note", "whatever else")}},
        {"hardware",
         "hardware",
         "something that has to be in hand",
         {words("name", "what it is", true), words("project", "for which instrument"),
          choice("state", "how far it is", {"needed", "ordered", "here", "measured"}),
          size("size", "that matters for the cut", 0.05, 1000), words("note", "whatever else")}},
        {"measurement",
         "measurements",
         "what a caliper read",
         {words("project", "of which instrument", true), words("size", "as part.size", true),
          size("value", "as read", 0.01, 6000), size("drawn", "as designed", 0, 6000),
          number("moisture", "per cent", 0, 60), words("bit", "that cut it"),
          words("wood", "it was cut in"), words("note", "whatever else")}},
        {"machine",
         "machines",
         "what became of a machine",
         {words("name", "as in the project", true),
          choice("event", "what was done", {"new", "serviced", "surfaced", "moved"}),
          words("note", "whatever else")}},
        {"wood",
         "woods",
         "how a wood behaves",
         {words("name", "as in wren set --list", true), words("note", "what was found", true)}},
        {"note",
         "notes",
         "something to remember",
         {words("text", "what", true), words("project", "of which instrument"),
          words("part", "of which part"),
          words("next", "yes: it comes up when such a part is begun again")}},
        {"handwork",
         "handwork",
         "work at the bench that is done",
         {words("project", "of which instrument", true),
          words("step", "as the job card calls it: Setup: relief", true),
          {"state", FieldKind::choice, "done, unless open again", false, 0, 0, {"done", "open"}},
          words("by", "by whom"),
          number("minutes", "it took", 0, 10000), words("note", "whatever else")}},
        {"mishap",
         "mishaps",
         "what went wrong, and its cure",
         {words("what", "chatter, burn, fray, breakage ...", true),
          words("project", "of which instrument"), words("bit", "that cut"),
          words("wood", "it cut in"), words("cuts", "which cut"), words("cure", "what helped")}}};
    return all;
}

const RecordKind& recordKind(const std::string& name) {
    std::vector<std::string> names;
    for (const RecordKind& kind : recordKinds()) {
        if (name == kind.name || name == kind.plural) {
            return kind;
        }
        names.emplace_back(kind.name);
    }
    throw Error(fmt::format("The book keeps no \"{}\"; one of {} was expected.", name,
                            fmt::join(names, ", ")));
}

Record recordFrom(const std::string& kind, const std::vector<std::string>& typed) {
    return recordFrom(recordKind(kind), typed);
}

Record recordFrom(const RecordKind& kind, const std::vector<std::string>& typed) {
    Record out;
    out.kind = kind.name;
    for (const std::string& one : typed) {
        const std::size_t equals = one.find('=');
        const std::string name = one.substr(0, equals);
        if (equals != std::string::npos && name == "when") {
            out.time = timeFrom(one.substr(equals + 1), fmt::format("{}.when", kind.name));
            continue;
        }
        const auto field = std::find_if(kind.fields.begin(), kind.fields.end(),
                                        [&](const FieldOf& f) { return name == f.name; });
        if (equals == std::string::npos || field == kind.fields.end()) {
            std::vector<std::string> names;
            for (const FieldOf& f : kind.fields) {
                names.emplace_back(f.name);
            }
            throw Error(fmt::format("\"{}\" is nothing a {} has; {} as name=value were expected.",
                                    one, kind.name, fmt::join(names, ", ")));
        }
        out.fields[name] = kept(kind, *field, one.substr(equals + 1));
    }
    for (const FieldOf& f : kind.fields) {
        if (f.needed && out.field(f.name).empty()) {
            throw Error(fmt::format("A {} wants its {} ({}).", kind.name, f.name, f.meaning));
        }
    }
    return out;
}

std::string recordsCsv(const RecordKind& kind, const std::vector<Record>& records) {
    std::string out = "id,time";
    for (const FieldOf& f : kind.fields) {
        out += fmt::format(",{}{}", f.name, f.kind == FieldKind::length ? "_mm" : "");
    }
    out += "\n";
    for (const Record& r : records) {
        out += fmt::format("{},{}", r.id, r.time);
        for (const FieldOf& f : kind.fields) {
            out += "," + quoted(r.field(f.name));
        }
        out += "\n";
    }
    return out;
}

std::string recordsJson(const RecordKind& kind, const std::vector<Record>& records) {
    auto list = nlohmann::ordered_json::array();
    for (const Record& r : records) {
        nlohmann::ordered_json one{{"id", r.id}, {"time", r.time}};
        for (const FieldOf& f : kind.fields) {
            const std::string text = r.field(f.name);
            if (text.empty()) {
                continue;
            }
            const bool words = f.kind == FieldKind::words || f.kind == FieldKind::choice;
            const std::string key = std::string(f.name) + (f.kind == FieldKind::length ? "_mm" : "");
            one[key] = words ? nlohmann::ordered_json(text)
                             : nlohmann::ordered_json(std::stod(text));
        }
        list.push_back(std::move(one));
    }
    return list.dump(2) + "\n";
}

} // namespace wren
