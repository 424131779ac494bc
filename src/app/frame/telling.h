#pragma once

#include <QAccessible>
#include <QString>

namespace wren::app {

/// What a band that paints itself tells assistive technology beside its name.
class Telling {
public:
    virtual ~Telling() = default;
    virtual QAccessible::Role accessRole() const = 0;
    virtual QString accessValue() const = 0; ///< what can be read off it now
};

/// Makes those bands, and fields that offer a choice, known by their role and value. Once.
void installTelling();

} // namespace wren::app
