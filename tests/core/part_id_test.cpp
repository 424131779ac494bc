#include "base/part_id.h"
#include "base/words.h"

#include "support.h"

using namespace wren;

TEST_CASE("A part is told apart by what it is and found again by its name", "[parts]") {
    CHECK(PartId(Role::board).name() == "fretboard");
    CHECK(PartId(Role::core).name() == "body core");
    CHECK(PartId(Role::core).shortName() == "core");
    CHECK(PartId(Role::inlay, 2).name() == "body inlay 2");
    CHECK(PartId(Role::body).name() == "body");
    CHECK(PartId(Role::inlay, 1) != PartId(Role::inlay, 2));
    for (Role role :
         {Role::board, Role::neck, Role::body, Role::core, Role::top, Role::back, Role::lid,
          Role::neckFixture, Role::lidTemplate, Role::plate, Role::testSlots}) {
        const PartId part(role);
        CHECK(PartId::named(part.name()) == part);
        CHECK(part.ofBody() == (part.name().rfind("body", 0) == 0));
    }
    CHECK(PartId::named("body inlay 12") == PartId(Role::inlay, 12));
    for (const char* none :
         {"", "core", "inlay 1", "body inlay x", "neck 0", "body  core", "Body"}) {
        INFO(none);
        CHECK_FALSE(PartId::named(none));
    }
}

TEST_CASE("A thing with a number or a name of its own takes no article", "[parts]") {
    CHECK(withArticle("pocket") == "the pocket");
    CHECK(withArticle("plate 1") == "plate 1");
    CHECK(withArticle("engraving \"WREN 3\"") == "engraving \"WREN 3\"");
    CHECK(withArticle("") == "the ");
}
