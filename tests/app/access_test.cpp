#include "opened.h"

#include <QAccessible>
#include <QPushButton>

using namespace wren;
using namespace wren::app;

namespace {

QAccessibleInterface* told(QWidget* widget) {
    return QAccessible::queryAccessibleInterface(widget);
}

QWidget* named(Window& window, const QString& name) {
    for (QWidget* w : window.findChildren<QWidget*>()) {
        if (w->accessibleName() == name) {
            return w;
        }
    }
    return nullptr;
}

} // namespace

TEST_CASE("What is painted tells its role and what can be read off it", "[app][access]") {
    Opened w(QStringLiteral(WREN_SOURCE "/demo/whinchat.wren"));
    const auto check = [&](const QString& name, QAccessible::Role role, const QString& part) {
        QWidget* band = named(w.window, name);
        REQUIRE(band);
        QAccessibleInterface* face = told(band);
        REQUIRE(face);
        INFO(name.toStdString() << ": " << face->text(QAccessible::Value).toStdString());
        CHECK(face->role() == role);
        CHECK(face->text(QAccessible::Value).contains(part));
    };
    w.sheet().setStation(Station::body);
    w.settle();
    check(QStringLiteral("Route"), QAccessible::PageTabList, QStringLiteral("here: Body, done"));
    check(QStringLiteral("Cut tape"), QAccessible::Slider, QStringLiteral("programs run"));
    w.sheet().take("body.controls.0");
    check(QStringLiteral("Ruler and strips"), QAccessible::Canvas, QStringLiteral("pot 1 in hand"));
    check(QStringLiteral("Things of this station"), QAccessible::List, QStringLiteral("things"));
    w.sheet().take({});
    w.settle();
    const auto choices = w.window.findChildren<QPushButton*>(QStringLiteral("choice"));
    REQUIRE_FALSE(choices.isEmpty());
    for (QPushButton* choice : choices) {
        CHECK(told(choice)->role() == QAccessible::ComboBox);
        CHECK_FALSE(told(choice)->text(QAccessible::Name).isEmpty());
        CHECK(choice->text().startsWith(told(choice)->text(QAccessible::Value)));
    }
    // Every field and every button has a name.
    for (QWidget* each : w.window.findChildren<QWidget*>()) {
        if (each->isVisible() && each->focusPolicy() != Qt::NoFocus) {
            INFO(each->metaObject()->className()
                 << " " << each->objectName().toStdString() << " in "
                 << each->parent()->metaObject()->className());
            CHECK_FALSE(told(each)->text(QAccessible::Name).isEmpty());
        }
    }
}

TEST_CASE("What was entered in a field is taken back by the document's undo", "[app][access]") {
    Opened w(QStringLiteral(WREN_SOURCE "/demo/whinchat.wren"));
    w.sheet().setStation(Station::body);
    w.settle();
    QLineEdit* line = &w.line("body.thickness");
    const QString before = line->text();
    line->setFocus();
    line->selectAll();
    QTest::keyClicks(line, QStringLiteral("39"));
    QTest::keyClick(line, Qt::Key_Return);
    CHECK(w.window.document().project().body.thickness == 39);
    CHECK(line->hasFocus());
    QTest::keyClick(line, Qt::Key_Z, Qt::ControlModifier);
    CHECK(w.window.document().project().body.thickness == 42);
    CHECK(line->text() == before);
}

TEST_CASE("Findings and what follows are told in the unit that is shown", "[app][units]") {
    Opened w(QStringLiteral(WREN_SOURCE "/demo/whinchat.wren"));
    w.sheet().setStation(Station::body);
    w.window.document().set(QStringLiteral("body.thickness"), QStringLiteral("28"));
    w.settle();
    REQUIRE(w.finding().contains(QStringLiteral(" mm")));
    w.window.document().setUnit(LengthUnit::inch);
    CHECK_FALSE(w.finding().contains(QStringLiteral(" mm")));
    CHECK(w.finding().contains(QStringLiteral(" in")));
}
