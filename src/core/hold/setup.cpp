#include "hold/setup.h"

#include <algorithm>

#include <fmt/format.h>

namespace wren {
namespace {

struct Grid {
    int rows = 1;    ///< across the blank
    int columns = 1; ///< along it
};

/// As many side by side as the blank is wide, the rest in further columns.
Grid gridFor(const BoardPart& board, const Blank& blank) {
    const double room = (blank.width + blank.gap) / (board.widest() + blank.gap);
    const int fit = std::clamp(static_cast<int>(room + 1e-9), 1, blank.boards);
    const int columns = (blank.boards + fit - 1) / fit;
    return {(blank.boards + columns - 1) / columns, columns};
}

} // namespace

const char* zZeroName(ZZero zero) {
    return zero == ZZero::top ? "top" : "bed";
}

WoodSpan Setup::woodAt(double x) const {
    if (scarfed) {
        return scarfed->at(x);
    }
    const double a = fromInstrument.toInstrument({0, 0, bottomZ()}).z;
    const double b = fromInstrument.toInstrument({0, 0, topZ()}).z;
    return {std::min(a, b), std::max(a, b)};
}

double Setup::woodTop(double x, double around) const {
    double top = bottomZ();
    constexpr int samples = 8; // on each side
    for (int i = -samples; i <= (around > 0 ? samples : -samples); ++i) {
        const double at = x + around * i / samples;
        const WoodSpan wood = woodAt(at);
        for (double z : {wood.under, wood.over}) {
            top = std::max(top, fromInstrument.toSetup({at, 0, z}).z);
        }
    }
    return top;
}

std::string Setup::told(Vec2 p) const {
    if (fromBridge) {
        const Vec2 q = (*fromBridge)(p);
        return fmt::format("{:.1f}, {:.1f} from the bridge line", q.x, q.y);
    }
    return fmt::format("{:.1f} mm from the nut and {:.1f} mm off the centreline", p.x, p.y);
}

Setup Setup::at(std::size_t place) const {
    Setup one = *this;
    one.fromInstrument = places.at(place);
    return one;
}

Setup layBoard(const BoardPart& board, const Blank& blank, const Machine& machine, ZZero zero) {
    Setup setup;
    setup.part = Role::board;
    setup.name = "face up";
    setup.blank = blank;
    setup.datum = fmt::format("front left corner of the blank, nut end and {} side",
                              board.design().hand == Hand::left ? "treble" : "bass");
    setup.zZero = zero;
    const Grid grid = gridFor(board, blank);
    const auto box = board.boundingBox();
    const Vec2 middle{(box[0].x + box[1].x) / 2, (box[0].y + box[1].y) / 2};
    for (int i = 0; i < blank.boards; ++i) {
        const int column = i / grid.rows;
        const int row = i % grid.rows;
        const Vec2 step{board.length() + blank.gap, board.widest() + blank.gap};
        const Vec2 centre{blank.length / 2 + (column - (grid.columns - 1) / 2.0) * step.x,
                          blank.width / 2 + (row - (grid.rows - 1) / 2.0) * step.y};
        setup.places.push_back(SetupFromInstrument::faceUp(
            {centre.x - middle.x, centre.y - middle.y, setup.bottomZ()}));
    }
    setup.fromInstrument = setup.places.front();
    setup.zeroOnMachine = {machine.crossing.x - blank.length / 2,
                           machine.crossing.y - blank.width / 2};
    return setup;
}

Findings judgeBlank(const BoardPart& board, const Blank& blank) {
    Findings out;
    const Grid grid = gridFor(board, blank);
    const auto tooSmall = [&](const char* side, double has, double needs) {
        Finding f;
        f.weight = Weight::stop;
        f.code = "blank-too-small";
        f.part = Role::board;
        f.message =
            blank.boards == 1
                ? fmt::format("The board is {:.2f} mm {} but the blank only {:.2f} mm; it cannot "
                              "be cut from this blank.",
                              needs, side, has)
                : fmt::format("{} boards with {:.1f} mm between them need a blank {:.2f} mm {} "
                              "and it has {:.2f} mm.",
                              blank.boards, blank.gap, needs, side, has);
        f.value = has;
        f.limit = needs;
        f.overridable = false;
        out.push_back(f);
    };
    const double length = grid.columns * (board.length() + blank.gap) - blank.gap;
    const double width = grid.rows * (board.widest() + blank.gap) - blank.gap;
    if (blank.length < length) {
        tooSmall("long", blank.length, length);
    }
    if (blank.width < width) {
        tooSmall("wide", blank.width, width);
    }
    if (blank.thickness < board.design().thickness) {
        tooSmall("thick", blank.thickness, board.design().thickness);
    }
    return out;
}

std::string Setup::nameIn(std::size_t station) const {
    return stations.empty() ? name : fmt::format("{}, station {}", name, stations[station].number);
}

Findings judgePlacement(const Setup& setup, const Machine& machine) {
    const Vec2 low = setup.zeroOnMachine - machine.lowCorner();
    const Vec2 high = low + Vec2{setup.blank.length, setup.blank.width};
    const double over =
        std::max({-low.x, -low.y, high.x - machine.travel.x, high.y - machine.travel.y});
    if (over <= 0) {
        return {};
    }
    Finding f;
    f.weight = Weight::caution;
    f.code = "blank-overhangs";
    f.part = setup.part;
    f.message = fmt::format("The blank reaches {:.1f} mm beyond the travel of {}; mind what it may "
                            "meet, and that its corner cannot be jogged to.",
                            over, machine.name);
    f.value = over;
    return {f};
}

} // namespace wren
