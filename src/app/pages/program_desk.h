#pragma once

#include "frame/sheet.h"
#include "job/check_on_part.h"

#include <QPixmap>
#include <QWidget>

#include <memory>

class QLabel;
class QPushButton;

namespace wren::app {

/// A program from anywhere, laid on a part of the design before it is trusted: drawn from above and
/// from the side over the blank it would be run on, timed, and judged; the first line that strays is
/// marked. Escape leaves.
class ProgramDesk : public QWidget {
    Q_OBJECT
public:
    explicit ProgramDesk(Sheet& sheet, QWidget* parent = nullptr);

    void open(const QString& file); ///< read and run in a worker thread; ready() follows
    QString told() const;           ///< what is said of it, a sentence a line

Q_SIGNALS:
    void ready();
    void left();
    void refused(QString sentence);

protected:
    void paintEvent(QPaintEvent*) override;
    void keyPressEvent(QKeyEvent*) override;

private:
    struct Outcome; ///< the program and what was found, or why it cannot be read

    void chooseSetup();
    void chooseBit();
    void run();
    void show(const std::shared_ptr<const Outcome>& outcome);
    void drawPlan(QPainter& p, const QRectF& area) const;
    void drawSide(QPainter& p, const QRectF& area) const;

    Sheet& sheet_;
    QString file_;
    std::string text_;
    std::shared_ptr<const Outcome> outcome_;
    QPixmap drawn_; ///< kept while outcome and size stay
    std::shared_ptr<const Outcome> drawnOf_;
    int wish_ = 0; ///< counts runs, so that only the newest is shown
    std::stop_source stop_;
    QPushButton* setup_ = nullptr;
    QPushButton* bit_ = nullptr;
    QLabel* title_ = nullptr;
    QLabel* told_ = nullptr;
};

} // namespace wren::app
