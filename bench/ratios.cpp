// Ratios, each taken within one run: seconds on a shared machine say nothing by themselves.
// Every benchmark does its work five times and reports the best.

#include "best.h"

#include "cut/contact.h"
#include "cut/drop_cutter.h"
#include "job/derive.h"
#include "job/store.h"

#include <benchmark/benchmark.h>

#include <algorithm>
#include <array>
#include <cmath>
#include <cstdio>
#include <optional>
#include <vector>

#include <sys/resource.h>
#include <sys/wait.h>
#include <unistd.h>

namespace {

using namespace wren;
const Derived& demo() {
    static const Derived d = derive(loadProject(WREN_DEMO));
    return d;
}

/// Runs a command; the most memory it ever held, MB, or nothing when it did not end well.
std::optional<double> run(std::vector<const char*> words) {
    words.insert(words.begin(), "wren");
    words.push_back(nullptr);
    const pid_t child = ::fork();
    if (child == 0) {
        if (!std::freopen("/dev/null", "w", stdout)) {
            ::_exit(126);
        }
        ::execv(WREN_COMMAND, const_cast<char* const*>(words.data()));
        ::_exit(127);
    }
    int status = 0;
    rusage used{};
    ::wait4(child, &status, 0, &used);
    return status == 0 ? std::optional(static_cast<double>(used.ru_maxrss) / 1024) : std::nullopt;
}

/// The most memory `wren make` of the demo ever holds, solids and sheets included, and its seconds
/// over those of `wren prove`. First of all: a forked process is charged with what this one holds.
void makeAndProve(benchmark::State& state) {
    for (auto _ : state) {
        std::optional<double> proved;
        std::optional<double> made;
        const auto [prove, make] = bestInTurn(
            [&] {
                proved = run({"prove", WREN_DEMO});
            },
            [&] {
                made = run({"make", WREN_DEMO, "--out", WREN_BENCH_OUT});
            });
        if (!proved || !made) {
            state.SkipWithError("a command did not end well");
            return;
        }
        state.counters["MB"] = *made;
        state.counters["over_prove"] = make / prove;
    }
}
BENCHMARK(makeAndProve)->Iterations(1)->Unit(benchmark::kMillisecond);

/// Machine seconds of the posted demo programs over seconds spent proving them: parsing the text,
/// cutting it into the blank at 0.2 mm, comparing.
void proofOfPostedPrograms(benchmark::State& state) {
    const Derived& d = demo();
    std::vector<Program> programs;
    double machine = 0;
    for (const PostedProgram& p : d.programs) {
        if (p.program.part == Role::board) {
            programs.push_back(p.program);
            machine += p.time.seconds;
        }
    }
    for (auto _ : state) {
        const double seconds = bestOfFive([&] {
            const auto read = readBack(programs, *d.lies(Role::board));
            const PartJob& job = *d.job(Role::board);
            const SidePrograms sides{read, {}};
            const PartProof report = proveBoard(*d.board, boardSides(*d.board, job.held, sides),
                                                job.boardPlan(), d.project.cut, d.project.machine);
            if (!report.passed()) {
                state.SkipWithError("the demo does not pass its proof");
            }
        });
        state.counters["machine_s"] = machine;
        state.counters["proof_s"] = seconds;
        state.counters["ratio"] = machine / seconds;
    }
}
BENCHMARK(proofOfPostedPrograms)->Iterations(1)->Unit(benchmark::kMillisecond);

/// The same with deriving and writing the programs.
void deriveAndProve(benchmark::State& state) {
    const Project project = loadProject(WREN_DEMO);
    for (auto _ : state) {
        double machine = 0;
        const double seconds = bestOfFive([&] { machine = derive(project).seconds(); });
        state.counters["machine_s"] = machine;
        state.counters["all_s"] = seconds;
        state.counters["ratio"] = machine / seconds;
    }
}
BENCHMARK(deriveAndProve)->Iterations(1)->Unit(benchmark::kMillisecond);

/// The neck alone, both sides: planned, written, read back, cut and compared.
void neckFromDesignToProof(benchmark::State& state) {
    const Project project = loadProject(WREN_DEMO);
    const NeckPart part(project.neck, project.board);
    const Held setups = layNeck(part, project.neckBlank, project.neckHold, project.machine);
    for (auto _ : state) {
        double machine = 0;
        const double seconds = bestOfFive([&] {
            NeckPlan plan = planNeck(part, setups, project.bits, project.machine, project.neckCut);
            easePart(plan, neckSides(part, setups, asPrograms(plan)), project.machine);
            std::vector<PostJob> jobs;
            for (const SidePlan& side : plan.sides) {
                jobs.push_back({&side.setup, &side.cuts});
            }
            std::array<std::vector<RunProgram>, 2> read;
            machine = 0;
            for (const Program& p : postPrograms(jobs, project.machine, {"bench", "-"})) {
                const std::size_t side = p.setup == setups.face.name ? 0 : 1;
                read[side].push_back(readBack({p}, plan.sides[side].setup).front());
                machine += timeOf(read[side].back().path, project.machine).seconds;
            }
            if (!proveNeck(part, neckSides(part, setups, read), plan, project.neckCut,
                           project.machine)
                     .passed()) {
                state.SkipWithError("the demo's neck does not pass its proof");
            }
        });
        state.counters["machine_s"] = machine;
        state.counters["all_s"] = seconds;
        state.counters["ratio"] = machine / seconds;
    }
}
BENCHMARK(neckFromDesignToProof)->Iterations(1)->Unit(benchmark::kMillisecond);

/// A change of one thickness until the neck's new shape is there.
void neckRedrawn(benchmark::State& state) {
    const Project project = loadProject(WREN_DEMO);
    for (auto _ : state) {
        state.counters["ms"] = 1e3 * bestOfFive([&] { deriveDrawing(project); });
    }
}
BENCHMARK(neckRedrawn)->Iterations(1)->Unit(benchmark::kMillisecond);

// The plain reference, written apart from the product: every triangle, every time, by looking for
// the point of the triangle nearest to a ball standing ever lower. For a ball the lowest standing
// place over a triangle is where its centre is exactly r away from the triangle's nearest point;
// contacts are the facet, its three edges, its three corners, tried one after the other.
namespace plain {

using P = std::array<double, 3>;

P minus(const P& a, const P& b) {
    return {a[0] - b[0], a[1] - b[1], a[2] - b[2]};
}
double inner(const P& a, const P& b) {
    return a[0] * b[0] + a[1] * b[1] + a[2] * b[2];
}

/// Roots of |(c + t k)|^2 = r^2 along the vertical: the upper height of the axis line's meeting
/// with a ball about a corner, or a tube about an edge.
double upperRoot(double a, double b, double c) {
    const double d = b * b - a * c;
    return d < 0 || a <= 0 ? -1e300 : (-b + std::sqrt(d)) / a;
}

double overTriangle(const P& p, const P& q, const P& s, double x, double y, double r) {
    double z = -1e300;
    for (const P* v : {&p, &q, &s}) {
        const P c{x - (*v)[0], y - (*v)[1], -(*v)[2]};
        z = std::max(z, upperRoot(1, c[2], inner(c, c) - r * r));
    }
    const std::array<std::array<const P*, 2>, 3> edges{{{&p, &q}, {&q, &s}, {&s, &p}}};
    for (const auto& e : edges) {
        const P d = minus(*e[1], *e[0]);
        const double dd = inner(d, d);
        const P c{x - (*e[0])[0], y - (*e[0])[1], -(*e[0])[2]};
        // Distance from the line: remove the part along d from (c + t up).
        const double cd = inner(c, d);
        const double a = 1 - d[2] * d[2] / dd;
        const double b = c[2] - cd * d[2] / dd;
        const double t = upperRoot(a, b, inner(c, c) - cd * cd / dd - r * r);
        const double foot = (cd + t * d[2]) / dd;
        if (t > -1e299 && foot >= 0 && foot <= 1) {
            z = std::max(z, t);
        }
    }
    const P u = minus(q, p);
    const P v = minus(s, p);
    P n{u[1] * v[2] - u[2] * v[1], u[2] * v[0] - u[0] * v[2], u[0] * v[1] - u[1] * v[0]};
    const double l = std::sqrt(inner(n, n));
    if (l > 0 && n[2] != 0) {
        const double sign = n[2] > 0 ? 1 : -1;
        n = {n[0] * sign / l, n[1] * sign / l, n[2] * sign / l};
        const double t = p[2] + (r - n[0] * (x - p[0]) - n[1] * (y - p[1])) / n[2];
        const P foot{x - r * n[0] - p[0], y - r * n[1] - p[1], t - r * n[2] - p[2]};
        // Barycentric coordinates of the touching point.
        const double uu = inner(u, u);
        const double uv = inner(u, v);
        const double vv = inner(v, v);
        const double fu = inner(foot, u);
        const double fv = inner(foot, v);
        const double det = uu * vv - uv * uv;
        const double bu = (vv * fu - uv * fv) / det;
        const double bv = (uu * fv - uv * fu) / det;
        if (bu >= 0 && bv >= 0 && bu + bv <= 1) {
            z = std::max(z, t);
        }
    }
    return z;
}

double tip(const Mesh& mesh, double x, double y, double r) {
    double z = -1e300;
    for (const auto& t : mesh.triangles) {
        const auto at = [&](std::size_t i) {
            const Vec3 v = mesh.vertices[static_cast<std::size_t>(t[i])];
            return P{v.x, v.y, v.z};
        };
        z = std::max(z, overTriangle(at(0), at(1), at(2), x, y, r));
    }
    return z - r;
}

/// The same, but a triangle is looked at only when its box is within reach.
double tipWithBoxes(const Mesh& mesh, double x, double y, double r) {
    double z = -1e300;
    for (const auto& t : mesh.triangles) {
        const auto& v = mesh.vertices;
        const auto a = static_cast<std::size_t>(t[0]);
        const auto b = static_cast<std::size_t>(t[1]);
        const auto c = static_cast<std::size_t>(t[2]);
        if (std::min({v[a].x, v[b].x, v[c].x}) > x + r ||
            std::max({v[a].x, v[b].x, v[c].x}) < x - r ||
            std::min({v[a].y, v[b].y, v[c].y}) > y + r ||
            std::max({v[a].y, v[b].y, v[c].y}) < y - r) {
            continue;
        }
        const auto at = [&](std::size_t i) { return P{v[i].x, v[i].y, v[i].z}; };
        z = std::max(z, overTriangle(at(a), at(b), at(c), x, y, r));
    }
    return z - r;
}

} // namespace plain

/// Tips on the demo neck's back by exact contact with its definition, for every kind of end, in
/// points a second; and how much faster a 6 mm ball is so than by every one of 50,000 triangles of
/// the same back, plain and with a box test first.
void contactsOnNeck(benchmark::State& state) {
    const Project project = loadProject(WREN_DEMO);
    const NeckPart part(project.neck, project.board);
    const NeckBack& back = part.back();
    constexpr int lines = 60;
    std::vector<NeckBack::Slice> slices;
    for (double x = 30; x < 330; x += 1) {
        slices.push_back(back.slice(x));
    }
    const auto rate = [&](BitKind kind, double diameter) {
        Bit bit;
        bit.kind = kind;
        bit.diameter = diameter;
        bit.corner = 3;
        bit.tip = 3;
        bit.angle = 10;
        const EndShape end = EndShape::of(bit);
        double sum = 0;
        const double seconds = bestOfFive([&] {
            for (int i = 0; i < lines; ++i) {
                const double angle = 1.4 * (2.0 * i / (lines - 1) - 1);
                for (const NeckBack::Slice& s : slices) {
                    const NeckBack::Slice::Touch t = s.touch(angle);
                    sum += tipTouching({t.point.x, t.point.y, -t.point.z},
                                       {t.normal.x, t.normal.y, -t.normal.z}, end)
                               .z;
                }
            }
        });
        benchmark::DoNotOptimize(sum);
        return lines * static_cast<double>(slices.size()) / seconds;
    };
    const Mesh mesh = meshOfHeights(30, 330, 250, -20, 20, 100,
                                    [&](double x, double y) { return back.depth(x, y); });
    for (auto _ : state) {
        const double ball = rate(BitKind::ball, 6);
        state.counters["ball_per_s"] = ball;
        state.counters["bull_per_s"] = rate(BitKind::bullNose, 12);
        state.counters["flat_per_s"] = rate(BitKind::flat, 6);
        state.counters["tapered_per_s"] = rate(BitKind::taperedBall, 6);
        constexpr int places = 20;
        const auto slow = [&](auto tip) {
            const double seconds = bestOfFive([&] {
                double sum = 0;
                for (int i = 0; i < places; ++i) {
                    sum += tip(mesh, 40.0 + 14 * i, -15.0 + 1.5 * i, 3.0);
                }
                benchmark::DoNotOptimize(sum);
            });
            return places / seconds;
        };
        state.counters["over_plain"] = ball / slow(plain::tip);
        state.counters["over_boxes"] = ball / slow(plain::tipWithBoxes);
    }
}
BENCHMARK(contactsOnNeck)->Iterations(1)->Unit(benchmark::kMillisecond);

/// A 6 mm ball on 50,000 triangles: the grid against every triangle, the same places, the same
/// heights.
void ballOnTriangles(benchmark::State& state) {
    const Mesh mesh = meshOfHeights(0, 460, 250, -30, 30, 100, [](double x, double y) {
        return 6 - y * y / 600 + 0.8 * std::sin(x / 9) * std::cos(y / 7);
    });
    const double r = 3;
    const BallDropCutter dropCutter(mesh, r);
    std::vector<Vec2> places;
    for (int i = 0; i < 40; ++i) {
        places.push_back({460.0 * ((i * 37) % 101) / 101, -30 + 60.0 * ((i * 53) % 97) / 97});
    }
    for (auto _ : state) {
        std::vector<double> slow(places.size());
        std::vector<double> fast(places.size());
        const double plainSeconds = bestOfFive([&] {
            for (std::size_t i = 0; i < places.size(); ++i) {
                slow[i] = plain::tip(mesh, places[i].x, places[i].y, r);
            }
        });
        constexpr int rounds = 200; // long enough to be timed
        const double gridSeconds = bestOfFive([&] {
                                       for (int k = 0; k < rounds; ++k) {
                                           for (std::size_t i = 0; i < places.size(); ++i) {
                                               fast[i] =
                                                   dropCutter.tipHeight(places[i].x, places[i].y);
                                           }
                                           benchmark::DoNotOptimize(fast.data());
                                       }
                                   }) /
                                   rounds;
        double worst = 0;
        for (std::size_t i = 0; i < places.size(); ++i) {
            worst = std::max(worst, std::abs(slow[i] - fast[i]));
        }
        state.counters["triangles"] = static_cast<double>(mesh.triangles.size());
        state.counters["ratio"] = plainSeconds / gridSeconds;
        state.counters["worst_difference_mm"] = worst;
        if (worst > 0.001) {
            state.SkipWithError("the two drops differ by more than 0.001 mm");
        }
    }
}
BENCHMARK(ballOnTriangles)->Iterations(1)->Unit(benchmark::kMillisecond);

} // namespace
