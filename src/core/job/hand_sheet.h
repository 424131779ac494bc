#pragma once

#include "exchange/drawing.h"
#include "exchange/pdf.h"
#include "job/derive.h"
#include "job/hand_text.h"

#include <string>
#include <vector>

namespace wren {

/// A page for work by hand: a drawing and the numbers to be marked off, for this instrument.
struct HandSheet {
    std::string name;  ///< as it is asked for and filed: "facets"
    std::string title; ///< "Carving the neck by facets"

    struct Table {
        std::string heading;
        std::vector<std::string> columns;
        std::vector<std::vector<std::string>> rows;
    };
    std::vector<Table> tables;
    std::vector<std::string> steps;    ///< what is done with them, in order
    std::vector<std::string> cautions; ///< for the moment of doing it
    Drawing drawing;                   ///< full size, mm
    bool toLayOn = false;              ///< it is laid on the wood, so printed at full size as well
    LengthUnit unit = LengthUnit::mm;  ///< of the tables
};

/// What can be asked for: as it is typed, as it is shown, what it is for.
struct HandSheetKind {
    std::string name, label, words;
};
const std::vector<HandSheetKind>& handSheetKinds();

/// Throws Error: a name that is none of them, an instrument that has nothing of the kind, a place
/// where there is no neck. `at`: for facets, distances from the nut; none: the neck's stations.
HandSheet handSheet(const Derived& drawn, const std::string& name, LengthUnit unit,
                    const std::vector<double>& at = {});
/// Every one this instrument has something for.
std::vector<HandSheet> handSheets(const Derived& drawn, LengthUnit unit);

/// As it hangs at the bench: drawing to scale and numbers on A4, what is laid on at full size on
/// sheets of `paper` after it.
std::string handSheetPdf(const Derived& drawn, const HandSheet& sheet, const Paper& paper);
std::string handSheetText(const HandSheet& sheet);

// One of each; Error where the instrument has nothing of the kind.
HandSheet facetSheet(const Derived& drawn, const HandSizes& size, const std::vector<double>& at);
HandSheet nutSheet(const Derived& drawn, const HandSizes& size);
HandSheet fretSheet(const Derived& drawn, const HandSizes& size);
HandSheet dotSheet(const Derived& drawn, const HandSizes& size);
HandSheet sawingSheet(const Derived& drawn, const HandSizes& size);
HandSheet backSetSheet(const Derived& drawn, const HandSizes& size);
HandSheet sledSheet(const Derived& drawn, const HandSizes& size);
HandSheet bushSheet(const Derived& drawn, const HandSizes& size);
HandSheet ferruleSheet(const Derived& drawn, const HandSizes& size);
HandSheet jackSheet(const Derived& drawn, const HandSizes& size);

} // namespace wren
