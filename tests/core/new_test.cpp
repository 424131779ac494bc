#include "support.h"

using namespace wren;

TEST_CASE("A new project is one that can be cut as it stands", "[cli][new]") {
    const test::Folder folder;
    for (const char* size : {"", "--strings 7 --scale \"25 1/2in\" --left",
                             "--strings 4 --scale 864 --frets 0", "--strings 4 --frets 1"}) {
        const std::string file = (folder / "new.wren").string();
        INFO(size);
        CHECK(test::wren("new " + file + " " + size).code == 0);
        const test::Ran proved = test::wren("prove " + file);
        INFO(proved.err);
        CHECK(proved.code == 0);
        const test::Ran again = test::wren("new " + file);
        CHECK(again.code == 1);
        CHECK(again.err.find("already there") != std::string::npos);
        std::filesystem::remove(file);
    }
    const test::Ran odd = test::wren("new " + (folder / "odd.wren").string() + " --strings 30");
    CHECK(odd.code == 1);
    CHECK(odd.err.find("outside 4 to 9") != std::string::npos);
    CHECK_FALSE(std::filesystem::exists(folder / "odd.wren"));
}
