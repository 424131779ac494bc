#include "exchange/shifted_surface.h"

#include <algorithm>
#include <array>
#include <cmath>

#include <BRepAdaptor_Curve.hxx>
#include <BRepTools.hxx>
#include <BRep_Tool.hxx>
#include <BSplSLib.hxx>
#include <ElSLib.hxx>
#include <Geom2d_BSplineCurve.hxx>
#include <GeomAdaptor_Surface.hxx>
#include <Geom_BSplineCurve.hxx>
#include <Geom_BSplineSurface.hxx>
#include <Geom_CylindricalSurface.hxx>
#include <Geom_Plane.hxx>
#include <Standard_Failure.hxx>
#include <TColStd_Array1OfInteger.hxx>
#include <TColStd_Array1OfReal.hxx>
#include <TColgp_Array2OfPnt.hxx>
#include <TopExp.hxx>
#include <TopExp_Explorer.hxx>
#include <TopoDS.hxx>
#include <TopoDS_Face.hxx>
#include <tbb/blocked_range.h>
#include <tbb/parallel_for.h>
#include <tbb/parallel_reduce.h>

namespace wren {

gp_Pnt shifted(const gp_Pnt& p, const std::function<double(Vec2)>& shift) {
    return {p.X(), p.Y(), p.Z() + shift({p.X(), p.Y()})};
}

double lengthOf(const std::function<gp_Pnt(double)>& at) {
    double length = 0;
    for (int i = 0; i < 8; ++i) {
        length += at(i / 8.0).Distance(at((i + 1) / 8.0));
    }
    return length;
}

namespace {

constexpr int leastSteps = 12; ///< between the places a surface goes through, across it

/// Parameters a cubic goes through, and its knots: an end's first and last two spans are one.
struct Parameters {
    TColStd_Array1OfReal at, flat, knots;
    TColStd_Array1OfInteger times;

    explicit Parameters(const std::vector<double>& through)
        : at(1, int(through.size())), flat(1, int(through.size()) + 4),
          knots(1, int(through.size()) - 2), times(1, int(through.size()) - 2) {
        const int steps = int(through.size()) - 1;
        for (int i = 0; i <= steps; ++i) {
            at.SetValue(i + 1, through[std::size_t(i)]);
        }
        times.Init(1);
        times.SetValue(1, 4);
        times.SetValue(steps - 1, 4);
        int next = 1;
        for (int k = 1; k < steps; ++k) {
            const double knot = k == 1           ? through.front()
                                : k == steps - 1 ? through.back()
                                                 : at.Value(k + 1);
            knots.SetValue(k, knot);
            for (int n = 0; n < times.Value(k); ++n) {
                flat.SetValue(next++, knot);
            }
        }
    }
};

/// Evenly from one end to the other, and in ever finer steps towards a point between, if any.
std::vector<double> spread(double from, double to, int steps, std::optional<double> point,
                           double finest) {
    constexpr double growth = 1.4;
    std::vector<double> out;
    for (int i = 0; i <= steps; ++i) {
        out.push_back(from + (to - from) * i / steps);
    }
    const double step = (to - from) / steps;
    if (!point || *point < from - step || *point > to + step) {
        return out;
    }
    // Finer ones take the place of the even ones as far as they are finer.
    std::vector<double> off{0};
    for (double s = finest; s < step; s *= growth) {
        off.push_back(off.back() + s);
    }
    std::erase_if(out, [&](double v) {
        return v > from && v < to && std::abs(v - *point) < off.back() + step / 2;
    });
    for (double o : off) {
        for (double v : {*point - o, *point + o}) {
            if (v > from + finest / 2 && v < to - finest / 2) {
                out.push_back(v);
            }
        }
    }
    std::sort(out.begin(), out.end());
    out.erase(std::unique(out.begin(), out.end()), out.end());
    return out;
}

/// A part of a surface that is shifted. Without a layout of its own it has the parameters it had:
/// the curves of its edges on it stay as they are.
class Sheet {
public:
    Sheet(const TopoDS_Face& face, SmoothShift shift)
        : old_(BRep_Tool::Surface(face)), shift_(std::move(shift)) {
        const GeomAdaptor_Surface surface(old_);
        if (shift_.layout) {
            boundsOf(face, surface);
            return;
        }
        BRepTools::UVBounds(face, low_[0], high_[0], low_[1], high_[1]);
        if (shift_.tip) {
            const double z = surface.Plane().Location().Z(); // a level face
            ElSLib::Parameters(surface.Plane(), gp_Pnt(shift_.tip->x, shift_.tip->y, z),
                               tip_.emplace()[0], (*tip_)[1]);
        }
    }

    /// As coarse either way as comes close enough.
    Handle(Geom_BSplineSurface) surface() const {
        constexpr double finest = 1; // mm
        std::array<double, 2> step{32, 32};
        for (;;) {
            const std::vector<double> u = places(0, step[0]);
            const std::vector<double> v = places(1, step[1]);
            Handle(Geom_BSplineSurface) out = through(u, v);
            const std::array<double, 2> off{farthest(*out, middlesOf(u), v),
                                            farthest(*out, u, middlesOf(v))};
            bool finer = false;
            for (std::size_t way : {0U, 1U}) {
                // Of both together no more than what is asked of the surface.
                if (off[way] > closeness / 2 && step[way] > finest) {
                    step[way] /= 2;
                    finer = true;
                }
            }
            if (!finer) {
                return out;
            }
        }
    }

private:
    gp_Pnt before(double u, double v) const {
        if (!shift_.layout) {
            return old_->Value(u, v);
        }
        const Vec2 p = shift_.layout->place({u, v});
        return {p.x, p.y, level_};
    }
    gp_Pnt at(double u, double v) const { return shifted(before(u, v), shift_.by); }

    /// The shares of a layout its edges reach.
    void boundsOf(const TopoDS_Face& face, const GeomAdaptor_Surface& surface) {
        level_ = surface.Plane().Location().Z();
        low_ = {1e9, 1e9};
        high_ = {-1e9, -1e9};
        for (TopExp_Explorer edge(face, TopAbs_EDGE); edge.More(); edge.Next()) {
            const BRepAdaptor_Curve c(TopoDS::Edge(edge.Current()));
            for (int i = 0; i <= 16; ++i) {
                const double a = c.FirstParameter();
                const gp_Pnt p = c.Value(a + i * (c.LastParameter() - a) / 16);
                const Vec2 s = shift_.layout->shares({p.X(), p.Y()});
                low_ = {std::min(low_[0], s.x), std::min(low_[1], s.y)};
                high_ = {std::max(high_[0], s.x), std::max(high_[1], s.y)};
            }
        }
    }

    double share(int way, double t) const { return low_[way] + (high_[way] - low_[way]) * t; }

    std::vector<double> places(int way, double step) const {
        constexpr double finest = 0.02; // mm
        const double length = lengthOf([&](double t) {
            return way == 0 ? before(share(0, t), share(1, 0.5))
                            : before(share(0, 0.5), share(1, t));
        });
        const int steps = std::max(leastSteps, static_cast<int>(std::ceil(length / step)));
        return spread(low_[way], high_[way], steps,
                      tip_ ? std::optional((*tip_)[way]) : std::nullopt, finest);
    }

    Handle(Geom_BSplineSurface)
        through(const std::vector<double>& us, const std::vector<double>& vs) const {
        const Parameters u(us);
        const Parameters v(vs);
        TColgp_Array2OfPnt poles(1, u.at.Length(), 1, v.at.Length());
        tbb::parallel_for(1, u.at.Length() + 1, [&](int i) {
            for (int j = 1; j <= v.at.Length(); ++j) {
                poles.SetValue(i, j, at(u.at.Value(i), v.at.Value(j)));
            }
        });
        int problem = 0;
        BSplSLib::Interpolate(3, 3, u.flat, v.flat, u.at, v.at, poles, problem);
        if (problem != 0) {
            throw Standard_Failure("no spline goes through a shifted face");
        }
        return new Geom_BSplineSurface(poles, u.knots, v.knots, u.times, v.times, 3, 3);
    }

    static std::vector<double> middlesOf(const std::vector<double>& places) {
        std::vector<double> out;
        for (std::size_t i = 1; i < places.size(); ++i) {
            out.push_back((places[i - 1] + places[i]) / 2);
        }
        return out;
    }

    /// From where it should be, over a net of its parameters.
    double farthest(const Geom_BSplineSurface& sheet, const std::vector<double>& us,
                    const std::vector<double>& vs) const {
        return tbb::parallel_reduce(
            tbb::blocked_range<std::size_t>(0, us.size()), 0.0,
            [&](const tbb::blocked_range<std::size_t>& range, double far) {
                for (std::size_t i = range.begin(); i < range.end(); ++i) {
                    for (double v : vs) {
                        far = std::max(far, sheet.Value(us[i], v).Distance(at(us[i], v)));
                    }
                }
                return far;
            },
            [](double a, double b) { return std::max(a, b); });
    }

    Handle(Geom_Surface) old_;
    SmoothShift shift_;
    std::array<double, 2> low_{}, high_{};
    std::optional<std::array<double, 2>> tip_; ///< in the surface's parameters
    double level_ = 0;
};

} // namespace

Handle(Geom_BSplineSurface) shiftedSurface(const TopoDS_Face& face, const SmoothShift& shift) {
    return Sheet(face, shift).surface();
}

} // namespace wren
