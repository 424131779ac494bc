#include "part/panel_field.h"

#include <algorithm>
#include <limits>

#include <tbb/parallel_for.h>

namespace wren {
namespace {

constexpr double chord = 0.002;

/// A contour's points in the frame `to` leads to.
std::vector<Vec2> laidPoints(const Contour& c, const SetupFromInstrument& to) {
    std::vector<Vec2> points = pointsOf(c, chord);
    for (Vec2& p : points) {
        p = to.toSetup({p.x, p.y, 0}).xy();
    }
    return points;
}

} // namespace

void fillCells(const CellGrid& grid, const std::vector<std::vector<Vec2>>& polygons,
               const std::function<void(std::size_t)>& in) {
    std::vector<std::vector<double>> rows(static_cast<std::size_t>(grid.ny));
    for (const auto& polygon : polygons) {
        for (std::size_t i = 0, j = polygon.size() - 1; i < polygon.size(); j = i++) {
            const Vec2 a = polygon[j];
            const Vec2 b = polygon[i];
            const double low = (std::min(a.y, b.y) - grid.first.y) / grid.cell;
            const double high = (std::max(a.y, b.y) - grid.first.y) / grid.cell;
            const int from = static_cast<int>(std::max(0.0, std::ceil(low)));
            const int to = static_cast<int>(std::min<double>(grid.ny - 1, std::ceil(high) - 1));
            for (int r = from; r <= to; ++r) {
                const double y = grid.first.y + r * grid.cell;
                rows[static_cast<std::size_t>(r)].push_back(a.x +
                                                            (b.x - a.x) * (y - a.y) / (b.y - a.y));
            }
        }
    }
    for (std::size_t r = 0; r < rows.size(); ++r) {
        std::sort(rows[r].begin(), rows[r].end());
        for (std::size_t k = 0; k + 1 < rows[r].size(); k += 2) {
            const double low = (rows[r][k] - grid.first.x) / grid.cell;
            const double high = (rows[r][k + 1] - grid.first.x) / grid.cell;
            const int from = static_cast<int>(std::max(0.0, std::ceil(low)));
            const int to = static_cast<int>(std::min<double>(grid.nx - 1, std::floor(high)));
            for (int c = from; c <= to; ++c) {
                in(r * static_cast<std::size_t>(grid.nx) + static_cast<std::size_t>(c));
            }
        }
    }
}

FaceDrops::FaceDrops(const Panel& panel, const SetupFromInstrument& to, const CellGrid& grid) {
    if (panel.frontFall.level() && panel.backFall.level()) {
        return;
    }
    const auto wide = static_cast<std::size_t>(grid.nx);
    const std::size_t n = wide * static_cast<std::size_t>(grid.ny);
    std::vector<char> within(n, 0);
    fillCells(grid, {laidPoints(panel.outline, to)}, [&](std::size_t i) { within[i] = 1; });
    front.assign(n, 0);
    back.assign(n, 0);
    tbb::parallel_for(std::size_t(0), static_cast<std::size_t>(grid.ny), [&](std::size_t row) {
        for (std::size_t column = 0; column < wide; ++column) {
            const std::size_t i = row * wide + column;
            if (within[i]) {
                const Vec2 q = grid.first + Vec2{double(column), double(row)} * grid.cell;
                const Vec2 p = to.toInstrument({q.x, q.y, 0}).xy();
                front[i] = static_cast<float>(panel.frontFall.drop(p));
                back[i] = static_cast<float>(panel.backFall.drop(p));
            }
        }
    });
}

PanelField::PanelField(const Panel& panel, const SetupFromInstrument& to, const CellGrid& cells)
    : PanelField(panel, to, cells, FaceDrops(panel, to, cells)) {}

PanelField::PanelField(const Panel& panel, const SetupFromInstrument& to, const CellGrid& cells,
                       const FaceDrops& drops)
    : grid(cells) {
    const auto n = static_cast<std::size_t>(grid.nx) * static_cast<std::size_t>(grid.ny);
    const float none = std::numeric_limits<float>::quiet_NaN();
    front.assign(n, none);
    back.assign(n, none);
    frontBy.assign(n, -1);
    backBy.assign(n, -1);
    const bool carved = !drops.front.empty();
    fillCells(grid, {laidPoints(panel.outline, to)}, [&](std::size_t i) {
        front[i] = static_cast<float>(panel.top) - (carved ? drops.front[i] : 0);
        back[i] = static_cast<float>(panel.bottom) + (carved ? drops.back[i] : 0);
    });
    const auto cut = [&](const std::vector<std::vector<Vec2>>& polygons, bool fromBack, int index,
                         auto floorAt) {
        fillCells(grid, polygons, [&](std::size_t i) {
            const auto floor = static_cast<float>(floorAt(i));
            if (!in(i)) {
                return;
            }
            if (fromBack ? floor > back[i] : floor < front[i]) {
                (fromBack ? back : front)[i] = floor;
                (fromBack ? backBy : frontBy)[i] = static_cast<std::int16_t>(index);
            }
        });
    };
    int index = 0;
    for (const PanelPocket& p : panel.pockets) {
        std::vector<std::vector<Vec2>> polygons;
        for (const Contour& c : p.borders) {
            polygons.push_back(laidPoints(c, to));
        }
        cut(polygons, p.fromBack, index++, [&](std::size_t i) {
            const Vec2 q = at(i);
            return p.slope == 0 ? p.floor : p.floorAt(to.toInstrument({q.x, q.y, 0}).x);
        });
    }
    for (const Hole& h : panel.holes) {
        cut({laidPoints(circleContour(h.at, h.diameter), to)}, h.fromBack, index++,
            [&](std::size_t) { return h.floor; });
    }
    openInto(panel.shutIn, to);
}

std::optional<std::size_t> PanelField::cellAt(Vec2 p) const {
    const auto c = std::lround((p.x - grid.first.x) / grid.cell);
    const auto r = std::lround((p.y - grid.first.y) / grid.cell);
    if (c < 0 || r < 0 || c >= grid.nx || r >= grid.ny) {
        return {};
    }
    return static_cast<std::size_t>(r) * static_cast<std::size_t>(grid.nx) +
           static_cast<std::size_t>(c);
}

void PanelField::openInto(const std::vector<PanelPocket>& hollows, const SetupFromInstrument& to) {
    for (const PanelPocket& h : hollows) {
        std::vector<std::vector<Vec2>> polygons;
        for (const Contour& c : h.borders) {
            polygons.push_back(laidPoints(c, to));
        }
        fillCells(grid, polygons, [&](std::size_t i) {
            if (!in(i)) {
                return;
            }
            if (front[i] <= h.mouth) {
                front[i] = std::min(front[i], static_cast<float>(h.floor));
            } else if (back[i] >= h.floor) {
                back[i] = std::max(back[i], static_cast<float>(h.mouth));
            }
        });
    }
}

PanelField PanelField::over(const Panel& panel, double cell) {
    const auto box = panel.box();
    const Vec2 size = box[1] - box[0];
    return PanelField(panel, SetupFromInstrument::faceUp({}),
                      {box[0] + Vec2{cell / 2, cell / 2}, cell,
                       static_cast<int>(std::ceil(size.x / cell)),
                       static_cast<int>(std::ceil(size.y / cell))});
}

PanelField PanelField::like(const PanelField& other, const Panel& panel) {
    return PanelField(panel, SetupFromInstrument::faceUp({}), other.grid);
}

FeatureId featureOf(const Panel& panel, int index) {
    if (index < 0) {
        return {};
    }
    const auto i = static_cast<std::size_t>(index);
    return i < panel.pockets.size() ? panel.pockets[i].feature
                                    : panel.holes[i - panel.pockets.size()].feature;
}

const std::string& featureName(const Panel& panel, int index) {
    const auto i = static_cast<std::size_t>(index);
    return i < panel.pockets.size() ? panel.pockets[i].what
                                    : panel.holes[i - panel.pockets.size()].what;
}

} // namespace wren
