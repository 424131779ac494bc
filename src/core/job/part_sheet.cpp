#include "job/part_sheet.h"

#include <algorithm>

#include <fmt/format.h>

namespace wren {

std::string sheetPdf(const Derived& d, const PartJob& job, std::size_t side) {
    if (job.panel) {
        return panelSheetPdf(d, job, side);
    }
    return job.id == Role::neck ? neckSheetPdf(d, job, side) : boardSheetPdf(d, job);
}

std::string sheetName(const Derived& d, const PartJob& job, std::size_t side) {
    std::size_t number = side + 1;
    for (const PartJob& before : d.parts) {
        if (before.id == job.id) {
            break;
        }
        number += before.held.sides();
    }
    std::string name = fmt::format("{:02}-{}-{}.pdf", number, job.name(), job.held.side(side).name);
    std::replace(name.begin(), name.end(), ' ', '-');
    return name;
}

} // namespace wren
