#include "job/wants.h"
#include "job/own_woods.h"

#include "design/markers.h"
#include "base/csv.h"
#include "job/shop_boards.h"
#include "shop/wood.h"

#include <algorithm>
#include <cmath>
#include <map>

#include <fmt/format.h>

namespace wren {
namespace {

class Hardware {
public:
    explicit Hardware(const Derived& d) : d_(d), p_(d.project) {}

    std::vector<Wanted> all() {
        board();
        if (d_.neck) {
            part_ = Role::neck;
            neck();
        }
        if (d_.body) {
            part_ = Role::body;
            pickups();
            bridge();
            cavity();
            edges();
        }
        return std::move(out_);
    }

private:
    void want(std::string what, int count, std::string size, std::string before) {
        want(std::move(what), count, std::move(size), std::move(before), part_);
    }
    void want(std::string what, int count, std::string size, std::string before, Role part) {
        if (count > 0) {
            out_.push_back({std::move(what), count, std::move(size), std::move(before), part});
        }
    }

    void board() {
        const Fretboard& b = p_.board;
        if (b.frets > 0) {
            double whole = 0;
            for (const FretSlot& s : d_.board->slots()) {
                whole += length(s.high - s.low);
            }
            want("fret wire", b.frets + (b.zeroFret ? 1 : 0),
                 fmt::format("tang {:.2f}, crown {:.1f} wide {:.1f} high, {:.0f} mm in all",
                             b.wire.tangWidth, b.wire.crownWidth, b.wire.crownHeight, whole),
                 "fret slots");
        }
        want("nut", 1,
             fmt::format("{:.1f} thick, {:.1f} long", p_.neck.nutThickness,
                         b.nutSpread + b.overhangBass + b.overhangTreble),
             "nut ledge or slot");
        const int dots = static_cast<int>(d_.board->pockets().size());
        want(b.markers.inlay == Inlay::pressed ? "marker" : "marker's filling", dots,
             fmt::format("{:.1f} mm, {:.1f} deep", b.markers.size, b.markers.depth), "markers");
        want("side dot", static_cast<int>(sideDots(b).size()),
             fmt::format("{:.1f} mm", b.markers.sideSize), "");
    }

    void neck() {
        const Neck& n = p_.neck;
        want("tuner", p_.board.strings,
             fmt::format("hole {:.1f}, post {:.1f}", n.tuners.bushing, n.tuners.post),
             "headstock's outline and holes");
        if (n.rod.from != RodFrom::none) {
            want("truss rod", 1,
                 fmt::format("{:.0f} long, slot {:.2f} by {:.1f}", n.rod.length, n.rod.width,
                             n.rod.depth),
                 "its slot");
            want("carbon rod", n.rod.carbonWidth > 0 ? 2 : 0,
                 fmt::format("{:.0f} long, {:.1f} by {:.1f}", n.rod.carbonLength, n.rod.carbonWidth,
                             n.rod.carbonDepth),
                 "their slots");
        }
        if (n.joint == NeckJoint::boltOn) {
            want("neck bolt", n.bolts,
                 fmt::format("pilot {:.1f}, {:.0f} deep in the heel", n.boltPilot, n.boltDepth),
                 "heel's pilots");
        }
    }

    void pickups() {
        for (const PickupPlace& place : d_.body->part.pickups()) {
            want(place.what, 1,
                 fmt::format("{:.1f} across, {:.1f} along", place.across, place.along),
                 "its pocket");
        }
    }

    void bridge() {
        const Bridge& b = p_.body.bridge;
        static const std::map<BridgeKind, const char*> kinds{
            {BridgeKind::fixed, "bridge on screws"},
            {BridgeKind::throughBody, "bridge, strings through the body"},
            {BridgeKind::posts, "bridge on two posts"},
            {BridgeKind::singles, "single saddle"}};
        want(kinds.at(b.kind), b.kind == BridgeKind::singles ? p_.board.strings : 1,
             fmt::format("strings {:.1f} apart in all, saddles from {:.1f} to {:.1f}",
                         p_.board.bridgeSpread, b.saddleLow, b.saddleHigh),
             "the neck's width and the neck pocket", Role::neck);
        std::map<std::string, std::pair<int, double>> holes;
        for (const Hole& h : d_.body->part.holes()) {
            ++holes[h.what].first;
            holes[h.what].second = h.diameter;
        }
        const auto fitted = [&](const char* hole, const char* what) {
            const auto it = holes.find(hole);
            if (it != holes.end()) {
                want(what, it->second.first, fmt::format("{:.1f} mm hole", it->second.second),
                     "its holes");
            }
        };
        fitted("ferrule", "string ferrule");
        fitted("bridge screw", "bridge screw");
        if (b.kind == BridgeKind::posts) {
            want("bridge post", 2, fmt::format("{:.1f} mm hole", b.postSize), "its holes");
        }
    }

    void cavity() {
        const Cavity& c = p_.body.cavity;
        std::map<std::string, int> controls;
        for (const Control& one : p_.body.controls) {
            ++controls[one.what];
        }
        for (const auto& [what, count] : controls) {
            want(what == "pot" ? "pot and knob" : what + " switch", count,
                 fmt::format("thread through {:.1f} mm of wood", c.wood), "the cavity's depth");
        }
        if (d_.body->part.panel(Role::lid)) {
            const bool magnets = c.fixing == LidFixing::magnets;
            want(magnets ? "magnet" : "lid screw", magnets ? 2 * c.fixings : c.fixings,
                 fmt::format("{:.2f} mm, {:.1f} deep", c.fixingSize, c.fixingDepth), "the ledge");
        }
    }

    void edges() {
        const Body& b = p_.body;
        for (const Jack& jack : b.jacks) {
            const bool cup = jack.kind == JackKind::cup;
            want(cup ? "jack in a cup" : "barrel jack", jack.kind == JackKind::none ? 0 : 1,
                 fmt::format("{:.1f} mm hole", cup ? jack.cupSize : jack.size), "its hole");
        }
        want("strap button", static_cast<int>(b.straps.size()), "", "");
        const PartJob* body = d_.job(Role::body);
        want("register pin", body ? static_cast<int>(body->held.pins.size()) : 0,
             fmt::format("{:.1f} mm dowel", p_.bodyHold.pinSize), "the first layer");
    }

    const Derived& d_;
    const Project& p_;
    Role part_ = Role::board; ///< whose fittings are listed
    std::vector<Wanted> out_;
};

} // namespace

std::vector<Wanted> hardwareList(const Derived& derived) {
    return derived.board ? Hardware(derived).all() : std::vector<Wanted>{};
}

std::string hardwareCsv(const Derived& derived) {
    std::string out = "what,count,size,measure_before\n";
    for (const Wanted& w : hardwareList(derived)) {
        out +=
            fmt::format("{},{},{},{}\n", quoted(w.what), w.count, quoted(w.size), quoted(w.before));
    }
    return out;
}

std::vector<WoodPiece> woodList(const Derived& derived) {
    std::vector<WoodPiece> out;
    const auto add = [&](const std::string& piece, const Blank& b, int strips, bool leaves) {
        out.push_back({piece, b.wood, b.length, b.width, b.thickness, strips, leaves});
    };
    const Project& p = derived.project;
    for (const PartJob& job : derived.parts) {
        Blank b = job.id == Role::board ? p.blank : job.held.blank;
        int strips = 1;
        if (job.id == Role::neck) {
            strips = p.neckBlank.strips;
        }
        if (const auto& scarf = job.held.scarf) { // both its pieces out of one plank
            b.length = scarf->plankLength;
            b.thickness = scarf->plank;
        }
        if (job.panel && (job.panel->free || !job.panel->layers.empty())) {
            continue; // the glued body's wood is that of its layers, or of neck and wings
        }
        const bool leaves = job.id == Role::top && p.body.bookmatch;
        add(job.name(), b, leaves ? 2 : strips, leaves);
    }
    return out;
}

std::string woodCsv(const Derived& derived) {
    std::string out = "piece,wood,length_mm,width_mm,thickness_mm,strips\n";
    for (const WoodPiece& w : woodList(derived)) {
        out += fmt::format("{},{},{:.1f},{:.1f},{:.2f},{}\n", quoted(w.piece),
                           quoted(woodOf(derived.project, w.wood).name), w.length, w.width,
                           w.thickness, w.strips);
    }
    return out;
}

std::string partsCsv(const Derived& derived) {
    std::string out = "role,name,wanted\n";
    const auto add = [&](PartId part, const char* wanted) {
        out += fmt::format("{},{},{}\n", PartId(part.role).shortName(), part.name(), wanted);
    };
    const std::vector<PartId> wanted = derived.wanted();
    const std::vector<PartId> all = makeable(derived);
    for (PartId part : all) {
        const bool now = std::find(wanted.begin(), wanted.end(), part) != wanted.end();
        add(part, now ? "yes" : "no");
    }
    for (Role role : {Role::board, Role::neck, Role::core, Role::top, Role::back, Role::wing,
                      Role::body, Role::lid, Role::inlay, Role::plate}) {
        if (std::none_of(all.begin(), all.end(), [&](PartId p) { return p.role == role; })) {
            add(role, "no");
        }
    }
    return out;
}

} // namespace wren
