#include "job/part_inputs.h"

#include "base/digest.h"
#include "job/keys.h"

#include <set>

#include <fmt/format.h>

namespace wren {
namespace {

/// Numbers and words written one behind the other, exactly.
class Written {
public:
    void add(double v) { text_ += fmt::format("{:a};", v); }
    void add(bool v) { text_ += v ? "y;" : "n;"; }
    void add(const std::string& v) { text_ += fmt::format("{}:{};", v.size(), v); }
    void add(Vec2 v) {
        add(v.x);
        add(v.y);
    }
    void add(const Contour& c) {
        add(static_cast<double>(c.size()));
        for (const ContourPiece& p : c) {
            add(static_cast<double>(p.kind));
            add(p.from);
            add(p.to);
            add(p.isArc() ? p.centre : Vec2{});
        }
    }
    void add(const PanelPocket& p) {
        add(p.what);
        add(p.cut);
        for (const Contour& c : p.borders) {
            add(c);
        }
        for (double v : {p.floor, p.slope, p.levelAt, p.mouth}) {
            add(v);
        }
        add(p.fromBack);
        add(p.through);
        add(p.visible);
        add(static_cast<double>(p.stage));
    }
    void add(const Hole& h) {
        add(h.what);
        add(h.at);
        for (double v : {h.diameter, h.mouth, h.floor}) {
            add(v);
        }
        add(h.fromBack);
        add(h.through);
    }
    void add(const PanelLine& l) {
        add(l.what);
        add(l.way);
        add(l.depth);
        add(l.fromBack);
    }
    template <typename T>
    void add(const std::vector<T>& all) {
        add(static_cast<double>(all.size()));
        for (const T& one : all) {
            add(one);
        }
    }
    void add(const Setup& s) {
        add(s.blank.length);
        add(s.blank.width);
        add(s.blank.thickness);
        add(s.blank.wood);
        if (s.blank.own) {
            add(s.blank.own->bite());
            add(s.blank.own->cast);
        }
        add(static_cast<double>(s.zZero));
        for (const SetupFromInstrument& place : s.places) {
            for (double v : place.matrix()) {
                add(v);
            }
        }
        add(s.zeroOnMachine);
        for (const SlideStation& station : s.stations) {
            add(station.from);
            add(station.to);
            add(station.zero);
            add(station.onMachine);
        }
    }
    void add(const Held& h) {
        add(h.face);
        add(h.back.has_value());
        if (h.back) {
            add(*h.back);
        }
        add(static_cast<double>(h.turn));
        for (const RegisterPin& pin : h.pins) {
            add(pin.at);
        }
        add(h.pinSize);
        add(h.drillPins);
        add(h.pitch);
        add(h.notch.value_or(Vec2{}));
        add(h.sawn ? h.sawn->off : -1.0);
        add(h.correction);
    }
    void add(const Panel& p) {
        add(p.name());
        add(p.wood);
        add(p.outline);
        for (double v : {p.bottom, p.top, p.spare, p.frame[0], p.frame[1], p.told.line, p.told.side,
                         p.frontFall.edge().size(), p.backFall.edge().size()}) {
            add(v);
        }
        add(p.outlined);
        add(double(p.copies));
        add(p.pockets);
        add(p.holes);
        add(p.engraved);
        add(p.shutIn);
        if (p.frontFall.trough()) {
            for (double v : p.frontFall.numbers()) {
                add(v);
            }
        }
    }

    std::string digest() const { return sha256(text_); }

private:
    std::string text_;
};

/// What stands under the groups of a project's file, as one text each.
std::map<std::string, std::string> groupsOf(const Project& p) {
    std::map<std::string, std::string> out;
    for (const Key& key : keysOf(p)) {
        if (!key.alias) {
            std::string group = key.path.substr(0, key.path.find('.'));
            const bool fall = key.path.find("_edge") != std::string::npos ||
                              key.path.rfind("body.arch", 0) == 0 ||
                              key.path.rfind("body.contours", 0) == 0;
            group = group == "body" && fall ? "falls" : group;
            out[group] += key.path + "=" + showExactly(key.get(p)) + ";";
        }
    }
    return out;
}

} // namespace

std::map<PartId, std::string> inputsOf(const Project& project, const std::vector<PartJob>& parts) {
    const std::map<std::string, std::string> groups = groupsOf(project);
    std::map<PartId, std::string> out;
    for (const PartJob& job : parts) {
        Written w;
        const auto with = [&](std::initializer_list<const char*> names) {
            for (const char* name : names) {
                const auto it = groups.find(name);
                w.add(it == groups.end() ? std::string() : it->second);
            }
        };
        w.add(job.held);
        with({"machine", "bits"});
        if (!job.panel) {
            with({"board", "wire", "markers", "blank", "hold", "cut"});
            if (job.id == Role::neck) {
                with({"neck", "head", "tuners", "rod", "neck_blank", "neck_hold", "neck_cut"});
            }
            out[job.id] = w.digest();
            continue;
        }
        with({"body_blank", "body_hold", "body_cut"});
        w.add(*job.panel);
        if (!job.panel->frontFall.level() || !job.panel->backFall.level()) {
            with({"falls"});
        }
        for (PartId layer : job.panel->layers) { // laid before what is glued up from them
            w.add(out[layer]);
        }
        out[job.id] = w.digest();
    }
    return out;
}

std::string clampInputs(const Project& project, PartId part) {
    Written w;
    for (const Clamp& c : project.clamps) {
        if (c.part == part.name()) {
            w.add(c.side * 100.0 + c.station);
            w.add(static_cast<double>(c.kind));
            w.add(c.at);
            w.add(c.turn);
        }
    }
    return w.digest();
}

std::string machineInputs(const Project& project) {
    return groupsOf(project).at("machine");
}

} // namespace wren
