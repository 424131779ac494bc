#pragma once

#include "cut/cut_kind.h"

#include <QColor>
#include <QFont>
#include <QPen>
#include <QString>

namespace wren::app {

/// The drafting sheet: paper, ink, wood, and one russet accent. Every text colour stands at least
/// 4.5:1 against the ground it is used on (WCAG 2.1, 1.4.3).
namespace colour {
inline const QColor paper{0xF1, 0xEB, 0xDD}; ///< the bench round the sheet
inline const QColor sheet{0xFC, 0xF9, 0xF1}; ///< what is drawn and typed on
inline const QColor rule{0xD8, 0xCE, 0xB9};  ///< hairlines
inline const QColor ink{0x22, 0x2C, 0x2E};
inline const QColor faded{0x5B, 0x60, 0x58};   ///< labels
inline const QColor russet{0x9A, 0x3A, 0x1E};  ///< selected, next, stop
inline const QColor moss{0x47, 0x63, 0x36};    ///< outline cuts, done
inline const QColor slate{0x2F, 0x50, 0x71};   ///< radius cuts, derived numbers
inline const QColor heather{0x72, 0x46, 0x72}; ///< tabs
inline const QColor ochre{0x80, 0x52, 0x08};   ///< slot cuts, caution
inline const QColor wood{0xE8, 0xD6, 0xB4};
inline const QColor woodDark{0xCF, 0xB5, 0x85};
inline const QColor grain{0xD9, 0xC3, 0x99};
} // namespace colour

QFont words(double size = 13, bool strong = false);   ///< pixels; a humanist sans
QFont figures(double size = 13, bool strong = false); ///< pixels; all digits of one width

/// Colour and line pattern of a kind of cut ("radius", "slots", "outline"), so that neither alone
/// carries the meaning.
QPen penOf(CutKind cut, double width = 1.4);

/// Registers the shipped fonts and sets the application's style. Call once, after QApplication.
void dress();

} // namespace wren::app
