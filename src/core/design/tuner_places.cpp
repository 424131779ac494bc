#include "design/tuner_places.h"

#include "base/error.h"
#include "base/length.h"
#include "design/neck_back.h"
#include "design/string_line.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <functional>
#include <numbers>
#include <sstream>

#include <fmt/format.h>

namespace wren {
namespace {

constexpr double besideString = 0.5; ///< mm between a string and the posts it passes
constexpr double apart = 2;          ///< mm from a body to the centreline

double degrees(double radians) {
    return radians * 180 / std::numbers::pi;
}

Vec2 wayOf(Vec2 v) {
    const double l = length(v);
    return l > 0 ? v * (1 / l) : Vec2{-1, 0};
}

/// One of two rows: its number of tuners, and how far from the centreline its first and last
/// strings leave the nut.
struct TunerRow {
    int count = 0;
    double first = 0, last = 0;
};

/// How far from the centreline the post at that place of a row stands. Pulled straight, two rows
/// would meet in the middle: each keeps to its own side, bodies clear of the centreline, every
/// string inside of the posts before its own.
double rowAt(const Tuners& t, const TunerRow& row, int place) {
    const double beside = t.post / 2 + besideString;
    const double along = std::max(1, row.count - 1) * t.pitch;
    const double first = std::max(t.bodyWidth / 2 + apart, row.first + beside);
    double last = first;
    for (int round = 0; round < 8; ++round) { // a body leans with its row
        const double lean = std::atan2(first - last, along);
        const double half =
            t.bodyLength / 2 * std::sin(std::abs(lean)) + t.bodyWidth / 2 * std::cos(lean);
        last = std::min(first, std::max(half + apart, row.last + beside));
    }
    return first + (last - first) * place / std::max(1, row.count - 1);
}

} // namespace

std::vector<TunerPost> postList(const std::string& text) {
    std::vector<TunerPost> posts;
    std::istringstream in(text);
    for (std::string one; std::getline(in, one, ',');) {
        std::istringstream words(one);
        std::string x, y, more;
        words >> x >> y;
        if (y.empty() || (words >> more)) {
            throw Error(
                fmt::format("\"{}\" is not a post; X and Y were expected, as in -42 -18.", one));
        }
        posts.push_back({{parseNumber(x), parseNumber(y)}});
    }
    return posts;
}

namespace {

/// The place where a tree holds a string down, if it does: below its straight way to the post.
std::optional<Vec3> heldBy(const StringTree& tree, const TunerPlace& p, double nutTop, double post,
                           const std::function<double(double)>& face) {
    const double share = (tree.at.x - p.nut.x) / (p.winds.x - p.nut.x);
    if (!(share > 0.02 && share < 0.98)) {
        return std::nullopt;
    }
    const Vec2 at = p.nut + (p.winds - p.nut) * share;
    const double low = face(at.x) + tree.height;
    return low < nutTop + (post - nutTop) * share ? std::optional(Vec3{at.x, at.y, low})
                                                  : std::nullopt;
}

} // namespace

std::vector<TunerPlace> tunerPlaces(const Neck& neck, const Fretboard& board,
                                    const NeckOutline& outline) {
    const Tuners& t = neck.tuners;
    const Fan fan(board);
    std::vector<TunerPost> listed = t.places;
    if (static_cast<int>(listed.size()) != board.strings) {
        listed.clear();
    }
    const std::vector<double> across = stringCentres(board, 2);
    std::vector<TunerPlace> out;
    const int onBass = std::min(t.onBassSide, board.strings);
    // How far on its own side of the centreline a string leaves the nut.
    const auto reachOf = [&](int i) {
        const auto k = static_cast<std::size_t>(std::clamp(i, 0, board.strings - 1));
        return (i < onBass ? 1 : -1) * fan.bassSide() * fan.string(across[k], 0).y;
    };
    const bool bothSides = onBass > 0 && onBass < board.strings;
    const std::array<TunerRow, 2> rows{
        TunerRow{onBass, reachOf(0), reachOf(onBass - 1)},
        TunerRow{board.strings - onBass, reachOf(board.strings - 1), reachOf(onBass)}};
    for (int i = 0; i < board.strings; ++i) {
        TunerPlace p;
        p.string = i;
        p.onBassSide = i < onBass;
        const double place = across[static_cast<std::size_t>(i)];
        p.nut = fan.string(place, 0);
        const Vec2 back = wayOf(p.nut - fan.string(place, 0.1)); // away from the bridge
        const double outward = (p.onBassSide ? 1 : -1) * fan.bassSide();
        if (listed.empty()) {
            const int row = p.onBassSide ? i : board.strings - 1 - i;
            const double x = -(t.first + row * t.pitch);
            const double far = (x - p.nut.x) / back.x;
            const Vec2 on = p.nut + back * far;
            p.post = {x, on.y + outward * t.post / 2};
            if (bothSides) {
                p.post.y = outward * rowAt(t, p.onBassSide ? rows[0] : rows[1], row);
            }
        } else {
            p.post = listed[static_cast<std::size_t>(i)].at;
            p.post.y *= -fan.bassSide(); // the list is that of a right-handed neck
        }
        p.winds = {p.post.x, p.post.y - outward * t.post / 2};
        const Vec2 way = wayOf(p.winds - p.nut);
        p.sideAngle = degrees(std::acos(std::min(1.0, dot(way, back))));
        const bool own = !listed.empty() && listed[static_cast<std::size_t>(i)].height;
        p.postHeight = own ? *listed[static_cast<std::size_t>(i)].height : t.postHeight;
        const auto face = [&](double x) {
            return headFaceZ(neck, outline.headStart(), x) + neck.head.plate;
        };
        const double top = stringHeightAtNut(neck, board);
        const double post = face(p.winds.x) + p.postHeight;
        for (const StringTree& tree : t.trees) {
            const std::optional<Vec3> held =
                tree.holds(board.strings - i) ? heldBy(tree, p, top, post, face) : std::nullopt;
            if (held && (!p.held || held->x > p.held->x)) { // the one nearest to the nut
                p.held = held;
            }
        }
        p.breakAngle = p.held ? degrees(std::atan2(top - p.held->z, length(p.held->xy() - p.nut)))
                              : degrees(std::atan2(top - post, length(p.winds - p.nut)));
        out.push_back(p);
    }
    // A row's direction is that from its first post to its last.
    for (TunerPlace& p : out) {
        const TunerPlace* first = nullptr;
        const TunerPlace* last = nullptr;
        for (const TunerPlace& q : out) {
            if (q.onBassSide == p.onBassSide) {
                first = first ? first : &q;
                last = &q;
            }
        }
        p.along = first == last ? Vec2{-1, 0} : wayOf(last->post - first->post);
        if (p.along.x > 0) {
            p.along = p.along * -1;
        }
    }
    return out;
}

std::vector<Vec2> tunerBody(const Tuners& t, const TunerPlace& p) {
    const Vec2 u = p.along * (t.bodyLength / 2);
    const Vec2 v = Vec2{-p.along.y, p.along.x} * (t.bodyWidth / 2);
    return {p.post + u + v, p.post + u - v, p.post - u - v, p.post - u + v};
}

Vec2 tunerScrew(const Tuners& t, const TunerPlace& p) {
    return p.post + p.along * t.pilotOff;
}

} // namespace wren
