#include "frame/route_band.h"

#include "job/posting.h"

#include "base/length.h"
#include "frame/text.h"
#include "frame/theme.h"
#include "shop/wood.h"

#include <QKeyEvent>
#include <QMouseEvent>
#include <QPainter>

#include <algorithm>

namespace wren::app {
namespace {

bool longDay(const Derived& d) {
    return d.seconds() >= 100 * 60;
}

/// Whether there is anything, and all of it has a proof that passed.
bool everythingProved(const Derived& d) {
    const std::vector<PartId> parts = d.wanted();
    return !parts.empty() && std::all_of(parts.begin(), parts.end(), [&](PartId part) {
        return postingRight(d, part) != PostingRight::refused;
    });
}

int stops(const Findings& findings) {
    return static_cast<int>(std::count_if(findings.begin(), findings.end(), [](const Finding& f) {
        return f.weight == Weight::stop;
    }));
}

const char* jointWord(NeckJoint joint) {
    return joint == NeckJoint::boltOn ? "bolted on"
           : joint == NeckJoint::set  ? "set in"
                                      : "goes through";
}

} // namespace

RouteBand::RouteBand(Sheet& sheet, QWidget* parent) : QWidget(parent), sheet_(sheet) {
    setFixedHeight(58);
    setFocusPolicy(Qt::TabFocus);
    setAccessibleName(tr("Route"));
    connect(&sheet_, &Sheet::derivedChanged, this, qOverload<>(&QWidget::update));
    connect(&sheet_, &Sheet::stationChanged, this, qOverload<>(&QWidget::update));
    connect(&sheet_, &Sheet::partChanged, this, qOverload<>(&QWidget::update));
    connect(&sheet_.document(), &Document::unitChanged, this, qOverload<>(&QWidget::update));
}

void RouteBand::setRuns(int doneOfThese, int stale, int all) {
    done_ = doneOfThese;
    stale_ = stale;
    all_ = all;
    update();
}

double RouteBand::stopX(int i) const {
    return 26 + i * (width() - 40.0) / stationCount;
}

RouteBand::Mark RouteBand::markOf(Station s) const {
    const Derived* d = sheet_.derived();
    if (!d) {
        return Mark::busy;
    }
    switch (s) {
    case Station::board:
        return d->board ? Mark::done : Mark::trouble;
    case Station::neck:
        return d->neck ? Mark::done : (d->wantsNeck() ? Mark::trouble : Mark::open);
    case Station::body:
        return d->body ? Mark::done : (d->project.wantsBody() ? Mark::trouble : Mark::open);
    case Station::whole: {
        const auto agrees = [](const Finding& f) {
            return f.feature.kind != FeatureKind::bridge || f.weight == Weight::note;
        };
        return !d->body                                                      ? Mark::open
               : std::all_of(d->findings.begin(), d->findings.end(), agrees) ? Mark::done
                                                                             : Mark::trouble;
    }
    case Station::blank:
        return inHand(1, [](const PartJob& job) { return job.placed; });
    case Station::tools:
        return d->project.bits.empty() ? Mark::trouble : Mark::done;
    case Station::cuts:
        return inHand(2, [](const PartJob& job) {
            return !job.read[0].empty() && !hasStop(job.plan().findings);
        });
    case Station::proof:
        return inHand(3, [](const PartJob& job) { return job.proof && job.proof->passed(); });
    case Station::machine:
        return !d->programs.empty() && done_ == static_cast<int>(d->programs.size()) ? Mark::done
                                                                                     : Mark::open;
    case Station::book:
        return all_ > 0 ? Mark::done : Mark::open;
    }
    return Mark::open;
}

/// What is asked of the part in hand, of a body of all its pieces, once so many steps are derived.
RouteBand::Mark RouteBand::inHand(int step, bool (*good)(const PartJob&)) const {
    if (sheet_.step() < step) {
        return Mark::busy;
    }
    const std::vector<const PartJob*> jobs = sheet_.jobsInHand();
    const bool all =
        std::all_of(jobs.begin(), jobs.end(), [&](const PartJob* job) { return good(*job); });
    return all && !jobs.empty() ? Mark::done : Mark::trouble;
}

/// What a stop on the route tells under its name.
QString RouteBand::tellingOf(Station s) const {
    const Derived* d = sheet_.derived();
    if (!d) {
        return tr("deriving ...");
    }
    const Project& p = d->project;
    const bool neck = sheet_.part() == Part::neck;
    const auto mm = [this](double v) {
        return QString::fromStdString(formatLength(v, sheet_.unit(), 1));
    };
    switch (s) {
    case Station::board:
        return tr("%1, %2").arg(mm(p.board.scaleLength), counted(p.board.frets, "fret"));
    case Station::neck:
        return d->neck ? tr("%1, %2").arg(
                             mm(d->neck->part.outline().end() - d->neck->part.outline().tip()),
                             qs(jointWord(p.neck.joint)))
                       : (d->wantsNeck() ? tr("cannot be drawn") : tr("none yet"));
    case Station::body:
        return d->body ? tr("%1, %2").arg(counted(static_cast<int>(d->pieces().size()), "piece"),
                                          mm(p.body.thickness))
                       : (p.wantsBody() ? tr("cannot be drawn") : tr("none yet"));
    case Station::whole:
        return d->body
                   ? tr("%1 high").arg(mm(d->body->part.stringHeight(d->body->part.place().bridge)))
                   : tr("without a body");
    case Station::blank:
        if (sheet_.part() == Part::body) {
            return d->body ? tr("body, %1 thick").arg(mm(p.body.thickness)) : QString();
        }
        if (neck) {
            return d->neck ? tr("neck, %1 thick").arg(mm(d->job(Role::neck)->held.blank.thickness))
                           : QString();
        }
        return tr("board, %1 thick").arg(mm(p.blank.thickness));
    case Station::tools:
        return tr("%1, one router").arg(counted(static_cast<int>(p.bits.size()), "bit"));
    case Station::cuts:
        if (sheet_.step() < 2) {
            return tr("writing programs ...");
        }
        // A long day does not fit here in minutes; the tape has them.
        return tr("%1, %2 %3")
            .arg(counted(static_cast<int>(d->programs.size()), "program"))
            .arg(d->seconds() / (longDay(*d) ? 3600 : 60), 0, 'f', longDay(*d) ? 1 : 0)
            .arg(longDay(*d) ? tr("h") : tr("min"));
    case Station::proof:
        if (sheet_.step() < 3) {
            return tr("proving ...");
        }
        if (!stops(d->findings) && !everythingProved(*d)) {
            return tr("nothing to prove");
        }
        return stops(d->findings)            ? counted(stops(d->findings), "stop")
               : sheet_.part() == Part::body ? tr("body, proved")
                                             : (neck ? tr("neck, proved") : tr("board, proved"));
    case Station::machine:
        return stale_ > 0
                   ? tr("%1 of %2 run, %3 stale").arg(done_).arg(d->programs.size()).arg(stale_)
                   : tr("%1 of %2 run").arg(done_).arg(d->programs.size());
    case Station::book:
        return tr("%1 logged").arg(counted(all_, "run"));
    }
    return {};
}

void RouteBand::paintEvent(QPaintEvent*) {
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    p.fillRect(rect(), colour::paper);
    const double y = 18;
    p.setPen(QPen(colour::ink, 1.4));
    p.drawLine(QPointF(stopX(0), y), QPointF(stopX(stationCount - 1), y));
    for (int i = 0; i < stationCount; ++i) {
        const auto s = static_cast<Station>(i);
        const bool here = s == sheet_.station();
        const Mark mark = markOf(s);
        const QPointF at(stopX(i), y);
        const QColor tone = here || mark == Mark::trouble ? colour::russet : colour::moss;
        p.setPen(QPen(mark == Mark::open || mark == Mark::busy ? colour::faded : tone, 2));
        p.setBrush(mark == Mark::done ? tone : colour::paper);
        const double r = here ? 8 : 6;
        if (mark == Mark::trouble) {
            p.drawPolygon(QPolygonF{at + QPointF(0, -r - 1), at + QPointF(r + 1, r - 1),
                                    at + QPointF(-r - 1, r - 1)});
        } else {
            p.drawEllipse(at, r, r);
        }
        if (here) {
            p.setBrush(Qt::NoBrush);
            p.setPen(QPen(colour::russet, 1.4));
            p.drawEllipse(at, r + 4, r + 4);
        }
        p.setPen(here ? colour::russet : colour::ink);
        p.setFont(words(15, true));
        // In a narrow window a long name is set smaller, clear of the next stop.
        const double room = (width() - 40.0) / stationCount - 36;
        for (double size = 14.5;
             size >= 11 && p.fontMetrics().horizontalAdvance(stationName(s)) > room; size -= 0.5) {
            p.setFont(words(size, true));
        }
        p.fillRect(
            QRectF(at.x() + 15, y - 11, p.fontMetrics().horizontalAdvance(stationName(s)) + 10, 22),
            colour::paper);
        p.drawText(QRectF(at.x() + 20, y - 12, 160, 24), Qt::AlignVCenter, stationName(s));
        p.setFont(words(12.5));
        p.setPen(mark == Mark::trouble ? colour::russet : colour::faded);
        const QRectF told(at.x() + 20, y + 12, (width() - 40.0) / stationCount - 20, 20);
        p.drawText(told, Qt::AlignVCenter,
                   p.fontMetrics().elidedText(tellingOf(s), Qt::ElideRight,
                                              static_cast<int>(told.width())));
    }
    if (hasFocus()) {
        p.setPen(QPen(colour::russet, 1, Qt::DashLine));
        p.setBrush(Qt::NoBrush);
        p.drawRect(QRectF(rect()).adjusted(4, 1, -4, -1));
    }
}

void RouteBand::mousePressEvent(QMouseEvent* e) {
    const int i = static_cast<int>((e->position().x() - 8) / ((width() - 40.0) / stationCount));
    sheet_.setStation(static_cast<Station>(std::clamp(i, 0, stationCount - 1)));
}

void RouteBand::keyPressEvent(QKeyEvent* e) {
    const int step = e->key() == Qt::Key_Right ? 1 : (e->key() == Qt::Key_Left ? -1 : 0);
    if (step == 0) {
        QWidget::keyPressEvent(e);
        return;
    }
    const int i = std::clamp(static_cast<int>(sheet_.station()) + step, 0, stationCount - 1);
    sheet_.setStation(static_cast<Station>(i));
}

QAccessible::Role RouteBand::accessRole() const {
    return QAccessible::PageTabList;
}

QString RouteBand::accessValue() const {
    const auto word = [](Mark m) {
        return m == Mark::done      ? tr("done")
               : m == Mark::trouble ? tr("in trouble")
               : m == Mark::busy    ? tr("being worked out")
                                    : tr("open");
    };
    QStringList stops;
    for (int i = 0; i < stationCount; ++i) {
        const auto s = static_cast<Station>(i);
        stops << tr("%1%2, %3, %4")
                     .arg(s == sheet_.station() ? tr("here: ") : QString(), stationName(s),
                          word(markOf(s)), tellingOf(s));
    }
    return stops.join(QStringLiteral("; "));
}

} // namespace wren::app
