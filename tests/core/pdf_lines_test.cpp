#include "exchange/pdf.h"

#include <catch2/catch.hpp>

using namespace wren;

TEST_CASE("A paragraph's lines are no wider than asked, and lose no word", "[paper]") {
    Pdf pdf("lines");
    pdf.page(200, 100);
    const std::string words = "The core and top glued up on the pins, wire holes masked, cured, "
                              "43.50 mm thick; pin  holes\ncleaned";
    for (double width : {18.0, 30.0, 66.0, 500.0}) {
        const std::vector<std::string> lines = pdf.linesOf(words, width, 2.9);
        std::string again;
        for (std::size_t i = 0; i < lines.size(); ++i) {
            INFO(lines[i]);
            CHECK(pdf.widthOf(lines[i], 2.9, Face::words) <= width);
            if (i > 0) { // its first word would not have fitted on the line before
                const std::string first = lines[i].substr(0, lines[i].find(' '));
                CHECK(pdf.widthOf(lines[i - 1] + " " + first, 2.9, Face::words) > width);
            }
            again += (i > 0 ? " " : "") + lines[i];
        }
        CHECK(again == "The core and top glued up on the pins, wire holes masked, cured, "
                       "43.50 mm thick; pin holes cleaned");
        // A paragraph ends where its lines do.
        CHECK(pdf.paragraph({10, 20}, width, words, 2.9) ==
              Approx(20 + 2.9 * Pdf::lineStep * static_cast<double>(lines.size())));
    }
    // What is too long for any line stands alone on one.
    CHECK(pdf.linesOf("a 09-neck-rough-notch-tuners-outline-long-6.nc b", 20, 2.9) ==
          std::vector<std::string>{"a", "09-neck-rough-notch-tuners-outline-long-6.nc", "b"});
    CHECK(pdf.linesOf("  ", 20, 2.9).empty());
}
