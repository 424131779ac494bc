#include "design/body.h"

#include "base/words.h"

#include <fmt/format.h>

namespace wren {
namespace {

/// How many things of the same kind stand before one in its list, itself counted.
template <typename IdOf>
std::size_t numberAmong(FeatureId id, IdOf idOf) {
    std::size_t n = 0;
    for (std::size_t i = 0; i <= id.index; ++i) {
        n += idOf(i).kind == id.kind ? 1 : 0;
    }
    return n;
}

std::string engravingName(const Body& body, std::size_t i) {
    const std::string& words = body.engravings[i].words;
    return words.empty() ? fmt::format("engraved shape {}", i + 1) : fmt::format("\"{}\"", words);
}

} // namespace

FeatureId controlId(const Body& body, std::size_t i) {
    const std::string& what = body.controls[i].what;
    return {what == "pot"      ? FeatureKind::pot
            : what == "toggle" ? FeatureKind::toggle
                               : FeatureKind::lever,
            i};
}

FeatureId recessId(const Body& body, std::size_t i) {
    const Recess& r = body.recesses[i];
    return {r.inlay ? FeatureKind::inlay : r.depth ? FeatureKind::recess : FeatureKind::cutOut, i};
}

std::string nameOf(const Body& body, FeatureId f) {
    const auto among = [&](const char* word, auto idOf) {
        return fmt::format("{} {}", word,
                           numberAmong(f, [&](std::size_t i) { return idOf(body, i); }));
    };
    const auto numbered = [&](const char* word) { return fmt::format("{} {}", word, f.index + 1); };
    switch (f.kind) {
    case FeatureKind::none:
        return {};
    case FeatureKind::outline:
        return "outline";
    case FeatureKind::neckPocket:
        return "neck pocket";
    case FeatureKind::bolt:
        return "neck bolt";
    case FeatureKind::bridge:
        return "bridge";
    case FeatureKind::string:
        return "string hole";
    case FeatureKind::ferrule:
        return "ferrule";
    case FeatureKind::cavity:
        return "cavity";
    case FeatureKind::ledge:
        return "ledge";
    case FeatureKind::magnet:
        return "magnet";
    case FeatureKind::lidScrew:
        return "lid screw";
    case FeatureKind::relief:
        return "lid's relief";
    case FeatureKind::pickup:
        return numbered("pickup");
    case FeatureKind::pot:
        return among("pot", controlId);
    case FeatureKind::toggle:
        return among("toggle", controlId);
    case FeatureKind::lever:
        return among("lever", controlId);
    case FeatureKind::leverScrew:
        return "lever's screw";
    case FeatureKind::seat:
        return nameOf(body, controlId(body, f.index)) + "'s seat";
    case FeatureKind::jack:
        return body.jacks.size() > 1 ? numbered("jack") : "jack";
    case FeatureKind::strap:
        return numbered("strap button");
    case FeatureKind::chamber:
        return numbered("chamber");
    case FeatureKind::channel:
        return numbered("channel");
    case FeatureKind::recess:
        return among("recess", recessId);
    case FeatureKind::cutOut:
        return among("cut-out", recessId);
    case FeatureKind::inlay:
        return among("inlay", recessId);
    case FeatureKind::hole:
        return numbered("hole");
    case FeatureKind::wire:
        return numbered("wire's hole");
    case FeatureKind::contour:
        return numbered("contour");
    case FeatureKind::engraving:
        return engravingName(body, f.index);
    case FeatureKind::plate:
        return numbered("plate");
    case FeatureKind::plateScrew:
        return numbered("a screw of plate");
    case FeatureKind::marker:
        return numbered("marker");
    case FeatureKind::sideDot:
        return numbered("side dot");
    case FeatureKind::tab:
        return numbered("tab");
    case FeatureKind::station:
        return numbered("station");
    case FeatureKind::tuner:
        return numbered("tuner");
    case FeatureKind::tree:
        return numbered("string tree");
    case FeatureKind::tunerScrew:
        return "tuner's screw";
    case FeatureKind::gluePin:
        return "glue-up pin";
    case FeatureKind::caul:
        return "caul's screw";
    case FeatureKind::registerPin:
        return "register pin";
    case FeatureKind::clamp:
        return numbered("clamp");
    }
    return {};
}

std::string capital(std::string words) {
    words[0] = static_cast<char>(std::toupper(static_cast<unsigned char>(words[0])));
    return words;
}

std::string theOne(const Body& body, FeatureId feature) {
    const std::string name = nameOf(body, feature);
    return feature.kind == FeatureKind::seat ? name : withArticle(name); // "pot 1's seat"
}

} // namespace wren
