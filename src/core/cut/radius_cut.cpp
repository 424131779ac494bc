#include "cut/radius_cut.h"

#include "cut/contact.h"
#include "cut/path_builder.h"

#include <algorithm>
#include <cmath>
#include <optional>

namespace wren {
namespace {

/// A lengthwise pass: the axis at a fixed y, the tip at a fixed z, from x0 to x1. Instrument frame.
struct Pass {
    double y = 0;
    double z = 0;
    double x0 = 0;
    double x1 = 0;
};

constexpr double pastTheEnds = 0.5; ///< mm the touching point runs beyond nut and end
constexpr double rampLength = 30;   ///< mm over which the bit works its way down

/// Where passes touching the face at |contact| are needed: only as far as the board (plus margin)
/// is that wide.
std::optional<std::pair<double, double>> span(const BoardPart& board, double contact, double margin,
                                              double overrun) {
    double x0 = -overrun;
    double x1 = board.length() + overrun;
    const double reach = std::abs(contact) - margin;
    if (board.taper() != 0) {
        const double crossing = (reach - board.halfWidth(0)) / board.taper();
        if (board.taper() > 0) {
            x0 = std::max(x0, crossing - overrun);
        } else {
            x1 = std::min(x1, crossing + overrun);
        }
    } else if (reach > board.halfWidth(0)) {
        return std::nullopt;
    }
    if (x1 - x0 < 1) {
        return std::nullopt;
    }
    return std::pair{x0, x1};
}

class Passes {
public:
    Passes(const BoardPart& board, const Bit& bit)
        : board_(board), bit_(bit), face_{board.design().thickness, board.design().radius} {}

    /// Contacts from the bass edge to the treble edge with ridges of at most `ridge` between them.
    std::vector<Pass> over(double raisedBy, double ridge, double margin) const {
        const CylinderFace face = face_.raised(raisedBy);
        // A ball's ridges are only as low as asked between two passes, so the one beyond the edge
        // is needed as far as the edge lies more than half a step outside the one before.
        if (bit_.kind == BitKind::ball) {
            margin = std::max(margin, ballStepover(face, ridge, bit_.radius()) / 2 + 0.05);
        }
        const double edge = board_.widest() / 2 + margin;
        std::vector<Pass> passes;
        for (double contact : contacts(face, ridge, edge)) {
            Pass p;
            double overrun = pastTheEnds;
            if (bit_.kind == BitKind::ball) {
                p.y = ballAxisFor(face, contact, bit_.radius());
                p.z = ballTipOn(face, p.y, bit_.radius());
            } else {
                // A flat end touches with its inner rim and needs its whole disc past the end,
                // because the way across to the next pass is a chord of the face.
                p.y = contact == 0 ? 0 : contact + std::copysign(bit_.radius(), contact);
                p.z = flatTipOn(face, p.y, bit_.radius());
                overrun += bit_.radius();
            }
            if (const auto s = span(board_, contact, margin, overrun)) {
                p.x0 = s->first;
                p.x1 = s->second;
                passes.push_back(p);
            }
        }
        return passes;
    }

private:
    std::vector<double> contacts(const CylinderFace& face, double ridge, double edge) const {
        std::vector<double> half; // contacts at y > 0, growing
        if (bit_.kind == BitKind::ball) {
            const double step = ballStepover(face, ridge, bit_.radius());
            const int n = std::max(1, static_cast<int>(std::ceil(edge / step)));
            for (int i = 1; i <= n; ++i) {
                half.push_back(edge * i / n);
            }
        } else {
            // Each pass may stand one ridge below the last: the steps a flat end leaves. But it
            // must begin where the one before has cleared: r from the middle, then 2 r further each
            // time.
            double contact = 0;
            double reach = 0.95 * bit_.radius();
            while (contact < edge) {
                const double down = face.top - face.heightAt(contact) + ridge;
                const double byRidge = std::sqrt(down * (2 * face.radius - down));
                contact = std::min({byRidge, contact + reach, edge});
                half.push_back(contact);
                reach = 1.9 * bit_.radius();
            }
        }
        std::vector<double> all;
        for (auto it = half.rbegin(); it != half.rend(); ++it) {
            all.push_back(-*it);
        }
        all.push_back(0);
        all.insert(all.end(), half.begin(), half.end());
        return all;
    }

    const BoardPart& board_;
    const Bit& bit_;
    CylinderFace face_;
};

class Writer {
public:
    Writer(const Setup& setup, const Feeds& feeds)
        : setup_(setup), feeds_(feeds), clear_(setup.topZ() + clearanceHeight),
          path_({0, 0, setup.topZ() + clearanceHeight}) {}

    /// The passes to and fro; neighbours are joined without lifting.
    void zigzag(const std::vector<Pass>& passes, bool ramp) {
        bool forward = true;
        for (std::size_t i = 0; i < passes.size(); ++i) {
            const Pass& p = passes[i];
            const Vec3 a = at(forward ? p.x0 : p.x1, p);
            const Vec3 b = at(forward ? p.x1 : p.x0, p);
            if (i == 0) {
                enter(a, b, ramp);
            } else {
                path_.feed(a, feeds_.feed);
            }
            path_.feed(b, feeds_.feed);
            forward = !forward;
        }
        path_.rapid({path_.at().x, path_.at().y, clear_});
    }

    Path take() { return path_.take(); }

private:
    Vec3 at(double x, const Pass& p) const { return setup_.fromInstrument.toSetup({x, p.y, p.z}); }

    void enter(Vec3 a, Vec3 b, bool ramp) {
        path_.travelTo(a.xy(), clear_, setup_.topZ() + approachHeight);
        if (ramp) {
            const double share = std::min(1.0, rampLength / length(b - a));
            path_.feed(a + (b - a) * share, feeds_.plunge);
            path_.feed(a, feeds_.feed);
        } else {
            path_.feed(a, feeds_.plunge);
        }
    }

    const Setup& setup_;
    const Feeds& feeds_;
    double clear_;
    PathBuilder path_;
};

} // namespace

Path radiusPath(const BoardPart& board, const Setup& setup, const Bit& bit, const Feeds& feeds,
                const CutSettings& cut, const RadiusMargins& margins) {
    const Passes passes(board, bit);
    Writer writer(setup, feeds);
    const double top = setup.blank.thickness; // instrument Z of the blank's face
    // The ridges roughing leaves are no higher than the skin, so finishing never bites deeper than
    // twice the skin.
    const std::vector<Pass> rough = passes.over(cut.skin, cut.skin, margins.rough);
    double lowest = top;
    for (const Pass& p : rough) {
        lowest = std::min(lowest, p.z);
    }
    for (double level = top; level > lowest + 1e-6;) {
        const double above = level;
        level = std::max(lowest, level - feeds.depthPerPass);
        // The crown is done before the flanks; the two flanks must not be joined across it.
        std::vector<Pass> group;
        const auto cutGroup = [&] {
            if (!group.empty()) {
                writer.zigzag(group, true);
            }
            group.clear();
        };
        for (Pass p : rough) {
            p.z = std::max(p.z, level);
            if (p.z < above - 1e-6) {
                group.push_back(p);
            } else {
                cutGroup();
            }
        }
        cutGroup();
    }
    writer.zigzag(passes.over(0, cut.scallop, margins.finish), false);
    return writer.take();
}

} // namespace wren
