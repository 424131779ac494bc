#include "job/fixture.h"

#include "base/error.h"
#include "base/files.h"
#include "job/shop_boards.h"

#include <algorithm>

namespace wren {

PostedProgram postFixture(const Project& project, const std::filesystem::path& dir) {
    const PartId board = Role::neckFixture;
    const Derived d = deriveOnly(wanting(project, board), board);
    const auto stop = std::find_if(d.findings.begin(), d.findings.end(), [&](const Finding& f) {
        return f.part == board && f.weight == Weight::stop;
    });
    if (stop != d.findings.end()) {
        throw Error(stop->message);
    }
    if (d.programs.size() != 1) {
        throw Error("The neck's fixture has no program: a neck that can be laid on the machine "
                    "was expected.");
    }
    makeFolder(dir);
    writeFilesSafely({{dir / "fixture-pins.nc", d.programs.front().program.text}});
    return d.programs.front();
}

} // namespace wren
