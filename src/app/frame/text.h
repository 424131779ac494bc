#pragma once

#include "base/unit_text.h"

#include <QString>

#include <string>

namespace wren::app {

inline QString qs(const std::string& s) {
    return QString::fromStdString(s);
}

/// A sentence written in millimetres, in the unit that is shown.
inline QString told(const std::string& sentence, LengthUnit unit) {
    return qs(inUnit(sentence, unit));
}

/// "1 stop", "3 stops".
inline QString counted(int n, const char* noun) {
    return QStringLiteral("%1 %2%3").arg(n).arg(QLatin1String(noun),
                                                n == 1 ? QString() : QStringLiteral("s"));
}

} // namespace wren::app
