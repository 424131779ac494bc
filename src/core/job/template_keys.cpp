#include "job/key_table.h"

namespace wren {

void addTemplateKeys(KeyTable& t) {
    const auto of = [](auto Templates::*which) {
        return [which](Project & p) -> auto& {
            return p.templates.*which;
        };
    };
    yesNo(t, "templates.outline", "one for the body's outline is made", of(&Templates::outline));
    yesNo(t, "templates.neck_pocket", "one for the neck pocket", of(&Templates::neckPocket));
    yesNo(t, "templates.pickups", "one for each pickup", of(&Templates::pickups));
    yesNo(t, "templates.cavity", "three for the cavity: hole, ledge, lid", of(&Templates::cavity));
    woodKey(t, "templates.wood", "board they are cut from", of(&Templates::wood));
    t.length("templates.thickness", "thickness of that board", 3, 25, of(&Templates::thickness));
    t.length("templates.bush", "outside of the router's guide bush; 0 for a bearing", 0, 60,
             of(&Templates::bush));
    t.length("templates.bit", "diameter of the router's bit", 2, 50, of(&Templates::bit));
    t.length("templates.land", "of board round an opening", 10, 200, of(&Templates::land));
    t.length("templates.base", "diameter of the router's base", 40, 300, of(&Templates::base));
    t.length("templates.pin", "diameter of the locating pins", 1, 8, of(&Templates::pinSize));
    t.length("templates.letters", "height of the words engraved in them", 3, 30,
             of(&Templates::letters));
}

} // namespace wren
