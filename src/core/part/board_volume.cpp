#include "part/board_part.h"

#include <algorithm>
#include <cmath>

namespace wren {
namespace {

/// Simpson's rule.
template <typename F>
double integrate(double a, double b, int n, F f) {
    const double h = (b - a) / n;
    double sum = f(a) + f(b);
    for (int i = 1; i < n; ++i) {
        sum += (i % 2 ? 4 : 2) * f(a + i * h);
    }
    return sum * h / 3;
}

/// Area of the section square to X at `x`, between two Y.
double sectionArea(const ArchedFace& face, double x, double y0, double y1) {
    const double r = face.radiusAt(x);
    const auto arc = [&](double y) {
        return (y * std::sqrt(r * r - y * y) + r * r * std::asin(y / r)) / 2;
    };
    return (face.top - r) * (y1 - y0) + arc(y1) - arc(y0);
}

/// Integral of (face - floor) over a closed outline that every ray from its middle leaves once: a
/// fan of thin triangles, each by the rule that is exact for squares of X and Y.
double pocketVolume(const BoardPart& board, const Contour& outline, double floor) {
    std::vector<Vec2> points;
    Vec2 middle;
    for (const ContourPiece& piece : outline) {
        const int n = 240;
        for (int i = 0; i < n; ++i) {
            points.push_back(piece.at(piece.length() * i / n));
            middle = middle + points.back();
        }
    }
    middle = middle * (1.0 / static_cast<double>(points.size()));
    const auto deep = [&](Vec2 p) { return board.face(p.x, p.y) - floor; };
    double sum = 0;
    for (std::size_t i = 0; i < points.size(); ++i) {
        const Vec2 a = points[i];
        const Vec2 b = points[(i + 1) % points.size()];
        const double area = std::abs(cross(a - middle, b - middle)) / 2;
        sum +=
            area * (deep((a + b) * 0.5) + deep((a + middle) * 0.5) + deep((b + middle) * 0.5)) / 3;
    }
    return sum;
}

} // namespace

double BoardPart::areaOfFace() const {
    double sum = 0;
    for (const auto& [a, b] : spans()) {
        sum += integrate(a, b, 2048, [&](double x) {
            const auto y = across(x);
            return y ? (*y)[1] - (*y)[0] : 0;
        });
    }
    return sum;
}

std::vector<std::array<double, 2>> BoardPart::spans() const {
    std::vector<double> corners{low_.x, high_.x};
    for (const ContourPiece& piece : outline_) {
        corners.push_back(piece.from.x);
    }
    std::sort(corners.begin(), corners.end());
    std::vector<std::array<double, 2>> spans;
    for (std::size_t i = 0; i + 1 < corners.size(); ++i) {
        if (corners[i + 1] - corners[i] > 1e-9) {
            spans.push_back({corners[i], corners[i + 1]});
        }
    }
    return spans;
}

double BoardPart::slotVolume(const FretSlot& slot) const {
    const Vec2 u = slot.along();
    const Vec2 v = slot.across();
    const auto along = [&](double offset) {
        Vec2 a = slot.low + v * offset;
        Vec2 b = slot.high + v * offset;
        if (!slot.blind) {
            // Through slots end on the edges, which they do not cross quite squarely.
            const auto reach = [&](Vec2 p, int side) {
                const Edge& e = edges_[side < 0 ? 0 : 1];
                return p + u * ((e.at + e.slope * p.x - p.y) / (u.y - e.slope * u.x));
            };
            a = reach(a, -1);
            b = reach(b, 1);
        }
        return integrate(0, 1, 64,
                         [&](double t) {
                             const Vec2 p = a + (b - a) * t;
                             return face(p.x, p.y) - floor(p.x, p.y);
                         }) *
               wren::length(b - a);
    };
    return integrate(-board_.slotWidth / 2, board_.slotWidth / 2, 4, along);
}

double BoardPart::volume() const {
    double sum = 0;
    for (const auto& [a, b] : spans()) {
        sum += integrate(a, b, 4096, [&](double x) {
            const auto y = across(x);
            return y ? sectionArea(face_, x, (*y)[0], (*y)[1]) : 0;
        });
    }
    return sum - cutOut();
}

double BoardPart::cutOut() const {
    double sum = 0;
    for (const FretSlot& slot : slots_) {
        sum += slotVolume(slot);
    }
    if (board_.markers.inlay == Inlay::pressed) {
        for (const MarkerPocket& pocket : pockets_) {
            // A wrap's foot square to itself: what a slanting edge adds on one side it takes on the
            // other.
            const Contour outline = markerOutline(board_.markers, pocket.place);
            sum += pocketVolume(*this, outline, pocket.floor);
        }
    }
    if (shelf_) {
        // Along the two long sides, so that the strips follow the arc.
        const Vec2 head0 = outline_[3].from;
        const Vec2 head1 = outline_[3].to;
        sum += integrate(0, 1, 256, [&](double t) {
            const Vec2 a = head0 + (head1 - head0) * t;
            const Vec2 b = shelf_->wallLow + (shelf_->wallHigh - shelf_->wallLow) * t;
            const Vec2 side0 = head1 - head0;
            const Vec2 side1 = shelf_->wallHigh - shelf_->wallLow;
            return integrate(0, 1, 8, [&](double s) {
                const Vec2 p = a + (b - a) * s;
                const double stretch = std::abs(cross(b - a, side0 * (1 - s) + side1 * s));
                return (face(p.x, p.y) - shelf_->floor) * stretch;
            });
        });
    }
    return sum;
}

} // namespace wren
