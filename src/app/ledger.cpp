#include "ledger.h"

#include "base/length.h"
#include "cut/radius_cut.h"
#include "theme.h"
#include "value_field.h"

#include <QGridLayout>
#include <QHBoxLayout>
#include <QLabel>
#include <QVBoxLayout>

namespace wren::app {
namespace {

QString qs(const std::string& s) {
    return QString::fromStdString(s);
}

const Cut* cutOf(const Derived& d, const QString& what) {
    if (d.plan) {
        for (const Cut& c : d.plan->cuts) {
            if (qs(c.what) == what) {
                return &c;
            }
        }
    }
    return nullptr;
}

} // namespace

Ledger::Ledger(Sheet& sheet, QWidget* parent) : QWidget(parent), sheet_(sheet) {
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(14, 6, 14, 4);
    column->setSpacing(2);
    page_ = new QWidget(this);
    columns_ = new QHBoxLayout(page_);
    column->addWidget(page_, 1);
    foot_ = new QLabel(this);
    foot_->setFont(words(12.5));
    foot_->setWordWrap(true);
    foot_->setMinimumHeight(20);
    column->addWidget(foot_);
    setFixedHeight(214);
    connect(&sheet_, &Sheet::stationChanged, this, &Ledger::rebuild);
    connect(&sheet_, &Sheet::derivedChanged, this, [this] {
        if (bits_ != sheet_.document().project().bits.size()) {
            rebuild(); // another drawer, other words to choose from
        }
        refreshDerived();
    });
    connect(&sheet_.document(), &Document::unitChanged, this, &Ledger::refreshDerived);
    rebuild();
}

void Ledger::rebuild() {
    derived_.clear();
    recipes_.clear();
    school_ = nullptr;
    bits_ = sheet_.document().project().bits.size();
    auto* fresh = new QWidget(this);
    columns_ = new QHBoxLayout(fresh);
    columns_->setContentsMargins(0, 0, 0, 0);
    columns_->setSpacing(18);
    switch (sheet_.station()) {
    case Station::board:
        pageBoard();
        break;
    case Station::blank:
        pageBlank();
        break;
    case Station::cuts:
        pageCuts();
        break;
    default:
        pageProof();
        break;
    }
    delete layout()->replaceWidget(page_, fresh);
    page_->deleteLater();
    page_ = fresh;
    explained_.clear();
    refreshDerived();
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

ValueField* Ledger::field(const QString& label, const QString& path) {
    auto* name = new QLabel(label);
    name->setFont(words(12.5));
    name->setStyleSheet(QStringLiteral("color: #5B6058;"));
    auto* f = new ValueField(sheet_.document(), path);
    f->setFixedWidth(sheet_.station() == Station::cuts    ? 112
                     : sheet_.station() == Station::board ? 100
                                                          : 124);
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
    name->setStyleSheet(QStringLiteral("color: #5B6058;"));
    auto* value = new QLabel;
    value->setFont(figures(13));
    value->setStyleSheet(QStringLiteral("color: #2F5071;"));
    value->setAlignment(Qt::AlignRight | Qt::AlignVCenter);
    value->setMinimumWidth(80);
    value->setContentsMargins(0, 0, 7, 0);
    value->setTextInteractionFlags(Qt::TextSelectableByMouse);
    grid_->addWidget(name, row_, 0);
    grid_->addWidget(value, row_++, 1);
    derived_.push_back({value, std::move(text)});
}

void Ledger::note(Text text) {
    auto* value = new QLabel;
    value->setFont(words(12.5));
    value->setWordWrap(true);
    value->setMinimumWidth(210);
    value->setMaximumWidth(240);
    value->setAlignment(Qt::AlignTop);
    grid_->addWidget(value, row_++, 0, 1, 2);
    derived_.push_back({value, std::move(text)});
}

void Ledger::refreshDerived() {
    const Derived* d = sheet_.derived();
    if (!d) {
        return;
    }
    for (const DerivedLabel& l : derived_) {
        l.label->setText(d->board ? l.text(*d) : QStringLiteral("\u2013"));
    }
    for (const RecipeField& r : recipes_) {
        const QString text = r.text(*d);
        if (!text.isEmpty()) {
            r.field->setRecipeValue(text);
        }
    }
    if (school_ && d->plan) {
        school_->setUnavailable(QStringLiteral("slots-first"), d->plan->slotsFirstPossible
                                                                   ? QString()
                                                                   : qs(d->plan->slotsFirstWhy));
    }
    explain(explained_);
}

/// What an empty field means, where no recipe fills it.
void Ledger::unset(ValueField* field, const QString& meaning) {
    recipes_.push_back({field, [meaning](const Derived&) { return meaning; }});
}

void Ledger::pageBoard() {
    const auto mm = [this](double v) { return qs(formatLength(v, sheet_.unit())); };
    const auto dash = QStringLiteral("\u2013");
    group(tr("Scale and frets"));
    field(tr("scale, bass"), QStringLiteral("board.scale"));
    unset(field(tr("scale, treble"), QStringLiteral("board.treble_scale")), tr("the same"));
    field(tr("square at"), QStringLiteral("board.square_fret"));
    field(tr("frets"), QStringLiteral("board.frets"));
    field(tr("zero fret"), QStringLiteral("board.zero_fret"));
    derived(tr("fret 12 at"), [mm, dash](const Derived& d) {
        for (const FretPlace& f : d.frets) {
            if (f.fret == 12) {
                return mm(f.fromNut);
            }
        }
        return dash;
    });
    group(tr("Strings and width"));
    field(tr("strings"), QStringLiteral("board.strings"));
    field(tr("plays"), QStringLiteral("board.hand"));
    field(tr("outer two: nut"), QStringLiteral("board.nut_spread"));
    field(tr("bridge"), QStringLiteral("board.bridge_spread"));
    field(tr("board: nut"), QStringLiteral("board.nut_width"));
    field(tr("last fret"), QStringLiteral("board.last_fret_width"));
    group(tr("Edges and ends"));
    field(tr("beside bass"), QStringLiteral("board.overhang_bass"));
    field(tr("beside treble"), QStringLiteral("board.overhang_treble"));
    field(tr("past the last"), QStringLiteral("board.past_last_fret"));
    field(tr("ends"), QStringLiteral("board.end"));
    field(tr("nut's ledge"), QStringLiteral("board.nut_shelf"));
    derived(tr("board length"), [mm](const Derived& d) { return mm(d.board->length()); });
    group(tr("Face"));
    field(tr("nut radius"), QStringLiteral("board.radius"));
    unset(field(tr("far radius"), QStringLiteral("board.far_radius")), tr("the same"));
    field(tr("measured at"), QStringLiteral("board.far_at"));
    field(tr("thickness"), QStringLiteral("board.thickness"));
    derived(tr("edge at the head"),
            [mm](const Derived& d) { return mm(d.board->edgeThickness(d.board->xLow())); });
    derived(tr("edge at the end"),
            [mm](const Derived& d) { return mm(d.board->edgeThickness(d.board->xHigh())); });
    group(tr("Slots and wire"));
    field(tr("slot width"), QStringLiteral("board.slot_width"));
    field(tr("below the curve"), QStringLiteral("board.slot_depth"));
    field(tr("short of edge"), QStringLiteral("board.blind_margin"));
    field(tr("tang"), QStringLiteral("wire.tang_width"));
    unset(field(tr("test slot"), QStringLiteral("wire.measured_slot")), tr("not cut"));
    derived(tr("least wood under"), [mm, dash](const Derived& d) {
        double least = 1e9;
        for (const FretPlace& f : d.frets) {
            least = std::min(least, f.woodUnderSlot);
        }
        return d.frets.empty() ? dash : mm(least);
    });
    group(tr("Markers"));
    field(tr("at frets"), QStringLiteral("markers.frets"));
    field(tr("shape"), QStringLiteral("markers.shape"));
    field(tr("size"), QStringLiteral("markers.size"));
    field(tr("depth"), QStringLiteral("markers.depth"));
    field(tr("set in"), QStringLiteral("markers.inlay"));
    field(tr("in the edge"), QStringLiteral("markers.side_frets"));
}

void Ledger::pageBlank() {
    const auto mm = [this](double v) { return qs(formatLength(v, sheet_.unit())); };
    group(tr("Blank, as measured"));
    field(tr("length"), QStringLiteral("blank.length"));
    field(tr("width"), QStringLiteral("blank.width"));
    field(tr("thickness"), QStringLiteral("blank.thickness"));
    field(tr("wood"), QStringLiteral("blank.wood"));
    field(tr("boards in it"), QStringLiteral("blank.boards"));
    field(tr("face it first"), QStringLiteral("cut.face_blank"));
    group(tr("What is left of it"));
    derived(tr("beyond each end"), [mm](const Derived& d) {
        return mm((d.project.blank.length - d.board->length()) / 2);
    });
    derived(tr("beside, at the widest"),
            [mm](const Derived& d) { return mm((d.project.blank.width - d.board->widest()) / 2); });
    derived(tr("planed off the crown"), [mm](const Derived& d) {
        return mm(d.project.blank.thickness - d.project.board.thickness);
    });
    derived(tr("wood used"), [](const Derived& d) {
        const Blank& b = d.project.blank;
        return qs(
            fmt::format("{:.0f} %", 100 * d.board->volume() / (b.length * b.width * b.thickness)));
    });
    group(tr("Zero"));
    field(tr("Z is taken on"), QStringLiteral("hold.z_zero"));
    derived(tr("X of the corner"), [mm](const Derived& d) {
        return d.setup ? mm(d.setup->zeroOnMachine.x) : QStringLiteral("\u2013");
    });
    derived(tr("Y of the corner"), [mm](const Derived& d) {
        return d.setup ? mm(d.setup->zeroOnMachine.y) : QStringLiteral("\u2013");
    });
    note([](const Derived& d) {
        return d.project.zZero == ZZero::bed
                   ? QObject::tr("On the bed: a wrong thickness shows on top, the underside and "
                                 "the through cut stay true.")
                   : QObject::tr("On the blank: a wrong thickness shows underneath. Probe in the "
                                 "waste; the face itself will be cut away.");
    });
    group(tr("Machine"));
    field(tr("name"), QStringLiteral("machine.name"))->setFixedWidth(190);
    field(tr("programs in"), QStringLiteral("machine.units"));
    field(tr("travel X"), QStringLiteral("machine.travel_x"));
    field(tr("travel Y"), QStringLiteral("machine.travel_y"));
    field(tr("travel Z"), QStringLiteral("machine.travel_z"));
}

void Ledger::cutGroup(const QString& title, const QString& cut) {
    group(title);
    const QString head = QStringLiteral("cut.") + cut + QLatin1Char('.');
    QStringList bits{QStringLiteral("auto")};
    for (const Bit& b : sheet_.document().project().bits) {
        const bool serves = cut == QLatin1String("slots")     ? b.kind == BitKind::fretSlot
                            : cut == QLatin1String("outline") ? cutsFlat(b.kind)
                                                              : canDoRadius(b);
        if (serves) {
            bits << qs(b.name);
        }
    }
    ValueField* bit = field(tr("bit"), head + QStringLiteral("bit"));
    bit->setWords(bits);
    const auto recipe = [&](ValueField* f, auto text) {
        recipes_.push_back({f, [cut, text](const Derived& d) {
                                const Cut* c = cutOf(d, cut);
                                return c ? qs(text(*c)) : QString();
                            }});
    };
    recipe(bit, [](const Cut& c) { return c.bit.name; });
    recipe(field(tr("spindle"), head + QStringLiteral("rpm")),
           [](const Cut& c) { return fmt::format("{:.0f} rpm", c.feeds.rpm); });
    recipe(field(tr("feed"), head + QStringLiteral("feed")),
           [](const Cut& c) { return fmt::format("{:.0f} mm/min", c.feeds.feed); });
    recipe(field(tr("plunge"), head + QStringLiteral("plunge")),
           [](const Cut& c) { return fmt::format("{:.0f} mm/min", c.feeds.plunge); });
    const LengthUnit unit = sheet_.unit();
    recipe(field(tr("a pass"), head + QStringLiteral("depth_per_pass")),
           [unit](const Cut& c) { return formatLength(c.feeds.depthPerPass, unit); });
}

void Ledger::pageCuts() {
    const auto mm = [this](double v) { return qs(formatLength(v, sheet_.unit())); };
    cutGroup(tr("Radius"), QStringLiteral("radius"));
    cutGroup(tr("Slots"), QStringLiteral("slots"));
    cutGroup(tr("Outline"), QStringLiteral("outline"));
    group(tr("Order and finish"));
    school_ = field(tr("first"), QStringLiteral("cut.school"));
    school_->setFixedWidth(136);
    field(tr("ridges"), QStringLiteral("cut.scallop"));
    unset(field(tr("or step"), QStringLiteral("cut.stepover")), tr("by ridges"));
    field(tr("skin"), QStringLiteral("cut.skin"));
    derived(tr("radius step"), [mm](const Derived& d) {
        const Cut* c = cutOf(d, QStringLiteral("radius"));
        return c ? mm(c->stepover) : QStringLiteral("\u2013");
    });
    group(tr("Going through"));
    field(tr("past underside"), QStringLiteral("cut.through"));
    field(tr("tabs a side"), QStringLiteral("cut.tabs_per_side"));
    field(tr("tab length"), QStringLiteral("cut.tab_length"));
    field(tr("tab height"), QStringLiteral("cut.tab_height"));
    field(tr("last lap"), QStringLiteral("cut.wall_skin"));
    group(tr("Radius: time, ridge in mm, cm\u00B3 to sand"));
    for (std::size_t i = 0; i < 6; ++i) {
        derived(QString(), [i](const Derived& d) {
            if (!d.plan || i >= d.plan->surfacing.size()) {
                return QString();
            }
            const SurfacingChoice& s = d.plan->surfacing[i];
            return qs(fmt::format("{}{:<11}{:>5.1f} min {:>5.3f} {:>5.2f}",
                                  s.chosen ? "\u25B8" : " ", s.bit, s.minutes, s.ridge, s.sanding));
        });
    }
}

void Ledger::pageProof() {
    const auto mm = [](double v) { return qs(fmt::format("{:.4f} mm", v)); };
    const auto of = [mm](double ProofReport::*what) {
        return [mm, what](const Derived& d) {
            return d.proof ? mm((*d.proof).*what) : QStringLiteral("\u2013");
        };
    };
    group(tr("Against the design"));
    derived(tr("deepest below it"), of(&ProofReport::gougeMax));
    derived(tr("most left above it"), of(&ProofReport::excessMax));
    derived(tr("left, rms"), of(&ProofReport::excessRms));
    derived(tr("walls out by"), of(&ProofReport::wallMax));
    derived(tr("cells of"), [](const Derived& d) {
        return d.proof ? qs(fmt::format("{:.2f} mm", d.proof->cell)) : QStringLiteral("\u2013");
    });
    group(tr("Allowed"));
    derived(tr("below, along the normal"), [mm](const Derived&) { return mm(gougeAllowed); });
    derived(tr("above"),
            [mm](const Derived& d) { return mm(d.project.cut.scallop + excessBeyondScallop); });
    derived(tr("walls"), [mm](const Derived&) { return mm(wallAllowed); });
    group(tr("Programs, as read back"));
    const auto row = [](const std::string& name, double seconds, double plain) {
        return qs(
            fmt::format("{:<34} {:>5.1f} min  plain {:>5.1f} min", name, seconds / 60, plain / 60));
    };
    for (std::size_t i = 0; i < 5; ++i) {
        derived(QString(), [i, row](const Derived& d) {
            if (i < d.programs.size()) {
                const PostedProgram& p = d.programs[i];
                return row(p.program.file, p.time.seconds, p.time.secondsPlain);
            }
            return i == d.programs.size() ? row("together", d.seconds(), d.secondsPlain())
                                          : QString();
        });
    }
}

/// Why the number in hand is what it is.
void Ledger::explain(const QString& path) {
    explained_ = path;
    const Derived* d = sheet_.derived();
    QString why;
    if (d && path.startsWith(QLatin1String("cut."))) {
        const QString cut = path.section(QLatin1Char('.'), 1, 1);
        if (const Cut* c = cutOf(*d, cut)) {
            why = path.endsWith(QLatin1String(".bit")) ? qs(c->why) : qs(c->feeds.reason);
        } else if (cut == QLatin1String("school") && d->plan) {
            why = qs(d->plan->slotsFirstWhy);
        }
    }
    if (why.isEmpty() && !path.isEmpty()) {
        why = qs(keyAt(sheet_.document().project(), path.toStdString()).meaning);
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
}

} // namespace wren::app
