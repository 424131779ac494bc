#pragma once

#include "base/length.h"
#include "cut/move.h"

#include <array>
#include <optional>
#include <string>
#include <string_view>
#include <vector>

namespace wren {

/// What one line of a program asks for, beside the modes it sets.
struct LineEffect {
    Path moves;         ///< none or one, in machine coordinates (program ones while offsets are 0)
    double dwell = 0;   ///< seconds (G4)
    bool pause = false; ///< M0, M1
    bool programEnd = false;     ///< M2, M30
    std::optional<Vec3> probeTo; ///< G38.2: straight probe toward this machine point
    double probeFeed = 0;        ///< mm/min
};

/// Reads RS274/NGC line by line, as published in NIST IR 6556 (version 3): words, comments, modal
/// groups, order of execution, arcs by centre or radius with the published mismatch tolerance
/// (0.002 mm, 0.0002 in), inch and mm, absolute and incremental, coordinate systems 1 to 6.
/// Parameters, expressions, canned cycles, tool compensation and rotary axes are refused by name.
///
/// Every fault is an Error that names `source` and the line; the state is then as before the line.
class Rs274Reader {
public:
    explicit Rs274Reader(std::string source) : source_(std::move(source)) {}

    LineEffect read(std::string_view line);

    Vec3 position() const { return state_.at; }
    void setPosition(Vec3 machine) { state_.at = machine; }
    Vec3 offset() const { return state_.offsets[static_cast<std::size_t>(state_.system)]; }
    void setOffset(int system, Vec3 machine); ///< system 1 to 6 for G54 to G59
    bool spindleOn() const { return state_.spindleOn; }
    void stopSpindle() { state_.spindleOn = false; } ///< by hand, as an alarm does
    double feed() const { return state_.feed; }      ///< mm/min
    double speed() const { return state_.speed; }    ///< rpm asked for
    int lineNumber() const { return lineNumber_; }
    LengthUnit unit() const { return state_.inch ? LengthUnit::inch : LengthUnit::mm; }
    bool incremental() const { return state_.incremental; }

private:
    struct State {
        Vec3 at;
        std::array<Vec3, 6> offsets{};
        int system = 0;
        int motion = 800; ///< G code times ten; 800 is none
        ArcPlane plane = ArcPlane::xy;
        bool inch = false;
        bool incremental = false;
        bool spindleOn = false;
        double speed = 0;
        double feed = 0;
    };
    struct Words;

    Words split(std::string_view line) const;
    void applyModes(const Words& words);
    void applyNonModal(const Words& words, LineEffect& effect);
    void applyMotion(const Words& words, LineEffect& effect);
    Vec3 target(const Words& words) const;
    Move arc(const Words& words, Vec3 to) const;
    double scale() const { return state_.inch ? mmPerInch : 1; }
    [[noreturn]] void fail(const std::string& what) const;

    std::string source_;
    State state_;
    int lineNumber_ = 0;
};

/// A whole program read back.
struct ProgramReading {
    Path path; ///< program coordinates; each move knows its line and whether the spindle turned
    LengthUnit unit = LengthUnit::mm;
    int lines = 0;
    bool ends = false; ///< M2 or M30 was met
    bool spindleOffAtEnd = false;
};

/// Throws Error at the first line that cannot be read. `start` is where the tool stands before the
/// first line, in program coordinates.
ProgramReading readProgram(std::string_view text, const std::string& source, Vec3 start = {});

} // namespace wren
