#include "design/letters.h"

#include "base/error.h"
#include "design/lists.h"
#include "design/shape.h"

#include <algorithm>
#include <cctype>
#include <map>

namespace wren {
namespace {

constexpr double capital = 6; ///< units a capital is high
constexpr double gap = 1.6;   ///< between two letters
constexpr double blank = 3;
constexpr double small = 0.75; ///< of a capital

/// How a sign is drawn: its width, then strokes parted by "|", each a list of "X Y" with a "b" and
/// a bulge where an arc leads on. Units; the foot is Y 0.
struct Sign {
    double width;
    const char* strokes;
};

const std::map<char, Sign>& alphabet() {
    static const std::map<char, Sign> signs{
        {'A', {4, "0 0, 2 6, 4 0 | .7 2, 3.3 2"}},
        {'B', {4, "0 0, 0 6, 2.5 6 b-1, 2.5 3 b-1, 2.5 0, 0 0 | 0 3, 2.5 3"}},
        {'C', {4, "4 4 b.41421356, 2 6 b.41421356, 0 4, 0 2 b.41421356, 2 0 b.41421356, 4 2"}},
        {'D', {4, "0 0, 0 6, 2 6 b-.41421356, 4 4, 4 2 b-.41421356, 2 0, 0 0"}},
        {'E', {3.6, "3.6 0, 0 0, 0 6, 3.6 6 | 0 3, 3 3"}},
        {'F', {3.6, "0 0, 0 6, 3.6 6 | 0 3, 3 3"}},
        {'G',
         {4, "4 4 b.41421356, 2 6 b.41421356, 0 4, 0 2 b.41421356, 2 0 b.41421356, 4 2, 4 3, "
             "2.5 3"}},
        {'H', {4, "0 0, 0 6 | 4 0, 4 6 | 0 3, 4 3"}},
        {'I', {0, "0 0, 0 6"}},
        {'J', {3, "0 1.5 b1, 3 1.5, 3 6"}},
        {'K', {4, "0 0, 0 6 | 4 6, 0 2.5 | 1.5 3.8125, 4 0"}},
        {'L', {3.5, "0 6, 0 0, 3.5 0"}},
        {'M', {5, "0 0, 0 6, 2.5 2, 5 6, 5 0"}},
        {'N', {4, "0 0, 0 6, 4 0, 4 6"}},
        {'O', {4, "2 6 b.41421356, 0 4, 0 2 b.41421356, 2 0 b.41421356, 4 2, 4 4 b.41421356, 2 6"}},
        {'P', {4, "0 0, 0 6, 2.5 6 b-1, 2.5 3, 0 3"}},
        {'Q',
         {4, "2 6 b.41421356, 0 4, 0 2 b.41421356, 2 0 b.41421356, 4 2, 4 4 b.41421356, 2 6 | "
             "2.5 1.5, 4 0"}},
        {'R', {4, "0 0, 0 6, 2.5 6 b-1, 2.5 3, 0 3 | 2 3, 4 0"}},
        {'S',
         {4, "4 4.5 b.41421356, 2.5 6, 1.5 6 b1, 1.5 3, 2.5 3 b-1, 2.5 0, 1.5 0 b-.41421356, 0 "
             "1.5"}},
        {'T', {4, "0 6, 4 6 | 2 6, 2 0"}},
        {'U', {4, "0 6, 0 2 b.41421356, 2 0 b.41421356, 4 2, 4 6"}},
        {'V', {4, "0 6, 2 0, 4 6"}},
        {'W', {5, "0 6, 1.25 0, 2.5 4, 3.75 0, 5 6"}},
        {'X', {4, "0 0, 4 6 | 0 6, 4 0"}},
        {'Y', {4, "0 6, 2 3, 4 6 | 2 3, 2 0"}},
        {'Z', {4, "0 6, 4 6, 0 0, 4 0"}},
        {'0',
         {3, "1.5 6 b.41421356, 0 4.5, 0 1.5 b.41421356, 1.5 0 b.41421356, 3 1.5, 3 4.5 "
             "b.41421356, 1.5 6"}},
        {'1', {1.5, "0 4.5, 1.5 6, 1.5 0"}},
        {'2', {3.5, "0 4.25 b-1, 3.5 4.25, 0 0, 3.5 0"}},
        {'3',
         {3.5, "0 6, 3.5 6, 1.75 3.5 b-.41421356, 3.5 1.75 b-.41421356, 1.75 0 b-.41421356, 0 "
               "1.75"}},
        {'4', {4, "3 0, 3 6, 0 2, 4 2"}},
        {'5', {3.5, "3.2 6, 0 6, 0 3.5, 1.75 3.5 b-1, 1.75 0, 0 0"}},
        {'6', {3.5, "2.5 6 b.25, 0 3, 0 1.75 b1, 3.5 1.75 b1, 0 1.75"}},
        {'7', {3.5, "0 6, 3.5 6, 1 0"}},
        {'8', {3, "1.5 3 b1, 1.5 6 b1, 1.5 3 b-1, 1.5 0 b-1, 1.5 3"}},
        {'9', {3.5, "1 0 b.25, 3.5 3, 3.5 4.25 b1, 0 4.25 b1, 3.5 4.25"}},
        {'.', {0, "0 0, 0 .5"}},
        {',', {.4, ".4 .5, 0 -1"}},
        {':', {0, "0 1, 0 1.5 | 0 3.5, 0 4"}},
        {'\'', {0, "0 6, 0 4.6"}},
        {'-', {2.5, "0 3, 2.5 3"}},
        {'+', {3, "0 3, 3 3 | 1.5 1.5, 1.5 4.5"}},
        {'/', {3, "0 0, 3 6"}},
        {'#', {4, ".7 0, 1.3 6 | 2.7 0, 3.3 6 | 0 2, 4 2 | 0 4, 4 4"}},
        {'(', {1, "1 6.5 b.3, 1 -.5"}},
        {')', {1, "0 6.5 b-.3, 0 -.5"}},
    };
    return signs;
}

struct Knot {
    Vec2 at;
    double bulge = 0;
};

Knot knotOf(const std::string& text) {
    std::istringstream words(text);
    std::string x, y, bulge;
    words >> x >> y >> bulge;
    return {{parseNumber(x), parseNumber(y)}, bulge.empty() ? 0 : parseNumber(bulge.substr(1))};
}

void draw(std::vector<Contour>& out, const char* strokes, Vec2 foot, double unit) {
    eachOf(strokes, '|', [&](const std::string& stroke) {
        std::vector<Knot> knots;
        eachOf(stroke, ',', [&](const std::string& one) {
            Knot k = knotOf(one);
            k.at = foot + k.at * unit;
            knots.push_back(k);
        });
        Contour line;
        for (std::size_t i = 0; i + 1 < knots.size(); ++i) {
            line.push_back(bulgedPiece(knots[i].at, knots[i + 1].at, knots[i].bulge));
        }
        out.push_back(std::move(line));
    });
}

/// The sign at a place whole, were it of several bytes.
std::string signAt(const std::string& words, std::size_t i) {
    std::size_t end = i + 1;
    while (end < words.size() && (static_cast<unsigned char>(words[end]) & 0xC0) == 0x80) {
        ++end;
    }
    return words.substr(i, end - i);
}

} // namespace

const std::string& letterSigns() {
    static const std::string all = [] {
        std::string s;
        for (const auto& [sign, drawn] : alphabet()) {
            s += sign;
        }
        return s;
    }();
    return all;
}

Lettering lettering(const std::string& words, double height) {
    Lettering out;
    const double unit = height / capital;
    double x = 0;
    for (std::size_t i = 0; i < words.size(); ++i) {
        const auto c = static_cast<unsigned char>(words[i]);
        if (c == ' ') {
            x += blank * unit;
            continue;
        }
        const auto found = alphabet().find(static_cast<char>(std::toupper(c)));
        if (found == alphabet().end()) {
            throw Error(fmt::format("There is no drawing of \"{}\" to engrave it with; letters "
                                    "from A to Z, figures and ' ( ) # + , - . / : were expected.",
                                    signAt(words, i)));
        }
        const double size = std::islower(c) ? small * unit : unit;
        draw(out.lines, found->second.strokes, {x, 0}, size);
        x += found->second.width * size + gap * unit;
        out.width = x - gap * unit;
    }
    return out;
}

} // namespace wren
