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

#include <sstream>

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

std::string exportBoard(const BoardPart& board, const std::string& project,
                        const std::string& format, const Paper& paper, const Watch& watch) {
    const std::string title = project + " fretboard";
    if (isSolid(format)) {
        return asked(boardModels(board, title, watch), format);
    }
    return drawn(boardDrawing(board, title), format, paper, templateNotes(board));
}

std::string exportNeck(const NeckPart& part, const std::string& project, const std::string& format,
                       const Paper& paper, const std::vector<double>& sections,
                       const Watch& watch) {
    const std::string title = project + " neck";
    if (isSolid(format)) {
        return asked(neckModels(part, title, watch), format);
    }
    const Drawing drawing =
        sections.empty() ? neckDrawing(part, title) : neckSections(part, sections, title);
    return drawn(
        drawing, format, paper,
        {fmt::format("Nut to the neck's end: {:.2f} mm on the centreline.", part.outline().end())});
}

std::string exportPanel(const BodyJob& body, const PanelJob& job, const std::string& project,
                        const std::string& format, const Paper& paper, const Watch& watch) {
    const std::string title = project + " " + job.name();
    const Panel& panel = body.panelOf(job);
    if (isSolid(format)) {
        return asked(
            panelModels(panel, title, watch, format == "step" ? ModelKind::step : ModelKind::stl),
            format);
    }
    const Drawing drawing = panel.id == Role::body ? bodyDrawing(body.part, title)
                            : panel.id == Role::lid && format == "pdf"
                                ? cavityTemplates(body.part, title)
                                : panelDrawing(panel, title);
    return drawn(drawing, format, paper,
                 {fmt::format("Neck's end to the bridge line: {:.2f} mm on the centreline.",
                              body.part.place().bridge - body.part.place().neckEnd)});
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
