#include "job/project.h"

#include "design/fan.h"
#include "design/head_shape.h"
#include "job/feature_edits.h"
#include "job/keys.h"

#include <algorithm>
#include <cmath>

#include <fmt/format.h>

namespace wren {

Project::Project() = default;
Project::Project(const Project&) = default;
Project::Project(Project&&) noexcept = default;
Project& Project::operator=(const Project&) = default;
Project& Project::operator=(Project&&) noexcept = default;
Project::~Project() = default;

namespace {

// Common practice, no source.
constexpr double bassScale = 740;   ///< from here on it is a bass
constexpr double guitarPitch = 7.3; ///< between strings at the nut, and at the bridge
constexpr double guitarBridge = 10.5;
constexpr double bassPitch = 10;
constexpr double bassBridge = 19;
constexpr double fretlessFrets = 24; ///< how far a board without frets reaches
constexpr double beyondBoard = 22;   ///< of blank at each end
constexpr double besideBoard = 10;   ///< and on each side
constexpr double toPlane = 0.8;      ///< and on top
constexpr double leastShaft = 20;   ///< between a short neck's transitions
constexpr double boltsInside = 18;   ///< of a heel's width, that its bolts' pattern leaves
constexpr double mostDrop = 2.5; ///< of the arc at the widest place, so that slots keep their wood

double roundedUp(double value, double step) {
    return std::ceil(value / step) * step;
}

/// The same board with a face that spans any width.
Fretboard flattened(Fretboard board) {
    board.radius = 3000;
    return board;
}

void sizeBlank(Project& p) {
    const BoardPart board(p.board);
    p.blank.length = roundedUp(board.length() + 2 * beyondBoard, 5);
    p.blank.width = roundedUp(board.widest() + 2 * besideBoard, 1);
    p.blank.thickness = p.board.thickness + toPlane;
}

} // namespace

Project newProject(const std::string& name, int strings, double scale, int frets, Hand hand) {
    Project p;
    const auto put = [&p](const char* path, const KeyValue& value) {
        const Key key = keyAt(p, path);
        checkValue(key, value);
        key.set(p, value);
    };
    put("name", name);
    put("board.strings", static_cast<double>(strings));
    put("board.scale", scale);
    put("board.frets", static_cast<double>(frets));
    p.board.hand = hand;
    const bool bass = scale >= bassScale;
    p.board.nutSpread = (strings - 1) * (bass ? bassPitch : guitarPitch);
    p.board.bridgeSpread = (strings - 1) * (bass ? bassBridge : guitarBridge);
    if (frets == 0) {
        put("board.past_last_fret", std::round(scale * Fan::share(fretlessFrets) + 8));
    }
    // A board for many strings wants a flatter face: the drop at half the width h is about h^2 / 2
    // r.
    const double half = BoardPart(flattened(p.board)).widest() / 2;
    p.board.radius = std::max(p.board.radius, roundedUp(half * half / (2 * mostDrop), 50));
    if (frets > 0 && frets < 12) {           // the stations of a short board end with it
        constexpr double thicker = 2.0 / 11; // mm a fret, as from the first to the twelfth
        const double last = std::round((20.5 + thicker * (frets - 1)) * 10) / 10;
        const double first = frets > 1 ? 1 : 0;
        p.neck.stations = {{first, 20.5, {}, {}, {}}, {double(frets), last, {}, {}, {}}};
        // Its neck goes on beyond the board until there is a shaft between head and heel.
        const Neck& n = p.neck;
        const double shaftTo = Fan(p.board).endOnCentre() - n.heelLength - n.transition;
        p.neck.heelPast = std::max(0.0, roundedUp(n.head.transitionFrom + leastShaft - shaftTo, 5));
    }
    // As far before the end as in a neck of ordinary length.
    constexpr double beforeEnd = 32;
    const double rodTo = Fan(p.board).endOnCentre() + p.neck.heelPast - beforeEnd;
    p.neck.rod.length =
        std::clamp(std::floor((rodTo - p.neck.rod.start) / 5) * 5, 50.0, p.neck.rod.length);
    p.neck.tuners.onBassSide = (strings + 1) / 2;
    p.neck.head.stock =
        HeadStock::scarf; // once it is tilted: few blanks are as thick as a long one
    p.neck.head.nodes = headRound("paddle", p.neck, p.board);
    // Four bolts as far apart as the heel lets them.
    const double heel = BoardPart(flattened(p.board)).widest();
    p.neck.boltWide = std::clamp(roundedUp(heel - boltsInside, 1) - 1, 10.0, p.neck.boltWide);
    p.body.nodes = Body::bodyShape("fell", bodyMouth(p.board), bodyLonger(p.neck, p.board));
    sizeBlank(p);
    return settledOnEdge(p); // a body longer or shorter than the usual one takes them along
}

Project withTrebleScale(const Project& project, double scale, const std::string& squareAt) {
    Project p = withKey(project, "board.square_fret", squareAt);
    const Key key = keyAt(p, "board.treble_scale");
    checkValue(key, scale);
    key.set(p, scale);
    p.board.end = p.board.frets > 0 ? BoardEnd::slanted : BoardEnd::straight;
    if (!hasFirmStop(judgeFretboard(p.board))) {
        sizeBlank(p);
    }
    return p;
}

} // namespace wren
