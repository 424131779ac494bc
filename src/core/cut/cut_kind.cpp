#include "cut/cut_kind.h"

namespace wren {

const char* wordOf(CutKind kind) {
    switch (kind) {
    case CutKind::facing:
        return "facing";
    case CutKind::radius:
        return "radius";
    case CutKind::shelf:
        return "shelf";
    case CutKind::markers:
        return "markers";
    case CutKind::skim:
        return "skim";
    case CutKind::slots:
        return "slots";
    case CutKind::head:
        return "head";
    case CutKind::hollow:
        return "hollow";
    case CutKind::rod:
        return "rod";
    case CutKind::adjuster:
        return "adjuster";
    case CutKind::carbon:
        return "carbon";
    case CutKind::nut:
        return "nut";
    case CutKind::ledge:
        return "ledge";
    case CutKind::finish:
        return "finish";
    case CutKind::rest:
        return "rest";
    case CutKind::pocket:
        return "pocket";
    case CutKind::corners:
        return "corners";
    case CutKind::engraving:
        return "engraving";
    case CutKind::carving:
        return "carving";
    case CutKind::guide:
        return "guide";
    case CutKind::fit:
        return "fit";
    case CutKind::rough:
        return "rough";
    case CutKind::holes:
        return "holes";
    case CutKind::notch:
        return "notch";
    case CutKind::outline:
        return "outline";
    }
    return "";
}

} // namespace wren
