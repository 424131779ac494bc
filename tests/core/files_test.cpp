#include "base/files.h"

#include "full_disk.h"
#include "support.h"

#include <fstream>

using namespace wren;
using test::Folder;
using test::FullDisk;
using test::sentenceOf;

namespace {

int filesIn(const Folder& folder) {
    int n = 0;
    for (const auto& entry : std::filesystem::directory_iterator(folder.str())) {
        (void)entry;
        ++n;
    }
    return n;
}

} // namespace

TEST_CASE("A file is written whole and the last good one is kept", "[files]") {
    const Folder folder;
    const auto file = folder / "a.wren";
    writeFileSafely(file, "first", true);
    CHECK(readFile(file) == "first");
    CHECK_FALSE(std::filesystem::exists(folder / "a.wren.last"));
    writeFileSafely(file, "second", true);
    CHECK(readFile(file) == "second");
    CHECK(readFile(folder / "a.wren.last") == "first");
    CHECK(filesIn(folder) == 2);
}

TEST_CASE("A full disk leaves the old file and no torn one", "[files][failure]") {
    const Folder folder;
    const auto file = folder / "a.wren";
    writeFileSafely(file, "the good old bytes");
    const std::string big(200000, 'x');
    {
        const FullDisk full(4096);
        const std::string sentence = sentenceOf([&] { writeFileSafely(file, big, true); });
        CHECK(sentence.find("a.wren could not be written") != std::string::npos);
        CHECK(sentence.find("unchanged") != std::string::npos);
    }
    CHECK(readFile(file) == "the good old bytes");
    CHECK(filesIn(folder) == 1);
    writeFileSafely(file, big); // and with room again it goes
    CHECK(readFile(file).size() == big.size());
}

TEST_CASE("Files that belong together are all old or all new", "[files][failure]") {
    const Folder folder;
    writeFilesSafely({{folder / "1.nc", "old 1"}, {folder / "2.nc", "old 2"}});
    {
        const FullDisk full(4096);
        CHECK_THROWS_AS(writeFilesSafely({{folder / "1.nc", "new 1"},
                                          {folder / "2.nc", std::string(9999, 'y')}}),
                        Error);
    }
    CHECK(readFile(folder / "1.nc") == "old 1");
    CHECK(readFile(folder / "2.nc") == "old 2");
    CHECK(filesIn(folder) == 2);
}

TEST_CASE("Missing folders and files are told by name", "[files][failure]") {
    const Folder folder;
    CHECK(sentenceOf([&] { writeFileSafely(folder / "no" / "a", "x"); }).find("no/a") !=
          std::string::npos);
    CHECK(sentenceOf([&] { readFile(folder / "gone"); }).find("gone could not be opened") !=
          std::string::npos);
    CHECK(sentenceOf([&] { readFile(folder.str()); }).find("could not be read") !=
          std::string::npos);
}
