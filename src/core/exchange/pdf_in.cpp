#include "exchange/svg_path.h"

#include "base/error.h"

#include <memory>

#include <cairo-svg.h>
#include <fmt/format.h>
#include <poppler.h>

namespace wren {
namespace {

/// The stream rounds its figures: drawn so much larger, the rounding does not matter.
constexpr double larger = 100;

template <typename T>
using Owned = std::unique_ptr<T, void (*)(T*)>;

cairo_status_t keep(void* to, const unsigned char* data, unsigned int length) {
    static_cast<std::string*>(to)->append(reinterpret_cast<const char*>(data), length);
    return CAIRO_STATUS_SUCCESS;
}

} // namespace

/// The page is drawn as an SVG stream, which keeps its curves, and read as one; glyphs are defined
/// elsewhere in such a stream and so are left out.
DrawingRead readPdf(const std::string& bytes, const std::string& source) {
    GError* error = nullptr;
    const Owned<GBytes> data(g_bytes_new(bytes.data(), bytes.size()), g_bytes_unref);
    const Owned<PopplerDocument> document(
        poppler_document_new_from_bytes(data.get(), nullptr, &error),
        [](PopplerDocument* d) { g_object_unref(d); });
    if (!document) {
        const std::string why = error ? error->message : "unreadable";
        g_clear_error(&error);
        throw Error(fmt::format("{} could not be read as a PDF ({}).", source, why));
    }
    const bool any = poppler_document_get_n_pages(document.get()) > 0;
    const Owned<PopplerPage> page(any ? poppler_document_get_page(document.get(), 0) : nullptr,
                                  [](PopplerPage* p) { g_object_unref(p); });
    if (!page) {
        throw Error(fmt::format("{} holds no page.", source));
    }
    double width = 0;
    double height = 0;
    poppler_page_get_size(page.get(), &width, &height);
    std::string svg;
    {
        const Owned<cairo_surface_t> surface(
            cairo_svg_surface_create_for_stream(keep, &svg, width * larger, height * larger),
            cairo_surface_destroy);
        const Owned<cairo_t> cairo(cairo_create(surface.get()), cairo_destroy);
        cairo_scale(cairo.get(), larger, larger);
        poppler_page_render_for_printing(page.get(), cairo.get());
        cairo_surface_finish(surface.get());
        if (cairo_status(cairo.get()) != CAIRO_STATUS_SUCCESS) {
            throw Error(fmt::format("{}: its first page could not be drawn ({}).", source,
                                    cairo_status_to_string(cairo_status(cairo.get()))));
        }
    }
    DrawingRead out = readSvgByColour(svg, source);
    out.unit = 25.4 / 72 / larger;
    if (poppler_document_get_n_pages(document.get()) > 1) {
        out.skipped.push_back(
            fmt::format("{} further pages", poppler_document_get_n_pages(document.get()) - 1));
    }
    return out;
}

} // namespace wren
