// How the machine's controller is spoken to: its words and its answers.
#include "numbers/ledger.h"

#include "frame/text.h"
#include "job/keys.h"
#include "numbers/value_field.h"

#include <QPushButton>

namespace wren::app {

void Ledger::leafController() {
    fieldWidth_ = 128;
    const auto row = [this](const QString& label, const char* key) {
        ValueField* f = field(label, QStringLiteral("controller.") + QLatin1String(key));
        recipes_.push_back({f, [](const Derived&) { return tr("none"); }});
    };
    group(tr("Description"));
    row(tr("called"), "name");
    for (const Controller& shipped : shippedControllers()) {
        connect(deed(tr("As \"%1\"").arg(qs(shipped.name)),
                     tr("every word and answer as that description has it")),
                &QPushButton::clicked, this, [this, shipped] {
                    changeProject(
                        [shipped](const Project& p) {
                            Project next = p;
                            next.machine.talk = shipped;
                            return next;
                        },
                        tr("another controller"));
                });
    }
    connect(deed(tr("Read from a file…"), tr("a description written as JSON")),
            &QPushButton::clicked, this, [this] { Q_EMIT controllerFileWanted(false); });
    connect(deed(tr("Write to a file…"), tr("this description, as JSON")), &QPushButton::clicked,
            this, [this] { Q_EMIT controllerFileWanted(true); });
    group(tr("How lines go"));
    row(tr("lines are sent"), "flow");
    row(tr("bytes it holds"), "buffer");
    row(tr("a line ends with"), "line_end");
    row(tr("work offset"), "offset");
    row(tr("words at once"), "at_once");
    row(tr("words without a line's end"), "bare");
    row(tr("words not answered"), "unanswered");
    group(tr("It is told"));
    row(tr("greeting"), "greet");
    row(tr("state"), "ask");
    row(tr("home"), "home");
    row(tr("out of an alarm"), "unlock");
    row(tr("jog"), "jog");
    row(tr("to a place"), "travel");
    row(tr("spindle up"), "lift");
    row(tr("probe"), "probe");
    row(tr("set the zero"), "zero");
    group(tr("While it runs"));
    row(tr("hold"), "hold");
    row(tr("resume"), "resume");
    row(tr("reset"), "reset");
    row(tr("feed override"), "feed");
    row(tr("spindle override"), "spindle");
    group(tr("It answers"));
    row(tr("line taken"), "acknowledged");
    row(tr("line refused"), "refused");
    row(tr("alarm"), "alarm");
    row(tr("its state"), "state");
    row(tr("probe touched"), "probed");
    row(tr("begun anew"), "restarted");
    row(tr("its words for states"), "states");
    row(tr("numbers mean"), "errors");
}

} // namespace wren::app
