#include "cut/slot_cut.h"

#include "cut/contact.h"
#include "cut/path_builder.h"

#include <algorithm>
#include <cmath>

namespace wren {
namespace {

/// The chords of a pass stay within this of the true curve, mm; well inside the 0.01 allowed.
constexpr double chordTolerance = 0.002;

struct Station {
    double y, z;
};

/// The tip's way across the board from -end to +end: on the floor `depth` below the face, but not
/// below the level `cap`.
std::vector<Station> across(const BoardPart& board, const Bit& bit, double depth, double cap,
                            double end) {
    const CylinderFace floor =
        CylinderFace{board.design().thickness, board.design().radius}.raised(-depth);
    const double step = std::sqrt(8 * floor.radius * chordTolerance);
    const int n = std::max(2, static_cast<int>(std::ceil(2 * end / step)));
    std::vector<Station> stations;
    for (int i = 0; i <= n; ++i) {
        const double y = -end + 2 * end * i / n;
        const Station s{y, std::max(flatTipOn(floor, y, bit.radius()), cap)};
        const std::size_t k = stations.size();
        // A level run needs only its two ends.
        if (k >= 2 && stations[k - 1].z == s.z && stations[k - 2].z == s.z) {
            stations.back() = s;
        } else {
            stations.push_back(s);
        }
    }
    return stations;
}

/// How far each pass goes: down from the curved face, or in level steps from the blank's top.
struct Descent {
    int passes = 1;
    double step = 0;
};

Descent descentFor(const BoardPart& board, const Setup& setup, const Feeds& feeds,
                   const CutSettings& cut, double end) {
    const double whole = cut.school == School::radiusFirst
                             ? board.design().slotDepth
                             : setup.blank.thickness - board.floor(end);
    Descent d;
    d.passes = std::max(1, static_cast<int>(std::ceil(whole / feeds.depthPerPass - 1e-9)));
    d.step = whole / d.passes;
    return d;
}

} // namespace

double slotEntryBeyondEdge(const Bit& bit) {
    return bit.radius() + 0.4;
}

double fluteReachForSlots(const BoardPart& board, const Setup& setup, const CutSettings& cut,
                          const Bit& bit) {
    if (cut.school == School::slotsFirst) {
        const double end = board.widest() / 2 + slotEntryBeyondEdge(bit);
        return setup.blank.thickness - board.floor(end);
    }
    // Roughing leaves its skin and, between its passes, ridges up to as much again.
    return board.design().slotDepth + 2 * cut.skin;
}

Path slotPath(const BoardPart& board, const Setup& setup, const Bit& bit, const Feeds& feeds,
              const CutSettings& cut) {
    const double clear = setup.topZ() + clearanceHeight;
    PathBuilder path({0, 0, clear});
    const double offset = std::max(0.0, (board.design().slotWidth - bit.diameter) / 2);
    const bool radiusFirst = cut.school == School::radiusFirst;
    for (double x : board.slotCentres()) {
        const double end = board.halfWidth(x) + slotEntryBeyondEdge(bit);
        const Descent descent = descentFor(board, setup, feeds, cut, end);
        const auto at = [&](double side, Station s) {
            return setup.fromInstrument.toSetup({x + side, s.y, s.z});
        };
        double direction = 1;
        bool entered = false;
        for (int pass = 1; pass <= descent.passes; ++pass) {
            const double depth = radiusFirst ? pass * descent.step : board.design().slotDepth;
            const double cap = radiusFirst ? -1e9 : setup.blank.thickness - pass * descent.step;
            const std::vector<Station> way = across(board, bit, depth, cap, end);
            // One line down the middle, or out along one wall and back along the other.
            const std::vector<double> walls =
                offset > 0 ? std::vector{offset, -offset} : std::vector{0.0};
            for (double wall : walls) {
                const auto station = [&](std::size_t i) {
                    return at(wall, direction > 0 ? way[i] : way[way.size() - 1 - i]);
                };
                if (!entered) {
                    path.travelTo(station(0).xy(), clear, setup.topZ() + approachHeight);
                    entered = true;
                }
                path.feed(station(0), feeds.plunge);
                for (std::size_t i = 1; i < way.size(); ++i) {
                    path.feed(station(i), feeds.feed);
                }
                direction = -direction;
            }
        }
        path.rapid({path.at().x, path.at().y, clear});
    }
    return path.take();
}

} // namespace wren
