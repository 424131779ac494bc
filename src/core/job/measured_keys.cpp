// Sizes as they came out, as they were when what follows them was cut, and the wood's moisture.
#include "job/key_table.h"

namespace wren {
namespace {

using Optional = std::optional<double>;

void size(KeyTable& t, const char* path, const char* meaning, double least, double most,
          const At<Optional>& at) {
    t.maybe(KeyKind::length, path, "mm", meaning, least, most, at);
}

void pocketKeys(KeyTable& t) {
    const auto of = [](Optional BodyPocket::*which) {
        return [which](Project& p) -> Optional& { return p.body.pocket.*which; };
    };
    size(t, "neck_pocket.measured_width", "width of the real heel at its end", 20, 120,
         of(&BodyPocket::measuredWidth));
    size(t, "neck_pocket.measured_depth", "depth of the real heel, glue plane to bottom", 5, 60,
         of(&BodyPocket::measuredDepth));
    size(t, "neck_pocket.measured_length", "the real neck from the nut's face to the heel's end", 100,
         1200, of(&BodyPocket::measuredLength));
    size(t, "neck_pocket.measured_floor", "depth of the real pocket at its inner end", 1, 60,
         of(&BodyPocket::measuredFloor));
    size(t, "neck_pocket.cut_width",
         "width of the heel the pocket was cut for, which it keeps; auto while it is not cut", 20, 120,
         of(&BodyPocket::cutWidth));
    size(t, "neck_pocket.cut_length",
         "nut to heel's end of the neck the pocket was cut for, which it keeps; auto while it is "
         "not cut",
         100, 1200, of(&BodyPocket::cutLength));
    t.length("neck_pocket.enlarged", "taken off each wall of the pocket since it was cut, by fit passes",
             0, 2, [](Project& p) -> double& { return p.body.pocket.enlarged; });
    size(t, "bridge.cut_length",
         "nut to heel's end of the neck the bridge was drilled for, where it stays; auto while it is "
         "not drilled",
         100, 1200, [](Project& p) -> Optional& { return p.body.bridge.cutLength; });
}

void lidKeys(KeyTable& t) {
    const auto of = [](Optional Cavity::*which) {
        return [which](Project& p) -> Optional& { return p.body.cavity.*which; };
    };
    size(t, "cavity.measured_width", "the lid's real recess, widest across the strings", 5, 500,
         of(&Cavity::measuredWidth));
    size(t, "cavity.measured_depth", "the lid's real recess, depth", 1, 15,
         of(&Cavity::measuredDepth));
    size(t, "cavity.cut_width",
         "width of the recess the lid was cut for, which it keeps; auto while it is not cut", 5, 500,
         of(&Cavity::cutWidth));
    size(t, "cavity.cut_depth",
         "depth of the recess the lid was cut for, which it keeps; auto while it is not cut", 1, 15,
         of(&Cavity::cutDepth));
}

void woodKeys(KeyTable& t, const std::string& head, const std::string& of,
              const At<WoodState>& wood) {
    t.maybe(KeyKind::number, head + ".moisture", "%",
            "moisture of the " + of + "'s wood today; auto when it is not known", 2, 30,
            [wood](Project& p) -> Optional& { return wood(p).moisture; });
    enumKey(t, head + ".sawn",
            "how the " + of + "'s blank lies in its tree: rings flat in its face, or upright",
            Names<Sawn, 2>{{"flat", "quarter"}},
            [wood](Project& p) -> Sawn& { return wood(p).sawn; });
}

} // namespace

void addMeasuredKeys(KeyTable& t) {
    pocketKeys(t);
    lidKeys(t);
    t.maybe(KeyKind::number, "neck_pocket.measured_moisture", "%",
            "moisture of the heel's wood when its width was read", 2, 30,
            [](Project& p) -> Optional& { return p.body.pocket.measuredMoisture; });
    woodKeys(t, "neck_blank", "neck", [](Project& p) -> WoodState& { return p.neckWood; });
    woodKeys(t, "body_blank", "body", [](Project& p) -> WoodState& { return p.bodyWood; });
    t.rate("wood.settles_at", "%", "moisture the wood settles to where the instrument is played", 3,
           20, [](Project& p) -> double& { return p.settlesAt; });
}

} // namespace wren
