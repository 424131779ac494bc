#pragma once

#include "state/document.h"

#include <QWidget>

#include <optional>

class QLabel;
class QLineEdit;
class QPushButton;

namespace wren::app {

/// A board from nothing: a handful of numbers, drawn as they are typed. Return makes it, Escape
/// leaves.
class NewBoard : public QWidget {
    Q_OBJECT
public:
    explicit NewBoard(QWidget* parent = nullptr);

    void start(LengthUnit unit); ///< ready to type

Q_SIGNALS:
    void made(wren::Project project);
    void left();

protected:
    void paintEvent(QPaintEvent*) override;
    void keyPressEvent(QKeyEvent*) override;

private:
    QLineEdit* entry(const QString& label, const QString& name, const QString& tip);
    void read();
    void finish();
    void turnHand();

    LengthUnit unit_ = LengthUnit::mm;
    bool leftHanded_ = false;
    QLineEdit* name_ = nullptr;
    QLineEdit* strings_ = nullptr;
    QLineEdit* scale_ = nullptr;
    QLineEdit* treble_ = nullptr;
    QLineEdit* square_ = nullptr;
    QLineEdit* frets_ = nullptr;
    QPushButton* hand_ = nullptr;
    QLabel* trouble_ = nullptr;
    QPushButton* make_ = nullptr;
    std::optional<Project> project_; ///< what the numbers make; none while they do not serve
};

} // namespace wren::app
