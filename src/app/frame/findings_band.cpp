#include "frame/findings_band.h"

#include "frame/text.h"
#include "frame/theme.h"

#include <QHBoxLayout>
#include <QMenu>
#include <QPainter>
#include <QPushButton>

#include <algorithm>

namespace wren::app {
namespace {

QColor toneOf(Weight w) {
    return w == Weight::stop ? colour::russet
                             : (w == Weight::caution ? colour::ochre : colour::slate);
}

QString wordOf(Weight w) {
    switch (w) {
    case Weight::stop:
        return QObject::tr("Stop");
    case Weight::caution:
        return QObject::tr("Caution");
    case Weight::note:
        return QObject::tr("Note");
    }
    return {};
}

/// Stop: an octagon. Caution: a triangle. Note: a circle. Told apart without colour.
void drawSign(QPainter& p, QPointF at, Weight w) {
    p.setPen(QPen(toneOf(w), 2));
    p.setBrush(w == Weight::stop ? QBrush(toneOf(w)) : QBrush(Qt::NoBrush));
    if (w == Weight::caution) {
        p.drawPolygon(QPolygonF{at + QPointF(0, -10), at + QPointF(11, 9), at + QPointF(-11, 9)});
    } else if (w == Weight::stop) {
        const double a = 10;
        const double b = 4.2;
        p.drawPolygon(QPolygonF{at + QPointF(-b, -a), at + QPointF(b, -a), at + QPointF(a, -b),
                                at + QPointF(a, b), at + QPointF(b, a), at + QPointF(-b, a),
                                at + QPointF(-a, b), at + QPointF(-a, -b)});
    } else {
        p.drawEllipse(at, 9, 9);
    }
}

} // namespace

FindingsBand::FindingsBand(Sheet& sheet, QWidget* parent) : QWidget(parent), sheet_(sheet) {
    setFixedHeight(52);
    setAccessibleName(tr("Findings"));
    const auto button = [this](const QString& text, const QString& tip) {
        auto* b = new QPushButton(text, this);
        b->setObjectName(QStringLiteral("word"));
        b->setToolTip(tip);
        b->setFont(words(13, true));
        return b;
    };
    previous_ = button(tr("\u2039 before"), tr("the finding before (Page Up)"));
    next_ = button(tr("after \u203A"), tr("the next finding (Page Down)"));
    place_ = button(tr("show its place"), tr("put the cursor there (F8)"));
    cure_ = button(QString(), tr("a change that does away with it; undo takes it back"));
    connect(cure_, &QPushButton::clicked, this, &FindingsBand::cure);
    stop_ = button(tr("stop it"), tr("nothing is written then"));
    connect(stop_, &QPushButton::clicked, this, &FindingsBand::stopWanted);
    connect(&sheet_.document(), &Document::unitChanged, this, &FindingsBand::refresh);
    auto* row = new QHBoxLayout(this);
    row->setContentsMargins(0, 0, 14, 0);
    row->addStretch(1);
    row->addWidget(stop_);
    row->addWidget(cure_);
    row->addWidget(place_);
    row->addWidget(previous_);
    row->addWidget(next_);
    connect(previous_, &QPushButton::clicked, this, [this] { step(-1); });
    connect(next_, &QPushButton::clicked, this, [this] { step(1); });
    connect(place_, &QPushButton::clicked, this, &FindingsBand::goThere);
    connect(&sheet_, &Sheet::derivedChanged, this, [this] {
        index_ = 0;
        refresh();
    });
    refresh();
}

void FindingsBand::goThere() {
    const Derived* d = sheet_.derived();
    if (!d || index_ >= d->findings.size()) {
        return;
    }
    const Finding& f = d->findings[index_];
    if (f.feature) {
        Q_EMIT showThing(QString::fromStdString(pathOf(f.feature)));
    }
    if (f.atX) {
        Q_EMIT showPlace(*f.atX);
    }
}

/// The nearest cure at once where there is one; of several, the maker chooses.
void FindingsBand::cure() {
    const Derived* d = sheet_.derived();
    if (!d || index_ >= d->findings.size()) {
        return;
    }
    const std::vector<Cure> cures = curesFor(*d, d->findings[index_]);
    if (cures.size() == 1) {
        Q_EMIT cureWanted(cures.front());
        return;
    }
    QMenu menu(this);
    menu.setFont(words(14));
    for (const Cure& c : cures) {
        menu.addAction(told(c.label, sheet_.unit()), [this, c] { Q_EMIT cureWanted(c); });
    }
    menu.exec(cure_->mapToGlobal(QPoint(0, -menu.sizeHint().height())));
}

void FindingsBand::refuse(const QString& sentence) {
    refusal_ = sentence;
    refresh();
}

void FindingsBand::tell(const QString& sentence) {
    refusal_.clear();
    news_ = sentence;
    refresh();
}

void FindingsBand::clear() {
    refusal_.clear();
    news_.clear();
    refresh();
}

void FindingsBand::begin(const QString& what) {
    refusal_.clear();
    news_.clear();
    busy_ = what;
    percent_ = 0;
    refresh();
}

void FindingsBand::progress(int percent) {
    percent_ = percent;
    update();
}

void FindingsBand::end() {
    busy_.clear();
    refresh();
}

void FindingsBand::step(int direction) {
    const Derived* d = sheet_.derived();
    if (d && !d->findings.empty()) {
        const auto n = static_cast<int>(d->findings.size());
        index_ = static_cast<std::size_t>((static_cast<int>(index_) + direction + n) % n);
        refusal_.clear();
        news_.clear();
        refresh();
    }
}

void FindingsBand::refresh() {
    const Derived* d = sheet_.derived();
    const bool any = d && !d->findings.empty() && refusal_.isEmpty() && busy_.isEmpty();
    stop_->setVisible(!busy_.isEmpty());
    const Finding* f = any && index_ < d->findings.size() ? &d->findings[index_] : nullptr;
    place_->setVisible(f && (f->atX || f->feature));
    const std::vector<Cure> cures = f ? curesFor(*d, *f) : std::vector<Cure>{};
    cure_->setVisible(!cures.empty());
    cure_->setText(cures.size() == 1 ? told(cures.front().label, sheet_.unit())
                                     : tr("What helps ..."));
    previous_->setVisible(any && d->findings.size() > 1);
    next_->setVisible(any && d->findings.size() > 1);
    // The band shows one line; the whole sentence is in its tool tip.
    const bool newsFirst = !news_.isEmpty() && !(d && hasStop(d->findings));
    setToolTip(
        !refusal_.isEmpty() ? refusal_
        : !busy_.isEmpty()  ? busy_
        : any && !newsFirst
            ? told(d->findings[std::min(index_, d->findings.size() - 1)].message, sheet_.unit())
            : news_);
    update();
}

/// What the words in the foot leave.
double FindingsBand::roomForWords() const {
    int left = width();
    for (const QPushButton* b : {stop_, cure_, place_, previous_, next_}) {
        left = b->isVisible() ? std::min(left, b->x()) : left;
    }
    return left - 56 - 12;
}

void FindingsBand::paintEvent(QPaintEvent*) {
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    p.fillRect(rect(), QColor(0xE8, 0xE0, 0xCC));
    const Derived* d = sheet_.derived();
    const QRectF text(56, 4, roomForWords(), 26);
    const QRectF below(56, 27, roomForWords(), 20);
    const auto say = [&](const QString& word, const QColor& tone, const QString& sentence,
                         const QString& second) {
        p.setFont(words(14, true));
        p.setPen(tone);
        p.drawText(text, Qt::AlignVCenter, word);
        const double w = p.fontMetrics().horizontalAdvance(word) + 10;
        p.setFont(words(14));
        p.setPen(colour::ink);
        const QRectF rest = text.adjusted(w, 0, 0, 0);
        p.drawText(
            rest, Qt::AlignVCenter,
            p.fontMetrics().elidedText(sentence, Qt::ElideRight, static_cast<int>(rest.width())));
        p.setFont(words(12.5));
        p.setPen(colour::faded);
        p.drawText(below, Qt::AlignVCenter, second);
    };
    if (!busy_.isEmpty()) {
        p.setPen(QPen(colour::ink, 1));
        p.setBrush(Qt::NoBrush);
        p.drawRect(QRectF(16, 18, 28, 14));
        p.fillRect(QRectF(18, 20, 24 * percent_ / 100.0, 10), colour::moss);
        say(tr("Under way"), colour::moss, busy_,
            percent_ > 0 ? tr("%1 % of the solid is done").arg(percent_) : QString());
        return;
    }
    if (!refusal_.isEmpty()) {
        drawSign(p, {30, 26}, Weight::caution);
        say(tr("Not taken"), colour::russet, refusal_,
            tr("The number before still holds. Escape "
               "puts it back."));
        return;
    }
    if (!d || sheet_.step() < 3) {
        p.setFont(words(14));
        p.setPen(colour::faded);
        p.drawText(text, Qt::AlignVCenter, tr("Deriving ..."));
        return;
    }
    int counts[3] = {0, 0, 0};
    for (const Finding& f : d->findings) {
        ++counts[static_cast<int>(f.weight)];
    }
    const QString tally = QStringList{counted(counts[0], "stop"), counted(counts[1], "caution"),
                                      counted(counts[2], "note")}
                              .join(QStringLiteral(", "));
    if (d->findings.empty() || (!news_.isEmpty() && counts[0] == 0)) {
        drawSign(p, {30, 26}, Weight::note);
        say(news_.isEmpty() ? tr("Nothing in the way.") : tr("Done."), colour::moss,
            news_.isEmpty() ? tr("Eye and ear protection, extraction on, a hand at the stop: watch "
                                 "an air pass first.")
                            : news_,
            tally);
        return;
    }
    const Finding& f = d->findings[std::min(index_, d->findings.size() - 1)];
    drawSign(p, {30, 26}, f.weight);
    const QString sentence = told(f.message, sheet_.unit());
    say(wordOf(f.weight), toneOf(f.weight), sentence,
        tr("%1 of %2: %3").arg(index_ + 1).arg(d->findings.size()).arg(tally));
}

} // namespace wren::app
