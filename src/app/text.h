#pragma once

#include <QString>

#include <string>

namespace wren::app {

inline QString qs(const std::string& s) {
    return QString::fromStdString(s);
}

/// "1 stop", "3 stops".
inline QString counted(int n, const char* noun) {
    return QStringLiteral("%1 %2%3").arg(n).arg(QLatin1String(noun),
                                                n == 1 ? QString() : QStringLiteral("s"));
}

} // namespace wren::app
