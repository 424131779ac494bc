#pragma once

#include "pages/room_plan.h"
#include "frame/sheet.h"

#include <QPixmap>

namespace wren::app {

/// The bed with the blank as a step has it; under a program the blank from near as well, the part in
/// it and the program's way. Painted once and kept; what is cut so far is added as it comes, so that
/// a picture while a program runs costs what has happened since the last.
class BedPicture {
public:
    /// `until`: the line of the step's program that is cut so far; 0: none runs.
    void paint(QPainter& p, const QRectF& area, const Sheet& sheet, const RoomPlanPtr& plan,
               std::size_t at, int until, std::optional<Vec2> spindle);

private:
    struct Of { ///< what the kept pictures are of
        RoomPlanPtr plan;
        std::size_t at = 0;
        QRectF area;
        double density = 0;
        friend bool operator==(const Of&, const Of&) = default;
    };
    /// A piece of the program's way, in the picture.
    struct Piece {
        int line;
        QLineF way;
    };
    /// The blank from near: where a place of its setup lies.
    struct Near {
        QRectF area; ///< in the picture; empty: only the bed is shown
        double scale = 1;
        QPointF corner; ///< of the blank, front left
        QPointF at(Vec2 setup) const { return corner + QPointF(setup.x, -setup.y) * scale; }
    };
    void begin(const Of& of, const Sheet& sheet);
    void beginNear();
    void addCut(int until);
    const RoomStep& step() const { return of_.plan->steps[of_.at]; }
    QRectF bedArea() const;

    Of of_;
    Near near_;
    double bit_ = 0; ///< its width, pixels
    QPixmap bed_, cut_;
    std::vector<Piece> pieces_; ///< in running order
    std::size_t cutPieces_ = 0;
};

} // namespace wren::app
