#include "numbers/ledger.h"

#include "cut/panel_bits.h"
#include "frame/text.h"
#include "numbers/value_field.h"

#include <fmt/format.h>

#include <algorithm>

namespace wren::app {

void Ledger::leafBodyBlank() {
    fieldWidth_ = 102;
    group(tr("Pieces of wood"));
    const auto size = [this](ValueField* f, Role piece, double Blank::*what) {
        recipes_.push_back({f, [this, piece, what](const Derived& d) {
                                const PartJob* j = d.job(piece);
                                const PartJob* hand = sheet_.pieceInHand();
                                const bool whole = j && !(j->panel && j->panel->free);
                                if (!whole && piece == Role::body && hand &&
                                    hand->id.role == Role::wing) {
                                    j = hand;
                                }
                                return j ? mm(j->held.blank.*what) : tr("none");
                            }});
    };
    const bool topped = sheet_.document().project().body.build == BodyBuild::topped;
    size(field(tr("length"), QStringLiteral("body_blank.length")), Role::body, &Blank::length);
    size(field(tr("width"), QStringLiteral("body_blank.width")), Role::body, &Blank::width);
    size(field(tr("body or core thick"), QStringLiteral("body_blank.thickness")),
         topped ? Role::core : Role::body, &Blank::thickness);
    size(field(tr("top thick"), QStringLiteral("body_blank.top_thickness")), Role::top,
         &Blank::thickness);
    size(field(tr("back thick"), QStringLiteral("body_blank.back_thickness")), Role::back,
         &Blank::thickness);
    group(tr("The lid's piece"));
    size(field(tr("length"), QStringLiteral("body_blank.lid_length")), Role::lid, &Blank::length);
    size(field(tr("width"), QStringLiteral("body_blank.lid_width")), Role::lid, &Blank::width);
    size(field(tr("thickness"), QStringLiteral("body_blank.lid_thickness")), Role::lid,
         &Blank::thickness);
    field(tr("lids from it"), QStringLiteral("body_blank.lids"));
    group(tr("The outside"));
    field(tr("outside cut by"), QStringLiteral("body_blank.outside"));
    field(tr("left by the saw"), QStringLiteral("body_blank.saw_off"));
    field(tr("saw's guide"), QStringLiteral("body_cut.guide"));
    field(tr("frame left round it"), QStringLiteral("body_blank.frame"));
    group(tr("Turning over"));
    fieldWidth_ = 136;
    field(tr("turned over"), QStringLiteral("body_hold.turn"));
    fieldWidth_ = 102;
    field(tr("registered by"), QStringLiteral("body_hold.register"));
    field(tr("Z, face up"), QStringLiteral("body_hold.z_face"));
    field(tr("Z, back up"), QStringLiteral("body_hold.z_back"));
    group(tr("Pins through every layer"));
    field(tr("they stand in the"), QStringLiteral("body_hold.pins_in"));
    field(tr("diameter"), QStringLiteral("body_hold.pin_size"));
    field(tr("from the end"), QStringLiteral("body_hold.pin_inset"));
    field(tr("one-way offset"), QStringLiteral("body_hold.pin_uneven"));
    if (topped) {
        field(tr("sticks for gluing"), QStringLiteral("body.gluing_sticks"));
    }
    fixtureFields(QStringLiteral("body_hold."));
    group(tr("Witness notches"));
    field(tr("cut them"), QStringLiteral("body_hold.notches"));
    field(tr("offset along"), QStringLiteral("body_hold.witness_x"));
    field(tr("offset across"), QStringLiteral("body_hold.witness_y"));
}

void Ledger::leafShopBoards() {
    fieldWidth_ = 102;
    group(tr("Fixture boards"));
    field(tr("for the body's pins"), QStringLiteral("body_hold.make_fixture"));
    field(tr("its thickness"), QStringLiteral("body_hold.fixture"));
    if (sheet_.document().project().neck.joint != NeckJoint::none) {
        field(tr("for the neck's pins"), QStringLiteral("neck_hold.make_fixture"));
        field(tr("its thickness"), QStringLiteral("neck_hold.fixture"));
    }
    group(tr("Templates for a hand router"));
    field(tr("body's outline"), QStringLiteral("templates.outline"));
    field(tr("neck pocket"), QStringLiteral("templates.neck_pocket"));
    field(tr("pickups"), QStringLiteral("templates.pickups"));
    field(tr("cavity, ledge, lid"), QStringLiteral("templates.cavity"));
    group(tr("The router"));
    field(tr("bit's diameter"), QStringLiteral("templates.bit"));
    field(tr("guide bush, 0: bearing"), QStringLiteral("templates.bush"));
    field(tr("base's diameter"), QStringLiteral("templates.base"));
    group(tr("Their board"));
    field(tr("sheet"), QStringLiteral("templates.wood"));
    field(tr("thickness"), QStringLiteral("templates.thickness"));
    field(tr("land round an opening"), QStringLiteral("templates.land"));
    field(tr("locating pins"), QStringLiteral("templates.pin"));
    field(tr("height of letters"), QStringLiteral("templates.letters"));
}

/// The first cut of that kind of the piece in hand, from either side; or null.
const Cut* Ledger::pieceCut(CutKind kind) const {
    const PartJob* job = sheet_.pieceInHand();
    const Cut* front = job ? job->plan().sides[0].cutOf(kind) : nullptr;
    return front || !job ? front : job->plan().sides[1].cutOf(kind);
}

void Ledger::leafBodyCuts() {
    const auto cuts = [this](const QString& title, const char* key, CutKind kind) {
        const bool facing = kind == CutKind::facing;
        cutFields(
            title, QStringLiteral("body_cut.") + QLatin1String(key),
            [facing](const Bit& b) {
                return cutsFlat(b.kind) || (facing && b.kind == BitKind::surfacing);
            },
            [this, kind](const Derived&) { return pieceCut(kind); });
    };
    cuts(tr("Pockets"), "rough", CutKind::pocket);
    cuts(tr("Fine corners"), "walls", CutKind::corners);
    cuts(tr("Outline"), "outline", CutKind::outline);
    cuts(tr("Facing"), "faced", CutKind::facing);
    group(tr("Tabs"));
    field(tr("how many"), QStringLiteral("body_cut.tabs"));
    field(tr("length"), QStringLiteral("body_cut.tab_length"));
    field(tr("height"), QStringLiteral("body_cut.tab_height"));
    field(tr("on a cut-out's plug"), QStringLiteral("body_cut.plug_tabs"));
}

void Ledger::leafBodyHow() {
    cutFields(
        tr("Edges, contours"), QStringLiteral("body_cut.carve"),
        [](const Bit& b) { return b.kind == BitKind::ball; },
        [this](const Derived&) { return pieceCut(CutKind::carving); });
    cutFields(
        tr("Engraving"), QStringLiteral("body_cut.engrave"),
        [](const Bit& b) { return drawsLines(0)(b).can; },
        [this](const Derived&) { return pieceCut(CutKind::engraving); });
    group(tr("On carved faces"));
    field(tr("scallop height"), QStringLiteral("body_cut.carve_scallop"));
    field(tr("left for finishing"), QStringLiteral("body_cut.carve_stock"));
    group(tr("How"));
    field(tr("stepover, % of bit"), QStringLiteral("body_cut.stepover"));
    field(tr("left on walls"), QStringLiteral("body_cut.stock_to_leave"));
    field(tr("left on floors"), QStringLiteral("body_cut.floor_stock"));
    field(tr("past the underside"), QStringLiteral("body_cut.through"));
    field(tr("steps, angled floor"), QStringLiteral("body_cut.scallop"));
    field(tr("peck depth"), QStringLiteral("body_cut.peck"));
}

void Ledger::piecePlan(std::size_t side) {
    group(side == 0 ? tr("The piece in hand, face up: every cut and its bit")
                    : tr("The piece in hand, back up: every cut and its bit"));
    // Eight to a column; a long plan's reasons are shortened to make room for two.
    constexpr std::size_t deep = 8;
    constexpr std::size_t shortly = 58;
    const auto column = [this, side](std::size_t from) {
        rows([this, side, from](const Derived&) {
            const PartJob* job = sheet_.pieceInHand();
            const std::vector<Cut> none;
            const std::vector<Cut>& cuts = job ? job->plan().sides[side].cuts : none;
            std::string text;
            for (std::size_t i = from; i < std::min(cuts.size(), from + deep); ++i) {
                std::string why = cuts[i].why;
                if (cuts.size() > deep && why.size() > shortly) {
                    why = why.substr(0, shortly) + " ...";
                }
                text += fmt::format("{:<14}{}\n", cuts[i].what, why);
            }
            return cuts.empty() && from == 0 ? tr("nothing is cut from this side") : qs(text);
        });
    };
    column(0);
    group(QString());
    column(deep);
}

void Ledger::leafPieceFace() {
    piecePlan(0);
}

void Ledger::leafPieceBack() {
    piecePlan(1);
}

} // namespace wren::app
