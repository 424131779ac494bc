#pragma once

#include "frame/sheet.h"
#include "job/cures.h"

#include <QWidget>

class QLabel;
class QPushButton;

namespace wren::app {

/// The heaviest finding in words, the count of the others, and a way to its place. Page Up and Page
/// Down step through them. What a field refused is shown here too, until something is accepted.
class FindingsBand : public QWidget {
    Q_OBJECT
public:
    explicit FindingsBand(Sheet& sheet, QWidget* parent = nullptr);

    void refuse(const QString& sentence);
    void tell(const QString& sentence); ///< something done, e.g. where a file went
    void clear();
    /// Something long is under way in the background: what, and how far. end() before the next
    /// news.
    void begin(const QString& what);
    void progress(int percent);
    void end();
    void step(int direction);

Q_SIGNALS:
    void showPlace(double x);
    void showThing(QString path);
    void cureWanted(Cure cure);
    void stopWanted(); ///< of what is under way

protected:
    void paintEvent(QPaintEvent*) override;

private:
    void refresh();
    double roomForWords() const;

    Sheet& sheet_;
    std::size_t index_ = 0;
    QString refusal_;
    QString news_;
    QString busy_;
    int percent_ = 0;
    QPushButton* stop_;
    void cure();
    void goThere();

    QPushButton* cure_;
    QPushButton* place_;
    QPushButton* previous_;
    QPushButton* next_;
};

} // namespace wren::app
