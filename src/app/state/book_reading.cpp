#include "state/book_reading.h"

#include "base/error.h"

namespace wren::app {
namespace {

std::string keyOf(const std::string& project, const std::string& part, const std::string& what) {
    return project + '\n' + part + '\n' + what;
}

void index(BookReading& r) {
    for (const RunRecord& run : r.memory.runs) {
        if (run.outcome == "done") {
            (run.motion.empty() ? r.doneTexts : r.doneMotions)
                .insert(keyOf(run.project, run.part, run.motion.empty() ? run.sha256 : run.motion));
            r.doneFiles.insert(keyOf(run.project, run.part, run.program));
        }
    }
}

} // namespace

bool BookReading::done(const std::string& instrument, const PostedProgram& p) const {
    const std::string part = p.program.part.name();
    return doneMotions.count(keyOf(instrument, part, p.motion)) > 0 ||
           doneTexts.count(keyOf(instrument, part, p.sha256)) > 0;
}

bool BookReading::ranOnce(const std::string& instrument, const PostedProgram& p) const {
    return doneFiles.count(keyOf(instrument, p.program.part.name(), p.program.file)) > 0;
}

BookReadingPtr readBook(const std::filesystem::path& file, const std::string& project) {
    auto r = std::make_shared<BookReading>();
    try {
        const ShopBook book(file);
        r->memory = remember(book);
        r->readOnly = book.readOnly();
        r->project = project;
        r->ticks = book.ticks(project);
        const ShopMemory& m = r->memory;
        r->experience = experienceOf(m.runs, m.of("mishap"));
        r->practice = experienceOf(m.runs, m.of("mishap"), true);
        r->lives = bitLives(m.runs, m.of("bit"), m.of("measurement"));
        r->progress = progressOf(m.instruments, m.runs);
        r->spent = timeSpent(m.runs);
        r->texts = searchTexts(m.runs);
        index(*r);
    } catch (const Error& e) {
        r->trouble = e.what();
    }
    return r;
}

} // namespace wren::app
