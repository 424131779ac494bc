// What the window does with files: opening, keeping, posting, exporting.

#include "base/error.h"
#include "base/files.h"
#include "frame/findings_band.h"
#include "frame/folder_dialog.h"
#include "frame/text.h"
#include "frame/theme.h"
#include "frame/window.h"
#include "job/fit_pass.h"
#include "job/fixture.h"
#include "job/posted.h"
#include "job/posting.h"
#include "job/stale.h"
#include "job/store.h"
#include "job/test_slot.h"
#include "numbers/ledger.h"
#include "pages/new_board.h"
#include "state/autosave.h"
#include "state/background.h"
#include "state/errand.h"

#include <QEventLoop>
#include <QFileDialog>
#include <QFileInfo>
#include <QLabel>
#include <QLocale>
#include <QMessageBox>
#include <QPushButton>

#include <utility>

namespace wren::app {

/// One long deed at a time, in the background, with progress and a way to stop it.
void Window::errand(const QString& what, std::function<QString(const Watch&)> work,
                    std::function<void(bool)> done) {
    if (errand_) {
        findings_->refuse(tr("Something is still being written; wait for it or stop it."));
        done(false);
        return;
    }
    errand_.emplace();
    findings_->begin(what);
    runErrand(
        this, errand_->get_token(), std::move(work),
        [this](int percent) { findings_->progress(percent); },
        [this, done = std::move(done)](const Outcome& o) {
            errand_.reset();
            findings_->end();
            if (o.stopped) {
                findings_->tell(tr("Stopped; nothing was written."));
            } else if (!o.trouble.isEmpty()) {
                findings_->refuse(o.trouble);
            } else {
                findings_->tell(o.news);
            }
            done(o.done());
        });
}

bool Window::open(const QString& file) {
    try {
        if (const auto left = Autosave::find(file)) {
            Project inFile = loadProject(file.toStdString());
            autosave_->takeOver(*left);
            document_.recover(std::move(inFile), left->work, file);
            findings_->tell(tr("Work on it that was not saved is back; Undo goes to what the file "
                               "holds."));
        } else {
            document_.open(file);
            findings_->clear();
        }
        onTop_ = nullptr;
        showStation();
        lookForOldPosting();
        return true;
    } catch (const Error& e) {
        findings_->refuse(QString::fromUtf8(e.what()));
        return false;
    }
}

/// Programs beside the project's file that would be posted otherwise today are not to be run.
void Window::lookForOldPosting() {
    if (document_.file().isEmpty()) {
        return;
    }
    const auto look = [file = document_.file(), name = document_.project().name] {
        return postedBeside(file.toStdString(), name);
    };
    inBackground(this, look, [this](const std::vector<PostedFolder>& found) {
        beside_ = found.empty() ? std::nullopt : std::optional(found.front());
        tellOldPosting();
    });
}

/// Once what would be posted today is known: whether all that was posted moves as that does.
void Window::tellOldPosting() {
    const Derived* d = sheet_.derived();
    if (!beside_ || !d || d->programs.empty() ||
        d->designHash != designHash(document_.project())) { // not yet what is on the sheet
        return;
    }
    const PostedFolder posted = *std::exchange(beside_, std::nullopt);
    if (posted.isOf(*d)) {
        return;
    }
    const QString folder = QString::fromStdString(posted.folder.string());
    static const ShopMemory none; // not read yet
    const Staleness found = stalenessOf(posted, *d, (reading_ ? reading_->memory : none).runs);
    QStringList changed;
    for (const std::string& one : found.changed) {
        changed << told(one, document_.unit());
    }
    constexpr int most = 3;
    const int more = static_cast<int>(changed.size()) - most;
    findings_->tell(
        tr("%1 of the programs in %2, posted %3, are of an older design: post again before any of "
           "them is run.%4")
            .arg(found.stale.empty() ? tr("All") : QString::number(found.stale.size()))
            .arg(folder, QLocale().toString(
                             QFileInfo(folder + QStringLiteral("/report.json")).lastModified(),
                             QLocale::ShortFormat))
            .arg(changed.isEmpty()
                     ? QString()
                     : tr(" Changed since: %1%2.")
                           .arg(changed.mid(0, most).join(QStringLiteral("; ")),
                                more > 0 ? tr("; and %1 more").arg(more) : QString())));
}

bool Window::recover() {
    const auto left = Autosave::findAny();
    if (!left) {
        return false;
    }
    if (!left->file.isEmpty() && QFileInfo::exists(left->file)) {
        return open(left->file);
    }
    autosave_->takeOver(*left);
    document_.recover(Project{}, left->work, QString());
    findings_->tell(left->file.isEmpty()
                        ? tr("Work that never had a file is back; Save gives it one.")
                        : tr("Work on %1 is back; that file is gone, and Save gives it a new one.")
                              .arg(left->file));
    return true;
}

void Window::startNew() {
    if (mayLeave()) {
        onTop_ = newBoard_;
        findings_->clear();
        showStation();
        newBoard_->start(document_.unit());
    }
}

void Window::saveTo(const QString& file) {
    const Project project = document_.project();
    errand(
        tr("Saving"),
        [project, file](const Watch&) {
            saveProject(project, file.toStdString());
            return tr("Saved as %1.").arg(file);
        },
        [this, project, file](bool done) {
            if (done) {
                document_.markSaved(project, file);
            }
            Q_EMIT saved(done);
        });
}

void Window::postTo(const QString& folder) {
    if (sheet_.step() < 3) {
        findings_->refuse(tr("The programs are still being proved; try again in a moment."));
        Q_EMIT posted(false);
        return;
    }
    errand(
        tr("Writing programs, setup sheet and solid"),
        [d = sheet_.derivedPtr(), folder, book = book_](const Watch& watch) {
            for (PartId part : d->wanted()) {
                if (postingRight(*d, part) == PostingRight::overridden) {
                    ShopBook record(book);
                    recordOverride(*d, part, record);
                }
            }
            if (post(*d, folder.toStdString(), watch) == PostingRight::refused) {
                throw Error(tr("Not posted: a stop finding stands in the way. The report in %1 "
                               "names it.")
                                .arg(folder)
                                .toStdString());
            }
            return tr("%1 programs, their setup sheet, the solid and a report are in %2.")
                .arg(d->programs.size())
                .arg(folder);
        },
        [this](bool done) { Q_EMIT posted(done); });
}

void Window::testSlotsTo(const QString& folder) {
    errand(
        tr("Writing the test cut"),
        [project = document_.project(), folder](const Watch&) {
            const TestSlots test = deriveTestSlots(project);
            postTestSlots(test, project, folder.toStdString());
            return tr("test-slots.nc, %1 minutes with %2, and its form are in %3.")
                .arg(test.program->time.seconds / 60, 0, 'f', 1)
                .arg(QString::fromStdString(test.program->program.bit.name), folder);
        },
        [this](bool done) { Q_EMIT exported(done); });
}

void Window::askFit(const QString& pocket, double by) {
    const QString folder = askFolder(this, tr("Folder for the fit pass"));
    if (!folder.isEmpty()) {
        fitTo(folder, pocket, by);
    }
}

void Window::fitTo(const QString& folder, const QString& pocket, double by) {
    errand(
        tr("Writing the fit pass"),
        [project = document_.project(), folder, pocket, by](const Watch&) {
            const FitPass pass = deriveFitPass(project, pocket.toStdString(), by);
            const std::string name = postFitPass(pass, folder.toStdString());
            return tr("%1, %2 minutes with %3, is in %4.")
                .arg(QString::fromStdString(name))
                .arg(pass.program->time.seconds / 60, 0, 'f', 1)
                .arg(QString::fromStdString(pass.program->program.bit.name), folder);
        },
        [this](bool done) { Q_EMIT exported(done); });
}

void Window::fixtureTo(const QString& folder) {
    errand(
        tr("Writing the fixture's pins"),
        [project = document_.project(), folder](const Watch&) {
            const PostedProgram program = postFixture(project, folder.toStdString());
            return tr("fixture-pins.nc, %1 minutes with %2, is in %3.")
                .arg(program.time.seconds / 60, 0, 'f', 1)
                .arg(QString::fromStdString(program.program.bit.name), folder);
        },
        [this](bool done) { Q_EMIT exported(done); });
}

void Window::askFixture() {
    const QString folder = askFolder(this, tr("Folder for the fixture's program"));
    if (!folder.isEmpty()) {
        fixtureTo(folder);
    }
}

void Window::askOpen() {
    if (!mayLeave()) {
        return;
    }
    const QString file = QFileDialog::getOpenFileName(this, tr("Open a project"), document_.file(),
                                                      tr("Projects (*.wren)"));
    if (!file.isEmpty()) {
        autosave_->letGo(); // what was here before has been saved or let go
        open(file);
    }
}

bool Window::askSave(bool elsewhere) {
    QString file = document_.file();
    if (elsewhere || file.isEmpty()) {
        file = QFileDialog::getSaveFileName(this, tr("Keep the project as"),
                                            file.isEmpty()
                                                ? QString::fromStdString(document_.project().name) +
                                                      QStringLiteral(".wren")
                                                : file,
                                            tr("Projects (*.wren)"));
    }
    if (file.isEmpty()) {
        return false;
    }
    saveTo(file);
    return true;
}

void Window::askPost() {
    const QString folder = askFolder(this, tr("Folder for the programs"));
    if (!folder.isEmpty()) {
        postTo(folder);
    }
}

void Window::askTestSlots() {
    const QString folder = askFolder(this, tr("Folder for the test cut"));
    if (!folder.isEmpty()) {
        testSlotsTo(folder);
    }
}

bool Window::saveAndWait() {
    QEventLoop loop;
    bool done = false;
    bool ended = false;
    const auto link = connect(this, &Window::saved, &loop, [&](bool ok) {
        done = ok;
        ended = true;
        loop.quit();
    });
    if (askSave(false) && !ended) {
        loop.exec();
    }
    disconnect(link);
    return done;
}

/// Unsaved work is never dropped without a question.
bool Window::mayLeave() {
    if (!document_.changedSinceSave()) {
        return true;
    }
    QMessageBox box(QMessageBox::NoIcon, tr("Not saved yet"),
                    tr("%1 has changes that are in no file.").arg(title_->text()),
                    QMessageBox::NoButton, this);
    QPushButton* keep = box.addButton(tr("Save them"), QMessageBox::AcceptRole);
    QPushButton* drop = box.addButton(tr("Let them go"), QMessageBox::DestructiveRole);
    box.addButton(tr("Stay here"), QMessageBox::RejectRole);
    box.exec();
    if (box.clickedButton() == keep) {
        return saveAndWait();
    }
    return box.clickedButton() == drop;
}

} // namespace wren::app
