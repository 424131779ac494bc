#pragma once

#include "frame/sheet.h"
#include "frame/telling.h"

#include <QPushButton>
#include <QWidget>

#include <vector>

class QHBoxLayout;
class QScrollArea;

namespace wren::app {

/// One thing in the tray: a small drawing of what it is, its name, a mark for what is found of it.
class TrayThing : public QPushButton {
    Q_OBJECT
public:
    TrayThing(const Feature& feature, QWidget* parent = nullptr);

    const std::string& path() const { return feature_.path; }
    void show(const Feature& feature, const Finding* worst, LengthUnit unit);
    QSize sizeHint() const override;

protected:
    void paintEvent(QPaintEvent*) override;

private:
    Feature feature_;
    std::optional<Weight> worst_;
};

/// The things of the station in a row, in the order they are made. A click or the arrow keys take
/// one in hand, a letter jumps to the next name that begins with it, the last place adds a new one.
class TrayBand : public QWidget, public Telling {
    Q_OBJECT
public:
    explicit TrayBand(Sheet& sheet, QWidget* parent = nullptr);
    QAccessible::Role accessRole() const override;
    QString accessValue() const override;

    bool hasThings() const { return !tiles_.empty(); }
    bool wanted() const; ///< here and now

Q_SIGNALS:
    void addWanted(QWidget* below);
    void filled(); ///< it has got its first thing, or lost its last

protected:
    bool eventFilter(QObject* watched, QEvent* event) override;

private:
    void refresh();
    void mark();
    void stepTo(int index);

    Sheet& sheet_;
    QScrollArea* scroll_ = nullptr;
    QHBoxLayout* row_ = nullptr;
    QPushButton* add_ = nullptr;
    std::vector<TrayThing*> tiles_;
};

} // namespace wren::app
