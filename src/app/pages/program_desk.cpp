#include "pages/program_desk.h"

#include "base/error.h"
#include "base/files.h"
#include "base/length.h"
#include "frame/choice.h"
#include "frame/headed.h"
#include "frame/text.h"
#include "frame/theme.h"
#include "state/background.h"

#include <QFileInfo>
#include <QHBoxLayout>
#include <QKeyEvent>
#include <QLabel>
#include <QPainter>
#include <QPushButton>
#include <QVBoxLayout>

#include <algorithm>

namespace wren::app {
namespace {

/// A way of lying as the choice shows it: "neck, face up".
QString wayOf(const PartJob& job, std::size_t side, std::size_t station) {
    return qs(job.name() + ", " + job.held.side(side).nameIn(station));
}

struct Way {
    const PartJob* job = nullptr;
    WhereRun where;
};

std::vector<Way> waysIn(const Derived& d) {
    std::vector<Way> out;
    for (const PartJob& job : d.parts) {
        for (std::size_t side = 0; job.placed && side < job.held.sides(); ++side) {
            const std::size_t n = job.held.side(side).stations.size();
            for (std::size_t k = 0; k < std::max<std::size_t>(1, n); ++k) {
                out.push_back({&job, {side, k}});
            }
        }
    }
    return out;
}

constexpr double heading = 66, foot = 190;

} // namespace

namespace {

/// A stretch of the path as it is drawn.
struct Stroke {
    Vec3 from, to;
    bool cuts = false;
};

/// The path in no more strokes than a picture can be made of at once: of a long one what lies
/// closer together than the eye tells apart is drawn in one.
std::vector<Stroke> strokesOf(const Path& path) {
    constexpr std::size_t most = 15000;
    std::vector<Stroke> all;
    for (const Move& m : path) {
        const int n = m.cuts() ? chordsFor(m, 0.1) : 1;
        for (int i = 0; i < n; ++i) {
            all.push_back({m.at(double(i) / n), m.at(double(i + 1) / n), m.cuts()});
        }
    }
    for (double close = 0.1; all.size() > most; close *= 2) {
        std::vector<Stroke> fewer;
        for (const Stroke& s : all) {
            const bool joins = !fewer.empty() && fewer.back().cuts == s.cuts &&
                               fewer.back().to == s.from &&
                               length(s.to - fewer.back().from) < close;
            if (joins) {
                fewer.back().to = s.to;
            } else {
                fewer.push_back(s);
            }
        }
        if (close > 50) { // nothing more is won
            fewer.resize(std::min(fewer.size(), most));
        }
        all = std::move(fewer);
    }
    return all;
}

int firstLine(const ProgramCheck& check) {
    int line = 0;
    for (const Finding& f : check.findings) {
        line = f.line > 0 && (line == 0 || f.line < line) ? f.line : line;
    }
    return line;
}

} // namespace

struct ProgramDesk::Outcome {
    ProgramCheck check;
    std::vector<Stroke> strokes;
    int line = 0;               ///< the first that something is found at
    std::optional<Vec3> marked; ///< where it leads
    Setup setup;
    std::vector<std::vector<Vec2>> outlines; ///< of the part, setup frame
    std::string trouble;
};

ProgramDesk::ProgramDesk(Sheet& sheet, QWidget* parent) : QWidget(parent), sheet_(sheet) {
    setFocusPolicy(Qt::StrongFocus);
    setAccessibleName(tr("A program from elsewhere"));
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(24, 14, 24, 12);
    title_ = new QLabel;
    title_->setFont(words(22, true));
    column->addWidget(title_);
    column->addStretch(1);
    auto* row = new QHBoxLayout;
    row->setSpacing(18);
    column->addLayout(row);
    setup_ = choiceButton(QStringLiteral("program.setup"),
                          tr("the wood it would be run on, and how that lies"), 300);
    bit_ = choiceButton(QStringLiteral("program.bit"),
                        tr("as the program's header names it, where it does"), 210);
    row->addLayout(headed(tr("laid on the blank of"), setup_));
    row->addLayout(headed(tr("run with the bit"), bit_));
    row->addStretch(1);
    told_ = new QLabel;
    told_->setFont(words(14));
    told_->setWordWrap(true);
    told_->setFixedHeight(84);
    told_->setAlignment(Qt::AlignTop | Qt::AlignLeft);
    column->addWidget(told_);
    auto* leave = new QPushButton(tr("Leave it (Escape)"));
    leave->setObjectName(QStringLiteral("word"));
    leave->setFont(words(14));
    auto* last = new QHBoxLayout;
    last->addWidget(leave);
    last->addStretch(1);
    column->addLayout(last);
    connect(leave, &QPushButton::clicked, this, &ProgramDesk::left);
    connect(setup_, &QPushButton::clicked, this, &ProgramDesk::chooseSetup);
    connect(bit_, &QPushButton::clicked, this, &ProgramDesk::chooseBit);
}

void ProgramDesk::chooseSetup() {
    QStringList all;
    if (const Derived* d = sheet_.derived()) {
        for (const Way& way : waysIn(*d)) {
            all << wayOf(*way.job, way.where.side, way.where.station);
        }
    }
    offer(setup_, all, [this] { run(); });
}

void ProgramDesk::chooseBit() {
    QStringList all;
    for (const Bit& bit : sheet_.project().bits) {
        all << qs(bit.name);
    }
    offer(bit_, all, [this] { run(); });
}

void ProgramDesk::open(const QString& file) {
    file_ = file;
    outcome_.reset();
    title_->setText(QFileInfo(file).fileName());
    try {
        constexpr qint64 most = 64 << 20;
        if (QFileInfo(file).size() > most) {
            throw Error(file.toStdString() + " is larger than 64 MB: a program was expected.");
        }
        text_ = readFile(file.toStdString());
    } catch (const Error& e) {
        text_.clear();
        Q_EMIT refused(QString::fromUtf8(e.what()));
        return;
    }
    const Derived* d = sheet_.derived();
    const std::vector<Way> ways = d ? waysIn(*d) : std::vector<Way>();
    if (ways.empty() || sheet_.project().bits.empty()) {
        Q_EMIT refused(tr("There is no blank in this project to lay a program on."));
        return;
    }
    const PartJob* inHand = sheet_.jobInHand();
    const auto own =
        std::find_if(ways.begin(), ways.end(), [&](const Way& way) { return way.job == inHand; });
    const Way& way = own == ways.end() ? ways.front() : *own;
    putOn(setup_, wayOf(*way.job, way.where.side, way.where.station));
    const Bit* bit = bitInHeader(text_, sheet_.project().bits);
    putOn(bit_, qs((bit ? *bit : sheet_.project().bits.front()).name));
    run();
}

void ProgramDesk::run() {
    const DerivedPtr d = sheet_.derivedPtr();
    if (!d || text_.empty()) {
        return;
    }
    Way chosen;
    for (const Way& way : waysIn(*d)) {
        if (wayOf(*way.job, way.where.side, way.where.station) == wordOn(setup_)) {
            chosen = way;
        }
    }
    const Bit* bit = findBit(d->project.bits, wordOn(bit_).toStdString());
    if (!chosen.job || !bit) {
        return;
    }
    stop_.request_stop();
    stop_ = std::stop_source();
    told_->setText(tr("It is being run…"));
    const auto work = [d, chosen, bit = *bit, text = text_, stop = stop_.get_token(),
                       name = QFileInfo(file_).fileName().toStdString()] {
        auto out = std::make_shared<Outcome>();
        try {
            const PartJob& job = *chosen.job;
            out->setup = job.held.side(chosen.where.side);
            Program program;
            program.file = name;
            program.bit = bit;
            program.text = text;
            program.station = chosen.where.station;
            program.zero = out->setup.zeroOf(chosen.where.station);
            const RunProgram read = readBack({program}, out->setup).front();
            out->strokes = strokesOf(read.path);
            for (const SetupFromInstrument& place : out->setup.places) {
                out->outlines.emplace_back();
                for (Vec2 p : pointsOf(outlineOf(*d, job), 0.2)) {
                    out->outlines.back().push_back(place.toSetup({p.x, p.y, 0}).xy());
                }
            }
            out->check = checkOnPart(*d, job, chosen.where, text, name, bit, stop);
            out->line = firstLine(out->check);
            for (const Move& m : read.path) {
                if (out->line > 0 && m.line == out->line && !out->marked) {
                    out->marked = m.to;
                }
            }
        } catch (const Cancelled&) {
            return std::shared_ptr<const Outcome>();
        } catch (const Error& e) {
            out->trouble = e.what();
        }
        return std::shared_ptr<const Outcome>(out);
    };
    inBackground(this, work, [this, wish = ++wish_](const std::shared_ptr<const Outcome>& outcome) {
        if (wish == wish_ && outcome) {
            show(outcome);
        }
    });
}

void ProgramDesk::show(const std::shared_ptr<const Outcome>& outcome) {
    outcome_ = outcome;
    QStringList lines;
    if (!outcome->trouble.empty()) {
        lines << app::told(outcome->trouble, sheet_.unit());
    } else {
        const ProgramCheck& c = outcome->check;
        const auto size = [this](double mm) { return qs(formatLength(mm, sheet_.unit(), 1)); };
        lines << tr("%1 lines; %2 of cutting, %3 of rapids, %4 minutes without acceleration; down "
                    "to Z %5.")
                     .arg(c.lines)
                     .arg(size(c.cutLength), size(c.rapidLength))
                     .arg(c.secondsPlain / 60, 0, 'f', 1)
                     .arg(size(c.extents[0].z));
        for (const Finding& f : c.findings) {
            lines << app::told(f.message, sheet_.unit());
        }
        if (c.findings.empty()) {
            lines << tr(
                "It takes nothing off the part, stays within the machine's travel and meets "
                "no clamp.");
        }
    }
    told_->setText(lines.join(QLatin1Char('\n')));
    update();
    Q_EMIT ready();
}

QString ProgramDesk::told() const {
    return told_->text();
}

void ProgramDesk::keyPressEvent(QKeyEvent* e) {
    if (e->key() == Qt::Key_Escape) {
        stop_.request_stop();
        Q_EMIT left();
        return;
    }
    QWidget::keyPressEvent(e);
}

void ProgramDesk::paintEvent(QPaintEvent*) {
    QPainter p(this);
    p.fillRect(rect(), colour::sheet);
    if (!outcome_ || outcome_->strokes.empty()) {
        return;
    }
    const double density = devicePixelRatioF();
    if (drawnOf_ != outcome_ || drawn_.size() != size() * density) {
        drawn_ = QPixmap(size() * density);
        drawn_.setDevicePixelRatio(density);
        drawn_.fill(colour::sheet);
        QPainter picture(&drawn_);
        picture.setRenderHint(QPainter::Antialiasing);
        const QRectF area(24, heading, width() - 48.0, height() - heading - foot);
        const double side = std::min(110.0, area.height() * 0.3);
        drawPlan(picture, area.adjusted(0, 0, 0, -side - 12));
        drawSide(picture, QRectF(area.left(), area.bottom() - side, area.width(), side));
        drawnOf_ = outcome_;
    }
    p.drawPixmap(0, 0, drawn_);
}

namespace {

/// Feeds strong, rapids dotted; where a line leads marked.
template <typename At>
void drawStrokes(QPainter& p, const std::vector<Stroke>& strokes, At at) {
    QVector<QLineF> cuts, rapids;
    for (const Stroke& s : strokes) {
        (s.cuts ? cuts : rapids).push_back(QLineF(at(s.from), at(s.to)));
    }
    p.setPen(QPen(colour::faded, 0.6, Qt::DotLine));
    p.drawLines(rapids);
    p.setPen(QPen(colour::slate, 0.9));
    p.drawLines(cuts);
}

void drawMark(QPainter& p, QPointF at, int line) {
    p.setPen(QPen(colour::russet, 2));
    p.setBrush(Qt::NoBrush);
    p.drawEllipse(at, 8, 8);
    p.setFont(figures(12, true));
    p.drawText(at + QPointF(12, -6), ProgramDesk::tr("line %1").arg(line));
}

} // namespace

void ProgramDesk::drawPlan(QPainter& p, const QRectF& area) const {
    const Blank& b = outcome_->setup.blank;
    const double k = std::min(area.width() / b.length, area.height() / b.width) * 0.94;
    const QPointF corner(area.left() + (area.width() - b.length * k) / 2,
                         area.bottom() - (area.height() - b.width * k) / 2);
    const auto at = [&](Vec3 s) { return corner + QPointF(s.x * k, -s.y * k); };
    p.save();
    p.setClipRect(area.adjusted(0, -20, 0, 4)); // a marked line's name stands over it
    p.setPen(QPen(colour::ink, 1.2));
    p.setBrush(colour::wood);
    p.drawRect(QRectF(at({0, b.width, 0}), at({b.length, 0, 0})));
    p.setBrush(Qt::NoBrush);
    p.setPen(QPen(colour::moss, 1.6));
    for (const auto& outline : outcome_->outlines) {
        QPolygonF drawn;
        for (Vec2 q : outline) {
            drawn << at({q.x, q.y, 0});
        }
        p.drawPolygon(drawn);
    }
    drawStrokes(p, outcome_->strokes, at);
    if (outcome_->marked) {
        drawMark(p, at(*outcome_->marked), outcome_->line);
    }
    p.restore();
}

void ProgramDesk::drawSide(QPainter& p, const QRectF& area) const {
    const Setup& s = outcome_->setup;
    const Blank& b = s.blank;
    const double k = area.width() / b.length * 0.94;
    constexpr double over = 12; // mm shown above the blank
    const double tall = b.thickness + over + 2;
    const double kz = area.height() / tall;
    const QPointF corner(area.left() + (area.width() - b.length * k) / 2, area.bottom());
    const auto at = [&](Vec3 v) {
        return corner + QPointF(v.x * k, -(v.z - s.bottomZ() + 2) * kz);
    };
    p.save();
    p.setClipRect(area);
    p.setPen(QPen(colour::ink, 1.2));
    p.setBrush(colour::wood);
    p.drawRect(QRectF(at({0, 0, s.topZ()}), at({b.length, 0, s.bottomZ()})));
    drawStrokes(p, outcome_->strokes, at);
    if (outcome_->marked) {
        drawMark(p, at(*outcome_->marked), outcome_->line);
    }
    p.restore();
    p.setFont(words(12));
    p.setPen(colour::faded);
    p.drawText(QPointF(area.left(), area.top() - 2),
               tr("from the front, heights ×%1").arg(kz / k, 0, 'f', 1));
}

} // namespace wren::app
