#include "base/unit_text.h"

#include "support.h"

using namespace wren;

TEST_CASE("Sentences in millimetres are read in inches", "[units]") {
    const auto in = [](const char* text) { return inUnit(text, LengthUnit::inch); };
    CHECK(inUnit("12.70 mm deep", LengthUnit::mm) == "12.70 mm deep");
    // 25.4 mm are an inch exactly.
    CHECK(in("12.70 mm deep") == "0.5000 in deep");
    CHECK(in("Only 1.3 mm of wood; 2.5 mm are wanted.") ==
          "Only 0.051 in of wood; 0.098 in are wanted.");
    CHECK(in("from 10 to 12.7 mm") == "from 0.39 to 0.500 in");
    CHECK(in("22 by 15 mm") == "0.87 by 0.59 in");
    CHECK(in("a blank 400 x 200 x 50.8 mm") == "a blank 15.75 x 7.87 x 2.000 in");
    CHECK(in("at -25.4, 50.8 from the bridge line") == "at -1.000, 2.000 from the bridge line");
    CHECK(in("254 mm/min, 645 mm2, 16387 mm3") == "10.00 in/min, 1.000 in2, 1.000 in3");
    CHECK(in("X 12.7 mm") == "X 0.500 in");
    // Names, counts, angles and what is quoted are no lengths.
    CHECK(in("drill-6: 6.00 mm is not 2.20 mm") == "drill-6: 0.2362 in is not 0.0866 in");
    CHECK(in("17-body-flat-6.nc, line 113: 3.0 mm") == "17-body-flat-6.nc, line 113: 0.118 in");
    CHECK(in("frets 3 and 4 cross by 0.50 mm") == "frets 3 and 4 cross by 0.0197 in");
    CHECK(in("12 mmHg, 3 degrees, 4 holes") == "12 mmHg, 3 degrees, 4 holes");
    CHECK(in("the engraving \"No. 1, 20 mm\" runs off") ==
          "the engraving \"No. 1, 20 mm\" runs off");
    CHECK(in("").empty());
    CHECK(in("5 mm") == "0.20 in");
}
