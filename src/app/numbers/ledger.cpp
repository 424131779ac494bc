#include "numbers/ledger.h"

#include "base/error.h"
#include "base/length.h"
#include "frame/text.h"
#include "frame/theme.h"
#include "numbers/value_field.h"

#include <QApplication>
#include <QGridLayout>
#include <QHBoxLayout>
#include <QLabel>
#include <QPushButton>
#include <QScrollArea>
#include <QVBoxLayout>

namespace wren::app {
namespace {

QStringList bitNames(const Project& project) {
    QStringList names;
    for (const Bit& b : project.bits) {
        names << qs(b.name);
    }
    return names;
}

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
    connect(qApp, &QApplication::focusChanged, this, [this] {
        showFocused();
        QTimer::singleShot(0, this, &Ledger::showFocused); // a leaf just built is laid out by then
    });
    column->addWidget(sideways_, 1);
    auto* foot = new QHBoxLayout;
    foot->setSpacing(4);
    names_ = new QHBoxLayout;
    names_->setSpacing(0);
    foot->addLayout(names_);
    foot_ = new QLabel(this);
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
        const Project& p = sheet_.document().project();
        if (bits_ != bitNames(p) || gauges_ != p.board.gauges.size() || variants_ != p.variants ||
            follows_ != p.body.givesWay || boards_ != p.sawing.boards.size()) {
            rebuildSoon(); // another drawer, other words to choose from; more fields or fewer
        }
        refreshDerived();
    });
    connect(&sheet_.document(), &Document::unitChanged, this, &Ledger::refreshDerived);
    rebuild();
}

std::vector<Ledger::Leaf> Ledger::leaves() const {
    if (sheet_.part() == Part::body) {
        switch (sheet_.station()) {
        case Station::blank:
            return {{tr("Body's wood, turning over"), &Ledger::leafBodyBlank},
                    {tr("Fixtures, templates"), &Ledger::leafShopBoards}};
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
            return {{tr("Neck blank, turning over"), &Ledger::leafNeckBlank}};
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
                {tr("Chambers, inlays"), &Ledger::leafHollows}};
    case Station::whole:
        return {{tr("Strings, neck and bridge"), &Ledger::leafWhole},
                {tr("The string set"), &Ledger::leafStringSet},
                {tr("Weight and balance"), &Ledger::leafBalance},
                {tr("By hand"), &Ledger::leafByHand},
                {tr("Saw, boards, sled"), &Ledger::leafSawing},
                {tr("Variants"), &Ledger::leafVariants}};
    case Station::board:
        return {{tr("Shape"), &Ledger::leafShape},
                {tr("Slots and wire"), &Ledger::leafSlots},
                {tr("Markers"), &Ledger::leafMarkers},
                {tr("String gauges"), &Ledger::leafGauges}};
    case Station::blank:
        return {{tr("Blank"), &Ledger::leafBlank}};
    case Station::tools:
        return {{tr("The bit in hand"), &Ledger::leafBit}, {tr("The router"), &Ledger::leafRouter}};
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
    bits_ = bitNames(sheet_.document().project());
    gauges_ = sheet_.document().project().board.gauges.size();
    variants_ = sheet_.document().project().variants;
    follows_ = sheet_.document().project().body.givesWay;
    boards_ = sheet_.document().project().sawing.boards.size();
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
    if (event->type() == QEvent::LayoutRequest && watched == sideways_->widget()) {
        takeRoom(); // something told on the leaf has become longer
        QTimer::singleShot(0, this, &Ledger::showFocused); // and has moved the others
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

void Ledger::group(const QString& title) {
    auto* box = new QWidget;
    grid_ = new QGridLayout(box);
    grid_->setContentsMargins(0, 0, 0, 0);
    grid_->setHorizontalSpacing(8);
    grid_->setVerticalSpacing(3);
    auto* head = new QLabel(title);
    head->setFont(words(13.5, true));
    grid_->addWidget(head, 0, 0, 1, 2);
    row_ = 1;
    grid_->setRowStretch(20, 1);
    if (columns_->count() > 0) {
        columns_->addStretch(1); // the groups share the whole width
    }
    columns_->addWidget(box);
}

void Ledger::groupBelow(const QString& title) {
    auto* head = new QLabel(title);
    head->setFont(words(13.5, true));
    head->setContentsMargins(0, 8, 0, 0);
    grid_->addWidget(head, row_++, 0, 1, 2);
}

ValueField* Ledger::field(const QString& label, const QString& path) {
    auto* name = new QLabel(label);
    name->setFont(words(12.5));
    name->setObjectName(QStringLiteral("label"));
    auto* f = new ValueField(sheet_.document(), path);
    f->setFixedWidth(fieldWidth_);
    name->setBuddy(f->editor());
    connect(f, &ValueField::refused, this, &Ledger::refused);
    connect(f, &ValueField::accepted, this, &Ledger::accepted);
    connect(f, &ValueField::entered, this, &Ledger::explain);
    grid_->addWidget(name, row_, 0);
    grid_->addWidget(f, row_++, 1);
    return f;
}

void Ledger::derived(const QString& label, Text text) {
    auto* name = new QLabel(label);
    name->setFont(words(12.5));
    name->setObjectName(QStringLiteral("label"));
    auto* value = new QLabel;
    value->setFont(figures(13));
    value->setObjectName(QStringLiteral("derived"));
    value->setAlignment(Qt::AlignRight | Qt::AlignVCenter);
    value->setMinimumWidth(80);
    value->setContentsMargins(0, 0, 7, 0);
    value->setTextInteractionFlags(Qt::TextSelectableByMouse);
    grid_->addWidget(name, row_, 0);
    grid_->addWidget(value, row_++, 1);
    derived_.push_back({value, std::move(text)});
}

void Ledger::derivedPlace(std::function<const ProofReport*(const Derived&)> proof,
                          Vec2 ProofReport::*what, std::function<Vec2(Vec2)> told) {
    auto* go = new QPushButton(tr("at (go there)"));
    go->setObjectName(QStringLiteral("word"));
    go->setFont(words(12.5));
    go->setToolTip(tr("puts the cursor at this place, in the plan and in the section"));
    connect(go, &QPushButton::clicked, this, [this, proof, what] {
        const Derived* d = sheet_.derived();
        if (const ProofReport* r = d ? proof(*d) : nullptr) {
            sheet_.setCursor((r->*what).x);
        }
    });
    auto* value = new QLabel;
    value->setFont(figures(12.5));
    value->setObjectName(QStringLiteral("derived"));
    value->setAlignment(Qt::AlignRight | Qt::AlignVCenter);
    value->setContentsMargins(0, 0, 7, 0);
    grid_->addWidget(go, row_, 0, Qt::AlignLeft);
    grid_->addWidget(value, row_++, 1);
    derived_.push_back({value, [proof, what, told](const Derived& d) {
                            const ProofReport* r = proof(d);
                            if (!r || r->*what == Vec2{}) {
                                return dash; // nothing was off
                            }
                            const Vec2 at = told(r->*what);
                            return qs(fmt::format("{:.1f}, {:.1f}", at.x, at.y));
                        }});
}

void Ledger::note(Text text, int width) {
    auto* value = new QLabel;
    value->setFont(words(12.5));
    value->setWordWrap(true);
    value->setFixedWidth(width);
    value->setAlignment(Qt::AlignTop);
    grid_->addWidget(value, row_++, 0, 1, 2);
    derived_.push_back({value, std::move(text)});
}

void Ledger::rows(Text text) {
    auto* value = new QLabel;
    value->setFont(figures(12.5));
    value->setObjectName(QStringLiteral("derived"));
    value->setAlignment(Qt::AlignTop | Qt::AlignLeft);
    value->setTextInteractionFlags(Qt::TextSelectableByMouse);
    grid_->addWidget(value, row_++, 0, 1, 2);
    derived_.push_back({value, std::move(text)});
}

void Ledger::scrolledRows(Text text, const QString& name, const QString& meaning) {
    auto* area = new QScrollArea;
    area->setObjectName(name);
    area->setAccessibleName(meaning);
    area->setFrameShape(QFrame::NoFrame);
    area->setWidgetResizable(true);
    area->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    area->setFocusPolicy(Qt::StrongFocus); // arrow keys scroll it
    auto* value = new QLabel;
    value->setFont(figures(12.5));
    value->setObjectName(QStringLiteral("derived"));
    value->setAlignment(Qt::AlignTop | Qt::AlignLeft);
    value->setTextInteractionFlags(Qt::TextSelectableByMouse);
    area->setWidget(value);
    area->setMinimumHeight(158); // eight rows, what the other leaves take
    area->setMinimumWidth(QFontMetrics(value->font()).horizontalAdvance(QLatin1Char('0')) * 70);
    grid_->addWidget(area, row_, 0, 1, 2);
    grid_->setRowStretch(row_++, 1);
    derived_.push_back({value, std::move(text)});
}

QPushButton* Ledger::deed(const QString& text, const QString& tip) {
    auto* button = new QPushButton(text);
    button->setObjectName(QStringLiteral("smallDeed"));
    button->setFont(words(12.5, true));
    button->setToolTip(tip);
    grid_->addWidget(button, row_++, 0, 1, 2);
    return button;
}

QString Ledger::mm(double v) const {
    return qs(formatLength(v, sheet_.unit()));
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
