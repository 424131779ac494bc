// What is seen in a blank: its photograph, seams, knots, nails.
#include "numbers/ledger.h"

#include "frame/text.h"

#include <QFileDialog>
#include <QPushButton>

namespace wren::app {

void Ledger::leafWoodSeen() {
    const PartJob* job = sheet_.jobInHand();
    fieldWidth_ = 104;
    group(tr("Seen in the blank"));
    if (!job) {
        note([](const Derived&) { return tr("There is no part whose blank could be looked at."); });
        return;
    }
    const PartId part = job->id;
    connect(deed(tr("Photograph…"), tr("of the real blank, to lie under the part")),
            &QPushButton::clicked, this, [this, part] { addWoodPhoto(part); });
    for (const auto& [kind, words, tip] :
         {std::tuple{WoodMarkKind::seam, tr("Add a seam"), tr("a glue line or a crack")},
          {WoodMarkKind::knot, tr("Add a knot"), tr("to be kept from edges and walls")},
          {WoodMarkKind::nail, tr("Add a nail"), tr("an old hole that may hold iron")}}) {
        connect(deed(words, tip), &QPushButton::clicked, this,
                [this, part, kind = kind] { addWoodMark(part, kind); });
    }
    note([](const Derived&) {
        return tr("Places count from the blank's front left corner, face up; the ends can be "
                  "dragged in the plan. It changes no cut: what lies at an edge or a wall is a "
                  "caution.");
    });
    const Project& p = sheet_.document().project();
    const auto place = [this](const QString& label, const QString& path) {
        field(tr("%1, along").arg(label), path + QStringLiteral(".x"));
        field(tr("%1, across").arg(label), path + QStringLiteral(".y"));
    };
    for (std::size_t i = 0; i < p.woodPhotos.size(); ++i) {
        if (p.woodPhotos[i].part != part.name()) {
            continue;
        }
        const QString path = QStringLiteral("photographs.%1").arg(qulonglong(i));
        group(tr("Photograph %1").arg(qulonglong(i + 1)));
        field(tr("first place, across it"), path + QStringLiteral(".a_across"));
        field(tr("first place, down it"), path + QStringLiteral(".a_down"));
        place(tr("lies"), path + QStringLiteral(".a"));
        field(tr("second place, across it"), path + QStringLiteral(".b_across"));
        field(tr("second place, down it"), path + QStringLiteral(".b_down"));
        place(tr("lies"), path + QStringLiteral(".b"));
        field(tr("shown as a book match"), path + QStringLiteral(".mirrored"));
        removal(tr("Take it away"), tr("the picture's file stays where it is"), path,
                tr("a photograph less"));
    }
    for (std::size_t i = 0; i < p.woodMarks.size(); ++i) {
        const WoodMark& m = p.woodMarks[i];
        if (m.part != part.name()) {
            continue;
        }
        const QString path = QStringLiteral("wood_marks.%1").arg(qulonglong(i));
        group(m.kind == WoodMarkKind::seam   ? tr("Seam %1").arg(qulonglong(i + 1))
              : m.kind == WoodMarkKind::knot ? tr("Knot %1").arg(qulonglong(i + 1))
                                             : tr("Nail %1").arg(qulonglong(i + 1)));
        place(tr("from"), path + QStringLiteral(".from"));
        place(tr("to"), path + QStringLiteral(".to"));
        if (m.kind != WoodMarkKind::seam) {
            field(tr("wide"), path + QStringLiteral(".width"));
        }
        removal(tr("Take it away"), tr("it is not there"), path, tr("a mark less"));
    }
}

/// Its lower corners on the blank's front corners at first.
void Ledger::addWoodPhoto(PartId part) {
    const QString file = QFileDialog::getOpenFileName(
        this, tr("Photograph of the %1's blank").arg(qs(part.name())), QString(),
        tr("Pictures (*.png *.jpg *.jpeg *.webp *.bmp)"));
    if (!file.isEmpty()) {
        addWoodPhoto(part, file);
    }
}

void Ledger::addWoodPhoto(PartId part, const QString& file) {
    const PartJob* job = sheet_.derived() ? sheet_.derived()->job(part) : nullptr;
    const double wide = job ? job->held.face.blank.length : 100;
    changeProject(
        [part, file, wide](const Project& p) {
            Project next = p;
            WoodPhoto photo;
            photo.part = part.name();
            photo.file = file.toStdString();
            photo.b = {wide, 0};
            next.woodPhotos.push_back(photo);
            return next;
        },
        tr("a photograph"));
}

/// In the middle of the blank, to be moved to its place.
void Ledger::addWoodMark(PartId part, WoodMarkKind kind) {
    const PartJob* job = sheet_.derived() ? sheet_.derived()->job(part) : nullptr;
    if (!job) {
        return;
    }
    const Blank& blank = job->held.face.blank;
    changeProject(
        [part, kind, blank](const Project& p) {
            Project next = p;
            const bool seam = kind == WoodMarkKind::seam;
            WoodMark m;
            m.part = part.name();
            m.kind = kind;
            m.from = {seam ? 0 : blank.length / 2, blank.width / 2};
            m.to = seam ? Vec2{blank.length, blank.width / 2} : m.from;
            m.width = seam ? 0 : kind == WoodMarkKind::knot ? 10 : 2;
            next.woodMarks.push_back(m);
            return next;
        },
        tr("a mark in the blank"));
}

} // namespace wren::app
