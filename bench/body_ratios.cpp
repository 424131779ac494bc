// The body's ratios.

#include "best.h"

#include "geom/inset.h"
#include "job/balance.h"
#include "job/derive.h"
#include "job/keys.h"
#include "job/store.h"
#include "part/setup_geometry.h"

#include <benchmark/benchmark.h>
#include <geos_c.h>

#include <cmath>
#include <numbers>
#include <vector>

namespace {

using namespace wren;

/// A body-sized outline of `n` short lines.
Contour lines(int n) {
    const auto at = [n](int i) {
        const double a = 2 * std::numbers::pi * (i % n) / n;
        const double r =
            170 + 28 * std::sin(2 * a + 0.4) + 17 * std::sin(3 * a + 1.1) + 6 * std::sin(7 * a);
        return Vec2{1.25 * r * std::cos(a), 0.9 * r * std::sin(a)};
    };
    Contour out;
    for (int i = 0; i < n; ++i) {
        out.push_back({ContourPiece::Kind::line, at(i), at(i + 1), {}});
    }
    return counterClockwise(out);
}

GEOSGeometry* polygon(GEOSContextHandle_t geos, const Contour& c) {
    const auto n = static_cast<unsigned>(c.size());
    GEOSCoordSequence* points = GEOSCoordSeq_create_r(geos, n + 1, 2);
    for (unsigned i = 0; i <= n; ++i) {
        GEOSCoordSeq_setXY_r(geos, points, i, c[i % n].from.x, c[i % n].from.y);
    }
    return GEOSGeom_createPolygon_r(geos, GEOSGeom_createLinearRing_r(geos, points), nullptr, 0);
}

/// Pocketing a 2,000-segment outline inward, ring from ring, until nothing is left, at 40 % of a 6
/// mm bit; against GEOS's buffers ring from ring, its arcs' chords within 0.005 mm.
void ringsUntilNothingIsLeft(benchmark::State& state) {
    constexpr double step = 2.4;
    const Contour outline = lines(2000);
    const GEOSContextHandle_t geos = GEOS_init_r();
    // Chords of a quarter turn lie r (1 - cos(pi / 4 n)) inside their arc.
    const int chords =
        static_cast<int>(std::ceil(std::numbers::pi / 4 / std::acos(1 - 0.005 / step)));
    for (auto _ : state) {
        int rings = 0;
        double area = 0;
        const auto ours = [&] {
            std::vector<Contour> now{outline};
            rings = 0;
            area = 0;
            while (!(now = inset(now, step)).empty()) {
                ++rings;
                for (const Contour& c : now) {
                    area += signedAreaOf(c);
                }
            }
        };
        double theirArea = 0;
        const auto buffers = [&] {
            GEOSGeometry* now = polygon(geos, outline);
            theirArea = 0;
            for (;;) {
                GEOSGeometry* next = GEOSBuffer_r(geos, now, -step, chords);
                GEOSGeom_destroy_r(geos, now);
                now = next;
                double a = 0;
                GEOSArea_r(geos, now, &a);
                if (a <= 0) {
                    break;
                }
                theirArea += a;
            }
            GEOSGeom_destroy_r(geos, now);
        };
        const auto [mine, theirs] = bestInTurn(ours, buffers, 20);
        // The furthest any ring's piece is from the distance it should keep of the outline.
        double worst = 0;
        std::vector<Contour> now{outline};
        for (int i = 1; i <= rings; ++i) {
            now = inset(now, step);
            for (const Contour& c : now) {
                for (std::size_t k = 0; k < c.size(); k += 1 + c.size() / 60) {
                    const Vec2 p = c[k].at(c[k].length() / 2);
                    worst = std::max(worst, std::abs(distanceTo(outline, p) - i * step));
                }
            }
        }
        state.counters["rings"] = rings;
        state.counters["over_geos"] = theirs / mine;
        state.counters["area_share"] = area / theirArea;
        state.counters["worst_mm"] = worst;
        if (worst > 0.005) {
            state.SkipWithError("a ring is off by more than 0.005 mm");
        }
    }
    GEOS_finish_r(geos);
}
BENCHMARK(ringsUntilNothingIsLeft)->Iterations(1)->Unit(benchmark::kMillisecond);

/// From a node of the demo's outline moved by a millimetre to everything the drawing needs.
void bodyRedrawn(benchmark::State& state) {
    const Project demo = loadProject(WREN_DEMO);
    std::vector<ShapeNode> nodes = demo.body.nodes;
    const Derived before = deriveDrawing(demo);
    for (auto _ : state) {
        nodes[4].at.x += 1;
        Project moved = demo;
        moved.body.nodes = nodes;
        const double seconds =
            bestOfFive([&] { benchmark::DoNotOptimize(deriveDrawing(moved, &before)); });
        state.counters["ms"] = 1000 * seconds;
    }
}
BENCHMARK(bodyRedrawn)->Iterations(1)->Unit(benchmark::kMillisecond);

/// From the neck angle dragged to the new drawing, its findings and every string over it; and until
/// it is weighed again.
void instrumentRedrawn(benchmark::State& state) {
    const Project demo = loadProject(WREN_DEMO);
    const Derived before = deriveDrawing(demo);
    Project moved = demo;
    moved.body.pocket.angle += 1;
    for (auto _ : state) {
        const double drawn = bestOfFive([&] {
            const Derived d = deriveDrawing(moved, &before);
            benchmark::DoNotOptimize(setupGeometry(d.body->part, d.neck->part));
        });
        Derived d = deriveDrawing(moved, &before);
        const double weighed = bestOfFive([&] {
            d.weighed = weigh(d);
            benchmark::DoNotOptimize(balanceAsKnown(d));
        });
        state.counters["ms"] = 1000 * drawn;
        state.counters["weighed_ms"] = 1000 * weighed;
    }
}
BENCHMARK(instrumentRedrawn)->Iterations(1)->Unit(benchmark::kMillisecond);

/// After a change of one pickup: everything from nothing, over what the change touches.
void oneThingChanged(benchmark::State& state) {
    const Project demo = loadProject(WREN_DEMO);
    Project moved = demo;
    moved.body.pickups.at(1).fromBridge += 0.5;
    for (auto _ : state) {
        // As a window keeps it.
        Derived before = deriveDrawing(demo);
        before.remembers = true;
        derivePrograms(before);
        deriveProof(before);
        const auto anew = [&] { derive(demo); };
        const auto after = [&] {
            Derived d = deriveDrawing(moved, &before);
            derivePrograms(d, {}, &before);
            deriveProof(d, {}, &before);
        };
        const auto [whole, again] = bestInTurn(anew, after);
        state.counters["whole_s"] = whole;
        state.counters["again_s"] = again;
        state.counters["sooner"] = whole / again;
    }
}
BENCHMARK(oneThingChanged)->Iterations(1)->Unit(benchmark::kMillisecond);

} // namespace
