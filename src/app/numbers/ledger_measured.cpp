// Sizes as they came out, what they are held to once it is cut, and the wood's moisture.
#include "numbers/ledger.h"

#include "job/as_measured.h"

namespace wren::app {

void Ledger::leafMeasured() {
    fieldWidth_ = 88;
    const bool pocket = sheet_.project().neck.joint != NeckJoint::through;
    const auto maybe = [this](const QString& label, const char* key, const QString& otherwise) {
        unset(field(label, QLatin1String(key)), otherwise);
    };
    const QString drawn = tr("as drawn"), open = tr("not cut");
    if (pocket) {
        group(tr("The real heel"));
        maybe(tr("end width"), "neck_pocket.measured_width", drawn);
        maybe(tr("moisture then"), "neck_pocket.measured_moisture", tr("not read"));
        derived(tr("width today"), [this](const Derived& d) {
            const std::optional<double> today = heelToday(d.project);
            return today ? mm(*today) : tr("as drawn");
        });
        maybe(tr("depth"), "neck_pocket.measured_depth", drawn);
        maybe(tr("nut to its end"), "neck_pocket.measured_length", drawn);
        group(tr("Its pocket, once cut"));
        maybe(tr("cut for a width"), "neck_pocket.cut_width", open);
        maybe(tr("cut for a length"), "neck_pocket.cut_length", open);
        maybe(tr("depth"), "neck_pocket.measured_floor", drawn);
        field(tr("enlarged a side by"), QStringLiteral("neck_pocket.enlarged"));
        maybe(tr("bridge drilled for"), "bridge.cut_length", open);
    }
    group(tr("Lid and recess"));
    maybe(tr("recess width"), "cavity.measured_width", drawn);
    maybe(tr("recess depth"), "cavity.measured_depth", drawn);
    maybe(tr("lid cut for a width"), "cavity.cut_width", open);
    maybe(tr("lid cut for a depth"), "cavity.cut_depth", open);
    note([](const Derived&) {
        return tr("What is cut keeps the size it was cut for, whatever is read later.");
    });
    group(tr("The wood today"));
    for (const auto& [part, head] : {std::pair{tr("neck"), QStringLiteral("neck_blank")},
                                     {tr("body"), QStringLiteral("body_blank")}}) {
        unset(field(tr("%1, moisture").arg(part), head + QStringLiteral(".moisture")),
              tr("not known"));
        field(tr("%1, sawn").arg(part), head + QStringLiteral(".sawn"));
    }
    field(tr("settles at"), QStringLiteral("wood.settles_at"));
}

} // namespace wren::app
