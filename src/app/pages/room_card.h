#pragma once

#include "frame/sheet.h"
#include "job/run_program.h"
#include "pages/bed_picture.h"
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
    RunHow how = RunHow::cut;
    bool busy = false, held = false;
    int feed = 100, spindle = 100;
    bool asLast = false; ///< the next program begins at the feed its like ended well at
    double minutesLeft = -1; ///< by how long it has taken so far; less than 0: not known yet
    QString last;            ///< how the last thing ended
};

/// Draws the step in hand as one large card: legible from two metres.
class RoomCard {
    Q_DECLARE_TR_FUNCTIONS(RoomCard)
public:
    /// All of them outlive it. `plan`: null while it is being worked out.
    RoomCard(const Sheet& sheet, const RoomPlanPtr& plan, std::size_t at, const MachineNow& now,
             BedPicture& bed)
        : sheet_(sheet), plan_(plan), at_(at), now_(now), bed_(bed) {}

    void card(QPainter& p, const QRectF& area) const;
    /// Where the machine stands, what it does, minutes.
    void machine(QPainter& p, const QRectF& area, bool jogging, double jogStep) const;
    /// The next three, and how many lie behind.
    void coming(QPainter& p, const QRectF& area) const;

private:
    const std::vector<RoomStep>& steps() const;
    const RoomStep* step() const { return at_ < steps().size() ? &steps()[at_] : nullptr; }
    void picture(QPainter& p, const QRectF& area) const;
    void bitPicture(QPainter& p, const QRectF& area) const;

    const Sheet& sheet_;
    const RoomPlanPtr& plan_;
    std::size_t at_;
    const MachineNow& now_;
    BedPicture& bed_;
};

} // namespace wren::app
