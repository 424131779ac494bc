#pragma once

#include "frame/sheet.h"
#include "job/room.h"
#include "run/sender.h"

#include <QCoreApplication>
#include <QPainter>

namespace wren::app {

/// What the machine has last said, and of which program.
struct MachineNow {
    MachineStatus status;
    bool known = false; ///< it has said anything
    SendProgress progress;
    int sending = 0; ///< program under way, from 1; 0: none
    bool busy = false, held = false;
    int feed = 100, spindle = 100;
    double minutesLeft = -1; ///< by how long it has taken so far; less than 0: not known yet
    QString last;            ///< how the last thing ended
};

/// Draws the step in hand as one large card: legible from two metres.
class RoomCard {
    Q_DECLARE_TR_FUNCTIONS(RoomCard)
public:
    RoomCard(const Sheet& sheet, const std::vector<RoomStep>& steps, std::size_t at,
             const MachineNow& now)
        : sheet_(sheet), steps_(steps), at_(at), now_(now) {}

    void card(QPainter& p, const QRectF& area) const;
    /// Where the machine stands, what it does, minutes.
    void machine(QPainter& p, const QRectF& area, bool jogging, double jogStep) const;
    /// The next three, and how many lie behind.
    void coming(QPainter& p, const QRectF& area) const;

private:
    const RoomStep* step() const { return at_ < steps_.size() ? &steps_[at_] : nullptr; }
    void picture(QPainter& p, const QRectF& area) const;
    void bedPicture(QPainter& p, const QRectF& area) const;
    void bitPicture(QPainter& p, const QRectF& area) const;
    void path(QPainter& p, const class BedDrawing& bed) const;

    const Sheet& sheet_;
    const std::vector<RoomStep>& steps_;
    std::size_t at_;
    const MachineNow& now_;
};

} // namespace wren::app
