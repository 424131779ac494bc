// Everything there is to do at the machine, in order.
#include "body_support.h"
#include "neck_support.h"

#include "job/order_sheet.h"

using namespace wren;
using namespace wren::test;

namespace {

Derived planned(const Project& p) {
    Derived d = deriveDrawing(p);
    derivePrograms(d);
    return d;
}

} // namespace

TEST_CASE("The running order says when blanks are laid on and bits put in", "[order-sheet]") {
    const Derived d = planned(neckWith({}));
    const Batch all = inRunningOrder(d);
    REQUIRE(all.steps.size() == d.programs.size());
    int laid = 0, changed = 0;
    for (std::size_t i = 0; i < all.steps.size(); ++i) {
        const Program& now = d.programs[i].program;
        CHECK(&all.program(all.steps[i]) == &d.programs[i]);
        const Program* before = i > 0 ? &d.programs[i - 1].program : nullptr;
        CHECK(all.steps[i].laid ==
              (!before || !(before->part == now.part) || before->side != now.side));
        CHECK(all.steps[i].changed == (!before || before->bit.name != now.bit.name));
        laid += all.steps[i].laid ? 1 : 0;
        changed += all.steps[i].changed ? 1 : 0;
    }
    CHECK(all.laid == laid);
    CHECK(all.changes == changed);
    CHECK(all.laid == 3); // board, neck face up, neck turned over
}

TEST_CASE("Of named parts only theirs are in the order", "[order-sheet]") {
    const Derived d = planned(neckWith({}));
    const Batch neck = inRunningOrder(d, {Role::neck});
    REQUIRE_FALSE(neck.steps.empty());
    for (const BatchStep& s : neck.steps) {
        CHECK(neck.program(s).program.part == Role::neck);
    }
    CHECK(neck.steps.front().laid);
    CHECK(neck.steps.front().changed);
    CHECK(inRunningOrder(d, {Role::lid}).steps.empty());
}

TEST_CASE("The sheet is made for any number of programs, in either unit", "[order-sheet]") {
    const Derived d = planned(bodyWith());
    for (const LengthUnit unit : {LengthUnit::mm, LengthUnit::inch}) {
        const std::string pdf = orderSheetPdf(inRunningOrder(d), "Whinchat", unit);
        CHECK(pdf.substr(0, 5) == "%PDF-");
        CHECK(pdf == orderSheetPdf(inRunningOrder(d), "Whinchat", unit)); // nothing of the day
    }
    CHECK(orderSheetPdf(inRunningOrder(d), "A", LengthUnit::mm) !=
          orderSheetPdf(inRunningOrder(d), "A", LengthUnit::inch));
    CHECK(
        orderSheetPdf(inRunningOrder(d, {Role::testSlots}), "none", LengthUnit::mm).substr(0, 5) ==
        "%PDF-");
}
