#include "book/run_entry.h"

#include <cstdlib>

namespace wren {

const RecordKind& runKind() {
    using K = FieldKind;
    static const RecordKind kind{
        "run",
        "runs",
        "a program that ran without this application sending it",
        {{"project", K::words, "of which instrument", true, 0, 0, {}},
         {"part", K::words, "fretboard, neck, body ...", true, 0, 0, {}},
         {"program", K::words, "its file", true, 0, 0, {}},
         {"bit", K::words, "as in the drawer", true, 0, 0, {}},
         {"wood", K::words, "as in wren set --list", true, 0, 0, {}},
         {"cuts", K::words, "as the program names them: rough + outline", true, 0, 0, {}},
         {"planned", K::number, "minutes", true, 0.01, 2000, {}},
         {"taken", K::number, "minutes", true, 0.01, 2000, {}},
         {"feed", K::number, "per cent it was turned to", false, 10, 200, {}},
         {"metres", K::number, "of way in the wood", false, 0, 100000, {}},
         {"outcome", K::words, "done, stopped ...", false, 0, 0, {}},
         {"machine", K::words, "its name", false, 0, 0, {}},
         {"by", K::words, "who stood at the machine", false, 0, 0, {}},
         {"remark", K::words, "whatever else", false, 0, 0, {}}}};
    return kind;
}

RunRecord runFrom(const std::vector<std::string>& typed) {
    const Record r = recordFrom(runKind(), typed);
    const auto number = [&](const char* field, double otherwise) {
        const std::string text = r.field(field);
        return text.empty() ? otherwise : std::atof(text.c_str());
    };
    RunRecord run;
    run.project = r.field("project");
    run.part = r.field("part");
    run.program = r.field("program");
    run.bit = r.field("bit");
    run.wood = r.field("wood");
    run.cuts = r.field("cuts");
    run.plannedSeconds = number("planned", 0) * 60;
    run.takenSeconds = number("taken", 0) * 60;
    run.feedPercent = static_cast<int>(number("feed", 100));
    run.cutLength = number("metres", 0) * 1000;
    run.start = r.time.empty() ? timeNow() : r.time;
    run.end = run.start;
    run.outcome = r.field("outcome").empty() ? "done" : r.field("outcome");
    run.remark = r.field("remark");
    run.machine = r.field("machine");
    run.by = r.field("by");
    run.address = "written down by hand";
    return run;
}

} // namespace wren
