#include "tracing/import_desk.h"

#include "base/error.h"
#include "base/length.h"
#include "frame/choice.h"
#include "frame/headed.h"
#include "frame/text.h"
#include "frame/theme.h"
#include "state/background.h"

#include <QFileDialog>
#include <QHBoxLayout>
#include <QKeyEvent>
#include <QLabel>
#include <QLineEdit>
#include <QMouseEvent>
#include <QPainter>
#include <QPushButton>
#include <QVBoxLayout>

#include <algorithm>

namespace wren::app {
namespace {

const QString everyLayer = QStringLiteral("all");
const QString asItSays = QStringLiteral("as it says");
const QString twoPoints = QStringLiteral("two points");

} // namespace

ImportDesk::ImportDesk(Document& document, QWidget* parent) : QWidget(parent), document_(document) {
    setFocusPolicy(Qt::StrongFocus);
    setAccessibleName(tr("Bringing an outline in"));
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(24, 14, 24, 12);
    auto* title = new QLabel(tr("An outline from a drawing"));
    title->setFont(words(22, true));
    column->addWidget(title);
    column->addStretch(1);
    auto* row = new QHBoxLayout;
    row->setObjectName(QStringLiteral("row"));
    row->setSpacing(18);
    column->addLayout(row);
    for_ = choice(tr("it becomes"), QStringLiteral("import.for"), tr("what it outlines"), 190);
    layer_ = choice(tr("layer, or colour"), QStringLiteral("import.layer"),
                    tr("only what is drawn on it"), 190);
    unit_ = choice(tr("one unit is"), QStringLiteral("import.unit"),
                   tr("where the drawing does not say, or says it wrong"), 150);
    tolerance_ = new QLineEdit(QStringLiteral("0.05 mm"));
    tolerance_->setObjectName(QStringLiteral("import.tolerance"));
    tolerance_->setFont(figures(15));
    tolerance_->setFixedWidth(110);
    tolerance_->setToolTip(tr("how far lines and arcs may lie off the drawing's points"));
    row->addLayout(headed(tr("curves within"), tolerance_));
    apart_ = new QLineEdit;
    apart_->setObjectName(QStringLiteral("import.apart"));
    apart_->setFont(figures(15));
    apart_->setFixedWidth(110);
    apart_->setPlaceholderText(tr("250 mm"));
    apart_->setToolTip(tr("one unit is two points: click them in the drawing, then type how far "
                          "they really are apart"));
    row->addLayout(headed(tr("points apart"), apart_));
    row->addStretch(1);
    told_ = new QLabel;
    told_->setFont(words(14));
    told_->setWordWrap(true);
    told_->setMinimumHeight(42);
    column->addWidget(told_);
    auto* foot = new QHBoxLayout;
    auto* file = new QPushButton(tr("Open a drawing"));
    file->setObjectName(QStringLiteral("word"));
    take_ = new QPushButton(tr("Take it (Return)"));
    take_->setObjectName(QStringLiteral("deed"));
    auto* leave = new QPushButton(tr("Leave it (Escape)"));
    leave->setObjectName(QStringLiteral("word"));
    for (QPushButton* b : {file, take_, leave}) {
        b->setFont(words(14, b == take_));
        foot->addWidget(b);
    }
    foot->addStretch(1);
    column->addLayout(foot);
    connect(file, &QPushButton::clicked, this, &ImportDesk::askFile);
    connect(take_, &QPushButton::clicked, this, &ImportDesk::take);
    connect(leave, &QPushButton::clicked, this, &ImportDesk::left);
    for (QLineEdit* edit : {tolerance_, apart_}) {
        connect(edit, &QLineEdit::returnPressed, this, &ImportDesk::trace);
        connect(edit, &QLineEdit::editingFinished, this, &ImportDesk::trace);
    }
    connect(for_, &QPushButton::clicked, this, [this] {
        offer(for_, {tr("body's outline"), tr("cavity in its back"), tr("headstock")},
              [this] { trace(); });
    });
    connect(unit_, &QPushButton::clicked, this, [this] {
        offer(unit_, {asItSays, QStringLiteral("mm"), QStringLiteral("in"), twoPoints},
              [this] { trace(); });
    });
    connect(layer_, &QPushButton::clicked, this, [this] {
        QStringList all{everyLayer};
        for (const std::string& l :
             outcome_ ? outcome_->drawing.layers() : std::vector<std::string>{}) {
            all << qs(l);
        }
        offer(layer_, all, [this] { trace(); });
    });
    start();
}

QPushButton* ImportDesk::choice(const QString& label, const QString& name, const QString& tip,
                                int width) {
    QPushButton* button = choiceButton(name, tip, width);
    findChild<QHBoxLayout*>(QStringLiteral("row"))->addLayout(headed(label, button));
    return button;
}

void ImportDesk::start() {
    file_.clear();
    outcome_.reset();
    ++wish_;
    putOn(for_, tr("body's outline"));
    putOn(layer_, everyLayer);
    putOn(unit_, asItSays);
    tell();
    setFocus();
}

void ImportDesk::askFile() {
    const QString file = QFileDialog::getOpenFileName(this, tr("A drawing with an outline"), {},
                                                      tr("Drawings (*.svg *.dxf *.pdf)"));
    if (!file.isEmpty()) {
        open(file);
    }
}

void ImportDesk::open(const QString& file) {
    file_ = file;
    marks_.clear();
    putOn(layer_, everyLayer);
    putOn(unit_, asItSays);
    trace();
}

void ImportDesk::trace() {
    if (file_.isEmpty()) {
        return;
    }
    Tracing tracing;
    if (wordOn(layer_) != everyLayer) {
        tracing.layer = wordOn(layer_).toStdString();
    }
    if (wordOn(unit_) != asItSays && !measuring()) {
        tracing.unit = wordOn(unit_) == QLatin1String("in") ? mmPerInch : 1;
    }
    try {
        if (measuring()) {
            tracing.unit = measuredUnit();
            if (!tracing.unit) {
                tell();
                return;
            }
        }
        tracing.tolerance = parseLength(tolerance_->text().toStdString(), document_.unit());
        if (tracing.tolerance < 0.001 || tracing.tolerance > 2) {
            throw Error("Curves may lie 0.001 to 2 mm off the drawing.");
        }
    } catch (const Error& e) {
        Q_EMIT refused(QString::fromUtf8(e.what()));
        return;
    }
    const OutlineFor what = wordOn(for_) == tr("body's outline") ? OutlineFor::body
                            : wordOn(for_) == tr("headstock")    ? OutlineFor::headstock
                                                                 : OutlineFor::cavity;
    const int wish = ++wish_;
    told_->setText(tr("Reading the drawing ..."));
    inBackground(
        this,
        [file = file_.toStdString(), tracing, what, project = document_.project()] {
            auto out = std::make_shared<Outcome>();
            try {
                out->drawing = readDrawing(file);
                out->outline = importOutline(project, out->drawing, tracing, what);
            } catch (const Error& e) {
                out->trouble = QString::fromUtf8(e.what());
            }
            return out;
        },
        [this, wish](std::shared_ptr<const Outcome> outcome) {
            if (wish == wish_) {
                outcome_ = std::move(outcome);
                tell();
                Q_EMIT ready();
            }
        });
}

void ImportDesk::tell() {
    take_->setEnabled(canTake());
    if (!measured() && outcome_) {
        told_->setText(marks_.size() < 2
                           ? tr("Click two places of the drawing whose distance you know; the "
                                "nearest end of a curve is taken.")
                           : tr("Type how far the two places really are apart."));
    } else if (!outcome_) {
        told_->setText(tr("SVG, DXF, or the first page of a PDF. Its curves come in as they are; "
                          "strings of short lines become lines, arcs and circles again."));
    } else if (!outcome_->outline) {
        told_->setText(outcome_->trouble);
    } else {
        const OutlineImport& in = *outcome_->outline;
        QString text = tr("%1 and %2, within %3 of the drawing's points; %4 gaps joined, %5 "
                          "doubles dropped. %6")
                           .arg(counted(in.lines, "line"))
                           .arg(counted(in.arcs, "arc"))
                           .arg(qs(fmt::format("{:.3f} mm", in.deviation)))
                           .arg(in.joined)
                           .arg(in.doubled)
                           .arg(qs(in.placed));
        if (!in.skipped.empty()) {
            text += tr(" Left out: %1.").arg(qs(fmt::format("{}", fmt::join(in.skipped, ", "))));
        }
        told_->setText(text);
    }
    update();
}

void ImportDesk::take() {
    if (!canTake()) {
        return;
    }
    // Only the outline is taken: the document may have moved on while this page lay open.
    const Project& from = outcome_->outline->project;
    const bool body = wordOn(for_) == tr("body's outline");
    Project next = document_.project();
    if (wordOn(for_) == tr("headstock")) {
        next.neck.head.nodes = from.neck.head.nodes;
        document_.change(next, tr("the headstock's outline from a drawing"));
        Q_EMIT taken(tr("The headstock has the drawing's outline."));
        return;
    }
    if (body) {
        next.body.nodes = from.body.nodes;
        next.body.mirror = false;
        next.body.build = next.wantsBody() ? next.body.build : from.body.build;
    } else {
        next.body.cavity.nodes = from.body.cavity.nodes;
    }
    document_.change(next, body ? tr("the body's outline from a drawing")
                                : tr("the cavity's outline from a drawing"));
    Q_EMIT taken(body ? tr("The body has the drawing's outline.")
                      : tr("The cavity has the drawing's outline."));
}

QRectF ImportDesk::canvas() const {
    return QRectF(24, 56, width() - 48, height() - 56 - 178.0);
}

bool ImportDesk::canTake() const {
    return outcome_ && outcome_->outline.has_value() && measured();
}

bool ImportDesk::measured() const {
    return !measuring() || (marks_.size() == 2 && !apart_->text().trimmed().isEmpty());
}

void ImportDesk::scaleByPoints() {
    marks_.clear();
    putOn(unit_, twoPoints);
    trace();
}

QPointF ImportDesk::pageAt(Vec2 drawing) const {
    const double unit = millimetres();
    return lie().at({drawing.x * unit, -drawing.y * unit});
}

bool ImportDesk::measuring() const {
    return wordOn(unit_) == twoPoints;
}

std::optional<double> ImportDesk::measuredUnit() const {
    if (!measured() || marks_.size() < 2) {
        return {};
    }
    return unitBetween(marks_[0], marks_[1],
                       parseLength(apart_->text().toStdString(), document_.unit()));
}

Vec2 ImportDesk::snapped(QPointF place) const {
    const double unit = millimetres();
    const QPointF mm = lie().mm(place);
    const Vec2 p{mm.x() / unit, -mm.y() / unit};
    Vec2 best = p;
    double nearest = 1e18;
    for (const DrawnLine& l : outcome_->drawing.lines) {
        for (const ContourPiece& piece : l.pieces) {
            for (Vec2 end : {piece.from, piece.to}) {
                if (length(end - p) < nearest) {
                    nearest = length(end - p);
                    best = end;
                }
            }
        }
    }
    return best;
}

void ImportDesk::mousePressEvent(QMouseEvent* e) {
    if (!measuring() || !outcome_ || !canvas().contains(e->position())) {
        return;
    }
    if (marks_.size() == 2) {
        marks_.clear();
    }
    marks_.push_back(snapped(e->position()));
    if (marks_.size() == 2) {
        apart_->setFocus();
    }
    trace();
}

ImportDesk::Lie ImportDesk::lie() const {
    const double unit = millimetres();
    QRectF box;
    for (const DrawnLine& l : outcome_->drawing.lines) {
        QPolygonF line;
        for (Vec2 q : pointsOf(l.pieces, 0.1 / unit)) {
            line << QPointF(q.x * unit, -q.y * unit);
        }
        line << QPointF(l.pieces.back().to.x * unit, -l.pieces.back().to.y * unit);
        box = box.united(line.boundingRect());
    }
    const QRectF area = canvas();
    return {area.center(), box.center(),
            std::min((area.width() - 40) / std::max(1e-6, box.width()),
                     (area.height() - 30) / std::max(1e-6, box.height()))};
}

double ImportDesk::millimetres() const {
    if (measuring()) {
        try {
            return measuredUnit().value_or(outcome_->drawing.unit.value_or(1));
        } catch (const Error&) {
            return outcome_->drawing.unit.value_or(1);
        }
    }
    if (wordOn(unit_) == QLatin1String("in")) {
        return mmPerInch;
    }
    return wordOn(unit_) == QLatin1String("mm") ? 1 : outcome_->drawing.unit.value_or(1);
}

void ImportDesk::keyPressEvent(QKeyEvent* e) {
    if (e->key() == Qt::Key_Escape) {
        Q_EMIT left();
    } else if (e->key() == Qt::Key_Return || e->key() == Qt::Key_Enter) {
        take();
    } else {
        QWidget::keyPressEvent(e);
    }
}

} // namespace wren::app
