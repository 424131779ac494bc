#include "exchange/drawing_in.h"

#include "base/error.h"
#include "design/shape.h"

#include <cmath>
#include <map>
#include <sstream>

#include <dxflib/dl_creationadapter.h>
#include <dxflib/dl_dxf.h>
#include <fmt/format.h>

namespace wren {
namespace {

using Kind = ContourPiece::Kind;
constexpr double pi = 3.14159265358979323846;

/// The library takes a cut-off file, or letters for numbers, without a word: looked at first.
void checkPairs(const std::string& text, const std::string& source) {
    if (text.find('\0') != std::string::npos) {
        throw Error(fmt::format("{} is a binary DXF; one written as text was expected.", source));
    }
    std::istringstream in(text);
    std::string code, value, lastCode, lastValue;
    int line = 0;
    const auto trimmed = [](const std::string& s) {
        const auto a = s.find_first_not_of(" \t\r");
        const auto b = s.find_last_not_of(" \t\r");
        return a == std::string::npos ? std::string() : s.substr(a, b - a + 1);
    };
    while (std::getline(in, code)) {
        ++line;
        code = trimmed(code);
        if (code.empty() && in.peek() == EOF) {
            break;
        }
        char* end = nullptr;
        const long number = std::strtol(code.c_str(), &end, 10);
        if (code.empty() || *end != 0 || number < -5 || number > 1071) {
            throw Error(fmt::format("{}, line {}: \"{}\" is not a group code; a whole number was "
                                    "expected.",
                                    source, line, code.substr(0, 40)));
        }
        if (!std::getline(in, value)) {
            throw Error(
                fmt::format("{}, line {}: the file ends in the middle of an entry.", source, line));
        }
        ++line;
        value = trimmed(value);
        if (number >= 10 && number <= 59) {
            const double v = std::strtod(value.c_str(), &end);
            if (value.empty() || *end != 0 || !std::isfinite(v)) {
                throw Error(fmt::format("{}, line {}: \"{}\" is not a number.", source, line,
                                        value.substr(0, 40)));
            }
        }
        // Numbers of knots, points and vertices: the library makes room for as many as it is told.
        const bool counts =
            (number >= 72 && number <= 74) || number == 90 || number == 91 || number == 93;
        if (counts && std::strtod(value.c_str(), &end) > static_cast<double>(text.size())) {
            throw Error(
                fmt::format("{}, line {}: it announces {} entries, more than the file holds.",
                            source, line, value.substr(0, 40)));
        }
        lastCode = code;
        lastValue = value;
    }
    if (lastCode != "0" || lastValue != "EOF") {
        throw Error(fmt::format("{} is cut off: its last line should say EOF.", source));
    }
}

/// mm of a drawing unit by the header's $INSUNITS (DXF reference); none for 0, which is no unit.
std::optional<double> unitOf(int code) {
    static const std::map<int, double> units{{1, 25.4}, {2, 304.8}, {4, 1}, {5, 10}, {6, 1000}};
    const auto it = units.find(code);
    return it == units.end() ? std::nullopt : std::optional(it->second);
}

class Reader : public DL_CreationAdapter {
public:
    explicit Reader(DrawingRead& out) : out_(out) {}

    void setVariableInt(const std::string& key, int value, int) override {
        if (key == "$INSUNITS") {
            out_.unit = unitOf(value);
        }
    }
    void addBlock(const DL_BlockData&) override { inBlock_ = true; }
    void endBlock() override { inBlock_ = false; }

    void addLine(const DL_LineData& l) override {
        put({{Kind::line, {l.x1, l.y1}, {l.x2, l.y2}, {}}}, false);
    }
    void addArc(const DL_ArcData& a) override {
        const auto at = [&](double degrees) {
            return Vec2{a.cx + a.radius * std::cos(degrees * pi / 180),
                        a.cy + a.radius * std::sin(degrees * pi / 180)};
        };
        put({{Kind::arcCounter, at(a.angle1), at(a.angle2), {a.cx, a.cy}}}, false);
    }
    void addCircle(const DL_CircleData& c) override {
        put(circleContour({c.cx, c.cy}, 2 * c.radius), true);
    }
    void addEllipse(const DL_EllipseData& e) override {
        double from = e.angle1;
        double to = e.angle2;
        if (to <= from) {
            to += 2 * pi;
        }
        const Vec2 major{e.mx, e.my};
        const Vec2 minor = leftOf(major) * e.ratio;
        points(
            [&](double s) {
                const double a = from + (to - from) * s;
                return Vec2{e.cx, e.cy} + major * std::cos(a) + minor * std::sin(a);
            },
            720, to - from > 2 * pi - 1e-6);
    }
    void addPolyline(const DL_PolylineData& p) override {
        finish();
        vertices_.clear();
        closed_ = (p.flags & 1) != 0;
        open_ = true;
    }
    void addVertex(const DL_VertexData& v) override {
        vertices_.push_back({{v.x, v.y}, false, 0, v.bulge});
    }
    void endEntity() override { finish(); }
    void endSequence() override { finish(); }
    void addSpline(const DL_SplineData& s) override {
        degree_ = static_cast<int>(s.degree);
        splineClosed_ = (s.flags & 1) != 0;
        knots_.clear();
        controls_.clear();
        spline_ = true;
    }
    void addControlPoint(const DL_ControlPointData& c) override {
        controls_.push_back({c.x, c.y, c.w});
    }
    void addKnot(const DL_KnotData& k) override { knots_.push_back(k.k); }

    void addText(const DL_TextData&) override { skip("text"); }
    void addMText(const DL_MTextData&) override { skip("text"); }
    void addInsert(const DL_InsertData&) override { skip("block reference"); }
    void addHatch(const DL_HatchData&) override { skip("hatch"); }
    void addPoint(const DL_PointData&) override { skip("point"); }
    void addSolid(const DL_SolidData&) override { skip("solid"); }
    void add3dFace(const DL_3dFaceData&) override { skip("3D face"); }
    void addDimAlign(const DL_DimensionData&, const DL_DimAlignedData&) override {
        skip("dimension");
    }
    void addDimLinear(const DL_DimensionData&, const DL_DimLinearData&) override {
        skip("dimension");
    }
    void addXLine(const DL_XLineData&) override { skip("construction line"); }

    void done() {
        finish();
        for (const auto& [what, n] : skipped_) {
            out_.skipped.push_back(fmt::format("{} {}{}", n, what, n == 1 ? "" : "s"));
        }
    }

private:
    void put(Contour pieces, bool closed) {
        if (!inBlock_) {
            out_.lines.push_back({attributes.getLayer(), std::move(pieces), closed});
        }
    }

    template <typename At>
    void points(At at, int n, bool closed) {
        Contour c;
        for (int i = 0; i < n; ++i) {
            c.push_back({Kind::line, at(double(i) / n), at(double(i + 1) / n), {}});
        }
        put(std::move(c), closed);
    }

    void finish() {
        if (open_ && !vertices_.empty()) {
            open_ = false;
            Contour c;
            const std::size_t n = vertices_.size();
            for (std::size_t i = 0; i + (closed_ ? 0 : 1) < n; ++i) {
                ShapeNode a = vertices_[i];
                const Vec2 b = vertices_[(i + 1) % n].at;
                if (length(b - a.at) > 0) {
                    c.push_back(bulgedPiece(a.at, b, a.bulge.value_or(0)));
                }
            }
            put(std::move(c), closed_);
        }
        if (spline_ && controls_.size() > static_cast<std::size_t>(degree_) &&
            knots_.size() == controls_.size() + static_cast<std::size_t>(degree_) + 1) {
            const double a = knots_[static_cast<std::size_t>(degree_)];
            const double b = knots_[controls_.size()];
            points([&](double s) { return splineAt(a + (b - a) * s); },
                   static_cast<int>(controls_.size()) * 40, splineClosed_);
        } else if (spline_) {
            skip("spline without control points");
        }
        spline_ = false;
    }

    /// De Boor's algorithm with weights.
    Vec2 splineAt(double t) const {
        const auto p = static_cast<std::size_t>(degree_);
        std::size_t k = p;
        while (k + 1 < controls_.size() && knots_[k + 1] <= t) {
            ++k;
        }
        std::vector<std::array<double, 3>> d;
        for (std::size_t j = 0; j <= p; ++j) {
            const Control& c = controls_[j + k - p];
            const double w = c.w > 0 ? c.w : 1;
            d.push_back({c.x * w, c.y * w, w});
        }
        for (std::size_t r = 1; r <= p; ++r) {
            for (std::size_t j = p; j >= r; --j) {
                const double low = knots_[j + k - p];
                const double span = knots_[j + 1 + k - r] - low;
                const double s = span > 0 ? (t - low) / span : 0;
                for (std::size_t i = 0; i < 3; ++i) {
                    d[j][i] = d[j - 1][i] * (1 - s) + d[j][i] * s;
                }
            }
        }
        return {d[p][0] / d[p][2], d[p][1] / d[p][2]};
    }

    void skip(const char* what) {
        if (!inBlock_) {
            ++skipped_[what];
        }
    }

    struct Control {
        double x, y, w;
    };
    DrawingRead& out_;
    bool inBlock_ = false;
    bool open_ = false;
    bool closed_ = false;
    std::vector<ShapeNode> vertices_;
    bool spline_ = false;
    bool splineClosed_ = false;
    int degree_ = 3;
    std::vector<double> knots_;
    std::vector<Control> controls_;
    std::map<std::string, int> skipped_;
};

} // namespace

DrawingRead readDxf(const std::string& text, const std::string& source) {
    checkPairs(text, source);
    DrawingRead out;
    out.source = source;
    Reader reader(out);
    DL_Dxf dxf;
    std::stringstream in(text);
    if (!dxf.in(in, &reader)) {
        throw Error(fmt::format("{} could not be read as a DXF drawing.", source));
    }
    reader.done();
    return out;
}

} // namespace wren
