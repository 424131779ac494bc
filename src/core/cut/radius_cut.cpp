#include "cut/radius_cut.h"

#include "cut/contact.h"
#include "cut/path_builder.h"

#include <algorithm>
#include <cmath>

namespace wren {
namespace {

constexpr double pastTheEnds = 0.5; ///< mm the touching point runs beyond the board's ends
constexpr double linkSag = 0.002;   ///< mm the way across may sink below the face
constexpr double rampLength = 30;   ///< mm over which the bit works its way down

/// A lengthwise pass along the face's line of share `c`. Tips, instrument frame.
struct Pass {
    double c = 0;
    Vec3 head;            ///< at smaller X
    Vec3 bridge;          ///< at larger X
    double touchHead = 0; ///< X of the touching points of the two
    double touchBridge = 0;
};

/// The stretch of X over which the line of share `c` runs on the board, with a margin beside it.
/// Both the line and the edges are straight in plan, so each bound is one linear inequality.
class Stretch {
public:
    Stretch(const BoardPart& board, const ArchedFace& face, double c)
        : face_(face), c_(c), x0_(board.xLow() - 50), x1_(board.xHigh() + 50) {}

    void beside(const BoardPart& board, double margin, double overrun) {
        for (int side : {-1, 1}) {
            const auto room = [&](double x) {
                return side * (board.edge(side, x) - c_ * face_.radiusAt(x)) + margin;
            };
            keepPositive(room(0), room(1000), 0, 1000, overrun);
        }
    }

    /// The head end is a line, the other end a line or an arc.
    void between(const BoardPart& board, double overrun) {
        const ContourPiece& head = board.outline()[3];
        const ContourPiece& end = board.outline()[1];
        x0_ = std::max(x0_, cross(head, overrun, -1));
        x1_ = std::min(x1_, end.kind == ContourPiece::Kind::line ? cross(end, overrun, 1)
                                                                 : meet(end) + overrun);
    }

    bool empty() const { return x1_ - x0_ < 1; }
    double from() const { return x0_; }
    double to() const { return x1_; }

private:
    void keepPositive(double f0, double f1, double x0, double x1, double overrun) {
        if (std::abs(f1 - f0) < 1e-9) {
            if (f0 < 0) {
                x1_ = x0_;
            }
            return;
        }
        const double zero = x0 - f0 * (x1 - x0) / (f1 - f0);
        if (f1 > f0) {
            x0_ = std::max(x0_, zero - overrun);
        } else {
            x1_ = std::min(x1_, zero + overrun);
        }
    }

    double cross(const ContourPiece& line, double overrun, int toward) const {
        // x = a + b y on the end, y = c r(x) on the pass.
        const double b = (line.to.x - line.from.x) / (line.to.y - line.from.y);
        const double a = line.from.x - b * line.from.y;
        const double x = (a + b * c_ * face_.radius) / (1 - b * c_ * face_.growth);
        return x + toward * overrun * std::sqrt(1 + b * b);
    }

    double meet(const ContourPiece& arc) const {
        double x = arc.centre.x + arc.radius();
        for (int i = 0; i < 40; ++i) {
            const double y = c_ * face_.radiusAt(x);
            x = arc.centre.x + std::sqrt(std::max(0.0, arc.radius() * arc.radius() - y * y));
        }
        return x;
    }

    const ArchedFace& face_;
    double c_;
    double x0_;
    double x1_;
};

class Passes {
public:
    Passes(const BoardPart& board, const Bit& bit, const CutSettings& cut)
        : board_(board), end_(EndShape::of(bit)), stepover_(cut.stepover) {
        end_.slope = 0; // only the round end of a tapered bit touches
        if (bit.kind == BitKind::taperedBall) {
            end_.radius = end_.rounding;
        }
    }

    /// From one edge to the other with ridges of at most `ridge`.
    std::vector<Pass> over(double raisedBy, double ridge, double margin, bool useStepover) const {
        const ArchedFace face = board_.face().raised(raisedBy);
        std::vector<Pass> passes;
        const std::vector<double> shares = sharesFor(face, ridge, margin, useStepover);
        for (double c : shares) {
            // A flat end needs its whole disc past the end, because the way across to the next
            // pass is a chord of the face.
            const double overrun = pastTheEnds + (end_.ball() ? 0 : end_.radius);
            Stretch s(board_, face, c);
            s.beside(board_, margin, overrun);
            s.between(board_, overrun);
            if (!s.empty()) {
                passes.push_back({c, tipOnLine(face, c, s.from(), end_),
                                  tipOnLine(face, c, s.to(), end_), s.from(), s.to()});
            }
        }
        return passes;
    }

    /// One line over all passes, to and fro. The ways across are chords of the face too: where
    /// those would sink into it, they touch it in between.
    std::vector<Vec3> throughAll(const std::vector<Pass>& passes) const {
        const ArchedFace& face = board_.face();
        std::vector<Vec3> line;
        bool forward = true;
        double lastC = 0;
        double lastX = 0;
        for (const Pass& p : passes) {
            const double from = forward ? p.touchHead : p.touchBridge;
            if (!line.empty()) {
                const double r = face.radiusAt(from);
                const double sag = (p.c - lastC) * (p.c - lastC) * r / 8;
                const int n = static_cast<int>(std::ceil(std::sqrt(sag / linkSag)));
                for (int i = 1; i < n; ++i) {
                    const double t = static_cast<double>(i) / n;
                    line.push_back(tipOnLine(face, lastC + (p.c - lastC) * t,
                                             lastX + (from - lastX) * t, end_));
                }
            }
            line.push_back(forward ? p.head : p.bridge);
            line.push_back(forward ? p.bridge : p.head);
            lastC = p.c;
            lastX = forward ? p.touchBridge : p.touchHead;
            forward = !forward;
        }
        return line;
    }

    RadiusFigures figures(const std::vector<Pass>& passes) const {
        RadiusFigures f;
        const ArchedFace& face = board_.face();
        const double x = widestX(face);
        for (std::size_t i = 0; i + 1 < passes.size(); ++i) {
            const double step =
                length(face.onLine(passes[i + 1].c, x) - face.onLine(passes[i].c, x));
            f.stepover = std::max(f.stepover, step);
            f.ridge = std::max(f.ridge, ridgeBetween(face, x, passes[i].c, passes[i + 1].c, end_));
        }
        f.meanLeft = meanLeft(passes);
        return f;
    }

private:
    /// Sampled across the section halfway along the board.
    double meanLeft(const std::vector<Pass>& passes) const {
        constexpr int samples = 400;
        const ArchedFace& face = board_.face();
        const double x = (board_.xLow() + board_.xHigh()) / 2;
        const double y0 = board_.edge(-1, x);
        const double y1 = board_.edge(1, x);
        std::vector<Vec3> tips;
        tips.reserve(passes.size());
        for (const Pass& p : passes) {
            tips.push_back(tipOnLine(face, p.c, x, end_));
        }
        double sum = 0;
        for (int i = 0; i < samples; ++i) {
            const double y = y0 + (y1 - y0) * (i + 0.5) / samples;
            double low = face.heightAt(x, y) + 1;
            for (const Vec3& tip : tips) {
                const double d = std::abs(y - tip.y);
                if (d <= end_.radius) {
                    low = std::min(low, tip.z + end_.heightAt(d));
                }
            }
            sum += low - face.heightAt(x, y);
        }
        return sum / samples;
    }

    /// Where the face's lines stand furthest apart.
    double widestX(const ArchedFace& face) const {
        return face.growth > 0 ? board_.xHigh() : board_.xLow();
    }

    std::vector<double> sharesFor(const ArchedFace& face, double ridge, double& margin,
                                  bool useStepover) const {
        const double radius = face.radiusAt(widestX(face));
        double step = 0;
        if (useStepover && stepover_) {
            step = *stepover_;
        } else if (end_.ball()) {
            step = ballStepover(radius, ridge, end_.radius);
            // Ridges are only as low as asked between two passes, so the one beyond the edge is
            // needed as far as the edge lies more than half a step outside the one before.
            margin = std::max(margin, step / 2 + 0.05);
        }
        double low = 0;
        double high = 0;
        for (double x : {board_.xLow(), board_.xHigh()}) {
            low = std::min(low, (board_.edge(-1, x) - margin) / face.radiusAt(x));
            high = std::max(high, (board_.edge(1, x) + margin) / face.radiusAt(x));
        }
        if (step > 0) {
            const double from = std::asin(low);
            const double to = std::asin(high);
            const int n = std::max(1, static_cast<int>(std::ceil((to - from) * radius / step)));
            std::vector<double> shares;
            for (int i = 0; i <= n; ++i) {
                shares.push_back(std::sin(from + (to - from) * i / n));
            }
            return shares;
        }
        return byRidge(face, ridge, low, high);
    }

    /// From the middle outward, each pass as far from the last as the ridge between them allows.
    std::vector<double> byRidge(const ArchedFace& face, double ridge, double low,
                                double high) const {
        const double x = widestX(face);
        const auto outward = [&](double limit) {
            std::vector<double> shares;
            double c = 0;
            while (std::abs(c) < std::abs(limit)) {
                double near = c;
                double far = limit;
                if (ridgeBetween(face, x, c, far, end_) > ridge) {
                    for (int i = 0; i < 40; ++i) {
                        const double middle = (near + far) / 2;
                        (ridgeBetween(face, x, c, middle, end_) > ridge ? far : near) = middle;
                    }
                    far = near;
                }
                c = far;
                shares.push_back(c);
            }
            return shares;
        };
        std::vector<double> all = outward(low);
        std::reverse(all.begin(), all.end());
        all.push_back(0);
        const std::vector<double> up = outward(high);
        all.insert(all.end(), up.begin(), up.end());
        return all;
    }

    const BoardPart& board_;
    EndShape end_;
    std::optional<double> stepover_;
};

/// The part of a pass below `above`, never lower than `level`; empty when there is none.
std::vector<Vec3> clipped(const Pass& p, double level, double above) {
    const Vec3 way = p.bridge - p.head;
    double from = 0;
    double to = 1;
    if (std::abs(way.z) < 1e-9) {
        if (p.head.z >= above - 1e-6) {
            return {};
        }
    } else {
        const double t = (above - p.head.z) / way.z;
        (way.z > 0 ? to : from) = std::clamp(t, 0.0, 1.0);
        if (to - from < 1e-6) {
            return {};
        }
    }
    std::vector<double> stops{from};
    if (way.z != 0) {
        const double t = (level - p.head.z) / way.z;
        if (t > from + 1e-9 && t < to - 1e-9) {
            stops.push_back(t);
        }
    }
    stops.push_back(to);
    std::vector<Vec3> line;
    for (double t : stops) {
        Vec3 at = p.head + way * t;
        at.z = std::max(at.z, level);
        line.push_back(at);
    }
    return line;
}

class Writer {
public:
    Writer(const Setup& setup, const Feeds& feeds)
        : setup_(setup), feeds_(feeds), clear_(setup.topZ() + clearanceHeight),
          path_({0, 0, setup.topZ() + clearanceHeight}) {}

    /// The passes to and fro; neighbours are joined without lifting.
    void zigzag(const std::vector<std::vector<Vec3>>& passes, bool ramp) {
        bool forward = true;
        for (std::size_t i = 0; i < passes.size(); ++i) {
            std::vector<Vec3> line;
            for (Vec3 p : passes[i]) {
                line.push_back(setup_.fromInstrument.toSetup(p));
            }
            if (!forward) {
                std::reverse(line.begin(), line.end());
            }
            if (i == 0) {
                enter(line[0], line[1], ramp);
            } else {
                path_.feed(line[0], feeds_.feed);
            }
            for (std::size_t k = 1; k < line.size(); ++k) {
                path_.feed(line[k], feeds_.feed);
            }
            forward = !forward;
        }
        path_.rapid({path_.at().x, path_.at().y, clear_});
    }

    Path take() { return path_.take(); }

private:
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

void finish(Writer& writer, const Passes& all, const std::vector<Pass>& passes) {
    if (!passes.empty()) {
        writer.zigzag({all.throughAll(passes)}, false);
    }
}

} // namespace

bool canDoRadius(const Bit& bit) {
    const bool pointed = bit.kind == BitKind::taperedBall && !(bit.tip > 0);
    return bit.kind != BitKind::fretSlot && bit.kind != BitKind::vee &&
           bit.kind != BitKind::drill && !pointed;
}

Path radiusPath(const BoardPart& board, const Setup& setup, const Bit& bit, const Feeds& feeds,
                const CutSettings& cut, const RadiusMargins& margins) {
    const Passes passes(board, bit, cut);
    Writer writer(setup, feeds);
    const double top = setup.facedTop(); // instrument Z of the blank's face
    // The scallops roughing leaves are no higher than the stock to leave, so finishing never bites
    // deeper than twice that.
    const std::vector<Pass> rough =
        passes.over(cut.stockToLeave, cut.stockToLeave, margins.rough, false);
    double lowest = top;
    for (const Pass& p : rough) {
        lowest = std::min({lowest, p.head.z, p.bridge.z});
    }
    // A level also meets the ridges of the one above; to a fine bit they are much.
    const bool fine = feeds.depthPerPass < 6 * cut.stockToLeave;
    const double step = fine ? feeds.depthPerPass / 2 : feeds.depthPerPass;
    for (double level = top; level > lowest + 1e-6;) {
        const double above = level;
        level = std::max(lowest, level - step);
        // The crown is done before the flanks; the two flanks must not be joined across it.
        std::vector<std::vector<Vec3>> group;
        const auto cutGroup = [&] {
            if (!group.empty()) {
                writer.zigzag(group, true);
            }
            group.clear();
        };
        for (const Pass& p : rough) {
            std::vector<Vec3> line = clipped(p, level, above);
            if (line.empty()) {
                cutGroup();
            } else {
                group.push_back(std::move(line));
            }
        }
        cutGroup();
    }
    finish(writer, passes, passes.over(0, cut.scallop, margins.finish, true));
    return writer.take();
}

Path skimPath(const BoardPart& board, const Setup& setup, const Bit& bit, const Feeds& feeds,
              const CutSettings& cut) {
    Writer writer(setup, feeds);
    const Passes passes(board, bit, cut);
    finish(writer, passes, passes.over(0, cut.scallop, RadiusMargins().finish, true));
    return writer.take();
}

RadiusFigures radiusFigures(const BoardPart& board, const Bit& bit, const CutSettings& cut,
                            const RadiusMargins& margins) {
    const Passes passes(board, bit, cut);
    return passes.figures(passes.over(0, cut.scallop, margins.finish, true));
}

} // namespace wren
