#include "ruler/handles.h"

#include "base/length.h"
#include "cut/outline_cut.h"
#include "design/markers.h"
#include "frame/theme.h"
#include "job/feature_edits.h"
#include "job/keys.h"
#include "ruler/section.h"
#include "ruler/strip_parts.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <numbers>

namespace wren::app {

void drawHandle(QPainter& p, QPointF at, bool here) {
    const double r = here ? 5.5 : 4;
    p.setPen(QPen(here ? colour::russet : colour::ink, 1.2));
    p.setBrush(here ? colour::russet : colour::sheet);
    p.drawPolygon(QPolygonF{at + QPointF(0, -r), at + QPointF(r, 0), at + QPointF(0, r),
                            at + QPointF(-r, 0)});
}

std::optional<Handle> handleNear(const std::vector<Handle>& all, QPointF at) {
    constexpr double reach = 9;
    std::optional<Handle> best;
    double nearest = reach;
    for (const Handle& h : all) {
        const double d = std::hypot(h.at.x() - at.x(), h.at.y() - at.y());
        if (d < nearest) {
            nearest = d;
            best = h;
        }
    }
    return best;
}
namespace {

/// A drag lands on tenths of a millimetre, or on 64ths of an inch.
QString rounded(double mm, LengthUnit unit) {
    const double step = unit == LengthUnit::mm ? 0.1 : mmPerInch / 64;
    return QString::fromStdString(fmt::format("{:.4f}mm", std::round(mm / step) * step));
}

/// Where the plan lies, by value: a handle outlives the painting it was made for.
struct Where {
    RulerScale scale;
    double middle;
    double k; ///< pixels a mm across
    LengthUnit unit;

    QPointF px(Vec2 p) const { return {scale.px(p.x), middle - p.y * k}; }
    double x(QPointF p) const { return scale.mm(p.x()); }
    double y(QPointF p) const { return (middle - p.y()) / k; }
};

class Plan {
public:
    explicit Plan(const StripContext& c)
        : d_(*c.sheet.derived()),
          b_(d_.project.board), where_{c.scale, c.area.center().y(), planScale(c), c.sheet.unit()} {
    }

    std::vector<Handle> ofBoard() {
        const Fan fan(b_);
        width(fan.line(0), QStringLiteral("board.nut_width"), QObject::tr("width at the nut"));
        width(b_.frets > 0 ? fan.line(b_.frets) : fan.endLine(),
              QStringLiteral("board.last_fret_width"),
              b_.frets > 0 ? QObject::tr("width at the last fret")
                           : QObject::tr("width at the end"));
        end(fan);
        scales(fan);
        octave();
        markers();
        return std::move(out_);
    }

    std::vector<Handle> ofTabs() {
        if (d_.boardPlan()) {
            for (std::size_t i = 0; i < d_.boardPlan()->tabs.size(); ++i) {
                tab(i);
            }
        }
        return std::move(out_);
    }

private:
    void add(Vec2 at, const QString& what, Qt::CursorShape cursor,
             std::function<Typed(QPointF)> typed) {
        out_.push_back({where_.px(at), what, cursor, std::move(typed)});
    }

    /// Both edges move alike, so the width changes by twice the way.
    void width(const FretLine& line, const QString& path, const QString& what) {
        const double now = std::get<double>(keyAt(d_.project, path.toStdString()).get(d_.project));
        for (const Vec2 corner : {line.bass, line.treble}) {
            add(corner, what, Qt::SizeVerCursor, [=, w = where_](QPointF p) {
                const double out = (w.y(p) - corner.y) * (corner.y < 0 ? -1 : 1);
                return Typed{path, rounded(now + 2 * out, w.unit)};
            });
        }
    }

    void end(const Fan& fan) {
        const double at = fan.endOnCentre();
        const double past = b_.pastLastFret;
        add({at, 0}, QObject::tr("length past the last fret"), Qt::SizeHorCursor,
            [=, w = where_](QPointF p) {
                return Typed{QStringLiteral("board.past_last_fret"),
                             rounded(past + w.x(p) - at, w.unit)};
            });
    }

    /// The scale by fret 12, or by the last one of a shorter board.
    void scales(const Fan& fan) {
        if (b_.frets == 0) {
            return;
        }
        const double share = Fan::share(std::min(12, b_.frets));
        if (!b_.fanned()) {
            add({fan.lineAt(share).middle(), 0}, QObject::tr("scale length"), Qt::SizeHorCursor,
                [=, w = where_](QPointF p) {
                    return Typed{QStringLiteral("board.scale"), rounded(w.x(p) / share, w.unit)};
                });
            return;
        }
        // Half of what one string's scale grows by at the square fret goes to either side of it.
        const double half = (b_.squareAtBridge() ? 1 : Fan::share(b_.squareFret)) / 2;
        if (share - half < 0.1) {
            return;
        }
        for (int which : {-1, 1}) {
            const double other = which < 0 ? *b_.trebleScale : b_.scaleLength;
            add(fan.string(which, share),
                which < 0 ? QObject::tr("scale of the bass string")
                          : QObject::tr("scale of the treble string"),
                Qt::SizeHorCursor, [=, w = where_](QPointF p) {
                    const double scale = (w.x(p) - other * half) / (share - half);
                    return Typed{which < 0 ? QStringLiteral("board.scale")
                                           : QStringLiteral("board.treble_scale"),
                                 rounded(scale, w.unit)};
                });
        }
    }

    void octave() {
        for (const MarkerPocket& pocket : d_.board->pockets()) {
            const Vec2 at = pocket.place.at;
            if (pocket.place.fret == 12 && b_.markers.atOctave == 2 &&
                b_.markers.shape != MarkerShape::wrap) {
                add(at, QObject::tr("how far apart the markers at the octave are"),
                    Qt::SizeVerCursor, [=, w = where_](QPointF p) {
                        return Typed{QStringLiteral("markers.spread"),
                                     rounded(2 * std::abs(w.y(p)), w.unit)};
                    });
            }
        }
    }

    /// Every marker is dragged from fret to fret.
    void markers() {
        const Fan fan(b_);
        for (std::size_t i = 0; i < b_.markers.face.size(); ++i) {
            const FretMark& mark = b_.markers.face[i];
            const auto place =
                std::find_if(d_.board->pockets().begin(), d_.board->pockets().end(),
                             [&](const MarkerPocket& p) { return p.place.fret == mark.fret; });
            if (place == d_.board->pockets().end()) {
                continue;
            }
            const bool two = twoAt(b_.markers, mark) && b_.markers.shape != MarkerShape::wrap;
            const Vec2 at = two ? Vec2{place->place.at.x, 0} : place->place.at;
            add(at, QObject::tr("the marker at fret %1").arg(mark.fret), Qt::SizeHorCursor, {});
            out_.back().path = pathOf({FeatureKind::marker, i});
            out_.back().moved = [i, d = d_.project, w = where_](QPointF p) {
                Project moved = d;
                moved.board.markers.face.at(i).fret = markerFretAt(moved.board, w.x(p));
                return moved;
            };
        }
    }

    /// Dragging the recipe's own tabs makes all of them the maker's.
    void tab(std::size_t i) {
        const int bass = b_.hand == Hand::left ? 1 : -1;
        const Project placed = withTabsByHand(d_);
        const Tab& t = d_.boardPlan()->tabs[i];
        add({t.x, d_.board->edge(t.side, t.x) + 2 * t.side}, QObject::tr("this tab"),
            Qt::SizeAllCursor, {});
        if (!d_.project.cut.tabPlaces.empty()) {
            out_.back().path = fmt::format("cut.tabs.{}", i);
        }
        out_.back().moved = [=, w = where_](QPointF p) {
            Project moved = placed;
            TabPlace& tab = moved.cut.tabPlaces.at(i);
            tab.bass = (w.y(p) > 0) == (bass > 0);
            tab.at = std::round(w.x(p) * 10) / 10;
            return moved;
        };
    }

    const Derived& d_;
    const Fretboard& b_;
    Where where_;
    std::vector<Handle> out_;
};

} // namespace

std::vector<Handle> planHandles(const StripContext& c) {
    const Derived* d = c.sheet.derived();
    if (!d || !d->board || c.sheet.scrubbing()) {
        return {};
    }
    switch (c.sheet.station()) {
    case Station::board:
        return Plan(c).ofBoard();
    case Station::cuts:
        return Plan(c).ofTabs();
    default:
        return {};
    }
}

std::vector<Handle> sideHandles(const StripContext& c) {
    const Derived* d = c.sheet.derived();
    if (!d || !d->board || c.sheet.station() != Station::board) {
        return {};
    }
    const HeightScale z = sideHeights(c);
    const double x = c.scale.px((d->board->xLow() + d->board->xHigh()) / 2);
    const LengthUnit unit = c.sheet.unit();
    return {{{x, z.y(d->project.board.thickness)},
             QObject::tr("thickness on the centreline"),
             Qt::SizeVerCursor,
             [z, unit](QPointF p) {
                 return Typed{QStringLiteral("board.thickness"), rounded(z.z(p.y()), unit)};
             }}};
}

std::vector<Handle> sectionHandles(const QRectF& area, const Sheet& sheet) {
    const Derived* d = sheet.derived();
    if (!d || !d->board || sheet.station() != Station::board) {
        return {};
    }
    const Fretboard b = d->project.board;
    const SectionScale s = sectionScale(area, sheet);
    const double x = s.x;
    const double half = std::max(std::abs(s.low), std::abs(s.high));
    // The cone's radius here is a mix of its two; the nearer end of the board takes the change.
    const double far = b.farRadius && d->board->face().growth != 0
                           ? (*b.farRadius - b.radius) / d->board->face().growth
                           : 0;
    const double t = far > 0 ? std::clamp(x / far, 0.0, 1.0) : 0;
    std::vector<Handle> out;
    for (double y : {s.low, s.high}) {
        out.push_back({{s.px(y), s.py(d->board->face(x, y))},
                       QObject::tr("radius of the face"),
                       Qt::SizeVerCursor,
                       [=](QPointF p) {
                           const double drop = std::max(0.02, b.thickness - s.height(p.y()));
                           const double here =
                               std::clamp((half * half + drop * drop) / (2 * drop), 100.0, 3000.0);
                           const bool nut = t < 0.5;
                           const double radius = far == 0 ? here
                                                 : nut    ? (here - *b.farRadius * t) / (1 - t)
                                                          : (here - b.radius * (1 - t)) / t;
                           return Typed{nut ? QStringLiteral("board.radius")
                                            : QStringLiteral("board.far_radius"),
                                        QString::number(std::round(radius)) + QStringLiteral("mm")};
                       }});
    }
    return out;
}

} // namespace wren::app
