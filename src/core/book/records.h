#pragma once

#include <cstdint>
#include <map>
#include <string>
#include <vector>

namespace wren {

/// What a field of a record holds.
enum class FieldKind { words, number, length, choice };

struct FieldOf {
    const char* name;
    FieldKind kind = FieldKind::words;
    const char* meaning = "";
    bool needed = false;
    double least = 0, most = 0;        ///< of numbers; lengths in mm
    std::vector<std::string> choices{};
};

/// A kind of thing a shop writes down, beside its runs.
struct RecordKind {
    const char* name; ///< "note"; its list is its plural
    const char* plural;
    const char* meaning;
    std::vector<FieldOf> fields;
};

/// Bits, blanks, hardware, measurements, machines, woods, notes, work at the bench, mishaps.
const std::vector<RecordKind>& recordKinds();
/// By its name or its plural; throws Error naming those there are.
const RecordKind& recordKind(const std::string& name);

/// One entry; times of day are UTC, ISO 8601. Lengths in mm.
struct Record {
    std::int64_t id = 0;
    std::string kind;
    std::string time;
    std::map<std::string, std::string> fields;

    std::string field(const std::string& name) const {
        const auto it = fields.find(name);
        return it == fields.end() ? std::string() : it->second;
    }
};

/// A record of "key=value" as it was typed; "when" is the day it was. Throws Error: a kind or field there is none of, one
/// that is needed and missing, a length without its unit, a number out of its range.
Record recordFrom(const std::string& kind, const std::vector<std::string>& typed);
Record recordFrom(const RecordKind& kind, const std::vector<std::string>& typed);
/// A day, or a time of day (UTC), as the book keeps it; "2026-03-14" is that noon. Throws Error.
std::string timeFrom(const std::string& text, const std::string& what);

/// A length as it was read off a caliper: with its unit. Throws Error where that is left out.
double lengthWithUnit(const std::string& text, const std::string& what);

// As lists, with a column for each field of the kind.
std::string recordsCsv(const RecordKind& kind, const std::vector<Record>& records);
std::string recordsJson(const RecordKind& kind, const std::vector<Record>& records);

} // namespace wren
