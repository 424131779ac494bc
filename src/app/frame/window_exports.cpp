// What the window writes of the design beside its programs: drawings, solids, pages for the bench.

#include "base/files.h"
#include "exchange/body_drawing.h"
#include "exchange/fret_csv.h"
#include "frame/findings_band.h"
#include "frame/theme.h"
#include "frame/window.h"
#include "job/compare.h"
#include "job/export.h"
#include "job/hand_sheet.h"
#include "numbers/ledger.h"

#include <QFileDialog>
#include <QMenu>
#include <QPushButton>

namespace wren::app {

/// The part an export is about.
QString Window::partWord() const {
    if (sheet_.part() == Part::body && sheet_.pieceInHand()) {
        return QString::fromStdString(sheet_.pieceInHand()->name())
            .replace(QLatin1Char(' '), QLatin1Char('-'));
    }
    return sheet_.part() == Part::body   ? tr("body")
           : sheet_.part() == Part::neck ? tr("neck")
                                         : tr("fretboard");
}

void Window::exportTo(const QString& file, const QString& format, const QString& paper) {
    const DerivedPtr d = sheet_.derivedPtr();
    const PartJob* job = sheet_.jobInHand(); // of the body the piece in hand
    if (!d || !job) {
        findings_->refuse(
            tr("There is no %1 to export: its numbers cannot be made yet.").arg(partWord()));
        Q_EMIT exported(false);
        return;
    }
    errand(
        format == QLatin1String("step") || format == QLatin1String("stl") ? tr("Making the solid")
                                                                          : tr("Drawing"),
        [d, file, format, paper, job, unit = document_.unit()](const Watch& watch) {
            const std::string bytes =
                format == QLatin1String("csv")
                    ? (job->panel ? drillingCsv(d->body->part)
                                  : fretTableCsv(d->project.board, unit))
                    : exportPart(*d, *job, format.toStdString(),
                                 {paperNamed(paper.toStdString()), {}}, watch);
            writeFileSafely(file.toStdString(), bytes);
            return tr("Written to %1.").arg(file);
        },
        [this](bool done) { Q_EMIT exported(done); });
}

bool Window::drawnYet() {
    if (!sheet_.derivedPtr()) {
        findings_->refuse(tr("There is nothing drawn yet; try again in a moment."));
        Q_EMIT exported(false);
    }
    return sheet_.derivedPtr() != nullptr;
}

void Window::exportWholeTo(const QString& file, const QString& format, const QString& paper) {
    if (!drawnYet()) {
        return;
    }
    errand(
        tr("Drawing"),
        [d = sheet_.derivedPtr(), file, format, paper](const Watch&) {
            writeFileSafely(file.toStdString(),
                            exportWhole(*d, format.toStdString(), paperNamed(paper.toStdString())));
            return tr("Written to %1.").arg(file);
        },
        [this](bool done) { Q_EMIT exported(done); });
}

void Window::handSheetTo(const QString& file, const QString& name, const QString& paper) {
    if (!drawnYet()) {
        return;
    }
    errand(
        tr("Drawing"),
        [d = sheet_.derivedPtr(), file, name, paper, unit = document_.unit()](const Watch&) {
            const HandSheet sheet = handSheet(*d, name.toStdString(), unit);
            writeFileSafely(file.toStdString(),
                            handSheetPdf(*d, sheet, paperNamed(paper.toStdString())));
            return tr("Written to %1.").arg(file);
        },
        [this](bool done) { Q_EMIT exported(done); });
}

void Window::askHandSheet(const QString& name) {
    const QString file = QFileDialog::getSaveFileName(
        this, tr("Keep the page as"),
        QStringLiteral("%1-%2.pdf").arg(QString::fromStdString(document_.project().name), name),
        QStringLiteral("*.pdf"));
    if (!file.isEmpty()) {
        handSheetTo(file, name, QStringLiteral("a4"));
    }
}

void Window::compareWith(const QString& variant) {
    auto found = std::make_shared<QString>();
    errand(
        tr("Comparing, both designs with their programs"),
        [project = document_.project(), variant, found](const Watch& watch) {
            *found = QString::fromStdString(comparisonText(
                compare(variantOf(project, variant.toStdString()), project, watch.stop)));
            return tr("Compared with %1.").arg(variant);
        },
        [this, found](bool done) {
            if (done) {
                ledger_->showComparison(*found);
            }
        });
}

struct Window::ExportChoice {
    QString words;
    const char* format;
    const char* paper;
};

/// Offers the ways under the button, and asks for the file of the one taken.
void Window::offerExports(const std::vector<ExportChoice>& choices, const QString& what,
                          void (Window::*write)(const QString&, const QString&, const QString&)) {
    QMenu menu(this);
    menu.setFont(words(14));
    for (const ExportChoice& c : choices) {
        menu.addAction(c.words, [this, c, what, write] {
            const QString ending = QLatin1String(c.format);
            const QString file = QFileDialog::getSaveFileName(
                this, c.words,
                QStringLiteral("%1-%2.%3")
                    .arg(QString::fromStdString(document_.project().name), what, ending),
                QStringLiteral("*.") + ending);
            if (!file.isEmpty()) {
                (this->*write)(file, ending, QLatin1String(c.paper));
            }
        });
    }
    menu.exec(export_->mapToGlobal(QPoint(0, export_->height())));
}

void Window::askExport() {
    if (sheet_.station() == Station::whole) {
        offerExports({{tr("Plan and side to print at full size, on A4"), "pdf", "a4"},
                      {tr("Plan and side to print at full size, on A3"), "pdf", "a3"},
                      {tr("Plan and side to print at full size, on letter"), "pdf", "letter"},
                      {tr("Plan and side as SVG"), "svg", "a4"},
                      {tr("Plan and side as DXF"), "dxf", "a4"}},
                     QStringLiteral("whole"), &Window::exportWholeTo);
        return;
    }
    offerExports(
        {
            {sheet_.part() == Part::body ? tr("Drilling list, for a spreadsheet")
                                         : tr("Fret table, for a spreadsheet"),
             "csv", "a4"},
            {tr("Template to print, on A4"), "pdf", "a4"},
            {tr("Template to print, on A3"), "pdf", "a3"},
            {tr("Template to print, on letter"), "pdf", "letter"},
            {tr("Drawing as SVG"), "svg", "a4"},
            {tr("Drawing as DXF"), "dxf", "a4"},
            {tr("Solid as STEP"), "step", "a4"},
            {tr("Solid as STL"), "stl", "a4"},
        },
        partWord(), &Window::exportTo);
}

} // namespace wren::app
