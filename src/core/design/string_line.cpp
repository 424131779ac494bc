#include "design/string_line.h"

#include "design/fan.h"

#include <algorithm>

namespace wren {
namespace {

constexpr double airOverFret = 0.5; ///< mm over the first frets' crowns; common practice, no source
constexpr int fretOfAction = 12;

/// A board without frets carries its strings on the wood.
double crownHeight(const Fretboard& board) {
    return board.frets > 0 ? board.wire.crownHeight : 0;
}

double airAtNut(const Fretboard& board) {
    return board.zeroFret ? 0 : airOverFret;
}

} // namespace

double stringHeightAtNut(const Neck& neck, const Fretboard& board) {
    return neck.accent + board.thickness + crownHeight(board) + airAtNut(board);
}

StringSide::StringSide(const Neck& neck, const Fretboard& board, const StringAims& aims,
                       double across)
    : face_(faceOf(board)), across_(across), crownHeight_(crownHeight(board)), accent_(neck.accent),
      relief_(aims.school == StringSchool::flat ? 0 : aims.relief),
      lastShare_(board.frets > 0 ? Fan::share(board.frets) : 1) {
    const Fan fan(board);
    nut_ = fan.string(across, 0);
    saddle_ = fan.string(across, 1);
    boardAtNut_ = accent_ + face_.heightAt(nut_.x, nut_.y);
    const double treble = aims.trebleAction.value_or(aims.action);
    const bool flat = aims.school == StringSchool::flat;
    const double action =
        flat ? 0 : aims.action + (treble - aims.action) * (std::clamp(across, -1.0, 1.0) + 1) / 2;
    atNut_ = boardAtNut_ + crownHeight_ + (flat ? 0 : airAtNut(board));
    atSaddle_ = atNut_ + (crown(fretOfAction) + action - atNut_) / Fan::share(fretOfAction);
}

Vec2 StringSide::fret(int n) const {
    return at(Fan::share(n));
}

double StringSide::crown(int n) const {
    const Vec2 p = fret(n);
    const double along = std::min(1.0, Fan::share(n) / lastShare_);
    const double bow = 4 * relief_ * along * (1 - along);
    return accent_ + face_.heightAt(p.x, p.y) + crownHeight_ - bow;
}

std::vector<StringSide> stringSides(const Neck& neck, const Fretboard& board,
                                    const StringAims& aims) {
    std::vector<StringSide> out;
    for (double across : stringCentres(board, 2)) {
        out.emplace_back(neck, board, aims, across);
    }
    return out;
}

StringLine::StringLine(const Neck& neck, const Fretboard& board, const StringAims& aims) {
    const StringSide bass(neck, board, aims, -1);
    const StringSide treble(neck, board, aims, 1);
    saddle_ = (bass.saddle().x + treble.saddle().x) / 2;
    const double nut = (bass.nut().x + treble.nut().x) / 2;
    const double atNut = (bass.atNut() + treble.atNut()) / 2;
    slope_ = ((bass.atSaddle() + treble.atSaddle()) / 2 - atNut) / (saddle_ - nut);
    atNut_ = atNut - slope_ * nut;
    const int last = board.frets;
    lastFret_ = last > 0 ? (bass.fret(last).x + treble.fret(last).x) / 2 : 0;
    pressed_ = last > 0 ? (bass.crown(last) + treble.crown(last)) / 2 : atNut_;
}

} // namespace wren
