#include "job/key_table.h"
#include "job/notation.h"

namespace wren {
namespace {

void tabKeys(KeyTable& t, const std::string& head, const std::function<TabPlace&(Project&)>& one) {
    t.words(
        head + "edge", "the edge it stands on", {"bass", "treble"},
        [one](const Project& p) {
            const TabPlace& tab = one(const_cast<Project&>(p));
            return std::string(tab.bass ? "bass" : "treble");
        },
        [one](Project& p, const std::string& v) {
            TabPlace& tab = one(p);
            tab.bass = v == "bass";
        });
    t.length(head + "at", "its middle from the nut", -50, 1300,
             [one](Project& p) -> double& { return one(p).at; });
}

} // namespace

void overrideKeys(KeyTable& t, const std::string& group, const std::string& cut,
                  const std::function<CutOverrides&(Project&)>& at) {
    const auto read = [at](const Project& p) -> const CutOverrides& {
        return at(const_cast<Project&>(p));
    };
    t.words(
        group + ".bit", "bit for the " + cut, {}, [read](const Project& p) { return read(p).bit; },
        [at](Project& p, const std::string& v) { at(p).bit = v; }, true);
    using Optional = std::optional<double>;
    t.maybe(KeyKind::number, group + ".rpm", "rpm", "spindle speed for the " + cut, 1000, 60000,
            [at](Project& p) -> Optional& { return at(p).rpm; });
    t.maybe(KeyKind::number, group + ".feed", "mm/min", "feed for the " + cut, 10, 20000,
            [at](Project& p) -> Optional& { return at(p).feed; });
    t.maybe(KeyKind::number, group + ".plunge", "mm/min", "feed straight down for the " + cut, 5,
            5000, [at](Project& p) -> Optional& { return at(p).plunge; });
    t.maybe(KeyKind::length, group + ".depth_per_pass", "mm", "depth of one pass for the " + cut,
            0.02, 20, [at](Project& p) -> Optional& { return at(p).depthPerPass; });
}

void addCutKeys(KeyTable& t) {
    t.words(
        "cut.school", "what is cut first", {"radius-first", "slots-first"},
        [](const Project& p) {
            return std::string(p.cut.school == School::slotsFirst ? "slots-first" : "radius-first");
        },
        [](Project& p, const std::string& v) {
            p.cut.school = v == "slots-first" ? School::slotsFirst : School::radiusFirst;
        });
    enumKey(t, "cut.face_blank", "face the blank flat first",
            Names<Facing, 3>{{"when-thick", "always", "never"}},
            [](Project& p) -> Facing& { return p.cut.facing; });
    t.length("cut.scallop", "scallop height left by finishing", 0.002, 0.3,
             [](Project& p) -> double& { return p.cut.scallop; });
    t.maybe(KeyKind::length, "cut.stepover", "mm", "between finishing passes, instead of a scallop",
            0.02, 30, [](Project& p) -> std::optional<double>& { return p.cut.stepover; });
    t.length("cut.stock_to_leave", "wood roughing leaves for finishing", 0.05, 1.5,
             [](Project& p) -> double& { return p.cut.stockToLeave; })
        .formerly = "cut.skin";
    t.length("cut.through", "how far through cuts pass the underside", 0.1, 5,
             [](Project& p) -> double& { return p.cut.through; });
    t.count("cut.tabs_per_side", "tabs on each long edge", 0, 12,
            [](Project& p) -> int& { return p.cut.tabsPerSide; });
    t.length("cut.tab_length", "length of a tab", 2, 40,
             [](Project& p) -> double& { return p.cut.tabLength; });
    t.length("cut.tab_height", "height of a tab above the underside", 0.3, 6,
             [](Project& p) -> double& { return p.cut.tabHeight; });
    t.list<TabPlace>(
        "cut.tabs", "tab", 100,
        [](Project& p) -> std::vector<TabPlace>& { return p.cut.tabPlaces; }, tabKeys);
    t.notation("cut.tab_places",
               "tabs by hand: b60 t60 is bass and treble edge, 60 from the nut; auto for none",
               [](Project& p, const std::string& v) { p.cut.tabPlaces = tabList(v); });
    t.length("cut.wall_stock", "left on the outline for a last full-depth pass; 0 for none", 0, 1,
             [](Project& p) -> double& { return p.cut.wallStock; })
        .formerly = "cut.wall_skin";
    overrideKeys(t, "cut.facing", "facing",
                 [](Project& p) -> CutOverrides& { return p.cut.faced; });
    overrideKeys(t, "cut.radius", "radius",
                 [](Project& p) -> CutOverrides& { return p.cut.radius; });
    overrideKeys(t, "cut.slots", "slots", [](Project& p) -> CutOverrides& { return p.cut.slots; });
    overrideKeys(t, "cut.shelf", "shelf", [](Project& p) -> CutOverrides& { return p.cut.shelf; });
    overrideKeys(t, "cut.markers", "markers",
                 [](Project& p) -> CutOverrides& { return p.cut.markers; });
    overrideKeys(t, "cut.outline", "outline",
                 [](Project& p) -> CutOverrides& { return p.cut.outline; });
}

} // namespace wren
