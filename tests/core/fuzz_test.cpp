// Programs, projects and command lines that were spoilt: refused in a sentence or taken, never
// worse. tests/corpus holds what the spoiling starts from, and every input that was ever taken
// badly; one that is found is written beside it.

#include "neck_support.h"

#include "base/error.h"
#include "base/files.h"
#include "job/check.h"
#include "proof/rs274.h"

#include <chrono>
#include <cstdlib>
#include <random>

using namespace wren;
using namespace wren::test;

namespace {

using Corpus = std::vector<std::pair<std::string, std::string>>; ///< file name and text

Corpus corpus(const char* folder) {
    Corpus out;
    for (const auto& file :
         std::filesystem::directory_iterator(std::string(WREN_SOURCE "/tests/corpus/") + folder)) {
        out.emplace_back(file.path().filename().string(), readFile(file.path()));
    }
    std::sort(out.begin(), out.end());
    REQUIRE(out.size() >= 3);
    return out;
}

double fuzzSeconds() {
    const char* asked = std::getenv("WREN_FUZZ_SECONDS");
    return asked ? std::atof(asked) : 2;
}

/// Cuts, repeats and garbles a few places, or puts a hostile word there.
std::string spoilt(std::string text, std::mt19937& random) {
    static const std::array<const char*, 14> hostile{
        "1e999", "-0.0",   "nan",          "99999999999999999999",
        "G2",    "I1e300", "\xEF\xBF\xBE", "\"",
        "{",     "[[[[",   "null",         "F0",
        "(",     "%"};
    const auto upTo = [&](std::size_t n) {
        return n == 0 ? 0 : std::uniform_int_distribution<std::size_t>(0, n - 1)(random);
    };
    for (std::size_t k = 1 + upTo(4); k > 0 && !text.empty(); --k) {
        const std::size_t at = upTo(text.size());
        const std::size_t n = std::min(text.size() - at, 1 + upTo(40));
        switch (upTo(5)) {
        case 0:
            text.erase(at, n);
            break;
        case 1:
            text.insert(at, text.substr(at, n));
            break;
        case 2:
            text[at] = static_cast<char>(upTo(256));
            break;
        case 3:
            text.insert(at, hostile[upTo(hostile.size())]);
            break;
        default:
            text.resize(at);
        }
    }
    return text;
}

/// Has every text of a corpus read as it is and spoilt, until the time is over.
template <typename Read>
void readAll(const char* folder, Read read) {
    const Corpus whole = corpus(folder);
    const auto take = [&](const std::string& name, const std::string& text) {
        const auto before = std::chrono::steady_clock::now();
        bool refused = false;
        try {
            read(text);
        } catch (const Error& e) {
            refused = true;
            INFO(name << ": " << e.what());
            CHECK(std::string(e.what()).size() > 15); // a sentence
            CHECK(std::string(e.what()).find('\n') == std::string::npos);
        } catch (const std::exception& e) {
            const std::string kept = std::string(WREN_SOURCE "/tests/corpus/") + folder +
                                     "/found-" + std::to_string(std::hash<std::string>{}(text)) +
                                     name;
            writeFileSafely(kept, text);
            FAIL(kept << ": " << e.what());
        }
        // Not that it is quick, which a machine decides: that it ends at all.
        CHECK(std::chrono::steady_clock::now() - before < std::chrono::seconds(60));
        return refused;
    };
    for (const auto& [name, text] : whole) {
        take(name, text);
    }
    std::mt19937 random(20261127);
    int refused = 0;
    int rounds = 0;
    const auto until =
        std::chrono::steady_clock::now() + std::chrono::duration<double>(fuzzSeconds());
    for (; rounds < 200 || std::chrono::steady_clock::now() < until; ++rounds) {
        const auto& [name, text] = whole[std::size_t(rounds) % whole.size()];
        refused += take(name, spoilt(text, random)) ? 1 : 0;
    }
    CHECK(refused > 20);
    CHECK(refused < rounds);
}

} // namespace

TEST_CASE("Spoilt programs are refused in a sentence or read", "[fuzz][rs274]") {
    readAll("programs", [](const std::string& text) {
        for (const Move& m : readProgram(text, "spoilt.nc", {0, 0, 10}).path) {
            REQUIRE(std::isfinite(m.to.x + m.to.y + m.to.z + m.length()));
        }
    });
}

TEST_CASE("Spoilt projects are refused in a sentence or drawn", "[fuzz][project]") {
    readAll("projects", [](const std::string& text) {
        const Project p = projectFromText(text, "spoilt.wren");
        CHECK(projectFromText(projectToText(p), "again.wren") == p);
        deriveDrawing(p);
    });
}

TEST_CASE("Every command refuses what it cannot use in a line, and ends", "[fuzz][command][long]") {
    const Folder folder;
    const std::string file = (folder / "p.wren").string();
    REQUIRE(test::wren("new " + file + " --strings 6").code == 0);
    const std::array<const char*, 10> odd{"''",   "-1",        "1e999",
                                          "nan",  "'a b\tc'",  "/no/such/file",
                                          "'é€'", "--nothing", "999999999999999999999",
                                          "'}{'"};
    const std::array<const char*, 16> commands{
        "frets", "new",   "export",     "list",    "import", "section", "bits", "set",
        "make",  "prove", "test-slots", "fixture", "fit",    "check",   "run",  "book"};
    std::size_t turn = 0;
    for (const char* command : commands) {
        for (const char* word : odd) {
            // Alone, behind a project, as a place to write, as a part: by turns.
            const std::array<std::string, 4> lines{std::string(word), file + " " + word,
                                                   file + " --out " + word,
                                                   file + " --part " + word};
            const std::string& line = lines[turn++ % lines.size()];
            // What a stray word may write goes where nothing is missed.
            const Ran r = test::run("cd " + folder.str() + " && timeout 60 " WREN_BIN "/wren " +
                                    command + " " + line + " --book book.sqlite < /dev/null");
            INFO(command << " " << line << "\n" << r.err);
            CHECK((r.code == 0 || r.code == 1 || r.code == 2));
            CHECK(r.err.find("terminate") == std::string::npos);
        }
    }
}
