#include "base/unit_text.h"

#include <algorithm>
#include <array>
#include <cctype>
#include <cmath>
#include <cstdlib>
#include <vector>

#include <fmt/format.h>

namespace wren {
namespace {

constexpr int moreDigits = 2; ///< a hundredth of an inch is coarser than one of a millimetre

struct Number {
    std::size_t from, to;
    int decimals;
};

bool isDigit(char c) {
    return std::isdigit(static_cast<unsigned char>(c)) != 0;
}

/// The number that begins at `i`; empty (from == to) where none does.
Number numberAt(const std::string& s, std::size_t i) {
    Number n{i, i, 0};
    std::size_t k = i + (s[i] == '-' ? 1 : 0);
    const std::size_t first = k;
    while (k < s.size() && isDigit(s[k])) {
        ++k;
    }
    if (k == first || (i > 0 && (std::isalnum(static_cast<unsigned char>(s[i - 1])) != 0 ||
                                 s[i - 1] == '.' || s[i - 1] == '-'))) {
        return n; // a name, "drill-6.5", or half of another number
    }
    if (k + 1 < s.size() && s[k] == '.' && isDigit(s[k + 1])) {
        const std::size_t point = k++;
        while (k < s.size() && isDigit(s[k])) {
            ++k;
        }
        n.decimals = static_cast<int>(k - point - 1);
    }
    n.to = k;
    return n;
}

bool begins(const std::string& s, std::size_t at, const char* word) {
    return s.compare(at, std::char_traits<char>::length(word), word) == 0;
}

struct Unit {
    const char* mm;
    const char* inch;
    double perInch;
};

/// The unit behind a number, longer names first.
const Unit* unitAt(const std::string& s, std::size_t at) {
    static constexpr double in = mmPerInch;
    static const std::array<Unit, 6> units{{{" mm/min", " in/min", in},
                                            {" mm\u00B2", " in\u00B2", in * in},
                                            {" mm\u00B3", " in\u00B3", in * in * in},
                                            {" mm2", " in2", in * in},
                                            {" mm3", " in3", in * in * in},
                                            {" mm", " in", in}}};
    for (const Unit& u : units) {
        const std::size_t end = at + std::char_traits<char>::length(u.mm);
        if (begins(s, at, u.mm) &&
            (end >= s.size() || std::isalnum(static_cast<unsigned char>(s[end])) == 0)) {
            return &u;
        }
    }
    return nullptr;
}

/// What may stand between numbers that share the unit behind the last one.
std::size_t joins(const std::string& s, std::size_t at) {
    for (const char* word : {" to ", " by ", " x ", " and ", " or ", ", ", "/"}) {
        if (begins(s, at, word)) {
            return std::char_traits<char>::length(word);
        }
    }
    return 0;
}

std::string converted(const std::string& s, const Number& n, double perInch) {
    const int digits = n.decimals + moreDigits + (perInch > 2 * mmPerInch ? 1 : 0);
    return fmt::format("{:.{}f}", std::strtod(s.c_str() + n.from, nullptr) / perInch, digits);
}

} // namespace

std::string inUnit(const std::string& text, LengthUnit unit) {
    if (unit == LengthUnit::mm) {
        return text;
    }
    std::string out;
    bool quoted = false;
    for (std::size_t i = 0; i < text.size();) {
        quoted = text[i] == '"' ? !quoted : quoted;
        const Number first = quoted ? Number{i, i, 0} : numberAt(text, i);
        if (first.to == first.from) {
            out += text[i++];
            continue;
        }
        std::vector<Number> all{first};
        for (std::size_t gap = joins(text, all.back().to); gap > 0;
             gap = joins(text, all.back().to)) {
            const std::size_t at = all.back().to + gap;
            const Number next = at < text.size() ? numberAt(text, at) : first;
            if (at >= text.size() || next.to == next.from) {
                break;
            }
            all.push_back(next);
        }
        const Unit* measured = unitAt(text, all.back().to);
        const bool place = all.size() == 2 && (begins(text, all.back().to, " from the ") ||
                                               begins(text, all.back().to, ", from the "));
        if (!measured && !place) {
            out += text.substr(first.from, first.to - first.from);
            i = first.to;
            continue;
        }
        const double perInch = measured ? measured->perInch : mmPerInch;
        std::size_t copied = i;
        for (const Number& n : all) {
            out += text.substr(copied, n.from - copied) + converted(text, n, perInch);
            copied = n.to;
        }
        i = copied;
        if (measured) {
            out += measured->inch;
            i += std::char_traits<char>::length(measured->mm);
        }
    }
    return out;
}

} // namespace wren
