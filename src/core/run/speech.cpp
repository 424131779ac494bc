#include "run/speech.h"

#include "base/error.h"

#include <array>
#include <algorithm>
#include <charconv>
#include <cmath>
#include <functional>
#include <vector>

#include <fmt/format.h>

namespace wren {
namespace {

constexpr double noPlace = 1e5; ///< mm: no bench router stands there

/// A pattern as signs and fields one after the other.
struct Piece {
    std::string text; ///< signs, or a field's name
    bool field = false;
};

std::vector<Piece> piecesOf(const std::string& pattern) {
    std::vector<Piece> out;
    std::size_t at = 0;
    while (at < pattern.size()) {
        const std::size_t open = pattern.find('{', at);
        const std::size_t close = pattern.find('}', open == std::string::npos ? at : open);
        if (open == std::string::npos || close == std::string::npos) {
            out.push_back({pattern.substr(at), false});
            break;
        }
        if (open > at) {
            out.push_back({pattern.substr(at, open - at), false});
        }
        out.push_back({pattern.substr(open + 1, close - open - 1), true});
        at = close + 1;
    }
    return out;
}

/// "\x13" and the like as the bytes they stand for.
std::string bytesOf(const std::string& text) {
    std::string out;
    for (std::size_t i = 0; i < text.size(); ++i) {
        unsigned value = 0;
        const bool written = text.compare(i, 2, "\\x") == 0 && i + 4 <= text.size();
        const auto [end, code] =
            written ? std::from_chars(text.data() + i + 2, text.data() + i + 4, value, 16)
                    : std::from_chars_result{text.data(), std::errc::invalid_argument};
        if (written && code == std::errc() && end == text.data() + i + 4) {
            out += static_cast<char>(value);
            i += 3;
        } else {
            out += text[i];
        }
    }
    return out;
}

double numberIn(const Fields& fields, const char* name, std::string_view line) {
    const auto it = fields.find(name);
    if (it == fields.end()) {
        return 0;
    }
    double value = 0;
    const std::string& word = it->second;
    const auto [end, code] = std::from_chars(word.data(), word.data() + word.size(), value);
    if (code != std::errc() || end != word.data() + word.size() || !std::isfinite(value)) {
        throw Error(fmt::format("The machine's answer \"{}\" has no number where its {} belongs.",
                                line.substr(0, 60), name));
    }
    return value;
}

Vec3 placeIn(const Fields& fields, std::array<const char*, 3> names, std::string_view line) {
    const Vec3 p{numberIn(fields, names[0], line), numberIn(fields, names[1], line),
                 numberIn(fields, names[2], line)};
    if (std::max({std::abs(p.x), std::abs(p.y), std::abs(p.z)}) > noPlace) {
        throw Error(
            fmt::format("The machine says it stands where none can: \"{}\".", line.substr(0, 60)));
    }
    return p;
}

/// Calls f(name, words) for "name: words; name: words".
template <typename F>
void overMeanings(const std::string& list, F f) {
    std::size_t at = 0;
    while (at < list.size()) {
        const std::size_t end = std::min(list.find(';', at), list.size());
        const std::size_t colon = list.find(':', at);
        if (colon < end) {
            const auto trimmed = [&](std::size_t from, std::size_t to) {
                while (from < to && list[from] == ' ') {
                    ++from;
                }
                while (to > from && list[to - 1] == ' ') {
                    --to;
                }
                return list.substr(from, to - from);
            };
            f(trimmed(at, colon), trimmed(colon + 1, end));
        }
        at = end + 1;
    }
}

} // namespace

std::string said(const std::string& word, const std::map<std::string, double>& numbers) {
    std::string out;
    for (const Piece& piece : piecesOf(word)) {
        if (!piece.field) {
            out += piece.text;
            continue;
        }
        const auto it = numbers.find(piece.text);
        const double value = it == numbers.end() ? 0 : it->second;
        const bool whole = piece.text == "offset" || piece.text == "percent";
        out += fmt::format("{:.{}f}", value + 0.0, whole ? 0 : 4);
    }
    return bytesOf(out);
}

std::optional<Fields> heard(const std::string& pattern, std::string_view line) {
    if (pattern.empty()) {
        return {};
    }
    const std::vector<Piece> pieces = piecesOf(pattern);
    Fields out;
    std::size_t at = 0;
    for (std::size_t i = 0; i < pieces.size(); ++i) {
        if (!pieces[i].field) {
            if (line.compare(at, pieces[i].text.size(), pieces[i].text) != 0) {
                return {};
            }
            at += pieces[i].text.size();
            continue;
        }
        std::size_t end = line.size();
        if (i + 1 < pieces.size() && !pieces[i + 1].field) {
            end = line.find(pieces[i + 1].text, at);
            if (end == std::string_view::npos) {
                return {};
            }
        } else if (i + 1 < pieces.size()) {
            end = std::min(line.find(' ', at), line.size());
        }
        if (!pieces[i].text.empty()) {
            out[pieces[i].text] = std::string(line.substr(at, end - at));
        }
        at = end;
    }
    return at == line.size() ? std::optional(out) : std::nullopt;
}

std::string answered(const std::string& pattern, const Fields& fields) {
    std::string out;
    for (const Piece& piece : piecesOf(pattern)) {
        const auto it = piece.field ? fields.find(piece.text) : fields.end();
        out += !piece.field ? piece.text : it == fields.end() ? std::string() : it->second;
    }
    return out;
}

bool Speech::acknowledges(std::string_view line) const {
    return heard(controller_.acknowledged, line).has_value();
}

std::string Speech::meaningOf(const std::string& number) const {
    std::string out;
    overMeanings(controller_.errors, [&](const std::string& n, const std::string& meaning) {
        out = n == number ? meaning : out;
    });
    return out;
}

namespace {

std::optional<std::string> told(const std::optional<Fields>& fields, std::string_view line,
                                const std::function<std::string(const std::string&)>& meaning) {
    if (!fields) {
        return {};
    }
    const auto it = fields->find("number");
    const std::string known = it == fields->end() ? std::string() : meaning(it->second);
    return known.empty() ? "it says \"" + std::string(line.substr(0, 60)) + "\"" : known;
}

} // namespace

std::optional<std::string> Speech::refuses(std::string_view line) const {
    return told(heard(controller_.refused, line), line,
                [this](const std::string& n) { return meaningOf(n); });
}

std::optional<std::string> Speech::alarms(std::string_view line) const {
    return told(heard(controller_.alarm, line), line,
                [this](const std::string& n) { return meaningOf(n); });
}

bool Speech::restarts(std::string_view line) const {
    return heard(controller_.restarted, line).has_value();
}

std::optional<MachineStatus> Speech::state(std::string_view line) const {
    const std::vector<Piece> pieces = piecesOf(controller_.state);
    if (pieces.empty() || pieces[0].field || line.rfind(pieces[0].text, 0) != 0) {
        return {};
    }
    const std::optional<Fields> fields = heard(controller_.state, line);
    if (!fields) {
        throw Error(fmt::format("The machine's answer \"{}\" is not all of its state.",
                                line.substr(0, 60)));
    }
    MachineStatus s;
    if (const auto it = fields->find("state"); it != fields->end()) {
        overMeanings(controller_.states, [&](const std::string& ours, const std::string& words) {
            std::size_t at = 0;
            while (at <= words.size()) { // several of theirs may be one of ours
                const std::size_t end = std::min(words.find(',', at), words.size());
                std::size_t from = at;
                while (from < end && words[from] == ' ') {
                    ++from;
                }
                s.state = words.substr(from, end - from) == it->second ? ours : s.state;
                at = end + 1;
            }
        });
        if (s.state.empty()) {
            throw Error(fmt::format("The machine says it is in a state nobody knows: \"{}\".",
                                    line.substr(0, 60)));
        }
    }
    s.position = placeIn(*fields, {"x", "y", "z"}, line);
    s.work = placeIn(*fields, {"wx", "wy", "wz"}, line);
    if (fields->count("free") > 0) {
        const double room = numberIn(*fields, "free", line);
        if (room < 0 || room > 1e6) {
            throw Error(fmt::format("The machine says its buffer has room for {:g} bytes.", room));
        }
        s.freeBytes = static_cast<std::size_t>(room);
    }
    s.feedPercent = fields->count("feed") > 0 ? numberIn(*fields, "feed", line) : 100;
    s.spindlePercent = fields->count("spindle") > 0 ? numberIn(*fields, "spindle", line) : 100;
    s.rpm = numberIn(*fields, "rpm", line);
    s.clock = numberIn(*fields, "clock", line);
    s.standIn = line.find("stand-in") != std::string_view::npos;
    return s;
}

std::optional<Vec3> Speech::probed(std::string_view line) const {
    const std::vector<Piece> pieces = piecesOf(controller_.probed);
    if (pieces.empty() || pieces[0].field || line.rfind(pieces[0].text, 0) != 0) {
        return {};
    }
    const std::optional<Fields> fields = heard(controller_.probed, line);
    if (!fields) {
        throw Error(
            fmt::format("The machine's probe gave no place: \"{}\".", line.substr(0, 60)));
    }
    try {
        return placeIn(*fields, {"x", "y", "z"}, line);
    } catch (const Error&) {
        throw Error(
            fmt::format("The machine's probe gave no place: \"{}\".", line.substr(0, 60)));
    }
}

std::string Speech::bytes(const char* name, const std::string& word,
                          const std::map<std::string, double>& numbers) const {
    return said(word, numbers) + (isIn(controller_.bare, name) ? std::string() : lineEnd());
}

std::string Speech::wordFor(const std::string& state) const {
    std::string out = state;
    overMeanings(controller_.states, [&](const std::string& ours, const std::string& words) {
        out = ours == state ? words.substr(0, words.find(',')) : out;
    });
    return out;
}

bool Speech::isIn(const std::string& list, std::string_view word) {
    std::size_t at = 0;
    while (at < list.size()) {
        const std::size_t end = std::min(list.find(' ', at), list.size());
        if (list.substr(at, end - at) == word) {
            return true;
        }
        at = end + 1;
    }
    return false;
}

} // namespace wren
