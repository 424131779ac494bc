// What the window writes beside the instrument's own programs: the bed's, a whole batch.
#include "frame/window.h"

#include "base/error.h"
#include "frame/folder_dialog.h"
#include "job/bed.h"
#include "job/posting.h"

#include <algorithm>

namespace wren::app {
namespace {

/// Why a batch does not go out.
std::string firstStop(const Batch& batch) {
    const auto among = [](const Findings& found) {
        const auto f = std::find_if(found.begin(), found.end(), [](const Finding& one) {
            return one.weight == Weight::stop;
        });
        return f == found.end() ? std::string() : f->message;
    };
    if (const std::string own = among(batch.findings); !own.empty()) {
        return own;
    }
    for (const auto& d : batch.instruments) {
        if (const std::string own = among(d->findings); !own.empty()) {
            return "Nothing was written. " + d->project.name + ": " + own;
        }
    }
    return "Nothing was written: a part of the batch could not be proved.";
}

} // namespace

void Window::bedProgramTo(const QString& folder, bool surface) {
    constexpr double surfaced = 0.5, engraved = 0.4; // mm; common practice, no source
    errand(
        surface ? tr("Writing the bed's surfacing") : tr("Writing the bed's lines"),
        [project = document_.project(), folder, surface](const Watch&) {
            const BedProgram bed = surface ? deriveSurfacing(project, surfaced)
                                           : deriveBedLines(project, engraved);
            const std::string name = postBedProgram(bed, folder.toStdString());
            return tr("%1, %2 minutes with %3, is in %4.")
                .arg(QString::fromStdString(name))
                .arg(bed.program->time.seconds / 60, 0, 'f', 1)
                .arg(QString::fromStdString(bed.program->program.bit.name), folder);
        },
        [this](bool done) { Q_EMIT exported(done); });
}

void Window::askBedProgram(bool surface) {
    const QString folder = askFolder(this, tr("Folder for the bed's program"));
    if (!folder.isEmpty()) {
        bedProgramTo(folder, surface);
    }
}

void Window::batchTo(const QString& folder) {
    errand(
        tr("Proving and writing the batch"),
        [project = document_.project(), folder](const Watch& watch) {
            const Batch batch = deriveBatch(project, watch.stop, [&](std::size_t done) {
                if (watch.progress) {
                    watch.progress(double(done) / double(project.batch.size() + 1));
                }
            });
            if (postBatch(batch, project.name, folder.toStdString(), {watch.stop, {}}) ==
                PostingRight::refused) {
                throw Error(firstStop(batch));
            }
            return tr("%1 instruments are in %2: %3 programs, %4 changes of bit instead of %5.")
                .arg(batch.instruments.size())
                .arg(folder)
                .arg(batch.steps.size())
                .arg(batch.changes)
                .arg(batch.changesOneByOne);
        },
        [this](bool done) { Q_EMIT exported(done); });
}

void Window::askBatch() {
    const QString folder = askFolder(this, tr("Folder for the batch"));
    if (!folder.isEmpty()) {
        batchTo(folder);
    }
}

} // namespace wren::app
