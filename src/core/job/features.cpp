#include "job/features.h"

#include <algorithm>

#include <fmt/format.h>

namespace wren {
namespace {

struct Span {
    Vec2 middle, size;
};

Span spanOf(const std::vector<Vec2>& places) {
    if (places.empty()) {
        return {};
    }
    Vec2 low = places.front();
    Vec2 high = low;
    for (Vec2 p : places) {
        low = {std::min(low.x, p.x), std::min(low.y, p.y)};
        high = {std::max(high.x, p.x), std::max(high.y, p.y)};
    }
    return {(low + high) * 0.5, high - low};
}

Span spanOf(const std::vector<ShapeNode>& nodes) {
    std::vector<Vec2> places;
    places.reserve(nodes.size());
    for (const ShapeNode& n : nodes) {
        places.push_back(n.at);
    }
    return spanOf(places);
}

class BodyFeatures {
public:
    explicit BodyFeatures(const Project& p)
        : b_(p.body), pocketed_(p.neck.joint != NeckJoint::through) {}

    std::vector<Feature> all() {
        fixed();
        each(FeatureKind::pickup, b_.pickups, [&](const Pickup& p, Feature& f) {
            f.side = p.mount == PickupMount::back ? "back" : "front";
            f.at = {-p.fromBridge, 0};
            f.size = {p.along.value_or(0), p.across.value_or(0)};
            f.depth = p.depth;
        });
        for (std::size_t i = 0; i < b_.controls.size(); ++i) {
            Feature& f = add(controlId(b_, i));
            f.side = "front";
            f.at = b_.controls[i].at;
        }
        each(FeatureKind::jack, b_.jacks, [](const Jack& j, Feature& f) {
            const bool cup = j.kind == JackKind::cup;
            f.side = cup ? "front" : "edge";
            f.at = j.at;
            f.size = cup ? Vec2{j.cupSize, j.cupSize} : Vec2{j.size, j.size};
            f.depth = cup ? std::optional(j.cupDepth) : std::nullopt;
        });
        each(FeatureKind::strap, b_.straps, [](const StrapButton& s, Feature& f) {
            f.side = "edge";
            f.at = s.at;
        });
        hollows();
        lines();
        return std::move(out_);
    }

private:
    Feature& add(FeatureId id) {
        out_.push_back({Role::body, id, pathOf(id), nameOf(b_, id), {}, {}, {}, {}});
        return out_.back();
    }

    template <typename T, typename Fill>
    void each(FeatureKind kind, const std::vector<T>& list, Fill fill) {
        for (std::size_t i = 0; i < list.size(); ++i) {
            fill(list[i], add({kind, i}));
        }
    }

    static void lay(Feature& f, const Span& span) {
        f.at = span.middle;
        f.size = span.size;
    }

    void fixed() {
        lay(add({FeatureKind::outline}), spanOf(b_.nodes));
        if (pocketed_) {
            Feature& pocket = add({FeatureKind::neckPocket});
            pocket.side = "front";
            pocket.depth = b_.pocket.depth;
        }
        add({FeatureKind::bridge}).side = "front";
        if (!b_.cavity.nodes.empty()) {
            Feature& cavity = add({FeatureKind::cavity});
            lay(cavity, spanOf(b_.cavity.nodes));
            cavity.side = "back";
            cavity.depth = b_.thickness - b_.cavity.wood;
        }
    }

    void hollows() {
        each(FeatureKind::chamber, b_.chambers, [&](const Chamber& c, Feature& f) {
            f.side = "inside";
            lay(f, spanOf(c.nodes));
            f.depth = b_.thickness - b_.back - b_.top - b_.chamberFloor;
        });
        each(FeatureKind::channel, b_.channels, [&](const Channel& c, Feature& f) {
            f.side = b_.build == BodyBuild::topped ? "inside" : "front";
            f.at = (c.from + c.to) * 0.5;
            f.size = {length(c.to - c.from), c.width};
            f.depth = c.depth;
        });
        for (std::size_t i = 0; i < b_.recesses.size(); ++i) {
            const Recess& r = b_.recesses[i];
            Feature& f = add(recessId(b_, i));
            f.side = r.fromBack ? "back" : "front";
            lay(f, spanOf(r.nodes));
            f.depth = r.depth;
        }
        each(FeatureKind::hole, b_.holes, [](const FreeHole& h, Feature& f) {
            f.side = h.fromBack ? "back" : "front";
            f.at = h.at;
            f.size = {h.diameter, h.diameter};
            f.depth = h.depth;
        });
        each(FeatureKind::wire, b_.wires, [](const WireHole& w, Feature& f) {
            f.side = "inside";
            f.at = (w.from + w.to) * 0.5;
            f.size = {w.length(), w.diameter};
        });
    }

    void lines() {
        each(FeatureKind::contour, b_.faces.contours, [](const FaceSlope& s, Feature& f) {
            f.side = s.fromBack ? "back" : "front";
            f.at = (s.from + s.to) * 0.5;
            f.size = {length(s.to - s.from), 0};
        });
        each(FeatureKind::engraving, b_.engravings, [](const Engraving& e, Feature& f) {
            f.side = e.fromBack ? "back" : "front";
            f.at = e.middle;
            if (!e.nodes.empty()) {
                lay(f, spanOf(e.nodes));
            }
            f.depth = e.depth;
        });
        each(FeatureKind::plate, b_.plates, [](const Plate& p, Feature& f) {
            f.side = p.kind == PlateKind::cavityCover ? "back" : "front";
            lay(f, spanOf(p.nodes));
        });
    }

    const Body& b_;
    bool pocketed_; ///< the neck lies in a pocket of it
    std::vector<Feature> out_;
};

void addNeck(std::vector<Feature>& out, const Neck& n) {
    for (std::size_t i = 0; i < n.stations.size(); ++i) {
        const FeatureId id{FeatureKind::station, i};
        out.push_back({Role::neck,
                       id,
                       pathOf(id),
                       fmt::format("station at fret {:g}", n.stations[i].fret),
                       "back",
                       {n.stations[i].fret, 0},
                       {},
                       n.stations[i].thickness});
    }
    for (std::size_t i = 0; i < n.tuners.places.size(); ++i) {
        const FeatureId id{FeatureKind::tuner, i};
        out.push_back({Role::neck,
                       id,
                       pathOf(id),
                       fmt::format("tuner {}", i + 1),
                       "front",
                       n.tuners.places[i].at,
                       {n.tuners.bushing, n.tuners.bushing},
                       {}});
    }
}

void addTrees(std::vector<Feature>& out, const Tuners& t) {
    for (std::size_t i = 0; i < t.trees.size(); ++i) {
        const FeatureId id{FeatureKind::tree, i};
        out.push_back({Role::neck,
                       id,
                       pathOf(id),
                       fmt::format("string tree {}", i + 1),
                       "front",
                       t.trees[i].at,
                       {t.trees[i].height, 0},
                       {}});
    }
}

void addMarkers(std::vector<Feature>& out, const Markers& m) {
    const auto add = [&](FeatureKind kind, const std::vector<FretMark>& list, const char* word,
                         const char* side, double size, double depth) {
        for (std::size_t i = 0; i < list.size(); ++i) {
            const FeatureId id{kind, i};
            out.push_back({Role::board,
                           id,
                           pathOf(id),
                           fmt::format("{} {}", word, list[i].fret),
                           side,
                           {double(list[i].fret), 0},
                           {size, size},
                           depth});
        }
    };
    add(FeatureKind::marker, m.face, "marker", "front", m.size, m.depth);
    add(FeatureKind::sideDot, m.side, "side dot", "edge", m.sideSize, m.sideDepth);
}

void addTabs(std::vector<Feature>& out, const Project& p) {
    for (std::size_t i = 0; i < p.cut.tabPlaces.size(); ++i) {
        const TabPlace& tab = p.cut.tabPlaces[i];
        const FeatureId id{FeatureKind::tab, i};
        out.push_back({Role::board,
                       id,
                       pathOf(id),
                       fmt::format("tab {}, {} edge", i + 1, tab.bass ? "bass" : "treble"),
                       "edge",
                       {tab.at, 0},
                       {p.cut.tabLength, 0},
                       {}});
    }
}

} // namespace

std::vector<Feature> featuresOf(const Project& p) {
    std::vector<Feature> out;
    addMarkers(out, p.board.markers);
    if (!p.carved()) {
        addTabs(out, p);
    }
    if (p.neck.joint != NeckJoint::none) {
        addNeck(out, p.neck);
        addTrees(out, p.neck.tuners);
    }
    if (p.wantsBody()) {
        std::vector<Feature> body = BodyFeatures(p).all();
        std::move(body.begin(), body.end(), std::back_inserter(out));
    }
    return out;
}

std::string pathOf(FeatureId f) {
    const auto in = [&](const char* list) { return fmt::format("{}.{}", list, f.index); };
    switch (f.kind) {
    case FeatureKind::none:
        return {};
    case FeatureKind::outline:
        return "body";
    case FeatureKind::neckPocket:
    case FeatureKind::bolt:
        return "neck_pocket";
    case FeatureKind::bridge:
    case FeatureKind::string:
    case FeatureKind::ferrule:
        return "bridge";
    case FeatureKind::cavity:
    case FeatureKind::ledge:
    case FeatureKind::magnet:
    case FeatureKind::lidScrew:
    case FeatureKind::relief:
        return "cavity";
    case FeatureKind::pickup:
        return in("body.pickups");
    case FeatureKind::pot:
    case FeatureKind::toggle:
    case FeatureKind::lever:
    case FeatureKind::leverScrew:
    case FeatureKind::seat:
        return in("body.controls");
    case FeatureKind::jack:
        return in("body.jacks");
    case FeatureKind::strap:
        return in("body.straps");
    case FeatureKind::chamber:
        return in("body.chambers");
    case FeatureKind::channel:
        return in("body.channels");
    case FeatureKind::recess:
    case FeatureKind::cutOut:
    case FeatureKind::inlay:
        return in("body.recesses");
    case FeatureKind::hole:
        return in("body.holes");
    case FeatureKind::wire:
        return in("body.wires");
    case FeatureKind::contour:
        return in("body.contours");
    case FeatureKind::engraving:
        return in("body.engravings");
    case FeatureKind::plate:
    case FeatureKind::plateScrew:
        return in("body.plates");
    case FeatureKind::marker:
        return in("markers.face");
    case FeatureKind::sideDot:
        return in("markers.side");
    case FeatureKind::tab:
        return in("cut.tabs");
    case FeatureKind::station:
        return in("neck.stations");
    case FeatureKind::tuner:
        return in("tuners.posts");
    case FeatureKind::tree:
        return in("tuners.trees");
    case FeatureKind::tunerScrew:
        return "tuners";
    case FeatureKind::gluePin:
        return "neck";
    case FeatureKind::caul:
        return "head";
    case FeatureKind::clamp:
        return in("clamps");
    case FeatureKind::registerPin:
        return {};
    }
    return {};
}

std::string featuresCsv(const Project& project) {
    std::string out = "part,name,path,side,along_mm,across_mm,long_mm,wide_mm,depth_mm\n";
    for (const Feature& f : featuresOf(project)) {
        std::string name = f.name;
        if (name.find_first_of(",\"") != std::string::npos) {
            std::string doubled;
            for (char c : name) {
                doubled += c == '"' ? std::string("\"\"") : std::string(1, c);
            }
            name = '"' + doubled + '"';
        }
        out += fmt::format("{},{},{},{},{:.2f},{:.2f},{:.2f},{:.2f},{}\n", f.part.name(), name,
                           f.path, f.side, f.at.x, f.at.y, f.size.x, f.size.y,
                           f.depth ? fmt::format("{:.2f}", *f.depth) : std::string());
    }
    return out;
}

} // namespace wren
