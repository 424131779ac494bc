// Instruments as rows of parts with how far they are.
#include "book/book_views.h"

#include "frame/text.h"
#include "frame/theme.h"

#include <QPainter>

#include <algorithm>
#include <cmath>
#include <map>

namespace wren::app {
namespace {

constexpr double row = 76;
constexpr double nameWide = 250;

} // namespace

std::vector<const InstrumentProgress*> InstrumentsView::shown() const {
    std::vector<const InstrumentProgress*> out;
    if (!book_) {
        return out;
    }
    for (const InstrumentProgress& i : book_->progress) {
        std::string text = i.instrument.name;
        for (const PartProgress& part : i.parts) {
            text += ' ' + part.part;
        }
        if (fits(text)) {
            out.push_back(&i);
        }
    }
    return out;
}

int InstrumentsView::wantedHeight() const {
    return 12 + int(row) * static_cast<int>(shown().size());
}

/// `programs`: it has in all, where the design is open.
void InstrumentsView::drawPart(QPainter& p, const PartProgress& part, std::optional<int> programs,
                               const QRectF& box) const {
    const double share = programs            ? std::min(1.0, double(part.programs) / *programs)
                         : part.programs > 0 ? 1
                                             : 0;
    p.setPen(QPen(colour::ink, 1));
    p.setBrush(colour::sheet);
    p.drawRect(box);
    p.fillRect(QRectF(box.left() + 1, box.bottom() - 7, (box.width() - 2) * share, 6),
               colour::moss);
    const auto write = [&](const QRectF& area, const QString& what) {
        p.drawText(area, Qt::AlignVCenter,
                   p.fontMetrics().elidedText(what, Qt::ElideRight, int(area.width())));
    };
    p.setFont(words(14, true));
    write(box.adjusted(8, 2, -6, -26), qs(part.part));
    p.setFont(words(12));
    p.setPen(part.failed > 0 ? colour::russet : colour::faded);
    QString done = programs ? tr("%1 of %2").arg(part.programs).arg(*programs)
                            : counted(part.programs, "program");
    done += tr(", %1 min").arg(std::round(part.minutes));
    if (part.failed > 0) {
        done += tr(", %1 went wrong").arg(part.failed);
    }
    write(box.adjusted(8, 22, -6, -8), done);
}

void InstrumentsView::paintEvent(QPaintEvent*) {
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    const Derived* d = sheet_.derived();
    const std::vector<const InstrumentProgress*> all = shown();
    double y = 6;
    for (const InstrumentProgress* i : all) {
        std::map<std::string, int> programs;
        if (d && d->project.name == i->instrument.name) {
            for (const PostedProgram& program : d->programs) {
                ++programs[program.program.part.name()];
            }
        }
        p.setPen(QPen(colour::rule, 1));
        p.drawLine(QPointF(10, y + row - 4), QPointF(width() - 10, y + row - 4));
        p.setFont(words(18, true));
        p.setPen(colour::ink);
        p.drawText(QRectF(10, y + 6, nameWide, 26), Qt::AlignVCenter,
                   p.fontMetrics().elidedText(qs(i->instrument.name), Qt::ElideRight,
                                              int(nameWide)));
        p.setFont(words(12.5));
        p.setPen(colour::faded);
        p.drawText(QRectF(10, y + 32, nameWide, 20), Qt::AlignVCenter,
                   tr("begun %1, %2 h at the machine")
                       .arg(qs(i->instrument.begun.substr(0, 10)))
                       .arg(i->minutes() / 60, 0, 'f', 1));
        const double wide = std::min(190.0, (width() - nameWide - 30.0) /
                                                std::max<double>(1, double(i->parts.size())));
        double x = nameWide + 20;
        for (const PartProgress& part : i->parts) {
            const auto whole = programs.find(part.part);
            drawPart(p, part, whole == programs.end() ? std::nullopt : std::optional(whole->second),
                     QRectF(x, y + 8, wide - 10, 50));
            x += wide;
        }
        y += row;
    }
    if (all.empty()) {
        p.setFont(words(17));
        p.setPen(colour::faded);
        p.drawText(rect().adjusted(40, 0, -40, 0), Qt::AlignCenter | Qt::TextWordWrap,
                   search_.isEmpty()
                       ? tr("No instrument has been begun: what is run, measured or written down "
                            "for one brings it here.")
                       : tr("No instrument is called so."));
    }
}

} // namespace wren::app
