#include "exchange/drawing_in.h"

#include "base/error.h"
#include "exchange/svg_path.h"

#include <algorithm>
#include <charconv>
#include <cmath>
#include <map>
#include <sstream>

#include <fmt/format.h>
#include <pugixml.hpp>

namespace wren {
namespace {

constexpr double pixel = 25.4 / 96; ///< mm of a CSS pixel (CSS Values and Units, 5.2)

/// The figures in a text, commas and blanks between them.
std::vector<double> numbers(const std::string& text) {
    std::vector<double> out;
    const char* at = text.c_str();
    while (*at != 0) {
        char* end = nullptr;
        const double v = std::strtod(at, &end);
        if (end == at) {
            ++at;
        } else {
            out.push_back(v);
            at = end;
        }
    }
    return out;
}

/// "210mm" in mm; nothing for percentages and no text.
std::optional<double> lengthOf(const std::string& text) {
    char* end = nullptr;
    const double v = std::strtod(text.c_str(), &end);
    const std::string unit(end);
    if (text.empty() || end == text.c_str()) {
        return {};
    }
    static const std::map<std::string, double> units{
        {"", pixel},  {"px", pixel},     {"mm", 1},        {"cm", 10},
        {"in", 25.4}, {"pt", 25.4 / 72}, {"pc", 25.4 / 6}, {"Q", 0.25}};
    const auto it = units.find(unit);
    return it == units.end() ? std::nullopt : std::optional(v * it->second);
}

std::string colourOf(const std::string& text) {
    if (text.rfind("rgb(", 0) == 0) {
        const bool percent = text.find('%') != std::string::npos;
        const std::vector<double> v = numbers(text.substr(4));
        if (v.size() >= 3) {
            const auto byte = [&](double d) {
                return static_cast<int>(std::lround(percent ? d * 2.55 : d));
            };
            return fmt::format("#{:02x}{:02x}{:02x}", byte(v[0]), byte(v[1]), byte(v[2]));
        }
    }
    return text;
}

class Reader {
public:
    Reader(DrawingRead& out, bool coloursOnly) : out_(out), coloursOnly_(coloursOnly) {}

    void walk(const pugi::xml_node& node, const Affine& affine, const std::string& layer,
              const std::string& colour) {
        constexpr int deepest = 200;
        const int depth = ++depth_;
        if (depth > deepest) {
            throw Error(
                fmt::format("{} is nested more than {} groups deep; a drawing was expected.",
                            out_.source, deepest));
        }
        for (const pugi::xml_node& child : node.children()) {
            if (child.type() == pugi::node_element) {
                element(child, affine, layer, colour);
            }
        }
        --depth_;
    }

    void done() {
        for (const auto& [what, n] : skipped_) {
            out_.skipped.push_back(fmt::format("{} {}{}", n, what, n == 1 ? "" : "s"));
        }
    }

private:
    static std::string nameOf(const pugi::xml_node& node) {
        const std::string name = node.name();
        const auto colon = name.find(':');
        return colon == std::string::npos ? name : name.substr(colon + 1);
    }

    static std::string property(const pugi::xml_node& node, const std::string& name) {
        if (const auto a = node.attribute(name.c_str())) {
            return a.value();
        }
        std::istringstream style(node.attribute("style").value());
        for (std::string one; std::getline(style, one, ';');) {
            const auto colon = one.find(':');
            std::string key = one.substr(0, colon);
            key.erase(0, key.find_first_not_of(" \t\n"));
            if (colon != std::string::npos && key == name) {
                return one.substr(one.find_first_not_of(" \t", colon + 1));
            }
        }
        return {};
    }

    void element(const pugi::xml_node& node, Affine affine, std::string layer, std::string colour) {
        const std::string name = nameOf(node);
        if (property(node, "display") == "none" || property(node, "visibility") == "hidden") {
            return;
        }
        affine = affine * transformOf(node.attribute("transform").value(), out_.source);
        const std::string stroke = property(node, "stroke");
        if (!stroke.empty() && stroke != "none") {
            colour = colourOf(stroke);
        } else if (const std::string fill = property(node, "fill");
                   !fill.empty() && fill != "none") {
            colour = colourOf(fill);
        }
        if (name == "g" || name == "svg" || name == "a" || name == "switch") {
            if (const auto id = node.attribute("id"); id && !coloursOnly_ && layer.empty()) {
                layer = id.value();
            }
            walk(node, affine, layer, colour);
            return;
        }
        if (name == "defs" || name == "title" || name == "desc" || name == "metadata" ||
            name == "style" || name == "clipPath" || name == "mask" || name == "symbol") {
            return;
        }
        std::vector<DrawnLine> lines = linesOf(node, name, affine);
        if (lines.empty() && !known_) {
            ++skipped_[name];
        }
        for (DrawnLine& l : lines) {
            l.layer = !layer.empty() ? layer : colour.empty() ? "drawing" : colour;
            out_.lines.push_back(std::move(l));
        }
    }

    std::vector<DrawnLine> linesOf(const pugi::xml_node& node, const std::string& name,
                                   const Affine& affine) {
        const auto number = [&](const char* key) { return node.attribute(key).as_double(); };
        SvgPath path(affine);
        known_ = true;
        if (name == "path") {
            path.data(node.attribute("d").value(), out_.source);
        } else if (name == "line") {
            path.moveTo({number("x1"), number("y1")});
            path.lineTo({number("x2"), number("y2")});
        } else if (name == "polyline" || name == "polygon") {
            const std::vector<double> v = numbers(node.attribute("points").value());
            for (std::size_t i = 0; i + 1 < v.size(); i += 2) {
                const Vec2 p{v[i], v[i + 1]};
                i == 0 ? path.moveTo(p) : path.lineTo(p);
            }
            if (name == "polygon" && v.size() >= 6) {
                path.close();
            }
        } else if (name == "rect") {
            const double x = number("x"), y = number("y"), w = number("width"),
                         h = number("height");
            double rx = node.attribute("rx") ? number("rx") : number("ry");
            double ry = node.attribute("ry") ? number("ry") : rx;
            rx = std::min(rx, w / 2);
            ry = std::min(ry, h / 2);
            path.moveTo({x + rx, y});
            path.lineTo({x + w - rx, y});
            path.arcTo(rx, ry, 0, false, true, {x + w, y + ry});
            path.lineTo({x + w, y + h - ry});
            path.arcTo(rx, ry, 0, false, true, {x + w - rx, y + h});
            path.lineTo({x + rx, y + h});
            path.arcTo(rx, ry, 0, false, true, {x, y + h - ry});
            path.lineTo({x, y + ry});
            path.arcTo(rx, ry, 0, false, true, {x + rx, y});
            path.close();
        } else if (name == "circle" || name == "ellipse") {
            const double rx = name == "circle" ? number("r") : number("rx");
            const double ry = name == "circle" ? number("r") : number("ry");
            const double x = number("cx"), y = number("cy");
            path.moveTo({x - rx, y});
            path.arcTo(rx, ry, 0, false, true, {x + rx, y});
            path.arcTo(rx, ry, 0, false, true, {x - rx, y});
            path.close();
        } else {
            known_ = false;
        }
        return path.take();
    }

    DrawingRead& out_;
    bool coloursOnly_;
    bool known_ = false;
    int depth_ = 0;
    std::map<std::string, int> skipped_;
};

DrawingRead read(const std::string& text, const std::string& source, bool coloursOnly) {
    DrawingRead out;
    out.source = source;
    pugi::xml_document doc;
    const pugi::xml_parse_result ok = doc.load_buffer(text.data(), text.size());
    if (!ok) {
        const auto line = 1 + std::count(text.begin(),
                                         text.begin() + std::min<std::ptrdiff_t>(
                                                            ok.offset, std::ptrdiff_t(text.size())),
                                         '\n');
        throw Error(fmt::format("{}, line {}: not a well-formed SVG ({}).", source, line,
                                ok.description()));
    }
    pugi::xml_node root;
    for (const pugi::xml_node& n : doc.children()) {
        const std::string name = n.name();
        if (name == "svg" || (name.size() > 4 && name.substr(name.size() - 4) == ":svg")) {
            root = n;
        }
    }
    if (!root) {
        throw Error(fmt::format("{} holds no svg element; an SVG drawing was expected.", source));
    }
    const std::vector<double> box = numbers(root.attribute("viewBox").value());
    const auto width = lengthOf(root.attribute("width").value());
    if (width) {
        out.unit = box.size() == 4 && box[2] > 0 ? *width / box[2] : pixel;
    }
    // Y points down in an SVG, and up here.
    Reader reader(out, coloursOnly);
    reader.walk(root, Affine{1, 0, 0, -1, 0, 0}, {}, {});
    reader.done();
    return out;
}

} // namespace

DrawingRead readSvg(const std::string& text, const std::string& source) {
    return read(text, source, false);
}

DrawingRead readSvgByColour(const std::string& text, const std::string& source) {
    return read(text, source, true);
}

} // namespace wren
