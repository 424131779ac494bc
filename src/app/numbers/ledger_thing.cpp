// The numbers of the thing in hand.

#include "frame/text.h"
#include "frame/theme.h"
#include "job/cures.h"
#include "job/list_keys.h"
#include "job/nearby.h"
#include "numbers/ledger.h"
#include "numbers/value_field.h"
#include "part/body_layers.h"
#include "ruler/body_strips.h"

#include <QLabel>
#include <QPushButton>

#include <algorithm>

namespace wren::app {
namespace {

constexpr int rowsInColumn = 6;

/// The keys of one thing that are typed: a place by its two numbers, nodes left to the drawing.
std::vector<Key> ownKeys(const Project& p, const std::string& path) {
    std::vector<Key> out;
    for (const Key& key : keysOf(p)) {
        const bool own = key.path.size() > path.size() + 1 && !key.beforeLists &&
                         key.path.compare(0, path.size() + 1, path + ".") == 0;
        const std::string rest = own ? key.path.substr(path.size() + 1) : std::string();
        const bool node = rest.find("outline.") != std::string::npos;
        const bool idle = rest == "cut" && p.body.build != BodyBuild::topped; // all in one piece
        if (own && !node && !idle && key.kind != KeyKind::place) {
            out.push_back(key);
        }
    }
    return out;
}

/// What of a thing may be cut in the layers: of a control, the seat round its shaft.
FeatureId cutOf(FeatureId id) {
    const bool control = id.kind == FeatureKind::pot || id.kind == FeatureKind::toggle ||
                         id.kind == FeatureKind::lever;
    return control ? FeatureId{FeatureKind::seat, id.index} : id;
}

} // namespace

/// Which keys a taken path stands for: a node's own, or the thing's.
std::string Ledger::thingInHand() const {
    const std::string& taken = sheet_.taken();
    return taken == "body" ? std::string() : taken;
}

void Ledger::leafThing() {
    const std::string path = thingInHand();
    const std::string thing = thingOf(path);
    QString name;
    for (const Feature& f : sheet_.things()) {
        name = f.path == thing ? qs(f.name) : name;
    }
    if (path != thing || name.isEmpty()) {
        const std::optional<ItemPath> node = itemPath(path);
        const QString of = thing == "body" || name.isEmpty() ? tr("the outline") : name;
        name = node ? tr("Node %1 of %2").arg(node->number + 1).arg(of) : of;
    }
    name[0] = name[0].toUpper();
    fieldWidth_ = 108;
    int n = 0;
    for (const Key& key : ownKeys(sheet_.project(), path)) {
        if (n % rowsInColumn == 0) {
            group(n == 0 ? name : QString(QChar(0xA0)));
        }
        ++n;
        ValueField* f = field(qs(key.meaning), qs(key.path));
        if (key.mayBeAuto) {
            unset(f, lastOf(key.path) == "depth" ? tr("right through") : tr("as usual"));
        }
    }
    if (n == 0) {
        group(name);
    }
    ownSize(path);
    for (const Feature& f : sheet_.things()) {
        if (f.path == path) {
            bitReach(cutOf(f.id));
        }
    }
    nearIt(thing);
    thingDeeds(path);
}

/// What follows from an outline: how large it is; its nodes are the drawing's.
void Ledger::ownSize(const std::string& path) {
    const std::vector<ListKey> lists = listsOf(sheet_.project());
    const bool outlined = std::any_of(
        lists.begin(), lists.end(), [&](const ListKey& l) { return l.path == path + ".outline"; });
    if (!outlined) {
        return;
    }
    const auto own = [this, path](double Vec2::*which) {
        return [this, path, which](const Derived& d) {
            for (const Feature& f : featuresOf(d.project)) {
                if (f.path == path) {
                    return mm(f.size.*which);
                }
            }
            return dash;
        };
    };
    derived(tr("its nodes reach, along"), own(&Vec2::x));
    derived(tr("and across"), own(&Vec2::y));
    note(
        [](const Derived&) {
            return tr("Drag its nodes in the plan; double click adds one, Delete takes away the "
                      "one in hand.");
        },
        190);
}

void Ledger::bitReach(FeatureId feature) {
    const Body& body = sheet_.project().body;
    if (!cutWhen(body, feature)) {
        return;
    }
    derived(tr("a bit must reach"), [this, feature](const Derived& d) {
        const BitReach r = d.body ? reachFor(d.body->part, feature) : BitReach();
        return r.apart > 0   ? tr("%1, glued %2").arg(mm(r.apart), mm(r.glued))
               : r.glued > 0 ? mm(r.glued)
                             : dash;
    });
}

void Ledger::nearIt(const std::string& thing) {
    const Derived* d = sheet_.derived();
    const std::vector<Near> now = d ? nearbyOf(*d, thing) : std::vector<Near>{};
    if (now.empty()) {
        return;
    }
    group(tr("How far from"));
    for (std::size_t i = 0; i < now.size(); ++i) {
        derived(qs(now[i].what), [this, thing, what = now[i].what](const Derived& derived) {
            for (const Near& n : nearbyOf(derived, thing)) {
                if (n.what == what) {
                    return mm(n.distance);
                }
            }
            return dash;
        });
    }
}

void Ledger::thingDeeds(const std::string& path) {
    const bool node = path != thingOf(path);
    const bool one = itemPath(path).has_value();
    group(one ? tr("Do with it") : tr("What is found"));
    if (node) {
        connect(deed(tr("Remove it (Delete)"), tr("undo brings it back")), &QPushButton::clicked,
                this, &Ledger::removeWanted);
    } else if (one) {
        const auto word = [&](const QString& text, const QString& tip, void (Ledger::*wanted)()) {
            connect(deed(text, tip), &QPushButton::clicked, this, wanted);
        };
        word(tr("Double it (Ctrl+D)"), tr("another one beside it"), &Ledger::doubleWanted);
        word(tr("Mirror it (M)"), tr("to the other side of the centreline"), &Ledger::mirrorWanted);
        word(tr("Remove it (Delete)"), tr("undo brings it back"), &Ledger::removeWanted);
    }
    const Derived* d = sheet_.derived();
    for (const Finding& f : d ? d->findings : Findings{}) {
        if (!f.feature || pathOf(f.feature) != thingOf(path) || f.weight == Weight::note) {
            continue;
        }
        for (const Cure& cure : curesFor(*d, f)) {
            if (cure.remove.empty()) {
                connect(deed(told(cure.label, sheet_.unit()), told(f.message, sheet_.unit())),
                        &QPushButton::clicked, this, [this, cure] {
                            sheet_.document().change(cured(sheet_.project(), cure), qs(cure.label));
                        });
            }
        }
    }
    connect(deed(tr("Let it go (Escape)"), tr("back to the station's own numbers")),
            &QPushButton::clicked, this, [this] { sheet_.take({}); });
}

} // namespace wren::app
