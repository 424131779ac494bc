// What the window writes beside the instrument's own programs: the bed's, a whole batch.
#include "frame/window.h"

#include "base/error.h"
#include "base/files.h"
#include "base/length.h"
#include "frame/findings_band.h"
#include "frame/folder_dialog.h"
#include "job/bed.h"
#include "job/posting.h"
#include "job/trial.h"
#include "pages/program_desk.h"

#include <QComboBox>
#include <QDialog>
#include <QDialogButtonBox>
#include <QFileDialog>
#include <QFileInfo>
#include <QFormLayout>
#include <QLineEdit>

#include <algorithm>

namespace wren::app {
namespace {

/// Why a batch does not go out.
std::string firstStop(const Batch& batch) {
    const auto among = [](const Findings& found) {
        const auto f = std::find_if(found.begin(), found.end(),
                                    [](const Finding& one) { return one.weight == Weight::stop; });
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
            const BedProgram bed =
                surface ? deriveSurfacing(project, surfaced) : deriveBedLines(project, engraved);
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

void Window::controllerFile(const QString& file, bool write) {
    if (write) {
        errand(
            tr("Writing the controller's description"),
            [talk = document_.project().machine.talk, file](const Watch&) {
                writeFilesSafely({{file.toStdString(), controllerToJson(talk)}});
                return tr("How the controller is spoken to is in %1.").arg(file);
            },
            [this](bool done) { Q_EMIT exported(done); });
        return;
    }
    try {
        Project next = document_.project();
        next.machine.talk = controllerFromJson(readFile(file.toStdString()),
                                               QFileInfo(file).fileName().toStdString());
        document_.change(std::move(next), tr("another controller"));
    } catch (const Error& e) {
        findings_->refuse(QString::fromUtf8(e.what()));
    }
}

void Window::askControllerFile(bool write) {
    const QString kinds = tr("Description of a controller (*.json)");
    const QString file = write ? QFileDialog::getSaveFileName(this, tr("Write the description"),
                                                              QStringLiteral("controller.json"), kinds)
                               : QFileDialog::getOpenFileName(this, tr("Read a description"), {}, kinds);
    if (!file.isEmpty()) {
        controllerFile(file, write);
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

void Window::openProgram(const QString& file) {
    putOnTop(programDesk_);
    programDesk_->open(file);
}

void Window::askProgram() {
    const QString file = QFileDialog::getOpenFileName(
        this, tr("Hold a program against a part"), QFileInfo(document_.file()).path(),
        tr("Programs (*.nc *.ngc *.gcode *.tap *.txt);;All files (*)"));
    if (!file.isEmpty()) {
        openProgram(file);
    }
}

void Window::trialTo(const QString& folder, PartId part, const QString& wood, double thickness) {
    errand(
        tr("Proving and writing the trial"),
        [project = document_.project(), folder, part, wood, thickness](const Watch& watch) {
            const Derived d =
                derive(trialOf(project, {part}, wood.toStdString(), thickness), watch.stop);
            if (post(d, folder.toStdString(), watch, {part}) == PostingRight::refused) {
                const auto stop =
                    std::find_if(d.findings.begin(), d.findings.end(), [&](const Finding& f) {
                        return f.weight == Weight::stop && f.part == part;
                    });
                throw Error("Nothing was written. " +
                            (stop == d.findings.end() ? "The " + part.name() + " is not proved."
                                                      : stop->message));
            }
            return tr("The trial of the %1 in %2 is in %3.")
                .arg(QString::fromStdString(part.name()), wood, folder);
        },
        [this](bool done) { Q_EMIT exported(done); });
}

void Window::askTrial() {
    const PartJob* job = sheet_.jobInHand();
    if (!job) {
        findings_->refuse(tr("There is no part in hand that a trial could be cut of."));
        return;
    }
    QDialog dialog(this);
    dialog.setWindowTitle(tr("The %1 in another sheet").arg(QString::fromStdString(job->name())));
    auto* form = new QFormLayout(&dialog);
    auto* wood = new QComboBox;
    for (const Wood& w : woods()) {
        wood->addItem(QString::fromStdString(w.name), QString::fromStdString(w.id));
    }
    wood->setCurrentIndex(wood->findData(QStringLiteral("mdf")));
    auto* thick = new QLineEdit(
        QString::fromStdString(formatLength(job->held.blank.thickness, document_.unit())));
    form->addRow(tr("wood"), wood);
    form->addRow(tr("thickness, as measured"), thick);
    auto* buttons = new QDialogButtonBox(QDialogButtonBox::Ok | QDialogButtonBox::Cancel);
    form->addRow(buttons);
    connect(buttons, &QDialogButtonBox::accepted, &dialog, &QDialog::accept);
    connect(buttons, &QDialogButtonBox::rejected, &dialog, &QDialog::reject);
    const PartId part = job->id;
    if (dialog.exec() != QDialog::Accepted) {
        return;
    }
    try {
        const double mm = parseLength(thick->text().toStdString(), document_.unit());
        const QString folder = askFolder(this, tr("Folder for the trial"));
        if (!folder.isEmpty()) {
            trialTo(folder, part, wood->currentData().toString(), mm);
        }
    } catch (const Error& e) {
        findings_->refuse(QString::fromUtf8(e.what()));
    }
}

} // namespace wren::app
