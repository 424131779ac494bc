#pragma once

#include "frame/sheet.h"
#include "state/runner.h"

#include <QProcess>
#include <QWidget>

class QLabel;
class QLineEdit;
class QPushButton;

namespace wren::app {

/// At the machine: large, few, legible at arm's length. The next action is one key: Return sends
/// the next program, Space holds and resumes, Escape stops.
class MachinePanel : public QWidget {
    Q_OBJECT
public:
    MachinePanel(Sheet& sheet, std::filesystem::path book, QWidget* parent = nullptr);
    ~MachinePanel() override;

    void setAddress(const QString& address);
    /// Which program comes next, from 1; 0 when all are done.
    void setNext(int order, const std::vector<bool>& done);
    /// While the book is being read, which program comes next is not known: none is sent.
    void setBookRead(bool read);
    void send(RunHow how = RunHow::cut);
    void startSimulated(double speed);
    bool running() const { return runner_.running(); }

Q_SIGNALS:
    void runEnded();
    void refused(QString sentence);
    void told(QString sentence);

protected:
    void paintEvent(QPaintEvent*) override;
    bool event(QEvent*) override;
    void keyPressEvent(QKeyEvent*) override;
    void wheelEvent(QWheelEvent*) override;

private:
    void refresh();
    int inHand() const; ///< the program that runs or comes next, from 1
    std::optional<PartId> partInHand() const;
    std::optional<Finding> openStop() const; ///< of that part, which a reason could lift
    QString whyNot() const;                  ///< why nothing can be sent; empty when it can
    QRectF listArea() const;
    void drawPrograms(QPainter& p, const QRectF& area) const;
    void drawPosition(QPainter& p, const QRectF& area) const;

    Sheet& sheet_;
    std::filesystem::path book_;
    Runner runner_;
    QProcess simulated_;
    QLineEdit* address_;
    QLineEdit* reason_;
    QPushButton* send_;
    QPushButton* air_;
    QPushButton* trace_;
    QPushButton* hold_;
    QPushButton* stop_;
    QPushButton* simulate_;
    QLabel* why_;
    SendProgress progress_;
    int next_ = 1;
    int sending_ = 0;
    bool bookRead_ = false;
    std::vector<bool> done_;
    QString last_;
    double scroll_ = 0; ///< of the list, px
};

} // namespace wren::app
