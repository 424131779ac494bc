#include "job/export.h"

#include "base/error.h"
#include "base/length.h"
#include "exchange/board_drawing.h"
#include "exchange/body_drawing.h"
#include "exchange/dxf.h"
#include "exchange/neck_drawing.h"
#include "exchange/svg.h"
#include "exchange/template_pdf.h"
#include "job/models.h"
#include "job/whole_print.h"
#include "part/setup_geometry.h"

#include <sstream>

#include <fmt/format.h>

namespace wren {
namespace {

/// What is checked on a print before sawing.
std::vector<std::string> templateNotes(const BoardPart& board) {
    const Fretboard& b = board.design();
    std::vector<std::string> notes{
        fmt::format("Scale {:.2f} mm{}.", b.scaleLength,
                    b.fanned() ? fmt::format(" bass, {:.2f} mm treble", *b.trebleScale) : "")};
    const std::vector<FretPlace> frets = fretTable(b);
    if (!frets.empty()) {
        const FretPlace& last = frets.back();
        notes.push_back(fmt::format("Nut to fret {}: {:.2f} mm on the centreline, {:.2f} mm at the "
                                    "bass edge, {:.2f} mm at the treble edge.",
                                    last.fret, last.fromNut, last.onBassEdge, last.onTrebleEdge));
        notes.push_back("Check that distance with a steel rule before sawing.");
    }
    notes.push_back("Slots are drawn as the middle of the saw's kerf.");
    return notes;
}

} // namespace

const std::vector<std::string>& exportFormats() {
    static const std::vector<std::string> formats{"step", "stl", "dxf", "svg", "pdf"};
    return formats;
}

namespace {

[[noreturn]] void failFormat(const std::string& format) {
    throw Error(fmt::format("\"{}\" is not a format; one of {} was expected.", format,
                            fmt::join(exportFormats(), ", ")));
}

std::string drawn(const Drawing& drawing, const std::string& format, const Paper& paper,
                  const std::vector<std::string>& notes) {
    if (format == "dxf") {
        return toDxf(drawing);
    }
    if (format == "svg") {
        return toSvg(drawing);
    }
    if (format == "pdf") {
        return templatePdf(drawing, paper, notes);
    }
    failFormat(format);
}

/// The one of the two that was asked for; throws Error where there is none.
std::string asked(const Models& models, const std::string& format) {
    const std::string& text = format == "step" ? models.step : models.stl;
    if (text.empty()) {
        throw Error(models.missing.front());
    }
    return text;
}

bool isSolid(const std::string& format) {
    return format == "step" || format == "stl";
}

} // namespace

namespace {

Drawing neckPlan(const NeckPart& part, const std::vector<double>& sections,
                 const std::string& title) {
    return sections.empty() ? neckDrawing(part, title) : neckSections(part, sections, title);
}

Drawing piecePlan(const BodyPart& body, const Panel& panel, const std::string& format,
                  const std::string& title) {
    if (panel.id == Role::body) {
        return bodyDrawing(body, title);
    }
    return panel.id == Role::lid && format == "pdf" ? cavityTemplates(body, title)
                                                    : panelDrawing(panel, title);
}

} // namespace

std::string exportPart(const Derived& d, const PartJob& job, const std::string& format,
                       const ExportHow& how, const Watch& watch) {
    const std::string title = d.project.name + " " + job.name();
    if (isSolid(format)) {
        const ModelKind kind = format == "step" ? ModelKind::step : ModelKind::stl;
        return asked(partModels(d, job, title, watch, kind), format);
    }
    if (job.panel) {
        if (!d.body || job.id.ofShop()) {
            return drawn(panelDrawing(*job.panel, title), format, how.paper, {});
        }
        const BodyPlace& place = d.body->part.place();
        return drawn(piecePlan(d.body->part, *job.panel, format, title), format, how.paper,
                     {fmt::format("Neck's end to the bridge line: {:.2f} mm on the centreline.",
                                  place.bridge - place.neckEnd)});
    }
    if (job.id == Role::neck) {
        const NeckPart& part = d.neck->part;
        return drawn(neckPlan(part, how.sections, title), format, how.paper,
                     {fmt::format("Nut to the neck's end: {:.2f} mm on the centreline.",
                                  part.outline().end())});
    }
    return drawn(boardDrawing(*d.board, title), format, how.paper, templateNotes(*d.board));
}

std::string exportWhole(const Derived& d, const std::string& format, const Paper& paper) {
    if (isSolid(format)) {
        throw Error("The whole instrument is a drawing: dxf, svg or pdf was expected; solids are "
                    "written part by part.");
    }
    std::vector<std::string> notes{fmt::format(
        "Scale {:.2f} mm from nut to bridge line, along the neck.", d.project.board.scaleLength)};
    if (d.body) {
        const SetupGeometry setup = setupGeometry(d.body->part, d.neck->part);
        notes.push_back(fmt::format("Heel's end to the bridge line: {:.2f} mm along the body's "
                                    "face; strings {:.2f} mm over it there.",
                                    setup.bridgeFromHeel, setup.middleSaddle));
    }
    notes.emplace_back("Lay the real bridge, tuners and pickups on it before anything is cut.");
    return drawn(wholeDrawing(d), format, paper, notes);
}

std::vector<double> sectionList(const std::string& text) {
    std::vector<double> out;
    std::istringstream in(text);
    for (std::string one; std::getline(in, one, ',');) {
        out.push_back(parseLength(one, LengthUnit::mm));
    }
    return out;
}

} // namespace wren
