#include "design/fan.h"
#include "design/markers.h"

#include <algorithm>
#include <cmath>
#include <numeric>

#include <fmt/format.h>

namespace wren {
namespace {

// All of these are common practice, no source.

/// Wood left between a slot's floor and the glue plane at the board's edge. A thin board with a
/// small radius can keep 0.6 mm and live; much less breaks in handling.
constexpr double leastWoodUnderSlot = 0.3;
constexpr double wantedWoodUnderSlot = 0.8;
/// An edge thinner than this chips when it is glued and rounded.
constexpr double leastEdge = 0.8;
constexpr double wantedEdge = 2.0;
/// Closer slots than this leave a strip that crumbles.
constexpr double wantedFretGap = 5.0;
/// Wood between the last slot and the board's end.
constexpr double leastPastLast = 1.0;
constexpr double wantedPastLast = 3.0;
/// What a slot wants below the tang, for glue and dust.
constexpr double glueRoom = 0.2;
/// Beside the board the face must go on far enough for the cutter.
constexpr double beside = 6;

class Judge {
public:
    explicit Judge(const Fretboard& board)
        : b_(board), fan_(board), face_(faceOf(board)), floor_(face_.raised(-board.slotDepth)) {}

    Findings judge() {
        judgeStrings();
        judgeSlotDepth();
        if (!hasFirmStop(out_)) {
            judgeWidth();
        }
        if (!hasFirmStop(out_)) {
            judgeRadius();
        }
        if (!hasFirmStop(out_)) {
            judgeFan();
        }
        if (!hasFirmStop(out_)) {
            judgeEnds();
            judgeWood();
            judgeWire();
            const Findings markers = judgeMarkers(b_);
            out_.insert(out_.end(), markers.begin(), markers.end());
        }
        return std::move(out_);
    }

private:
    Finding& say(Weight weight, std::string code, std::string message, double value, double limit) {
        return sayOfBoard(out_, weight, std::move(code), std::move(message), value, limit);
    }

    /// There is no board to cut, whatever reason is given.
    Finding& stop(std::string code, std::string message, double value, double limit) {
        Finding& f = say(Weight::stop, std::move(code), std::move(message), value, limit);
        f.overridable = false;
        return f;
    }

    void judgeStrings() {
        if (b_.nutSpread <= 0) {
            stop("no-room-for-strings",
                 fmt::format("An overhang of {:.1f} and {:.1f} mm leaves no room for strings on a "
                             "nut {:.1f} mm wide.",
                             b_.overhangBass, b_.overhangTreble,
                             b_.nutSpread + b_.overhangBass + b_.overhangTreble),
                 b_.nutSpread, 0);
            return;
        }
        if (b_.spacing == StringSpacing::gaps) {
            const std::vector<StringGauge>& gauges = b_.gauges;
            if (gauges.size() != static_cast<std::size_t>(b_.strings)) {
                say(Weight::caution, "gauges-missing",
                    fmt::format("Equal gaps need {} gauges, bass to treble, and {} are given; the "
                                "strings stand at equal centres until then.",
                                b_.strings, gauges.size()),
                    static_cast<double>(gauges.size()), b_.strings);
            }
        }
    }

    void judgeSlotDepth() {
        if (b_.slotDepth >= b_.thickness) {
            stop("slot-through-board",
                 fmt::format("The fret slots are {:.2f} mm deep in a board {:.2f} mm thick; they "
                             "would cut it into pieces.",
                             b_.slotDepth, b_.thickness),
                 b_.slotDepth, b_.thickness);
        }
    }

    std::vector<double> ends() const {
        const FretLine nut = fan_.parallelTo(0, -fan_.behind());
        const FretLine end = fan_.endLine();
        return {std::min(nut.bass.x, nut.treble.x),
                std::max({end.bass.x, end.treble.x, fan_.endOnCentre()})};
    }

    void judgeWidth() {
        for (double x : ends()) {
            const double width = std::abs(fan_.edgeAt(1, x) - fan_.edgeAt(-1, x));
            const bool turned = (fan_.edgeAt(1, x) - fan_.edgeAt(-1, x)) * fan_.bassSide() > 0;
            if (turned || width < 10) {
                stop("board-tapers-away",
                     "The board narrows to less than 10 mm before its end; the width at the last "
                     "fret or the length beyond it is wrong.",
                     turned ? 0 : width, 10);
                return;
            }
        }
    }

    void judgeRadius() {
        for (double x : ends()) {
            const double half = std::max(std::abs(fan_.edgeAt(1, x)), std::abs(fan_.edgeAt(-1, x)));
            const double least = half + beside + b_.slotDepth;
            if (face_.radiusAt(x) <= least) {
                stop("radius-too-small",
                     fmt::format("A radius of {:.1f} mm cannot span a board {:.1f} mm wide and the "
                                 "waste beside it; at least {:.1f} mm is needed.",
                                 face_.radiusAt(x), 2 * half, least),
                     face_.radiusAt(x), least)
                    .atX = x;
                return;
            }
        }
    }

    /// Slots in running order, the nut's line first.
    void judgeFan() {
        double least = 1e9;
        int at = 0;
        FretLine before = fan_.line(0);
        for (int n = 1; n <= b_.frets; ++n) {
            const FretLine line = fan_.line(n);
            const double gap =
                std::min(line.bass.x - before.bass.x, line.treble.x - before.treble.x);
            if (gap < least) {
                least = gap;
                at = n;
            }
            before = line;
        }
        if (b_.frets == 0) {
            return;
        }
        const double x = fan_.line(at).middle();
        if (least <= 0) {
            stop("frets-cross",
                 fmt::format("Frets {} and {} cross inside the board, by {:.2f} mm at its edge; "
                             "scales nearer to each other or another square fret keep them apart.",
                             at - 1, at, -least),
                 least, b_.slotWidth)
                .atX = x;
        } else if (least < b_.slotWidth + 1) {
            stop("slots-meet",
                 fmt::format("The slots of frets {} and {} stand {:.2f} mm apart at the board's "
                             "edge; {:.2f} mm is the least that leaves wood between them.",
                             at - 1, at, least, b_.slotWidth + 1),
                 least, b_.slotWidth + 1)
                .atX = x;
        } else if (least < wantedFretGap) {
            say(Weight::caution, "frets-close",
                fmt::format("Frets {} and {} stand only {:.2f} mm apart; under {:.1f} mm the wood "
                            "between the slots crumbles easily.",
                            at - 1, at, least, wantedFretGap),
                least, wantedFretGap)
                .atX = x;
        }
    }

    void judgeEnds() {
        const FretLine last = fan_.line(b_.frets);
        const FretLine end = fan_.endLine();
        if (b_.end == BoardEnd::radiused) {
            const double half = std::max(std::abs(end.bass.y), std::abs(end.treble.y));
            if (b_.endRadius < 1.1 * half) {
                stop("end-radius-too-small",
                     fmt::format("An end radius of {:.1f} mm cannot span a board {:.1f} mm wide "
                                 "there; at least {:.1f} mm is needed.",
                                 b_.endRadius, 2 * half, 1.1 * half),
                     b_.endRadius, 1.1 * half);
                return;
            }
        }
        const double left =
            std::min(end.bass.x - last.bass.x, end.treble.x - last.treble.x) - b_.slotWidth / 2;
        const int who = b_.frets;
        if (left < leastPastLast) {
            stop("fret-beyond-board",
                 fmt::format("Fret {} {}; {:.1f} mm of wood past it is the least. More length "
                             "past the last fret, or an end along the fret, helps.",
                             who,
                             left < 0 ? fmt::format("lies {:.2f} mm beyond the board's end at its "
                                                    "edge",
                                                    -left)
                                      : fmt::format("comes within {:.2f} mm of the board's end at "
                                                    "its edge",
                                                    left),
                             leastPastLast),
                 left, leastPastLast)
                .atX = last.middle();
        } else if (left < wantedPastLast) {
            say(Weight::caution, "thin-past-last-fret",
                fmt::format("Only {:.2f} mm of wood stands past fret {} at the board's edge; "
                            "{:.1f} mm or more keeps it whole.",
                            left, who, wantedPastLast),
                left, wantedPastLast)
                .atX = last.middle();
        }
        if (b_.zeroFret && b_.behindZero < b_.slotWidth / 2 + leastPastLast) {
            stop("zero-fret-at-end",
                 fmt::format("The zero fret stands {:.2f} mm from the nut; {:.2f} mm is the least "
                             "that leaves wood behind its slot.",
                             b_.behindZero, b_.slotWidth / 2 + leastPastLast),
                 b_.behindZero, b_.slotWidth / 2 + leastPastLast);
        }
        judgeShelf();
    }

    /// The ledge is flat, so it has to lie below the face right to the board's edges.
    void judgeShelf() {
        if (b_.nutShelf <= 0) {
            return;
        }
        double lowest = b_.thickness;
        for (const FretLine& line : {fan_.parallelTo(0, -fan_.behind()),
                                     fan_.parallelTo(0, b_.nutShelf - fan_.behind())}) {
            for (Vec2 end : {line.bass, line.treble}) {
                lowest = std::min(lowest, face_.heightAt(end.x, end.y));
            }
        }
        if (b_.shelfFloor >= lowest) {
            stop("shelf-above-face",
                 fmt::format(
                     "The nut's ledge lies at {:.2f} mm but the face comes down to {:.2f} mm "
                     "at the board's edges; the ledge must be lower.",
                     b_.shelfFloor, lowest),
                 b_.shelfFloor, lowest);
        }
    }

    void judgeWood() {
        double edge = b_.thickness;
        double at = 0;
        for (double x : ends()) {
            for (int side : {-1, 1}) {
                const double h = face_.heightAt(x, fan_.edgeAt(side, x));
                if (h < edge) {
                    edge = h;
                    at = x;
                }
            }
        }
        if (edge <= 0) {
            stop("face-through-board",
                 fmt::format("The curved face runs out through the underside at the board's edge, "
                             "by {:.2f} mm; a larger radius or a thicker board is needed.",
                             -edge),
                 edge, leastEdge)
                .atX = at;
            return;
        }
        if (edge < wantedEdge) {
            say(edge < leastEdge ? Weight::stop : Weight::caution, "thin-edge",
                fmt::format("The board is only {:.2f} mm thick at its edge; {:.1f} mm or more is "
                            "wanted.",
                            edge, wantedEdge),
                edge, wantedEdge)
                .atX = at;
        }
        double wood = b_.thickness;
        for (const FretPlace& f : fretTable(b_)) {
            if (f.woodUnderSlot < wood) {
                wood = f.woodUnderSlot;
                at = f.fromNut;
            }
        }
        if (wood < wantedWoodUnderSlot) {
            const std::string message =
                wood > 0 ? fmt::format("Only {:.2f} mm of wood is left under the fret slots at "
                                       "the board's edges; {:.1f} mm or more is wanted.",
                                       wood, wantedWoodUnderSlot)
                         : fmt::format("The fret slots come out through the underside at the "
                                       "board's edges, by {:.2f} mm; {:.1f} mm of wood or more "
                                       "is wanted there.",
                                       -wood, wantedWoodUnderSlot);
            Finding& f = say(wood < leastWoodUnderSlot ? Weight::stop : Weight::caution,
                             "thin-under-slot", message, wood, wantedWoodUnderSlot);
            f.overridable = wood > 0;
            f.atX = at;
        }
    }

    /// The slot against the wire: as measured when a test cut was, as drawn otherwise.
    void judgeWire() {
        if (b_.frets == 0 && !b_.zeroFret) {
            return;
        }
        const FretWire& w = b_.wire;
        const double slot = w.measuredSlot.value_or(b_.slotWidth);
        const char* which = w.measuredSlot ? "measures" : "is drawn";
        const double over = slot - w.tangWidth;
        const double most = w.tangWidth + w.fitMost;
        const double least = w.tangWidth + w.fitLeast;
        if (over > w.fitMost + 1e-9) {
            say(slot >= w.barbWidth ? Weight::stop : Weight::caution, "fret-loose",
                fmt::format("The fret slot {} {:.3f} mm for a tang of {:.3f} mm; over {:.3f} mm "
                            "the frets sit loose.",
                            which, slot, w.tangWidth, most),
                slot, most);
        } else if (over < w.fitLeast - 1e-9) {
            say(Weight::caution, "fret-tight",
                fmt::format("The fret slot {} {:.3f} mm for a tang of {:.3f} mm; under {:.3f} mm "
                            "the wood splits or the fret will not seat.",
                            which, slot, w.tangWidth, least),
                slot, least);
        }
        if (b_.slotDepth < w.tangDepth + glueRoom - 1e-9) {
            say(Weight::caution, "slot-shallow",
                fmt::format("The slots are {:.2f} mm deep for a tang of {:.2f} mm; {:.2f} mm "
                            "leaves room for glue.",
                            b_.slotDepth, w.tangDepth, w.tangDepth + glueRoom),
                b_.slotDepth, w.tangDepth + glueRoom);
        }
        if (b_.blindMargin > 0) {
            for (const FretPlace& f : fretTable(b_)) {
                if (f.slotLength < 2 * b_.blindMargin + 10) {
                    stop("blind-slots-vanish",
                         fmt::format("Slots that stop {:.2f} mm short of both edges leave nothing "
                                     "of fret {}, {:.2f} mm long.",
                                     b_.blindMargin, f.fret, f.slotLength),
                         b_.blindMargin, (f.slotLength - 10) / 2);
                    return;
                }
            }
        }
    }

    const Fretboard& b_;
    Fan fan_;
    ArchedFace face_;
    ArchedFace floor_;
    Findings out_;
};

} // namespace

Findings judgeFretboard(const Fretboard& board) {
    return Judge(board).judge();
}

} // namespace wren
