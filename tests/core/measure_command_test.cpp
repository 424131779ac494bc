// `wren measure` and what the book tells of it afterwards, as they are typed.
#include "body_support.h"

#include "base/files.h"
#include "part/body_shapes.h"

#include <fmt/format.h>
#include <nlohmann/json.hpp>

using namespace wren;
using namespace wren::test;
using Catch::Matchers::Contains;

namespace {

/// A project with a body in a file, and a book beside it.
class Shop {
public:
    Shop() : file((folder_ / "p.wren").string()), book((folder_ / "book.sqlite").string()) {
        Project p = bodyWith();
        p.name = "Plover";
        saveProject(p, file);
    }
    Ran measure(const std::string& typed, const std::string& more = "") const {
        return wren::test::wren("measure " + file + " " + typed + " --book " + book + " " + more);
    }
    Ran inBook(const std::string& typed) const {
        return wren::test::wren("book " + typed + " --book " + book);
    }
    void cut(const std::string& part, const std::string& cuts) const {
        const Ran ran = inBook("add run project=Plover part=\"" + part + "\" program=7.nc bit=flat-6 "
                               "wood=walnut cuts=\"" + cuts + "\" planned=4 taken=5 by=Ansa "
                               "machine=Fell when=2026-11-20");
        INFO(ran.err);
        REQUIRE(ran.code == 0);
    }
    Project project() const { return loadProject(file); }

private:
    Folder folder_;

public:
    const std::string file, book;
};

} // namespace

TEST_CASE("A size typed is taken by what follows, kept by what is cut, and refused where it cannot be",
          "[measured][command]") {
    const Shop shop;
    const double heel = heelWidth(deriveDrawing(shop.project()).neck->part.outline());
    const auto typed = [&](double more) { return fmt::format("neck.heel_width={:.3f}mm", heel + more); };
    const Ran first = shop.measure(typed(0.05), "--moisture 8");
    INFO(first.err);
    REQUIRE(first.code == 0);
    CHECK_THAT(first.out, Contains("the body's neck pocket follows it") && !Contains("keeps that"));
    CHECK(*shop.project().body.pocket.measuredWidth == Approx(heel + 0.05).margin(0.001));
    CHECK(*shop.project().neckWood.moisture == 8);
    shop.cut("body", "bolts + neck-pocket");
    const Ran second = shop.measure(typed(0.25));
    REQUIRE(second.code == 0);
    CHECK_THAT(second.out, Contains("was cut on 2026-11-20 for a heel") && Contains("keeps that") &&
                               Contains("A fit pass of"));
    CHECK(*shop.project().body.pocket.cutWidth == Approx(heel + 0.05).margin(0.001));
    CHECK_FALSE(shop.project().body.pocket.measuredMoisture); // none was read with it
    // Nothing of a refused one is kept, neither in the file nor in the book.
    const std::string before = readFile(shop.file);
    const auto rows = [&] {
        return nlohmann::json::parse(shop.inBook("measurements --json").out).size();
    };
    REQUIRE(rows() == 2);
    for (const auto& [size, says] :
         {std::pair{"neck.heel_width=5.6mm", "cannot be the same part"},
          {"neck.heel_width=55.9", "no unit"},
          {"neck.length=20mm", "cannot be the same part"},
          {"neck.hat=5mm", "neck.heel_width"},
          {"body.blank_thickness=44.5mm", "was cut from that blank on 2026-11-20"}}) {
        const Ran refused = shop.measure(size);
        INFO(size << ": " << refused.err);
        CHECK(refused.code != 0);
        CHECK_THAT(refused.err, Contains(says));
        CHECK(std::count(refused.err.begin(), refused.err.end(), '\n') == 1);
    }
    CHECK(shop.measure(typed(0.1), "--moisture wet").code != 0);
    CHECK(readFile(shop.file) == before);
    CHECK(rows() == 2);
}

TEST_CASE("The book tells who ran what on which machine, and what is done by hand",
          "[shop-memory][command]") {
    const Shop shop;
    shop.cut("neck", "rod");
    const auto runs = nlohmann::json::parse(shop.inBook("runs --json").out);
    REQUIRE(runs.size() == 1);
    CHECK(runs[0].at("by") == "Ansa");
    CHECK(runs[0].at("machine") == "Fell");
    CHECK_THAT(shop.inBook("runs --csv").out, Contains(",machine,by,remark") && Contains(",Fell,Ansa,"));
    REQUIRE(shop.inBook("add machine name=Fell event=serviced when=2026-11-21").code == 0);
    CHECK_THAT(shop.inBook("life").out,
               Contains("Fell, 0.1 h, 0.0 h since it was serviced on 2026-11-21"));
    CHECK_THAT(shop.inBook("add machine name=Fell event=painted").err, Contains("serviced"));
    REQUIRE(shop.inBook("add handwork project=Plover step=\"Setup: relief\" by=Ansa minutes=20 "
                        "note=\"0.2 mm\"")
                .code == 0);
    const Ran card = wren::test::wren("card " + shop.file + " --book " + shop.book);
    INFO(card.err);
    REQUIRE(card.code == 0);
    CHECK_THAT(card.out, Contains("Ansa, 20 min: 0.2 mm") && Contains("clamped 60 min"));
}
