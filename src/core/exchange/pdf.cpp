#include "exchange/pdf.h"

#include "base/error.h"

#include <numbers>
#include <sstream>

#include <cairo-ft.h>
#include <cairo-pdf.h>
#include <fmt/format.h>

#include <ft2build.h>
#include FT_FREETYPE_H

extern "C" {
extern const unsigned char wren_font_words_begin[];
extern const unsigned char wren_font_words_end[];
extern const unsigned char wren_font_words_strong_begin[];
extern const unsigned char wren_font_words_strong_end[];
extern const unsigned char wren_font_figures_begin[];
extern const unsigned char wren_font_figures_end[];
}

namespace wren {
namespace {

constexpr double pointsPerMm = 72 / 25.4;

cairo_status_t append(void* bytes, const unsigned char* data, unsigned int length) {
    static_cast<std::string*>(bytes)->append(reinterpret_cast<const char*>(data), length);
    return CAIRO_STATUS_SUCCESS;
}

/// The shipped fonts, opened once. They live as long as the program, as cairo may keep using them.
class Fonts {
public:
    static const Fonts& all() {
        static const Fonts fonts;
        return fonts;
    }
    cairo_font_face_t* of(Face face) const { return faces_[static_cast<std::size_t>(face)]; }

private:
    Fonts() {
        FT_Library library = nullptr;
        FT_Init_FreeType(&library);
        faces_[0] = open(library, wren_font_words_begin, wren_font_words_end);
        faces_[1] = open(library, wren_font_words_strong_begin, wren_font_words_strong_end);
        faces_[2] = open(library, wren_font_figures_begin, wren_font_figures_end);
    }
    static cairo_font_face_t* open(FT_Library library, const unsigned char* begin,
                                   const unsigned char* end) {
        FT_Face face = nullptr;
        if (!library || FT_New_Memory_Face(library, begin, end - begin, 0, &face) != 0) {
            throw Error("A font of the program itself could not be read; its file is damaged.");
        }
        return cairo_ft_font_face_create_for_ft_face(face, 0);
    }

    std::array<cairo_font_face_t*, 3> faces_{};
};

} // namespace

const std::vector<std::string>& paperNames() {
    static const std::vector<std::string> names{"a4", "a3", "letter"};
    return names;
}

Paper paperNamed(const std::string& name) {
    if (name == "a4") {
        return {"A4", 210, 297};
    }
    if (name == "a3") {
        return {"A3", 297, 420};
    }
    if (name == "letter") {
        return {"letter", 215.9, 279.4};
    }
    throw Error(fmt::format("\"{}\" is not a paper size; one of {} was expected.", name,
                            fmt::join(paperNames(), ", ")));
}

struct Pdf::Surface {
    std::string bytes;
    cairo_surface_t* surface = nullptr;
    cairo_t* context = nullptr;
    bool onPage = false;

    void pen(const Pen& p) const {
        cairo_set_line_width(context, p.width);
        cairo_set_dash(context, p.dashes.data(), static_cast<int>(p.dashes.size()), 0);
        cairo_set_source_rgb(context, p.colour[0], p.colour[1], p.colour[2]);
    }
    void font(double size, Face face) const {
        cairo_set_font_face(context, Fonts::all().of(face));
        cairo_set_font_size(context, size);
    }
};

Pdf::Pdf(const std::string& title) : surface_(std::make_unique<Surface>()) {
    surface_->surface = cairo_pdf_surface_create_for_stream(append, &surface_->bytes, 595, 842);
    cairo_pdf_surface_set_metadata(surface_->surface, CAIRO_PDF_METADATA_TITLE, title.c_str());
    cairo_pdf_surface_set_metadata(surface_->surface, CAIRO_PDF_METADATA_CREATOR, "Upland Wren");
    // Not the time of day: the same project gives the same bytes.
    cairo_pdf_surface_set_metadata(surface_->surface, CAIRO_PDF_METADATA_CREATE_DATE,
                                   "1970-01-01T00:00:00Z");
    surface_->context = cairo_create(surface_->surface);
}

Pdf::~Pdf() {
    cairo_destroy(surface_->context);
    cairo_surface_destroy(surface_->surface);
}

void Pdf::page(double width, double height) {
    if (surface_->onPage) {
        cairo_show_page(surface_->context);
    }
    surface_->onPage = true;
    cairo_pdf_surface_set_size(surface_->surface, width * pointsPerMm, height * pointsPerMm);
    cairo_identity_matrix(surface_->context);
    cairo_scale(surface_->context, pointsPerMm, pointsPerMm);
}

void Pdf::line(Vec2 from, Vec2 to, const Pen& pen) {
    surface_->pen(pen);
    cairo_move_to(surface_->context, from.x, from.y);
    cairo_line_to(surface_->context, to.x, to.y);
    cairo_stroke(surface_->context);
}

void Pdf::rectangle(Vec2 low, Vec2 high, const Pen& pen) {
    surface_->pen(pen);
    cairo_rectangle(surface_->context, low.x, low.y, high.x - low.x, high.y - low.y);
    cairo_stroke(surface_->context);
}

void Pdf::oval(Vec2 low, Vec2 high, const Pen& pen) {
    cairo_t* c = surface_->context;
    surface_->pen(pen);
    cairo_save(c);
    cairo_translate(c, (low.x + high.x) / 2, (low.y + high.y) / 2);
    cairo_scale(c, (high.x - low.x) / 2, (high.y - low.y) / 2);
    cairo_arc(c, 0, 0, 1, 0, 2 * std::numbers::pi);
    cairo_restore(c); // before the stroke: its width is the paper's
    cairo_stroke(c);
}

void Pdf::fill(Vec2 low, Vec2 high, const std::array<double, 3>& colour) {
    cairo_set_source_rgb(surface_->context, colour[0], colour[1], colour[2]);
    cairo_rectangle(surface_->context, low.x, low.y, high.x - low.x, high.y - low.y);
    cairo_fill(surface_->context);
}

void Pdf::contour(const Contour& contour, bool closed, const OnPage& place, const Pen& pen) {
    if (contour.empty()) {
        return;
    }
    cairo_t* c = surface_->context;
    surface_->pen(pen);
    const Vec2 start = place.at(contour.front().from);
    cairo_move_to(c, start.x, start.y);
    for (const ContourPiece& piece : contour) {
        if (piece.kind == ContourPiece::Kind::line) {
            const Vec2 to = place.at(piece.to);
            cairo_line_to(c, to.x, to.y);
            continue;
        }
        // Angles on the page run clockwise, as its Y points downward.
        const Vec2 centre = place.at(piece.centre);
        const Vec2 a = place.at(piece.from) - centre;
        const double from = std::atan2(a.y, a.x);
        const double turn = piece.length() / piece.radius();
        if (piece.kind == ContourPiece::Kind::arcClockwise) {
            cairo_arc(c, centre.x, centre.y, piece.radius() * place.scale, from, from + turn);
        } else {
            cairo_arc_negative(c, centre.x, centre.y, piece.radius() * place.scale, from,
                               from - turn);
        }
    }
    if (closed) {
        cairo_close_path(c);
    }
    cairo_stroke(c);
}

double Pdf::widthOf(const std::string& words, double size, Face face) {
    surface_->font(size, face);
    cairo_text_extents_t extents;
    cairo_text_extents(surface_->context, words.c_str(), &extents);
    return extents.x_advance;
}

double Pdf::text(Vec2 at, const std::string& words, double size, Face face, Align align,
                 double turn) {
    const double width = widthOf(words, size, face);
    cairo_t* c = surface_->context;
    surface_->pen({});
    cairo_save(c);
    cairo_translate(c, at.x, at.y);
    cairo_rotate(c, -turn);
    cairo_move_to(c, align == Align::left ? 0 : (align == Align::right ? -width : -width / 2), 0);
    cairo_show_text(c, words.c_str());
    cairo_restore(c);
    return width;
}

std::vector<std::string> Pdf::linesOf(const std::string& words, double width, double size,
                                      Face face) {
    std::istringstream in(words);
    std::vector<std::string> rows;
    for (std::string word; in >> word;) {
        const std::string longer = rows.empty() ? word : rows.back() + " " + word;
        if (!rows.empty() && widthOf(longer, size, face) <= width) {
            rows.back() = longer;
        } else {
            rows.push_back(word);
        }
    }
    return rows;
}

double Pdf::paragraph(Vec2 at, double width, const std::string& words, double size, Face face) {
    for (const std::string& row : linesOf(words, width, size, face)) {
        text(at, row, size, face);
        at.y += size * lineStep;
    }
    return at.y;
}

void Pdf::clip(Vec2 low, Vec2 high) {
    cairo_save(surface_->context);
    cairo_rectangle(surface_->context, low.x, low.y, high.x - low.x, high.y - low.y);
    cairo_clip(surface_->context);
}

void Pdf::unclip() {
    cairo_restore(surface_->context);
}

std::string Pdf::finish() {
    if (surface_->onPage) {
        cairo_show_page(surface_->context);
    }
    cairo_surface_finish(surface_->surface);
    if (cairo_surface_status(surface_->surface) != CAIRO_STATUS_SUCCESS) {
        throw Error(fmt::format("The PDF could not be made ({}).",
                                cairo_status_to_string(cairo_surface_status(surface_->surface))));
    }
    return surface_->bytes;
}

} // namespace wren
