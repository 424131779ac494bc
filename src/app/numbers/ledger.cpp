#include "numbers/ledger.h"

#include "base/error.h"
#include "frame/elided_label.h"
#include "frame/text.h"
#include "frame/theme.h"
#include "job/own_woods.h"
#include "numbers/value_field.h"

#include <QApplication>
#include <QGridLayout>
#include <QHBoxLayout>
#include <QLabel>
#include <QPushButton>
#include <QScrollArea>
#include <QScrollBar>
#include <QVBoxLayout>

namespace wren::app {
namespace {

constexpr int leastHeight = 214;
constexpr int aroundLeaf = 40;       ///< the leaves' names, margins
constexpr int leastOverLedger = 486; ///< of a window: header, route, drawing, tape, findings

} // namespace

Ledger::Ledger(Sheet& sheet, QWidget* parent) : QWidget(parent), sheet_(sheet) {
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(14, 6, 14, 4);
    column->setSpacing(2);
    // A leaf wider or taller than there is room for is pushed; a field that takes the focus shows.
    sideways_ = new QScrollArea(this);
    sideways_->setObjectName(QStringLiteral("leaf"));
    sideways_->setFrameShape(QFrame::NoFrame);
    sideways_->setWidgetResizable(true);
    sideways_->setFocusPolicy(Qt::NoFocus);
    // A leaf takes its room in several turns, each of which may move the field in hand out of sight
    // again: it is shown once they have all been taken.
    showing_.setSingleShot(true);
    connect(&showing_, &QTimer::timeout, this, &Ledger::showFocused);
    const auto showSoon = [this] { showing_.start(0); };
    connect(qApp, &QApplication::focusChanged, this, [this, showSoon] {
        showFocused();
        showSoon();
    });
    for (const QScrollBar* bar :
         {sideways_->horizontalScrollBar(), sideways_->verticalScrollBar()}) {
        connect(bar, &QScrollBar::rangeChanged, this, showSoon);
    }
    column->addWidget(sideways_, 1);
    auto* foot = new QHBoxLayout;
    foot->setSpacing(4);
    names_ = new QHBoxLayout;
    names_->setSpacing(0);
    foot->addLayout(names_);
    foot_ = new ElidedLabel(this);
    foot_->setFont(words(12.5));
    foot_->setMinimumSize(1, 20);
    foot->addWidget(foot_, 1);
    column->addLayout(foot);
    setFixedHeight(leastHeight);
    // A leaf of thirty fields takes some 20 ms to build: in a turn of its own, once for all
    // reasons.
    rebuilding_.setSingleShot(true);
    connect(&rebuilding_, &QTimer::timeout, this, &Ledger::rebuild);
    const auto rebuildSoon = [this] { rebuilding_.start(0); };
    connect(&sheet_, &Sheet::stationChanged, this, rebuildSoon);
    connect(&sheet_, &Sheet::partChanged, this, rebuildSoon);
    connect(&sheet_, &Sheet::leafChanged, this, rebuildSoon);
    connect(&sheet_, &Sheet::takenChanged, this, rebuildSoon);
    connect(&sheet_, &Sheet::bitChanged, this, [this, rebuildSoon] {
        if (sheet_.station() == Station::tools) {
            rebuildSoon();
        }
    });
    connect(&sheet_, &Sheet::derivedChanged, this, [this, rebuildSoon] {
        if (!(asks_ == asksFor(sheet_.document().project()))) {
            rebuildSoon();
        }
        refreshDerived();
    });
    connect(&sheet_.document(), &Document::unitChanged, this, &Ledger::refreshDerived);
    rebuild();
}

Ledger::Asks Ledger::asksFor(const Project& project) {
    Asks asks;
    for (const Bit& b : project.bits) {
        asks.bits << qs(b.name);
    }
    asks.gauges = project.board.gauges.size();
    asks.woods = ownWoodIds(project);
    asks.variants = project.variants;
    asks.follows = project.body.givesWay;
    asks.through = project.neck.joint == NeckJoint::through;
    asks.boards = project.sawing.boards.size();
    for (const Clamp& c : project.clamps) {
        asks.clamps.emplace_back(c.part, c.side);
    }
    for (const WoodMark& m : project.woodMarks) {
        asks.seen.emplace_back(m.part, int(m.kind));
    }
    for (const WoodPhoto& photo : project.woodPhotos) {
        asks.seen.emplace_back(photo.part, -1);
    }
    return asks;
}

std::vector<Ledger::Leaf> Ledger::leaves() const {
    if (sheet_.part() == Part::body) {
        switch (sheet_.station()) {
        case Station::blank:
            return {{tr("Body's wood, turning over"), &Ledger::leafBodyBlank},
                    {tr("Bed, clamps"), &Ledger::leafClamps},
                    {tr("Fixtures, templates"), &Ledger::leafShopBoards},
                    {tr("Batch"), &Ledger::leafBatch},
                    {tr("Photograph, knots"), &Ledger::leafWoodSeen}};
        case Station::cuts:
            return {{tr("Body's cuts"), &Ledger::leafBodyCuts},
                    {tr("Carving, floors, walls"), &Ledger::leafBodyHow},
                    {tr("Why these bits, face up"), &Ledger::leafPieceFace},
                    {tr("back up"), &Ledger::leafPieceBack}};
        case Station::proof:
            return {{tr("Proof"), &Ledger::leafBodyProof}, {tr("Programs"), &Ledger::leafPrograms}};
        default:
            break;
        }
    }
    if (sheet_.part() == Part::neck) {
        switch (sheet_.station()) {
        case Station::blank:
            return {{tr("Neck blank, turning over"), &Ledger::leafNeckBlank},
                    {tr("Bed, clamps"), &Ledger::leafClamps},
                    {tr("Batch"), &Ledger::leafBatch},
                    {tr("Photograph, knots"), &Ledger::leafWoodSeen}};
        case Station::cuts: {
            std::vector<Leaf> all{{tr("The back"), &Ledger::leafBackCuts},
                                  {tr("The front"), &Ledger::leafFaceCuts}};
            if (sheet_.document().project().carved()) {
                all.push_back({tr("The carved face"), &Ledger::leafCarvedCuts});
            }
            all.push_back({tr("Why these bits, face up"), &Ledger::leafFacePlan});
            all.push_back({tr("back up"), &Ledger::leafBackPlan});
            return all;
        }
        case Station::proof:
            return {{tr("Proof"), &Ledger::leafNeckProof}, {tr("Programs"), &Ledger::leafPrograms}};
        default:
            break;
        }
    }
    switch (sheet_.station()) {
    case Station::neck:
        return {{tr("Shaft and heel"), &Ledger::leafShaft},
                {tr("Headstock"), &Ledger::leafHead},
                {tr("Tuners"), &Ledger::leafTuners},
                {tr("Truss rod"), &Ledger::leafRod},
                {tr("Bolts, pins, nut, plate, scarf"), &Ledger::leafJoint}};
    case Station::body:
        return {{tr("Outline and wood"), &Ledger::leafBodyOutline},
                {tr("Edges, arch"), &Ledger::leafFaces},
                {tr("Neck pocket, bridge"), &Ledger::leafPocket},
                {tr("Cavity, lid"), &Ledger::leafCavity},
                {tr("Chambers, inlays"), &Ledger::leafHollows},
                {tr("As it came out"), &Ledger::leafMeasured}};
    case Station::whole:
        return {{tr("Strings, neck and bridge"), &Ledger::leafWhole},
                {tr("The string set"), &Ledger::leafStringSet},
                {tr("Weight and balance"), &Ledger::leafBalance},
                {tr("By hand"), &Ledger::leafByHand},
                {tr("Boards, woods, sled"), &Ledger::leafSawing},
                {tr("Variants"), &Ledger::leafVariants}};
    case Station::board:
        return {{tr("Shape"), &Ledger::leafShape},
                {tr("Slots and wire"), &Ledger::leafSlots},
                {tr("Markers"), &Ledger::leafMarkers},
                {tr("String gauges"), &Ledger::leafGauges}};
    case Station::blank:
        return {{tr("Blank"), &Ledger::leafBlank},
                {tr("Bed, clamps"), &Ledger::leafClamps},
                {tr("Batch"), &Ledger::leafBatch},
                {tr("Photograph, knots"), &Ledger::leafWoodSeen}};
    case Station::tools:
        return {{tr("The bit in hand"), &Ledger::leafBit}, {tr("The router"), &Ledger::leafRouter},
                {tr("Its controller"), &Ledger::leafController}};
    case Station::cuts:
        return {{tr("Radius, slots, outline"), &Ledger::leafMainCuts},
                {tr("The other cuts, tabs"), &Ledger::leafOtherCuts},
                {tr("Every bit for the radius"), &Ledger::leafChoices}};
    default:
        return {{tr("Proof"), &Ledger::leafProof}, {tr("Programs"), &Ledger::leafPrograms}};
    }
}

QStringList Ledger::leafNames() const {
    QStringList names;
    for (const Leaf& leaf : leaves()) {
        names << leaf.name;
    }
    return names;
}

void Ledger::turnLeaf(int direction) {
    const int n = static_cast<int>(leaves().size());
    sheet_.setLeaf((sheet_.leaf() + direction + n) % n);
}

void Ledger::rebuild() {
    derived_.clear();
    recipes_.clear();
    school_ = nullptr;
    asks_ = asksFor(sheet_.document().project());
    auto* fresh = new QWidget;
    columns_ = new QHBoxLayout(fresh);
    columns_->setContentsMargins(0, 0, 0, 0);
    columns_->setSpacing(18);
    const std::vector<Leaf> all = leaves();
    const auto open = std::min(static_cast<std::size_t>(sheet_.leaf()), all.size() - 1);
    fieldWidth_ = 112;
    (this->*(thingInHand().empty() ? all[open].build : &Ledger::leafThing))();
    if (QWidget* before = sideways_->takeWidget()) {
        before->hide();
        before->deleteLater();
    }
    sideways_->setWidget(fresh);
    fresh->installEventFilter(this);
    nameLeaves();
    explained_.clear();
    takeRoom();
    refreshDerived();
}

void Ledger::takeRoom() {
    if (!sideways_->widget()) {
        return;
    }
    const QSize leaf = sideways_->widget()->minimumSizeHint();
    const bool pushed = leaf.width() > width() - 28;
    const int wanted = leaf.height() + aroundLeaf + (pushed ? 8 : 0);
    const int most = std::max(leastHeight, window()->height() - leastOverLedger);
    setFixedHeight(std::clamp(wanted, leastHeight, most));
}

bool Ledger::eventFilter(QObject* watched, QEvent* event) {
    if (watched == sideways_->widget()) {
        if (event->type() == QEvent::LayoutRequest) {
            takeRoom(); // something told on the leaf has become longer
        }
        if (event->type() == QEvent::LayoutRequest || event->type() == QEvent::Resize) {
            showing_.start(0); // and has moved the others
        }
    }
    return QWidget::eventFilter(watched, event);
}

/// The whole field that has the focus, not its caret alone.
void Ledger::showFocused() {
    QWidget* now = QApplication::focusWidget();
    if (now && sideways_->widget() && sideways_->widget()->isAncestorOf(now)) {
        sideways_->ensureWidgetVisible(now, 8, 8);
    }
}

void Ledger::nameLeaves() {
    while (QLayoutItem* item = names_->takeAt(0)) {
        if (item->widget()) { // else the space behind the last name
            item->widget()->hide();
            item->widget()->deleteLater();
        }
        delete item;
    }
    const QStringList all = leafNames();
    if (all.size() < 2 || !thingInHand().empty()) {
        return;
    }
    for (int i = 0; i < all.size(); ++i) {
        const bool open = i == sheet_.leaf();
        auto* name = new QPushButton(open ? QStringLiteral("\u25B8 ") + all[i] : all[i]);
        name->setObjectName(QStringLiteral("word"));
        name->setFont(words(12.5, open));
        name->setToolTip(tr("this leaf (Alt+Left and Alt+Right turn)"));
        connect(name, &QPushButton::clicked, this, [this, i] { sheet_.setLeaf(i); });
        names_->addWidget(name);
    }
    names_->addSpacing(12);
}

void Ledger::refreshDerived() {
    const Derived* d = sheet_.derived();
    if (!d) {
        return;
    }
    const LengthUnit unit = sheet_.document().unit();
    for (const DerivedLabel& l : derived_) {
        l.label->setText(d->board ? told(l.text(*d).toStdString(), unit) : dash);
    }
    for (const RecipeField& r : recipes_) {
        const QString text = told(r.text(*d).toStdString(), unit);
        if (!text.isEmpty()) {
            r.field->setRecipeValue(text);
        }
    }
    if (school_ && d->boardPlan()) {
        school_->setUnavailable(
            QStringLiteral("slots-first"),
            d->boardPlan()->slotsFirstPossible ? QString() : qs(d->boardPlan()->slotsFirstWhy));
    }
    explain(explained_);
}

/// What an empty field means, where no recipe fills it.
void Ledger::unset(ValueField* field, const QString& meaning) {
    recipes_.push_back({field, [meaning](const Derived&) { return meaning; }});
}

/// Why the number in hand is what it is.
void Ledger::explain(const QString& path) {
    explained_ = path;
    const Derived* d = sheet_.derived();
    QString why;
    if (d && path.startsWith(QLatin1String("cut."))) {
        const QString cut = path.section(QLatin1Char('.'), 1, 1);
        const Cut* c = nullptr;
        for (CutKind kind : {CutKind::facing, CutKind::radius, CutKind::shelf, CutKind::markers,
                             CutKind::slots, CutKind::outline}) { // their keys are so called
            c = cut == QLatin1String(wordOf(kind)) ? cutOf(*d, kind) : c;
        }
        if (c) {
            why = path.endsWith(QLatin1String(".bit")) ? qs(c->why) : qs(c->feeds.reason);
        } else if (cut == QLatin1String("school") && d->boardPlan()) {
            why = qs(d->boardPlan()->slotsFirstWhy);
        }
    }
    if (why.isEmpty() && !path.isEmpty()) {
        try {
            why = qs(keyAt(sheet_.document().project(), path.toStdString()).meaning);
        } catch (const Error&) {
            why = tr("gone"); // a bit that has just been taken out
        }
        why[0] = why[0].toUpper();
        why += QLatin1Char('.');
    }
    if (why.isEmpty() && sheet_.station() == Station::proof) {
        why =
            tr("The posted text was read back and cut into the blank; heights are compared cell by "
               "cell, walls are judged from the paths.");
    } else if (why.isEmpty()) {
        why = tr("Lengths as 44.5, 1 3/4 in, 25 1/2\" or 1/8in+0.5mm. Blue numbers follow from the "
                 "others.");
    }
    foot_->setText(why);
    foot_->setToolTip(why);
}

} // namespace wren::app
