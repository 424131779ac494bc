#include "base/length.h"

#include "base/error.h"

#include <charconv>
#include <cmath>
#include <optional>

#include <fmt/format.h>

namespace wren {
namespace {

/// A value on its way: a plain number, or a length already in millimetres.
struct Quantity {
    double value = 0;
    bool isLength = false;
};

/// Recursive descent over: sum = product {(+|-) product}, product = factor {(*|/) factor},
/// factor = [-] ( '(' sum ')' | number ) [unit].
class Reader {
public:
    Reader(std::string_view text, LengthUnit bare, bool unitsAllowed)
        : text_(text), bare_(bare), unitsAllowed_(unitsAllowed) {}

    Quantity readAll() {
        skipSpace();
        if (atEnd()) {
            throw Error("The field is empty; a number such as 44.5 or 1 3/4 in was expected.");
        }
        const Quantity q = sum();
        if (!atEnd()) {
            fail(unitsAllowed_ ? "a number, a unit (mm, in) or + - * /" : "a number or + - * /");
        }
        return q;
    }

    double toMm(Quantity q) const {
        return q.isLength ? q.value : q.value * (bare_ == LengthUnit::inch ? mmPerInch : 1.0);
    }

private:
    Quantity sum() {
        Quantity left = product();
        while (peek('+') || peek('-')) {
            const bool minus = text_[pos_] == '-';
            advance();
            const Quantity right = product();
            const bool length = left.isLength || right.isLength;
            const double a = length ? toMm(left) : left.value;
            const double b = length ? toMm(right) : right.value;
            left = {minus ? a - b : a + b, length};
        }
        return left;
    }

    Quantity product() {
        Quantity left = factor();
        while (peek('*') || peek('/')) {
            const bool divide = text_[pos_] == '/';
            advance();
            const std::size_t at = pos_;
            const Quantity right = factor();
            if (divide && right.value == 0) {
                pos_ = at;
                fail("a divisor other than zero");
            }
            if (right.isLength && (divide || left.isLength)) {
                pos_ = at;
                fail("a plain number, not a second length");
            }
            left = {divide ? left.value / right.value : left.value * right.value,
                    left.isLength || right.isLength};
        }
        return left;
    }

    Quantity factor() {
        if (++depth_ > 60) {
            fail("fewer brackets");
        }
        Quantity q;
        if (peek('-') || peek('+')) {
            const bool minus = text_[pos_] == '-';
            advance();
            q = factor();
            q.value = minus ? -q.value : q.value;
        } else if (peek('(')) {
            advance();
            q = sum();
            if (!peek(')')) {
                fail("a closing bracket");
            }
            advance();
            q = withUnit(q);
        } else {
            q = withUnit({number(), false});
        }
        --depth_;
        return q;
    }

    /// 44.5, 3/16, or 25 1/2. A fraction binds tighter than any sign so that 1/8in is an eighth.
    double number() {
        const double whole = decimal();
        const std::size_t mark = pos_;
        if (const auto f = fractionAfter(whole)) {
            return *f;
        }
        pos_ = mark;
        if (!atEnd() && isDigit(text_[pos_])) {
            const double upper = decimal();
            if (const auto f = fractionAfter(upper)) {
                return whole + *f;
            }
            pos_ = mark;
            fail("a fraction or a unit after the space");
        }
        return whole;
    }

    std::optional<double> fractionAfter(double upper) {
        if (!peek('/') || upper != std::floor(upper)) {
            return std::nullopt;
        }
        advance();
        if (atEnd() || !isDigit(text_[pos_])) {
            return std::nullopt;
        }
        const double lower = decimal();
        if (lower == 0) {
            fail("a fraction with a lower number other than zero");
        }
        if (lower != std::floor(lower)) {
            return std::nullopt;
        }
        return upper / lower;
    }

    double decimal() {
        double value = 0;
        const char* first = text_.data() + pos_;
        const char* last = text_.data() + text_.size();
        const auto [end, code] = std::from_chars(first, last, value, std::chars_format::fixed);
        if (code != std::errc{} || !std::isfinite(value)) {
            fail("a number");
        }
        pos_ += static_cast<std::size_t>(end - first);
        skipSpace();
        return value;
    }

    Quantity withUnit(Quantity q) {
        std::size_t end = pos_;
        while (end < text_.size() && isLetter(text_[end])) {
            ++end;
        }
        double factor = 0;
        if (end == pos_ && end < text_.size() && (text_[end] == '"' || text_[end] == '\'')) {
            factor = text_[end] == '"' ? mmPerInch : 12 * mmPerInch;
            ++end;
        } else if (end != pos_) {
            factor = unitFactor(text_.substr(pos_, end - pos_));
        }
        if (end == pos_) {
            return q;
        }
        if (factor == 0) {
            fail(unitsAllowed_ ? "a unit (mm, cm, m, in, ft)" : "a plain number");
        }
        if (!unitsAllowed_) {
            fail("a plain number without a unit");
        }
        if (q.isLength) {
            fail("no second unit");
        }
        pos_ = end;
        skipSpace();
        return {q.value * factor, true};
    }

    static double unitFactor(std::string_view word) {
        std::string lower;
        for (char c : word) {
            lower += static_cast<char>(c >= 'A' && c <= 'Z' ? c + 32 : c);
        }
        if (lower == "mm") {
            return 1;
        }
        if (lower == "cm") {
            return 10;
        }
        if (lower == "m") {
            return 1000;
        }
        if (lower == "in" || lower == "inch" || lower == "inches") {
            return mmPerInch;
        }
        if (lower == "ft" || lower == "foot" || lower == "feet") {
            return 12 * mmPerInch;
        }
        return 0;
    }

    [[noreturn]] void fail(const std::string& expected) const {
        const std::string_view rest = pos_ < text_.size() ? text_.substr(pos_) : std::string_view{};
        if (rest.empty()) {
            throw Error(fmt::format("\"{}\" ends too early; {} was expected.", text_, expected));
        }
        throw Error(fmt::format("\"{}\" cannot be read at \"{}\"; {} was expected.", text_, rest,
                                expected));
    }

    static bool isDigit(char c) { return (c >= '0' && c <= '9') || c == '.'; }
    static bool isLetter(char c) { return (c >= 'a' && c <= 'z') || (c >= 'A' && c <= 'Z'); }
    bool atEnd() const { return pos_ >= text_.size(); }
    bool peek(char c) const { return !atEnd() && text_[pos_] == c; }
    void advance() {
        ++pos_;
        skipSpace();
    }
    void skipSpace() {
        while (!atEnd() && (text_[pos_] == ' ' || text_[pos_] == '\t')) {
            ++pos_;
        }
    }

    std::string_view text_;
    std::size_t pos_ = 0;
    int depth_ = 0;
    LengthUnit bare_;
    bool unitsAllowed_;
};

} // namespace

double parseLength(std::string_view text, LengthUnit bare) {
    Reader reader(text, bare, true);
    return reader.toMm(reader.readAll());
}

double parseNumber(std::string_view text) {
    return Reader(text, LengthUnit::mm, false).readAll().value;
}

std::string formatLengthValue(double mm, LengthUnit unit, int decimals) {
    const double value = unit == LengthUnit::inch ? mm / mmPerInch : mm;
    const int places = unit == LengthUnit::inch ? decimals + 1 : decimals;
    std::string text = fmt::format("{:.{}f}", value, places);
    // A rounded negative nothing reads as a sign error to a maker.
    if (text.find_first_not_of("-0.") == std::string::npos && text.front() == '-') {
        text.erase(0, 1);
    }
    return text;
}

std::string formatLength(double mm, LengthUnit unit, int decimals) {
    return formatLengthValue(mm, unit, decimals) + (unit == LengthUnit::inch ? " in" : " mm");
}

} // namespace wren
