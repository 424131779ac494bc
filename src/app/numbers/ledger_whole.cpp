// The ledger of the instrument as a whole: how the strings lie, what gives way, the string set.

#include "base/length.h"
#include "design/string_set.h"
#include "frame/text.h"
#include "job/balance.h"
#include "job/glue.h"
#include "job/setup_report.h"
#include "numbers/ledger.h"
#include "numbers/ledger_texts.h"
#include "numbers/value_field.h"
#include "part/judge_wings.h"

#include <QPushButton>

#include <cmath>

namespace wren::app {
void Ledger::leafWhole() {
    fieldWidth_ = 138;
    group(tr("How the strings lie"));
    field(tr("drawn with"), QStringLiteral("setup.school"));
    field(tr("bass action"), QStringLiteral("body.action"));
    unset(field(tr("treble action"), QStringLiteral("setup.action_treble")), tr("as the bass"));
    field(tr("neck relief"), QStringLiteral("setup.relief"));
    derived(tr("over the face"),
            withSetup([this](const SetupGeometry& g) { return mm(g.middleSaddle); }));
    fieldWidth_ = 116;
    group(tr("When bridge or heel change"));
    field(tr("what follows"), QStringLiteral("setup.gives_way"));
    unset(field(tr("height wanted"), QStringLiteral("setup.saddle_height")), tr("by the bridge"));
    note(
        [](const Derived& d) {
            return d.project.neck.joint == NeckJoint::through
                       ? tr("The angle can follow, or (for pocket) how far the neck stands over "
                            "the face, so that the strings always meet the bridge.")
                       : tr("The angle or the pocket can follow, so that the strings always meet "
                            "the bridge; set by hand it stays as it is.");
        },
        190);
    fieldWidth_ = 88;
    group(tr("Neck in the body"));
    const GivesWay follows = sheet_.document().project().body.givesWay;
    if (follows == GivesWay::angle) {
        derived(tr("neck angle, follows"), withSetup([](const SetupGeometry& g) {
                    return tr("%1\u00b0").arg(g.angle, 0, 'f', 3);
                }));
    } else {
        field(tr("neck angle"), QStringLiteral("neck_pocket.angle"));
    }
    const bool through = sheet_.document().project().neck.joint == NeckJoint::through;
    if (follows == GivesWay::pocket) {
        derived(through ? tr("neck above face, follows") : tr("pocket depth, follows"),
                withSetup([this](const SetupGeometry& g) {
                    return mm(g.through ? g.proud : g.pocketInner);
                }));
    } else if (through) {
        field(tr("neck above face"), QStringLiteral("neck_pocket.proud"));
    } else {
        field(tr("pocket depth"), QStringLiteral("neck_pocket.depth"));
    }
    if (through) {
        derived(tr("planed off at the nut"), withBody([this](const Derived&, const BodyDrawn& b) {
                    return mm(planedOffAt(b.part, 0));
                }));
    } else {
        field(tr("angle is cut into"), QStringLiteral("neck_pocket.angle_in"));
        unset(field(tr("real heel"), QStringLiteral("neck_pocket.measured_depth")), tr("design's"));
        derived(tr("depth at the mouth"),
                withSetup([this](const SetupGeometry& g) { return mm(g.pocketOuter); }));
        derived(tr("glue plane above face"),
                withSetup([this](const SetupGeometry& g) { return mm(g.proud); }));
    }
    fieldWidth_ = 124;
    group(tr("Bridge"));
    field(tr("kind"), QStringLiteral("bridge.kind"));
    field(tr("saddles stand"), QStringLiteral("bridge.stands"));
    fieldWidth_ = 88;
    field(tr("compensation"), QStringLiteral("bridge.compensation"));
    field(tr("lowest saddle"), QStringLiteral("bridge.saddle_low"));
    field(tr("highest saddle"), QStringLiteral("bridge.saddle_high"));
    group(tr("Its saddles"));
    field(tr("travel along"), QStringLiteral("bridge.travel"));
    field(tr("held behind saddles"), QStringLiteral("bridge.holes_behind"));
    field(tr("held at height"), QStringLiteral("bridge.anchor_height"));
    derived(through ? tr("bridge line from board") : tr("bridge line from heel"),
            withSetup([this](const SetupGeometry& g) { return mm(g.bridgeFromHeel); }));
    derived(tr("all strings pull"), withSetup([](const SetupGeometry& g) {
                double sum = 0;
                for (const StringSetup& s : g.strings) {
                    if (!s.tension) {
                        return dash;
                    }
                    sum += *s.tension;
                }
                return tr("%1 N").arg(sum, 0, 'f', 0);
            }));
}

void Ledger::leafStringSet() {
    const std::size_t n = sheet_.project().board.gauges.size();
    fieldWidth_ = 78;
    for (std::size_t i = 0; i < n; ++i) {
        const QString head = QStringLiteral("board.gauges.%1.").arg(qulonglong(i));
        group(tr("String %1").arg(n - i));
        field(tr("thickness"), head + QStringLiteral("thickness"));
        unset(field(tr("tuned to"), head + QStringLiteral("note")), tr("unknown"));
        field(tr("wound"), head + QStringLiteral("wound"));
        unset(field(tr("core"), head + QStringLiteral("core")), tr("unknown"));
        unset(field(tr("weight, g/m"), head + QStringLiteral("weight")), tr("as steel"));
        derived(tr("pull"), withSetup([i](const SetupGeometry& g) {
                    return i < g.strings.size() && g.strings[i].tension
                               ? tr("%1 N").arg(*g.strings[i].tension, 0, 'f', 1)
                               : dash;
                }));
    }
    group(n == 0 ? tr("The string set") : tr("All of them"));
    note(
        [](const Derived&) {
            return tr("Thickness, note and weight tell each string's pull and how far its saddle "
                      "moves back. A wound string's weight and core stand on its maker's list.");
        },
        n == 0 ? 900 : 190);
    QPushButton* begin =
        deed(tr("A set to begin with"), tr("even steps of thickness, the usual notes"));
    grid_->setAlignment(begin, Qt::AlignLeft);
    connect(begin, &QPushButton::clicked, this, [this] {
        Project q = sheet_.project();
        q.board.gauges = usualSet(q.board.strings, q.board.scaleLength);
        sheet_.document().change(q, tr("a string set"));
    });
}

void Ledger::leafBalance() {
    fieldWidth_ = 150;
    group(tr("It comes to"));
    const auto about = [this](double v) { return qs(formatLength(v, sheet_.unit(), 0)); };
    rows([about](const Derived& d) {
        if (!d.weighed) {
            return tr("weighing ...");
        }
        const Balance b = balanceAsKnown(d);
        const double wood = massOf(b.parts);
        const auto kilograms = [](double grams) {
            return QStringLiteral("%1 kg").arg(grams / 1000, 0, 'f', 2);
        };
        QString text = tr("wood %1, fittings %2\nall of it %3\nbalances %4 from the nut")
                           .arg(kilograms(wood), kilograms(b.mass - wood), kilograms(b.mass),
                                about(b.centre.x));
        text += b.buttons ? tr("\n%1 %2 the front strap button,\nso the head %3")
                                .arg(about(std::abs(b.behindButton())),
                                     b.dives() ? tr("before") : tr("behind"),
                                     b.dives() ? tr("goes down") : tr("stays up"))
                          : tr("\ntwo strap buttons would tell\nhow it hangs");
        return text;
    });
    note(
        [](const Derived& d) {
            QStringList ways;
            for (const std::string& way : keepsHeadUp(balanceAsKnown(d))) {
                ways << qs(way);
            }
            return ways.isEmpty() ? QString()
                                  : tr("What would keep it up: %1.").arg(ways.join(tr(", or ")));
        },
        230);
    group(tr("With another wood"));
    field(tr("body or core"), QStringLiteral("body.wood"));
    field(tr("top"), QStringLiteral("body.top_wood"));
    field(tr("neck"), QStringLiteral("neck_blank.wood"));
    field(tr("fretboard"), QStringLiteral("blank.wood"));
    fieldWidth_ = 78;
    const auto weighed = [this](const QString& label, const char* key) {
        unset(field(label, QString::fromLatin1(key)), tr("usual"));
    };
    group(tr("On the scales, grams"));
    weighed(tr("one tuner"), "weights.tuner");
    weighed(tr("bridge"), "weights.bridge");
    weighed(tr("one pickup"), "weights.pickup");
    weighed(tr("one pot or switch"), "weights.control");
    group(QString(QChar(0xA0)));
    weighed(tr("jack"), "weights.jack");
    weighed(tr("one strap button"), "weights.strap_button");
    weighed(tr("truss rod"), "weights.rod");
    group(tr("Glue and epoxy"));
    field(tr("glue, g/m\u00B2"), QStringLiteral("glue.rate"));
    field(tr("resin to hardener"), QStringLiteral("glue.epoxy_ratio"));
    field(tr("thickest pour"), QStringLiteral("glue.epoxy_layer"));
    field(tr("clamps on within"), QStringLiteral("glue.open"));
    field(tr("in the clamps"), QStringLiteral("glue.clamped"));
    field(tr("rests until cut"), QStringLiteral("glue.rest"));
    derived(tr("all joints want"), [](const Derived& d) {
        double grams = 0;
        for (const GlueJoint& j : glueList(d)) {
            grams += j.volume > 0 ? 0 : j.adhesive;
        }
        return tr("%1 g").arg(grams, 0, 'f', 0);
    });
}

} // namespace wren::app
