// Pages measured back by poppler: sizes of ISO 216 and of the American letter, lengths as drawn.

#include "base/files.h"

#include "support.h"

#include <cairo.h>
#include <poppler.h>

using namespace wren;

namespace {

constexpr double mmPerPoint = 25.4 / 72;

/// A PDF as poppler reads it.
class Reading {
public:
    explicit Reading(const std::string& file) {
        const std::string uri = "file://" + std::filesystem::absolute(file).string();
        document_ = poppler_document_new_from_file(uri.c_str(), nullptr, nullptr);
        REQUIRE(document_);
    }
    ~Reading() { g_object_unref(document_); }
    Reading(const Reading&) = delete;
    Reading& operator=(const Reading&) = delete;

    int pages() const { return poppler_document_get_n_pages(document_); }

    std::pair<double, double> size(int page) const {
        PopplerPage* p = poppler_document_get_page(document_, page);
        double w = 0;
        double h = 0;
        poppler_page_get_size(p, &w, &h);
        g_object_unref(p);
        return {w * mmPerPoint, h * mmPerPoint};
    }

    std::string text(int page) const {
        PopplerPage* p = poppler_document_get_page(document_, page);
        char* words = poppler_page_get_text(p);
        const std::string out = words;
        g_free(words);
        g_object_unref(p);
        return out;
    }

    /// Where words stand first on a page, mm from its upper left corner.
    Vec2 place(int page, const std::string& words) const {
        PopplerPage* p = poppler_document_get_page(document_, page);
        GList* found = poppler_page_find_text(p, words.c_str());
        REQUIRE(found);
        const auto* box = static_cast<const PopplerRectangle*>(found->data);
        const Vec2 at{box->x1 * mmPerPoint, size(page).second - box->y1 * mmPerPoint};
        g_list_free_full(
            found, [](void* r) { poppler_rectangle_free(static_cast<PopplerRectangle*>(r)); });
        g_object_unref(p);
        return at;
    }

    /// The dark places along a level line of the page, mm from its left edge: the middle of each
    /// run.
    std::vector<double> darkAlong(int page, double fromTop) const {
        return dark(page, 0, fromTop, false);
    }

    /// The same down an upright line, mm from the top.
    std::vector<double> darkDown(int page, double fromLeft) const {
        return dark(page, fromLeft, 0, true);
    }

private:
    std::vector<double> dark(int page, double fromLeft, double fromTop, bool down) const {
        constexpr double dotsPerMm = 20;
        PopplerPage* p = poppler_document_get_page(document_, page);
        double w = 0;
        double h = 0;
        poppler_page_get_size(p, &w, &h);
        const double scale = dotsPerMm * mmPerPoint;
        const int dots = static_cast<int>((down ? h : w) * scale);
        cairo_surface_t* row =
            cairo_image_surface_create(CAIRO_FORMAT_RGB24, down ? 1 : dots, down ? dots : 1);
        cairo_t* c = cairo_create(row);
        cairo_set_source_rgb(c, 1, 1, 1);
        cairo_paint(c);
        cairo_translate(c, -fromLeft * dotsPerMm, -fromTop * dotsPerMm);
        cairo_scale(c, scale, scale);
        poppler_page_render(p, c);
        cairo_surface_flush(row);
        const unsigned char* pixels = cairo_image_surface_get_data(row);
        const int step = down ? cairo_image_surface_get_stride(row) : 4;
        std::vector<double> middles;
        int from = -1;
        for (int i = 0; i <= dots; ++i) {
            const bool dark = i < dots && pixels[i * step] < 100;
            if (dark && from < 0) {
                from = i;
            } else if (!dark && from >= 0) {
                middles.push_back((from + i) / 2.0 / dotsPerMm);
                from = -1;
            }
        }
        cairo_destroy(c);
        cairo_surface_destroy(row);
        g_object_unref(p);
        return middles;
    }

    PopplerDocument* document_ = nullptr;
};

/// The distance between some two dark places is this one, to a tenth.
bool hasDistance(const std::vector<double>& places, double distance) {
    for (double a : places) {
        for (double b : places) {
            if (std::abs(b - a - distance) < 0.1) {
                return true;
            }
        }
    }
    return false;
}

std::string templateOf(const test::Folder& folder, const std::string& project,
                       const std::string& paper) {
    const std::string out = (folder / (paper + ".pdf")).string();
    REQUIRE(
        test::wren("export " + project + " --format pdf --paper " + paper + " -o " + out).code ==
        0);
    return out;
}

} // namespace

TEST_CASE("Template pages have the sizes of ISO 216 and of letter", "[outside][paper]") {
    const test::Folder folder;
    // ISO 216:2007: A4 210 x 297, A3 297 x 420; letter is 8.5 x 11 in (ANSI/ASME Y14.1).
    const std::vector<std::tuple<const char*, double, double>> sizes{
        {"a4", 210, 297}, {"a3", 297, 420}, {"letter", 215.9, 279.4}};
    for (const auto& [name, shorter, longer] : sizes) {
        INFO(name);
        const Reading pdf(templateOf(folder, test::plainFile, name));
        REQUIRE(pdf.pages() >= 2);
        for (int i = 0; i < pdf.pages(); ++i) {
            const auto [w, h] = pdf.size(i);
            CHECK(std::min(w, h) == Approx(shorter).margin(0.01));
            CHECK(std::max(w, h) == Approx(longer).margin(0.01));
        }
    }
}

TEST_CASE("The template's square and its frets measure what they say", "[outside][paper]") {
    const test::Folder folder;
    const Reading pdf(templateOf(folder, test::plainFile, "a4"));
    // The square stands 15 mm from the left and 40 to 140 from the top.
    CHECK(hasDistance(pdf.darkAlong(0, 60), 100));
    CHECK(pdf.text(0).find("100 mm by 100 mm") != std::string::npos);
    const Project project = loadProject(test::plainFile);
    REQUIRE(project.board.scaleLength == 620);
    const auto fret = [](int n) { return 620 - 620 / std::pow(2.0, n / 12.0); };
    // The board lies at the foot of the sheet; somewhere between its long edges a level line
    // crosses nut and slots, and no marker.
    const auto [w, h] = pdf.size(1);
    const auto first = pdf.darkAlong(1, h - 30);
    const auto second = pdf.darkAlong(2, h - 30);
    for (int n = 1; n <= 8; ++n) {
        INFO("fret " << n);
        CHECK(hasDistance(first, fret(n)));
    }
    CHECK(hasDistance(second, fret(22) - fret(12)));
    // Joined with the overlap of 12 mm, the second sheet goes on where the first one says.
    const double step = w - 20 - 12;
    bool joined = false;
    for (double nut : first) {
        for (double last : second) {
            joined = joined || std::abs(last + step - nut - fret(22)) < 0.1;
        }
    }
    CHECK(joined);
}

TEST_CASE("A setup sheet names zero, bits, programs, minutes and cautions", "[outside][paper]") {
    const test::Folder folder;
    REQUIRE(test::wren("make " + test::plainFile + " --out " + folder.str()).code == 0);
    const Reading pdf((folder / "sheets/01-fretboard-face-up.pdf").string());
    const auto [w, h] = pdf.size(0);
    CHECK(w == Approx(297).margin(0.01)); // A4, lying
    CHECK(h == Approx(210).margin(0.01));
    const Derived d = derive(loadProject(test::plainFile));
    const std::string words = pdf.text(0);
    for (const PostedProgram& p : d.programs) {
        CHECK(words.find(p.program.file) != std::string::npos);
        CHECK(words.find("Mount " + p.program.bit.name) != std::string::npos);
        char minutes[32];
        std::snprintf(minutes, sizeof minutes, "%.1f min", p.time.seconds / 60);
        CHECK(words.find(minutes) != std::string::npos);
    }
    CHECK(words.find("Z zero: the bed") != std::string::npos);
    CHECK(words.find("Eye and ear protection") != std::string::npos);
    CHECK(words.find("500.00") != std::string::npos);
    // The scale length's half among its figures.
    CHECK(pdf.text(1).find("310.00") != std::string::npos);
}

TEST_CASE("A setup sheet's plan is drawn to one scale both ways", "[outside][paper]") {
    const test::Folder folder;
    REQUIRE(test::wren("make " + test::plainFile + " --out " + folder.str()).code == 0);
    const Reading pdf((folder / "sheets/01-fretboard-face-up.pdf").string());
    // Measured off the page, between the middle line and the board's edge: the blank's two ends
    // first and last of its lines, the slots between.
    const Project p = loadProject(test::plainFile);
    char middle[32]; // the middle line's figure stands beside it
    std::snprintf(middle, sizeof middle, "%.2f", p.blank.width / 2);
    const std::vector<double> level = pdf.darkAlong(0, pdf.place(0, middle).y - 5);
    REQUIRE(level.size() > 24);
    double scale = 0;
    for (double end : level) { // what stands beside the plan lies beyond its right end
        const double tried = (end - level.front()) / p.blank.length;
        int slots = 0;
        for (int n = 1; n <= p.board.frets; ++n) {
            slots += hasDistance(level, tried * (620 - 620 / std::pow(2.0, n / 12.0)));
        }
        scale = slots == p.board.frets ? tried : scale;
    }
    REQUIRE(scale > 0.2);
    bool across = false;
    for (double x : {0.1, 0.3, 0.62}) {
        across = across || hasDistance(pdf.darkDown(0, level.front() + x * scale * p.blank.length),
                                       scale * p.blank.width);
    }
    CHECK(across);
}

TEST_CASE("A wide piece's drawing takes its sheet's room, its programs beside it",
          "[outside][paper]") {
    const test::Folder folder;
    REQUIRE(test::wren("make " WREN_SOURCE "/demo/whinchat.wren --part body --out " + folder.str())
                .code == 0);
    const Reading pdf((folder / "sheets/06-body-face-up.pdf").string());
    const Derived d = deriveDrawing(loadProject(WREN_SOURCE "/demo/whinchat.wren"));
    const Blank& blank = d.job(Role::body)->held.blank;
    const Vec2 programs = pdf.place(0, "Programs, in this order");
    const Vec2 steps = pdf.place(0, "Blank and zero");
    CHECK(programs.x > 150);
    CHECK(programs.y < 40);
    CHECK(steps.y > 120);
    // The blank between the heading and the steps, to one scale, and at least 1 to 4.2.
    double scale = 0;
    for (double y : {45.0, 60.0, 75.0}) {
        const std::vector<double> level = pdf.darkAlong(0, y);
        for (double a : level) {
            for (double b : level) {
                if (b < programs.x - 2 && (b - a) / blank.length > scale) {
                    scale = (b - a) / blank.length;
                }
            }
        }
    }
    CHECK(scale > 1 / 4.2);
    CHECK(hasDistance(pdf.darkDown(0, 100), scale * blank.width));
}

TEST_CASE("However long the day, every program stays on the sheet", "[outside][paper]") {
    const test::Folder folder;
    const std::string file = (folder / "p.wren").string();
    Project p = test::plainWith({{"markers.frets", "3 5 7"},
                                 {"markers.inlay", "filled"},
                                 {"board.nut_shelf", "4"},
                                 {"cut.face_blank", "always"},
                                 {"blank.boards", "3"},
                                 {"blank.width", "280"},
                                 {"blank.gap", "18"},
                                 {"blank.thickness", "9"}});
    p.bits = starterDrawer();
    saveProject(p, file);
    REQUIRE(test::wren("make " + file + " --out " + folder.str()).code == 0);
    const Reading pdf((folder / "sheets/01-fretboard-face-up.pdf").string());
    const std::string words = pdf.text(0);
    const Derived d = derive(p);
    REQUIRE(d.programs.size() >= 6);
    for (const PostedProgram& program : d.programs) {
        CHECK(words.find(program.program.file) != std::string::npos);
    }
    CHECK(words.find("By hand:") != std::string::npos);
    // The last line is there, and nothing runs off the foot: the bottom 4 mm are bare.
    CHECK(words.find("Board cut from its tabs") != std::string::npos);
    for (double fromFoot : {0.5, 1.5, 2.5, 3.5}) {
        CHECK(pdf.darkAlong(0, 210 - fromFoot).empty());
    }
}

TEST_CASE("However much is to be minded, the usual cautions stay on the sheet",
          "[outside][paper]") {
    const test::Folder folder;
    const std::string file = (folder / "p.wren").string();
    saveProject(test::plainWith({{"cut.tabs_per_side", "0"}}), file);
    std::string reason = "held by vacuum";
    for (int i = 0; i < 160; ++i) {
        reason += ", as on board " + std::to_string(i);
    }
    REQUIRE(test::wren("make " + file + " --out " + folder.str() + " --book " +
                       (folder / "book.sqlite").string() + " --override 'part-free=" + reason + "'")
                .code == 0);
    const Reading pdf((folder / "sheets/01-fretboard-face-up.pdf").string());
    const std::string words = pdf.text(0);
    CHECK(words.find("Overridden:") != std::string::npos);
    CHECK(words.find("as on board 1,") != std::string::npos);
    CHECK(words.find("the rest is in report.json") != std::string::npos);
    CHECK(words.find("Eye and ear protection") != std::string::npos);
    for (double fromFoot : {0.5, 1.5, 2.5, 3.5}) {
        CHECK(pdf.darkAlong(0, 210 - fromFoot).empty());
    }
}

TEST_CASE("A carved neck's face has its day and its bench page on paper", "[outside][paper]") {
    const test::Folder folder;
    const std::string file = (folder / "p.wren").string();
    Project p = test::plainWith({{"markers.frets", "3 5 7 12"},
                                 {"markers.side_frets", "3 5 7"},
                                 {"markers.inlay", "filled"},
                                 {"neck.joint", "bolt-on"},
                                 {"neck.fret_face", "carved"},
                                 {"rod.from", "back"},
                                 {"rod.cover", "1.5"}});
    p.bits = starterDrawer();
    p.woodMarks = {{"neck", WoodMarkKind::knot, {150, 8}, {156, 8}, 4, {}},
                   {"neck", WoodMarkKind::seam, {300, 60}, {400, 60}, 0, {}}};
    saveProject(p, file);
    const test::Ran made = test::wren("make " + file + " --out " + folder.str());
    INFO(made.err);
    REQUIRE(made.code == 0);
    CHECK_FALSE(std::filesystem::exists(folder / "sheets/01-fretboard-face-up.pdf"));
    const Reading face((folder / "sheets/01-neck-face-up.pdf").string());
    const Reading back((folder / "sheets/02-neck-back-up.pdf").string());
    REQUIRE(face.pages() == 2);
    CHECK(back.pages() == 1);
    // Every program on its own side's sheet, the wait for the filling among them.
    const Derived d = derive(p);
    for (std::size_t i = 0; i < d.programs.size(); ++i) {
        const Reading& sheet = d.placeOf(i).side == 0 ? face : back;
        INFO(d.programs[i].program.file);
        CHECK(sheet.text(0).find(d.programs[i].program.file) != std::string::npos);
    }
    CHECK(face.text(0).find("By hand:") != std::string::npos);
    CHECK(face.text(0).find("fret face up") != std::string::npos);
    CHECK(back.text(0).find("fret face") != std::string::npos);
    CHECK(face.text(1).find("Side dots, by hand in the bass edge") != std::string::npos);
    // The knot seen face up lies across the long line when the neck is turned over it, as far along.
    const Vec2 up = face.place(0, "knot 1"), down = back.place(0, "knot 1");
    const Vec2 seam = face.place(0, "seam 2"), turned = back.place(0, "seam 2");
    CHECK(seam.x - up.x == Approx(turned.x - down.x).margin(0.5));
    CHECK((seam.y - up.y) * (turned.y - down.y) < 0);
    for (double fromFoot : {0.5, 1.5, 2.5, 3.5}) {
        CHECK(face.darkAlong(0, 210 - fromFoot).empty());
        CHECK(back.darkAlong(0, 210 - fromFoot).empty());
    }
}
