#include "job/whole_print.h"

#include "base/error.h"
#include "exchange/board_drawing.h"
#include "exchange/body_drawing.h"
#include "exchange/neck_drawing.h"
#include "part/panel_field.h"
#include "part/setup_geometry.h"

#include <algorithm>
#include <cmath>
#include <functional>

namespace wren {
namespace {

constexpr double apart = 40;   ///< of paper between plan and side
constexpr double chord = 0.01; ///< of curves that are drawn leaning
constexpr double step = 1;     ///< along a side view's lines

class Whole {
public:
    explicit Whole(const Derived& d) : d_(d) { out_.title = d.project.name + " plan and side"; }

    Drawing all() {
        plan();
        const auto box = out_.box();
        shift_ = box[0].y - apart;
        side();
        return std::move(out_);
    }

private:
    Vec3 carried(Vec3 p) const { return d_.body ? d_.body->part.place().toBody(p) : p; }
    bool leans() const { return d_.body && d_.body->part.place().angle != 0; }

    /// A drawing of the instrument's frame at that height, as it lies over the body.
    void lay(const Drawing& drawing, double z) {
        const auto flat = [&](Vec2 p) { return carried({p.x, p.y, z}).xy(); };
        for (DrawnLine line : drawing.lines) {
            if (leans()) {
                line.pieces = straightened(line.pieces);
            }
            for (ContourPiece& piece : line.pieces) {
                piece = {piece.kind, flat(piece.from), flat(piece.to), flat(piece.centre)};
            }
            out_.lines.push_back(std::move(line));
        }
        for (DrawnText text : drawing.texts) {
            text.at = flat(text.at);
            out_.texts.push_back(std::move(text));
        }
    }

    /// Arcs seen leaning are none any more.
    static Contour straightened(const Contour& contour) {
        std::vector<Vec2> points = pointsOf(contour, chord);
        points.push_back(contour.back().to);
        Contour out;
        for (std::size_t i = 1; i < points.size(); ++i) {
            out.push_back({ContourPiece::Kind::line, points[i - 1], points[i], {}});
        }
        return out;
    }

    void plan() {
        const double glued = d_.project.neck.accent;
        lay(boardDrawing(*d_.board, ""), glued + d_.project.board.thickness);
        if (d_.neck) {
            lay(neckDrawing(d_.neck->part, ""), 0);
        }
        if (d_.body) {
            const Drawing body = bodyDrawing(d_.body->part, "");
            out_.lines.insert(out_.lines.end(), body.lines.begin(), body.lines.end());
        }
    }

    Vec2 below(Vec3 p) const { return {p.x, shift_ + p.z}; }
    Vec2 belowCarried(Vec3 p) const { return below(carried(p)); }

    /// A line along X, Z by X, instrument frame.
    void along(const char* layer, double from, double to, const std::function<double(double)>& z) {
        const int n = std::max(1, static_cast<int>(std::ceil((to - from) / step)));
        for (int i = 0; i < n; ++i) {
            const double a = from + (to - from) * i / n, b = from + (to - from) * (i + 1) / n;
            out_.line(layer, belowCarried({a, 0, z(a)}), belowCarried({b, 0, z(b)}));
        }
    }

    void side() {
        if (d_.body) {
            bodySide();
        }
        if (d_.neck) {
            neckSide();
        }
        boardSide();
        for (const StringSide& s :
             stringSides(d_.project.neck, d_.project.board, d_.project.body.aims)) {
            out_.line("strings", belowCarried({s.nut().x, 0, s.atNut()}),
                      belowCarried({s.saddle().x, 0, s.atSaddle()}));
        }
    }

    void boardSide() {
        const double under = d_.project.neck.accent;
        const BoardPart& board = *d_.board;
        const auto over = [&](double x) { return under + board.face(x, 0); };
        along("side", board.xLow(), board.xHigh(), over);
        along("side", board.xLow(), board.xHigh(), [&](double) { return under; });
        for (double x : {board.xLow(), board.xHigh()}) {
            out_.line("side", belowCarried({x, 0, under}), belowCarried({x, 0, over(x)}));
        }
        for (const FretSlot& slot : board.slots()) {
            const double x = slot.xAt(0);
            out_.line("frets", belowCarried({x, 0, over(x)}),
                      belowCarried({x, 0, over(x) + d_.project.board.wire.crownHeight}));
        }
    }

    void neckSide() {
        const NeckPart& neck = d_.neck->part;
        const double tip = neck.outline().tip() + 0.5;
        // A neck that goes through is the body from there on.
        const double end = d_.body && d_.body->part.winged()
                               ? d_.body->part.place()
                                     .toInstrument({setupGeometry(d_.body->part, neck).mouth, 0, 0})
                                     .x
                               : neck.outline().end() - 0.01;
        const auto back = [&](double x) { return -neck.back().depth(x, 0); };
        const auto front = [&](double x) { return neck.face(x); };
        along("side", tip, end, back);
        along("side", tip, end, front);
        for (double x : {tip, end}) {
            out_.line("side", belowCarried({x, 0, back(x)}), belowCarried({x, 0, front(x)}));
        }
    }

    /// Cut along the centreline.
    void bodySide() {
        const BodyPart& part = d_.body->part;
        const Panel& body = *part.panel(Role::body);
        const auto box = body.box();
        const PanelField field(
            body, SetupFromInstrument::faceUp({}),
            {{box[0].x, 0}, step, static_cast<int>((box[1].x - box[0].x) / step) + 1, 1});
        std::optional<Vec2> front, back;
        for (std::size_t i = 0; i < field.front.size(); ++i) {
            std::optional<Vec2> nowFront, nowBack;
            if (field.in(i)) {
                const double x = field.at(i).x;
                nowBack = below({x, 0, field.back[i]});
                nowFront = below({x, 0, std::max(field.front[i], field.back[i])});
            }
            if (nowBack && back) {
                out_.line("side", *back, *nowBack);
                out_.line("side", *front, *nowFront);
            } else if (nowBack || back) { // the end's own edge
                out_.line("side", nowBack ? *nowBack : *back, nowFront ? *nowFront : *front);
            }
            front = nowFront;
            back = nowBack;
        }
        if (back) {
            out_.line("side", *back, *front);
        }
        const SetupGeometry setup = setupGeometry(part, d_.neck->part);
        const Bridge& b = part.design().bridge;
        const double middle = part.place().bridge + part.design().bridgeAt();
        for (double x : {middle - b.travel / 2, middle + b.travel / 2}) {
            out_.line("bridge", below({x, 0, setup.saddleLow}), below({x, 0, setup.saddleHigh}));
        }
        for (double z : {setup.saddleLow, setup.saddleHigh}) {
            out_.line("bridge", below({middle - b.travel / 2, 0, z}),
                      below({middle + b.travel / 2, 0, z}));
        }
        out_.line("bridge-line", below({part.place().bridge, 0, -part.thickness()}),
                  below({part.place().bridge, 0, setup.middleSaddle}));
    }

    const Derived& d_;
    Drawing out_;
    double shift_ = 0;
};

} // namespace

Drawing wholeDrawing(const Derived& d) {
    if (!d.board) {
        throw Error("There is nothing to draw yet: the fretboard's numbers cannot be made.");
    }
    return Whole(d).all();
}

} // namespace wren
