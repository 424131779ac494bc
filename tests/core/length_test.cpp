#include "base/length.h"

#include "support.h"

using namespace wren;
using test::sentenceOf;

TEST_CASE("Lengths are read the way makers write them", "[length]") {
    struct Case {
        const char* text;
        double mm;
    };
    const Case cases[] = {
        {"44.5", 44.5},          {"  44.5 mm ", 44.5},
        {".58mm", 0.58},         {"1 3/4 in", 44.45},
        {"25 1/2 in", 647.7},    {"25 1/2\"", 647.7},
        {"3/16 in", 4.7625},     {"1/8in+0.5mm", 3.675},
        {"0.023 IN", 0.5842},    {"2ft", 609.6},
        {"2' + 1 1/2\"", 647.7}, {"2.5 cm", 25},
        {"0.62m", 620},          {"620/2", 310},
        {"(648-6)/2", 321},      {"3*1/4 in", 19.05},
        {"-3 mm", -3},           {"10 mm - -2 mm", 12},
        {"1in/8", 3.175},        {"2*(10mm+1/2in)", 45.4},
    };
    for (const Case& c : cases) {
        INFO(c.text);
        CHECK(parseLength(c.text) == Approx(c.mm).epsilon(1e-12));
    }
}

TEST_CASE("A bare number takes the field's unit, also beside another unit", "[length]") {
    CHECK(parseLength("2", LengthUnit::inch) == Approx(50.8));
    CHECK(parseLength("1 1/2", LengthUnit::inch) == Approx(38.1));
    CHECK(parseLength("1in + 1", LengthUnit::mm) == Approx(26.4));
    CHECK(parseLength("1mm + 1", LengthUnit::inch) == Approx(26.4));
    CHECK(parseLength("12 mm", LengthUnit::inch) == Approx(12));
}

TEST_CASE("What is no length is refused in one sentence that shows the place", "[length]") {
    for (const char* text :
         {"", "   ", "abc", "12 furlongs", "1 2", "1/0 in", "4 mm mm", "(3", "3)", "2mm*3mm",
          "1/2mm/3mm", "5+", "--", "1e5", "nan", "inf", "1,5", "0x10"}) {
        INFO(text);
        const std::string sentence = sentenceOf([&] { parseLength(text); });
        CHECK(sentence.back() == '.');
        CHECK(sentence.find('\n') == std::string::npos);
    }
    CHECK(sentenceOf([] { parseLength("12 furlongs"); }).find("furlongs") != std::string::npos);
    CHECK(sentenceOf([] { parseLength("1/0 in"); }).find("other than zero") != std::string::npos);
    CHECK(sentenceOf([] { parseLength(std::string(5000, '(')); }).find("brackets") !=
          std::string::npos);
}

TEST_CASE("Plain numbers know arithmetic but no units", "[length]") {
    CHECK(parseNumber("2*11") == 22);
    CHECK(parseNumber("1 1/2") == 1.5);
    CHECK(sentenceOf([] { parseNumber("22 mm"); }).find("without a unit") != std::string::npos);
}

TEST_CASE("Lengths are shown in either unit without a minus before nothing", "[length]") {
    CHECK(formatLength(620, LengthUnit::mm) == "620.00 mm");
    CHECK(formatLength(25.4, LengthUnit::inch) == "1.000 in");
    CHECK(formatLength(-0.001, LengthUnit::mm) == "0.00 mm");
    CHECK(formatLengthValue(-1.5, LengthUnit::mm, 1) == "-1.5");
}

TEST_CASE("What is shown reads back as what it was, to the last figure shown", "[length]") {
    for (double mm : {0.58, 6.35, 44.45, 647.7, 863.6}) {
        CHECK(parseLength(formatLength(mm, LengthUnit::mm, 4)) == Approx(mm).margin(1e-4));
        CHECK(parseLength(formatLength(mm, LengthUnit::inch, 4)) == Approx(mm).margin(1e-3));
    }
}
