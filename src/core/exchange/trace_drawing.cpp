#include "exchange/drawing_in.h"

#include "base/error.h"
#include "base/files.h"
#include "geom/inset.h"
#include "geom/refit.h"

#include <algorithm>
#include <filesystem>

#include <fmt/format.h>

namespace wren {
namespace {

using Kind = ContourPiece::Kind;

/// A string of pieces with two ends.
struct Chain {
    std::string layer;
    Contour pieces;
    bool used = false;

    Vec2 from() const { return pieces.front().from; }
    Vec2 to() const { return pieces.back().to; }
};

Contour scaled(Contour c, double k) {
    for (ContourPiece& p : c) {
        p.from = p.from * k;
        p.to = p.to * k;
        p.centre = p.centre * k;
    }
    return c;
}

bool sameCurve(const Chain& a, const Chain& b, double within) {
    const auto near = [&](Vec2 p, Vec2 q) { return length(p - q) < within; };
    const bool along = near(a.from(), b.from()) && near(a.to(), b.to());
    const bool against = near(a.from(), b.to()) && near(a.to(), b.from());
    if (!along && !against) {
        return false;
    }
    const double la = lengthOf(a.pieces);
    return std::abs(la - lengthOf(b.pieces)) < within &&
           distanceTo(b.pieces, a.pieces[a.pieces.size() / 2].at(
                                    a.pieces[a.pieces.size() / 2].length() / 2)) < within;
}

class Tracer {
public:
    Tracer(const DrawingRead& drawing, const Tracing& tracing)
        : drawing_(drawing), tracing_(tracing) {}

    Traced all() {
        gather();
        dropDoubles();
        std::vector<std::pair<Chain, bool>> strings = strung();
        for (auto& [chain, closed] : strings) {
            out_.shapes.push_back(curves(chain, closed));
            out_.deviation = std::max(out_.deviation, out_.shapes.back().deviation);
        }
        const auto size = [](const TracedShape& s) { return s.closed ? areaOf(s.contour) : 0.0; };
        std::stable_sort(
            out_.shapes.begin(), out_.shapes.end(),
            [&](const TracedShape& a, const TracedShape& b) { return size(a) > size(b); });
        return std::move(out_);
    }

private:
    void gather() {
        const std::optional<double> unit = tracing_.unit ? tracing_.unit : drawing_.unit;
        if (!unit) {
            throw Error(fmt::format("{} does not say its unit; mm or in was expected beside it.",
                                    drawing_.source));
        }
        for (const DrawnLine& line : drawing_.lines) {
            if (!tracing_.layer.empty() && line.layer != tracing_.layer) {
                continue;
            }
            Chain c{line.layer, scaled(line.pieces, *unit), false};
            std::erase_if(c.pieces, [](const ContourPiece& p) { return p.length() < 1e-6; });
            if (!c.pieces.empty()) {
                chains_.push_back(std::move(c));
            }
        }
        if (chains_.empty()) {
            throw Error(tracing_.layer.empty()
                            ? fmt::format("{} holds no curves.", drawing_.source)
                            : fmt::format("There is nothing on a layer \"{}\" of {}; its layers "
                                          "are: {}.",
                                          tracing_.layer, drawing_.source,
                                          fmt::join(drawing_.layers(), ", ")));
        }
    }

    void dropDoubles() {
        std::vector<Chain> kept;
        for (Chain& c : chains_) {
            const bool again = std::any_of(kept.begin(), kept.end(), [&](const Chain& k) {
                return k.layer == c.layer && sameCurve(k, c, tracing_.gap / 5);
            });
            if (again) {
                ++out_.doubled;
            } else {
                kept.push_back(std::move(c));
            }
        }
        chains_ = std::move(kept);
    }

    bool meets(Vec2 a, Vec2 b) const { return length(a - b) <= tracing_.gap; }

    /// Chains whose ends meet, strung together; whether each closes.
    std::vector<std::pair<Chain, bool>> strung() {
        std::vector<std::pair<Chain, bool>> out;
        for (std::size_t i = 0; i < chains_.size(); ++i) {
            if (chains_[i].used) {
                continue;
            }
            Chain c = chains_[i];
            chains_[i].used = true;
            while (!meets(c.from(), c.to()) && extend(c)) {
            }
            const bool closed = meets(c.from(), c.to()) && lengthOf(c.pieces) > 4 * tracing_.gap;
            if (closed && !(c.from() == c.to())) {
                out_.joined += length(c.to() - c.from()) > 1e-6 ? 1 : 0;
                c.pieces.back().to = c.from();
            }
            out.emplace_back(std::move(c), closed);
        }
        return out;
    }

    bool extend(Chain& c) {
        std::size_t best = chains_.size();
        double nearest = tracing_.gap;
        int how = 0;
        for (std::size_t k = 0; k < chains_.size(); ++k) {
            const Chain& o = chains_[k];
            if (o.used || (o.layer != c.layer && !tracing_.acrossLayers)) {
                continue;
            }
            const std::array<double, 4> gaps{length(o.from() - c.to()), length(o.to() - c.to()),
                                             length(o.to() - c.from()),
                                             length(o.from() - c.from())};
            for (int h = 0; h < 4; ++h) {
                if (gaps[static_cast<std::size_t>(h)] <= nearest) {
                    nearest = gaps[static_cast<std::size_t>(h)];
                    best = k;
                    how = h;
                }
            }
        }
        if (best == chains_.size()) {
            return false;
        }
        out_.joined += nearest > 1e-6 ? 1 : 0;
        chains_[best].used = true;
        Contour more = chains_[best].pieces;
        if (how == 1 || how == 3) {
            more = reversed(more);
        }
        if (how < 2) {
            more.front().from = c.to();
            c.pieces.insert(c.pieces.end(), more.begin(), more.end());
        } else {
            more.back().to = c.from();
            c.pieces.insert(c.pieces.begin(), more.begin(), more.end());
        }
        return true;
    }

    /// Strings of lines refitted, arcs kept.
    TracedShape curves(const Chain& chain, bool closed) const {
        TracedShape s{chain.layer, {}, closed, 0};
        const bool allLines = std::none_of(chain.pieces.begin(), chain.pieces.end(),
                                           [](const ContourPiece& p) { return p.isArc(); });
        if (allLines) {
            std::vector<Vec2> points;
            for (const ContourPiece& p : chain.pieces) {
                points.push_back(p.from);
            }
            if (!closed) {
                points.push_back(chain.to());
            }
            const Refitted r = refit(points, closed, tracing_.tolerance);
            s.contour = r.contour;
            s.deviation = r.deviation;
        } else {
            for (std::size_t i = 0; i < chain.pieces.size();) {
                if (chain.pieces[i].isArc()) {
                    s.contour.push_back(chain.pieces[i++]);
                    continue;
                }
                std::vector<Vec2> points{chain.pieces[i].from};
                for (; i < chain.pieces.size() && !chain.pieces[i].isArc(); ++i) {
                    points.push_back(chain.pieces[i].to);
                }
                const Refitted r = refit(points, false, tracing_.tolerance);
                s.contour.insert(s.contour.end(), r.contour.begin(), r.contour.end());
                s.deviation = std::max(s.deviation, r.deviation);
            }
        }
        if (closed && !s.contour.empty()) {
            s.contour = clockwise(s.contour);
        }
        return s;
    }

    const DrawingRead& drawing_;
    const Tracing& tracing_;
    std::vector<Chain> chains_;
    Traced out_;
};

} // namespace

std::vector<std::string> DrawingRead::layers() const {
    std::vector<std::string> out;
    for (const DrawnLine& l : lines) {
        if (std::find(out.begin(), out.end(), l.layer) == out.end()) {
            out.push_back(l.layer);
        }
    }
    return out;
}

double unitBetween(Vec2 a, Vec2 b, double apart) {
    const double drawn = length(b - a);
    if (!(drawn > 1e-9) || !(apart > 0)) {
        throw Error("The two points lie in one place; two with a known distance between them were "
                    "expected.");
    }
    const double unit = apart / drawn;
    if (unit < 1e-4 || unit > 1e4) {
        throw Error(fmt::format("A unit of {:g} mm comes of {:g} mm between points {:g} apart; "
                                "0.0001 to 10000 mm was expected.",
                                unit, apart, drawn));
    }
    return unit;
}

Traced trace(const DrawingRead& drawing, const Tracing& tracing) {
    constexpr std::ptrdiff_t most = 12000;
    const std::ptrdiff_t lines =
        std::count_if(drawing.lines.begin(), drawing.lines.end(), [&](const DrawnLine& l) {
            return tracing.layer.empty() || l.layer == tracing.layer;
        });
    if (lines > most) {
        throw Error(fmt::format("{} holds {} separate lines{}; an outline has up to {}: name the "
                                "layer it lies on, or take away what is not part of it.",
                                drawing.source, lines,
                                tracing.layer.empty() ? "" : " on that layer", most));
    }
    return Tracer(drawing, tracing).all();
}

DrawingRead readDrawing(const std::string& path) {
    std::string ending = std::filesystem::path(path).extension().string();
    std::transform(ending.begin(), ending.end(), ending.begin(),
                   [](unsigned char c) { return static_cast<char>(std::tolower(c)); });
    const std::string bytes = readFile(path);
    const std::string name = std::filesystem::path(path).filename().string();
    if (ending == ".dxf") {
        return readDxf(bytes, name);
    }
    if (ending == ".svg") {
        return readSvg(bytes, name);
    }
    if (ending == ".pdf") {
        return readPdf(bytes, name);
    }
    throw Error(fmt::format("{} is not a drawing that can be read; .svg, .dxf or .pdf was "
                            "expected.",
                            name));
}

} // namespace wren
