#include "ruler/relief.h"

#include "frame/theme.h"
#include "ruler/deviation_view.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <limits>
#include <vector>

namespace wren::app {
namespace {

struct Corner {
    float x, y, depth; ///< screen pixels, depth grows away from the eye
};

/// Plain z-buffered triangles, one flat shade each.
class Canvas {
public:
    explicit Canvas(QSize size)
        : image_(size, QImage::Format_ARGB32_Premultiplied), w_(size.width()), h_(size.height()),
          depth_(static_cast<std::size_t>(w_) * static_cast<std::size_t>(h_),
                 std::numeric_limits<float>::infinity()) {
        image_.fill(Qt::transparent);
    }

    void triangle(const Corner& a, const Corner& b, const Corner& c, QRgb tone) {
        const float area = (b.x - a.x) * (c.y - a.y) - (c.x - a.x) * (b.y - a.y);
        if (std::abs(area) < 1e-6F) {
            return;
        }
        const int x0 = std::max(0, static_cast<int>(std::ceil(std::min({a.x, b.x, c.x}) - 0.5F)));
        const int x1 =
            std::min(w_ - 1, static_cast<int>(std::floor(std::max({a.x, b.x, c.x}) + 0.5F)));
        const int y0 = std::max(0, static_cast<int>(std::ceil(std::min({a.y, b.y, c.y}) - 0.5F)));
        const int y1 =
            std::min(h_ - 1, static_cast<int>(std::floor(std::max({a.y, b.y, c.y}) + 0.5F)));
        const float inv = 1 / area;
        for (int y = y0; y <= y1; ++y) {
            auto* line = reinterpret_cast<QRgb*>(image_.scanLine(y));
            for (int x = x0; x <= x1; ++x) {
                const auto px = static_cast<float>(x);
                const auto py = static_cast<float>(y);
                const float u = ((px - a.x) * (c.y - a.y) - (c.x - a.x) * (py - a.y)) * inv;
                const float v = ((b.x - a.x) * (py - a.y) - (px - a.x) * (b.y - a.y)) * inv;
                // A hair of overlap closes the seams between neighbours.
                if (u < -0.02F || v < -0.02F || u + v > 1.02F) {
                    continue;
                }
                const float z = a.depth + u * (b.depth - a.depth) + v * (c.depth - a.depth);
                float& at = depth_[static_cast<std::size_t>(y) * static_cast<std::size_t>(w_) +
                                   static_cast<std::size_t>(x)];
                if (z < at) {
                    at = z;
                    line[x] = tone;
                }
            }
        }
    }

    QImage take() { return std::move(image_); }

private:
    QImage image_;
    int w_;
    int h_;
    std::vector<float> depth_;
};

class Relief {
public:
    Relief(const Stock& stock, const ReliefView& view, QSize size, const ReliefPaint& paint)
        : stock_(stock), paint_(paint), canvas_(size), zFactor_(view.enlargeZ),
          step_(std::max(1, stock.columns() / 800)), down_(std::max(1, stock.rows() / 300)) {
        const double length = stock.columns() * stock.cell();
        const double width = stock.rows() * stock.cell();
        centre_ = {length / 2, width / 2, (stock.bottomZ() + stock.topZ()) / 2};
        const double cr = std::cos(view.roll);
        const double sr = std::sin(view.roll);
        const double cy = std::cos(view.yaw);
        const double sy = std::sin(view.yaw);
        // First about the vertical, then about the screen's horizontal.
        right_ = {cy, -sy, 0};
        up_ = {sy * cr, cy * cr, sr};
        away_ = {sy * sr, cy * sr, -cr};
        scale_ = 0.92 *
                 std::min(size.width() / (length * std::abs(cy) + width * std::abs(sy)),
                          size.height() / (width * std::abs(cy) + length * std::abs(sy) + 1)) *
                 view.zoom;
        middle_ = {size.width() / 2.0, size.height() / 2.0};
    }

    QImage draw() {
        const int nx = (stock_.columns() - 1) / step_;
        const int ny = stock_.rows() - 1;
        for (int r = 0; r + down_ <= ny; r += down_) {
            for (int i = 0; i < nx; ++i) {
                cell(i * step_, r);
            }
        }
        return canvas_.take();
    }

private:
    Vec3 point(int c, int r, double z) const {
        return {stock_.x(c), stock_.y(r), (z - centre_.z) * zFactor_ + centre_.z};
    }

    Corner project(Vec3 p) const {
        const Vec3 d = p - centre_;
        return {static_cast<float>(middle_.x + dot(d, right_) * scale_),
                static_cast<float>(middle_.y - dot(d, up_) * scale_),
                static_cast<float>(dot(d, away_))};
    }

    static constexpr QRgb bare = qRgb(0xE6, 0xD0, 0xA6);

    QRgb shade(Vec3 normal, QRgb base) const {
        const Vec3 light{-0.42, 0.38, 0.82};
        const double l = length(normal);
        // Lit from where the eye stands when the underside is up.
        double k = l > 0 ? dot(normal, light) / l : 1;
        k = away_.z > 0 ? std::abs(k) : std::max(k, 0.0);
        const double tone = std::clamp(0.56 + 0.5 * k, 0.0, 1.08);
        const auto lit = [tone](int v) { return std::min(255, static_cast<int>(v * tone)); };
        return qRgb(lit(qRed(base)), lit(qGreen(base)), lit(qBlue(base)));
    }

    static QRgb painted(const DeviationField* field, int c, int r, const ReliefPaint& paint) {
        const float miss = field ? field->at(c, r) : std::numeric_limits<float>::quiet_NaN();
        return std::isnan(miss) ? bare : toneOfMiss(miss, paint.over, paint.under);
    }

    void quad(const Vec3& a, const Vec3& b, const Vec3& c, const Vec3& d, QRgb base = bare) {
        quad(a, b, c, d, cross(c - a, d - b), base);
    }

    void quad(const Vec3& a, const Vec3& b, const Vec3& c, const Vec3& d, Vec3 normal, QRgb base) {
        const QRgb tone = shade(normal, base);
        const Corner ka = project(a);
        const Corner kb = project(b);
        const Corner kc = project(c);
        const Corner kd = project(d);
        canvas_.triangle(ka, kb, kc, tone);
        canvas_.triangle(ka, kc, kd, tone);
    }

    /// Slopes of the top over so many cells each way.
    Vec2 slopes(int c, int r, int reach) const {
        const int c0 = std::max(0, c - reach);
        const int c1 = std::min(stock_.columns() - 1, c + reach);
        const int r0 = std::max(0, r - reach);
        const int r1 = std::min(stock_.rows() - 1, r + reach);
        return {(stock_.high(c1, r) - stock_.high(c0, r)) / ((c1 - c0) * stock_.cell()),
                (stock_.high(c, r1) - stock_.high(c, r0)) / ((r1 - r0) * stock_.cell())};
    }

    Vec3 wideNormal(int c, int r) const {
        constexpr int wide = 6;
        Vec2 s = slopes(c, r, wide);
        if (std::abs(s.x) > 0.25 || std::abs(s.y) > 0.25) {
            s = slopes(c, r, 1); // a flank, or a wall within reach, which says nothing here
        }
        if (std::abs(s.x) > 1.5 || std::abs(s.y) > 1.5) {
            return {0, 0, 1};
        }
        return {-s.x * zFactor_, -s.y * zFactor_, 1};
    }

    void cell(int c, int r) {
        const int e = c + step_;
        const int n = r + down_;
        const std::array<std::array<int, 2>, 4> at{{{c, r}, {e, r}, {e, n}, {c, n}}};
        std::array<Vec3, 4> tops;
        std::array<Vec3, 4> lows;
        double most = -1e9;
        double least = 1e9;
        int wood = 0;
        for (std::size_t i = 0; i < 4; ++i) {
            const double low = stock_.low(at[i][0], at[i][1]);
            const double high = stock_.high(at[i][0], at[i][1]);
            wood += high > low ? 1 : 0;
            tops[i] = point(at[i][0], at[i][1], std::max(low, high));
            lows[i] = point(at[i][0], at[i][1], low);
            most = std::max(most, high);
            least = std::min(least, high);
        }
        if (wood == 0) {
            return;
        }
        // Over an edge of the wood this is the wall; over the wood, its face. A face is shaded over
        // a wider reach: the ridges of single passes beat against the grid of pixels.
        if (wood < 4) { // the design may have no wood at all beside it: the wall goes down to low
            for (std::size_t i = 0; i < 4; ++i) {
                const bool here = stock_.wood(at[i][0], at[i][1]);
                const double foot = footBeside(at);
                tops[i].z = here ? tops[i].z : foot;
                lows[i].z = here ? lows[i].z : foot;
            }
        }
        const QRgb up = painted(paint_.up, c, r, paint_);
        if (wood == 4 && most - least < 0.12) {
            quad(tops[0], tops[1], tops[2], tops[3], wideNormal(c, r), up);
        } else {
            quad(tops[0], tops[1], tops[2], tops[3], wood == 4 ? up : bare);
        }
        if (wood == 4) {
            quad(lows[3], lows[2], lows[1], lows[0], painted(paint_.down, c, r, paint_));
        }
        if (r == 0) {
            quad(lows[0], lows[1], tops[1], tops[0]);
        }
        if (n + down_ > stock_.rows() - 1) {
            quad(lows[2], lows[3], tops[3], tops[2]);
        }
        if (c == 0) {
            quad(lows[3], lows[0], tops[0], tops[3]);
        }
        if (e + step_ > stock_.columns() - 1) {
            quad(lows[1], lows[2], tops[2], tops[1]);
        }
    }

    /// Where the wall at the wood's edge ends below.
    double footBeside(const std::array<std::array<int, 2>, 4>& at) const {
        double foot = 1e9;
        for (const auto& [c, r] : at) {
            if (stock_.wood(c, r)) {
                foot = std::min(foot, point(c, r, stock_.low(c, r)).z);
            }
        }
        return foot;
    }

    const Stock& stock_;
    const ReliefPaint& paint_;
    Canvas canvas_;
    double zFactor_;
    int step_; ///< cells to a quad along
    int down_; ///< and across
    Vec3 centre_;
    Vec3 right_, up_, away_;
    double scale_ = 1;
    Vec2 middle_;
};

} // namespace

QImage drawRelief(const Stock& stock, const ReliefView& view, QSize size,
                  const ReliefPaint& paint) {
    return Relief(stock, view, size, paint).draw();
}

} // namespace wren::app
