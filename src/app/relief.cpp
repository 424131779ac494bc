#include "relief.h"

#include "theme.h"

#include <algorithm>
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
    Relief(const Stock& stock, const ReliefView& view, QSize size)
        : stock_(stock), canvas_(size), zFactor_(view.enlargeZ),
          step_(std::max(1, stock.columns() / 800)) {
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
        for (int r = 0; r < ny; ++r) {
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

    QRgb shade(Vec3 normal) const {
        const Vec3 light{-0.42, 0.38, 0.82};
        const double l = length(normal);
        if (l == 0) {
            return qRgb(0xE8, 0xD6, 0xB4);
        }
        // Lit from where the eye stands when the underside is up.
        double k = dot(normal, light) / l;
        k = away_.z > 0 ? std::abs(k) : std::max(k, 0.0);
        const double tone = std::clamp(0.56 + 0.5 * k, 0.0, 1.08);
        return qRgb(std::min(255, static_cast<int>(0xE6 * tone)),
                    std::min(255, static_cast<int>(0xD0 * tone)),
                    std::min(255, static_cast<int>(0xA6 * tone)));
    }

    void quad(const Vec3& a, const Vec3& b, const Vec3& c, const Vec3& d) {
        quad(a, b, c, d, cross(c - a, d - b));
    }

    void quad(const Vec3& a, const Vec3& b, const Vec3& c, const Vec3& d, Vec3 normal) {
        const QRgb tone = shade(normal);
        const Corner ka = project(a);
        const Corner kb = project(b);
        const Corner kc = project(c);
        const Corner kd = project(d);
        canvas_.triangle(ka, kb, kc, tone);
        canvas_.triangle(ka, kc, kd, tone);
    }

    Vec3 wideNormal(int c, int r) const {
        constexpr int reach = 6;
        const int c0 = std::max(0, c - reach);
        const int c1 = std::min(stock_.columns() - 1, c + reach);
        const int r0 = std::max(0, r - reach);
        const int r1 = std::min(stock_.rows() - 1, r + reach);
        const double dx = (stock_.high(c1, r) - stock_.high(c0, r)) / ((c1 - c0) * stock_.cell());
        const double dy = (stock_.high(c, r1) - stock_.high(c, r0)) / ((r1 - r0) * stock_.cell());
        if (std::abs(dx) > 0.25 || std::abs(dy) > 0.25) {
            return {0, 0, 1}; // a wall within reach says nothing about this face
        }
        return {-dx * zFactor_, -dy * zFactor_, 1};
    }

    void cell(int c, int r) {
        const double low = stock_.bottomZ();
        const int e = c + step_;
        const double h[4] = {stock_.high(c, r), stock_.high(e, r), stock_.high(e, r + 1),
                             stock_.high(c, r + 1)};
        bool wood = true;
        bool any = false;
        for (double z : h) {
            wood = wood && z > low;
            any = any || z > low;
        }
        if (!any) {
            return;
        }
        const auto top = [&](int i, int j, double z) { return point(i, j, std::max(z, low)); };
        // Over an edge of the wood this is the wall; over the wood, its face. A face is shaded over
        // a wider reach: the ridges of single passes beat against the grid of pixels.
        const double most = std::max({h[0], h[1], h[2], h[3]});
        const double least = std::min({h[0], h[1], h[2], h[3]});
        const Vec3 corners[4] = {top(c, r, h[0]), top(e, r, h[1]), top(e, r + 1, h[2]),
                                 top(c, r + 1, h[3])};
        if (most - least < 0.12) {
            quad(corners[0], corners[1], corners[2], corners[3], wideNormal(c, r));
        } else {
            quad(corners[0], corners[1], corners[2], corners[3]);
        }
        if (wood) {
            quad(point(c, r + 1, low), point(e, r + 1, low), point(e, r, low), point(c, r, low));
        }
        if (r == 0) {
            quad(point(c, 0, low), point(e, 0, low), top(e, 0, h[1]), top(c, 0, h[0]));
        }
        if (c == 0) {
            quad(point(0, r + 1, low), point(0, r, low), top(0, r, h[0]), top(0, r + 1, h[3]));
        }
    }

    const Stock& stock_;
    Canvas canvas_;
    double zFactor_;
    int step_;
    Vec3 centre_;
    Vec3 right_, up_, away_;
    double scale_ = 1;
    Vec2 middle_;
};

} // namespace

QImage drawRelief(const Stock& stock, const ReliefView& view, QSize size) {
    return Relief(stock, view, size).draw();
}

} // namespace wren::app
