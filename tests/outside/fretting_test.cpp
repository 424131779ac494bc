// Fret positions and the arc of the board, against acoustics, handbook formulas and trade figures.

#include "design/scale.h"

#include "support.h"

using namespace wren;

TEST_CASE("Frets follow equal temperament to the 36th", "[outside][frets]") {
    // Twelve equal steps to the octave: the ratio of neighbours is the twelfth root of two,
    // 1.0594630944 (any acoustics text; the tuning ISO 16:1975 presumes for A = 440 Hz).
    const double semitone = 1.0594630943592953;
    for (double scale : {620.0, 25.5 * 25.4, 863.6}) {
        double string = scale; // what sounds beyond the fret
        for (int n = 1; n <= 36; ++n) {
            string /= semitone;
            CHECK(fretFromNut(scale, n) == Approx(scale - string).margin(1e-9 * scale));
        }
        CHECK(fretFromNut(scale, 12) == Approx(scale / 2));
        CHECK(fretFromNut(scale, 24) == Approx(scale * 3 / 4));
        CHECK(fretFromNut(scale, 36) == Approx(scale * 7 / 8));
        CHECK(fretFromNut(scale, 0) == 0);
    }
}

TEST_CASE("The fret divides the string so that its pitch is the equal-tempered one",
          "[outside][frets]") {
    // Frequency goes as one over the length (Mersenne). From A2 = 110 Hz: the standard frequencies
    // of A#2, D3, A3 and E4, as any table of A = 440 Hz gives them.
    const std::pair<int, double> table[] = {{1, 116.541}, {5, 146.832}, {12, 220.0}, {19, 329.628}};
    for (const auto& [fret, hertz] : table) {
        CHECK(110.0 * 620 / (620 - fretFromNut(620, fret)) == Approx(hertz).margin(0.001));
    }
}

TEST_CASE("The old rule of eighteen bounds the frets from below", "[outside][frets]") {
    // Each fret an eighteenth of what is left: the historical rule, a little flat of 17.817, the
    // exact divisor 1 / (1 - 2^(-1/12)).
    const auto byRule = [](double divisor, int n) {
        return 620 * (1 - std::pow(1 - 1 / divisor, n));
    };
    for (int n = 1; n <= 36; ++n) {
        CHECK(byRule(18, n) < fretFromNut(620, n));
        CHECK(fretFromNut(620, n) - byRule(18, n) < 620 * 0.01);
        CHECK(byRule(17.817, n) == Approx(fretFromNut(620, n)).margin(0.01));
    }
}

TEST_CASE("Heights across the board are those of a circle's segment", "[outside][radius]") {
    // Machinery's Handbook, segments of circles: h = r - 1/2 sqrt(4 r^2 - c^2).
    const auto segment = [](double r, double c) { return r - 0.5 * std::sqrt(4 * r * r - c * c); };
    for (double radius : {184.0, 241.3, 304.8, 406.0}) {
        Fretboard b;
        b.radius = radius;
        const BoardPart part(b);
        for (double width : {43.0, 50.0, 56.0}) {
            CHECK(part.design().thickness - part.face(0, width / 2) ==
                  Approx(segment(radius, width)).margin(1e-9));
        }
    }
}

TEST_CASE("The arc's drop and the wood under the slots are the trade's figures",
          "[outside][radius]") {
    // Common practice, no source: a board 56 mm wide falls 2.2 mm at 184 mm radius, 1.0 at 406; one
    // of 4.8 mm at 184 mm with 2 mm slots keeps 0.6 mm under them at its edges.
    Fretboard b;
    b.radius = 184;
    CHECK(6 - BoardPart(b).face(0, 28) == Approx(2.2).margin(0.06));
    b.radius = 406;
    CHECK(6 - BoardPart(b).face(0, 28) == Approx(1.0).margin(0.06));
    b.radius = 184;
    b.thickness = 4.8;
    b.slotDepth = 2;
    CHECK(BoardPart(b).floor(0, 28) == Approx(0.6).margin(0.1));
}
