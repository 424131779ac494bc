#include "frame/headed.h"

#include "frame/theme.h"

#include <QLabel>
#include <QVBoxLayout>

namespace wren::app {

QVBoxLayout* headed(const QString& name, QWidget* field) {
    auto* column = new QVBoxLayout;
    column->setSpacing(4);
    auto* heading = new QLabel(name);
    heading->setFont(words(14));
    heading->setSizePolicy(QSizePolicy::Preferred, QSizePolicy::Fixed);
    heading->setBuddy(field);
    field->setMinimumHeight(34);
    field->setAccessibleName(name);
    column->addWidget(heading);
    column->addWidget(field);
    return column;
}

} // namespace wren::app
