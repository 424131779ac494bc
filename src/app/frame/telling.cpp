#include "frame/telling.h"

#include <QAccessibleWidget>
#include <QPushButton>

#include <functional>

namespace wren::app {
namespace {

class Told : public QAccessibleWidget {
public:
    Told(QWidget* widget, QAccessible::Role role, std::function<QString()> value)
        : QAccessibleWidget(widget, role), value_(std::move(value)) {}

    QString text(QAccessible::Text what) const override {
        return what == QAccessible::Value ? value_() : QAccessibleWidget::text(what);
    }

private:
    std::function<QString()> value_;
};

QAccessibleInterface* toldOf(const QString&, QObject* object) {
    auto* widget = qobject_cast<QWidget*>(object);
    if (auto* telling = dynamic_cast<Telling*>(widget)) {
        return new Told(widget, telling->accessRole(),
                        [telling] { return telling->accessValue(); });
    }
    auto* choice = qobject_cast<QPushButton*>(widget);
    if (choice && choice->objectName() == QLatin1String("choice")) {
        return new Told(choice, QAccessible::ComboBox,
                        [choice] { return choice->text().section(QLatin1Char(' '), 0, 0); });
    }
    return nullptr;
}

} // namespace

void installTelling() {
    static const bool once = [] {
        QAccessible::installFactory(toldOf);
        return true;
    }();
    Q_UNUSED(once);
}

} // namespace wren::app
