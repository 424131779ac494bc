// The keys of the room at the machine: one each, and jogging.
#include "pages/machine_room.h"

#include <QKeyEvent>
#include <QLineEdit>
#include <QPushButton>

#include <algorithm>

namespace wren::app {
namespace {

constexpr std::array jogSteps{0.1, 1.0, 10.0, 50.0};
constexpr double jogFeed = 2000; ///< mm/min

} // namespace

void MachineRoom::turn(int feed, int spindle) {
    now_.feed = std::clamp(feed, 10, 200);
    now_.spindle = std::clamp(spindle, 50, 150);
    runner_.turnTo(now_.feed, now_.spindle);
    update();
}

void MachineRoom::jogBy(Vec3 way) {
    if (runner_.busy()) {
        return; // a held key comes again
    }
    if (address_->text().trimmed().isEmpty()) {
        Q_EMIT refused(tr("Give the machine's address, or start a stand-in."));
        return;
    }
    runner_.act(tr("Jogged"), [way](Talk& talk) { jog(talk, way, jogFeed); });
}

bool MachineRoom::jogKey(int key) {
    switch (key) {
    case Qt::Key_Left:
        jogBy({-jogStep_, 0, 0});
        return true;
    case Qt::Key_Right:
        jogBy({jogStep_, 0, 0});
        return true;
    case Qt::Key_Up:
        jogBy({0, jogStep_, 0});
        return true;
    case Qt::Key_Down:
        jogBy({0, -jogStep_, 0});
        return true;
    case Qt::Key_PageUp:
        jogBy({0, 0, jogStep_});
        return true;
    case Qt::Key_PageDown:
        jogBy({0, 0, -jogStep_});
        return true;
    case Qt::Key_C:
    case Qt::Key_N:
    case Qt::Key_B:
        takePlace(key);
        return true;
    default:
        break;
    }
    if (key >= Qt::Key_1 && key <= Qt::Key_4) {
        jogStep_ = jogSteps[std::size_t(key - Qt::Key_1)];
        update();
        return true;
    }
    return false;
}

/// C: the lines' crossing; N and B: the zero hole of the neck's and the body's fixture board.
void MachineRoom::takePlace(int key) {
    if (!now_.known) {
        Q_EMIT refused(tr("The machine has not said where it stands: jog it there first."));
        return;
    }
    Project next = sheet_.document().project();
    const Vec2 at = now_.status.position.xy();
    if (key == Qt::Key_C) {
        next.machine.crossing = at;
    } else {
        TurnHold& hold = key == Qt::Key_N ? next.neckHold : next.bodyHold;
        hold.zeroX = at.x;
        hold.zeroY = at.y;
        hold.fixtureMoved = false;
    }
    sheet_.document().change(std::move(next), key == Qt::Key_C ? tr("the lines' crossing")
                                                               : tr("a fixture board's zero hole"));
    Q_EMIT told(tr("Taken from where the spindle stands: machine X %1 Y %2.")
                    .arg(at.x, 0, 'f', 2)
                    .arg(at.y, 0, 'f', 2));
}

/// Its own keys come before the drawing's, which has nothing to add here.
bool MachineRoom::event(QEvent* e) {
    if (e->type() == QEvent::ShortcutOverride) {
        const auto* key = static_cast<QKeyEvent*>(e);
        constexpr std::array plain{Qt::Key_A, Qt::Key_T,  Qt::Key_S,      Qt::Key_J,
                                   Qt::Key_R, Qt::Key_F, Qt::Key_E, Qt::Key_M, Qt::Key_Plus, Qt::Key_Minus, Qt::Key_Asterisk,
                                   Qt::Key_Comma, Qt::Key_Period};
        constexpr std::array jog{Qt::Key_Left, Qt::Key_Right,  Qt::Key_Up,       Qt::Key_Down,
                                 Qt::Key_N,    Qt::Key_PageUp, Qt::Key_PageDown, Qt::Key_C,
                                 Qt::Key_B,    Qt::Key_1,      Qt::Key_2,        Qt::Key_3,
                                 Qt::Key_4};
        const auto has = [&](const auto& keys) {
            return std::find(keys.begin(), keys.end(), key->key()) != keys.end();
        };
        const bool bare = key->modifiers() == Qt::NoModifier ||
                          key->modifiers() == Qt::KeypadModifier ||
                          key->modifiers() == Qt::ShiftModifier;
        if (bare && (has(plain) || (jogging_ && has(jog)))) {
            e->accept();
            return true;
        }
    }
    return QWidget::event(e);
}

void MachineRoom::keyPressEvent(QKeyEvent* e) {
    const int key = e->key();
    if (jogging_ && e->modifiers() == Qt::NoModifier && jogKey(key)) {
        return;
    }
    if (e->isAutoRepeat()) {
        return;
    }
    if (key == Qt::Key_Return || key == Qt::Key_Enter) {
        doStep();
    } else if (key == Qt::Key_Backspace) {
        stepBack();
    } else if (key == Qt::Key_S) {
        send();
    } else if (key == Qt::Key_A) {
        send(RunHow::air);
    } else if (key == Qt::Key_T) {
        send(RunHow::trace);
    } else if (key == Qt::Key_R) {
        takeUpAgain(e->modifiers() == Qt::ShiftModifier);
    } else if (key == Qt::Key_E && !runner_.busy()) {
        takeAdvice();
    } else if (key == Qt::Key_M && !runner_.busy()) {
        measure();
    } else if (key == Qt::Key_F) {
        fit_->click();
    } else if (key == Qt::Key_J) {
        jogging_ = !jogging_ && !runner_.running();
        update();
    } else if (key == Qt::Key_Plus) {
        turn(now_.feed + 10, now_.spindle);
    } else if (key == Qt::Key_Minus) {
        turn(now_.feed - 10, now_.spindle);
    } else if (key == Qt::Key_Period || key == Qt::Key_Comma) {
        turn(now_.feed, now_.spindle + (key == Qt::Key_Period ? 10 : -10));
    } else if (key == Qt::Key_Asterisk) {
        turn(100, 100);
    } else if (key == Qt::Key_Space && runner_.running()) {
        hold_->click();
    } else if (key == Qt::Key_Escape && runner_.busy()) {
        stop_->click();
    } else {
        QWidget::keyPressEvent(e);
    }
}

} // namespace wren::app
