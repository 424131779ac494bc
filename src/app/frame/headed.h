#pragma once

#include <QString>

class QVBoxLayout;
class QWidget;

namespace wren::app {

/// A field of a page with its name over it, which is also what a screen reader says.
QVBoxLayout* headed(const QString& name, QWidget* field);

} // namespace wren::app
