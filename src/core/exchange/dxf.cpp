#include "exchange/dxf.h"

#include "base/error.h"
#include "base/files.h"

#include <cstdlib>
#include <filesystem>
#include <numbers>

#include <dxflib/dl_dxf.h>
#include <dxflib/dl_writer_ascii.h>
#include <unistd.h>

namespace wren {
namespace {

constexpr int millimetres = 4; ///< $INSUNITS, DXF reference
constexpr int black = 7;

/// The library writes to a file by name only.
class TemporaryFile {
public:
    TemporaryFile() {
        std::string name = (std::filesystem::temp_directory_path() / "wren-XXXXXX").string();
        const int handle = ::mkstemp(name.data());
        if (handle < 0) {
            throw Error("No temporary file could be made for the DXF drawing; is the disk full?");
        }
        ::close(handle);
        path_ = name;
    }
    ~TemporaryFile() {
        std::error_code ignored;
        std::filesystem::remove(path_, ignored);
    }
    TemporaryFile(const TemporaryFile&) = delete;
    TemporaryFile& operator=(const TemporaryFile&) = delete;
    const std::filesystem::path& path() const { return path_; }

private:
    std::filesystem::path path_;
};

void writeTables(DL_Dxf& dxf, DL_WriterA& out, const std::vector<std::string>& layers) {
    dxf.writeVPort(out);
    out.tableLinetypes(3);
    for (const char* name : {"BYBLOCK", "BYLAYER", "CONTINUOUS"}) {
        dxf.writeLinetype(out, DL_LinetypeData(name, name, 0, 0, 0.0));
    }
    out.tableEnd();
    out.tableLayers(static_cast<int>(layers.size()) + 1);
    const DL_Attributes plain("", black, 15, "CONTINUOUS", 1.0);
    dxf.writeLayer(out, DL_LayerData("0", 0), plain);
    for (const std::string& layer : layers) {
        dxf.writeLayer(out, DL_LayerData(layer, 0), plain);
    }
    out.tableEnd();
    out.tableStyle(1);
    dxf.writeStyle(out, DL_StyleData("Standard", 0, 0.0, 1.0, 0.0, 0, 2.5, "txt", ""));
    out.tableEnd();
    dxf.writeView(out);
    dxf.writeUcs(out);
    out.tableAppid(1);
    dxf.writeAppid(out, "ACAD");
    out.tableEnd();
    dxf.writeDimStyle(out, 1, 1, 1, 1, 1);
    dxf.writeBlockRecord(out);
    out.tableEnd();
}

void writeBlocks(DL_Dxf& dxf, DL_WriterA& out) {
    for (const char* name : {"*Model_Space", "*Paper_Space", "*Paper_Space0"}) {
        dxf.writeBlock(out, DL_BlockData(name, 0, 0.0, 0.0, 0.0));
        dxf.writeEndBlock(out, name);
    }
}

double degrees(Vec2 from, Vec2 to) {
    const double a = std::atan2(to.y - from.y, to.x - from.x) * 180 / std::numbers::pi;
    return a < 0 ? a + 360 : a;
}

void writeLine(DL_Dxf& dxf, DL_WriterA& out, const DrawnLine& line) {
    const DL_Attributes on(line.layer, 256, -1, "BYLAYER", 1.0);
    WholeCircle circle;
    if (isWholeCircle(line, circle)) {
        dxf.writeCircle(out, DL_CircleData(circle.centre.x, circle.centre.y, 0, circle.radius), on);
        return;
    }
    for (const ContourPiece& p : line.pieces) {
        if (p.kind == ContourPiece::Kind::line) {
            dxf.writeLine(out, DL_LineData(p.from.x, p.from.y, 0, p.to.x, p.to.y, 0), on);
        } else { // DXF arcs run counter-clockwise
            const bool clockwise = p.kind == ContourPiece::Kind::arcClockwise;
            dxf.writeArc(out,
                         DL_ArcData(p.centre.x, p.centre.y, 0, p.radius(),
                                    degrees(p.centre, clockwise ? p.to : p.from),
                                    degrees(p.centre, clockwise ? p.from : p.to)),
                         on);
        }
    }
}

void writeText(DL_Dxf& dxf, DL_WriterA& out, const DrawnText& t) {
    dxf.writeText(out,
                  DL_TextData(t.at.x, t.at.y, 0, t.at.x, t.at.y, 0, t.height, 1.0, 0, 0, 0, t.text,
                              "Standard", 0.0),
                  DL_Attributes(t.layer, 256, -1, "BYLAYER", 1.0));
}

} // namespace

std::string toDxf(const Drawing& drawing) {
    const TemporaryFile file;
    DL_Dxf dxf;
    const std::unique_ptr<DL_WriterA> out(dxf.out(file.path().c_str(), DL_Codes::AC1015));
    if (!out) {
        throw Error("The DXF drawing could not be written to a temporary file.");
    }
    dxf.writeHeader(*out);
    out->dxfString(9, "$INSUNITS");
    out->dxfInt(70, millimetres);
    out->sectionEnd();
    out->sectionTables();
    writeTables(dxf, *out, drawing.layers());
    out->sectionEnd();
    out->sectionBlocks();
    writeBlocks(dxf, *out);
    out->sectionEnd();
    out->sectionEntities();
    for (const DrawnLine& line : drawing.lines) {
        writeLine(dxf, *out, line);
    }
    for (const DrawnText& text : drawing.texts) {
        writeText(dxf, *out, text);
    }
    out->sectionEnd();
    dxf.writeObjects(*out);
    dxf.writeObjectsEnd(*out);
    out->dxfEOF();
    out->close();
    if (out->openFailed()) {
        throw Error("The DXF drawing could not be written to a temporary file.");
    }
    return readFile(file.path());
}

} // namespace wren
