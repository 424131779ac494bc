#pragma once

#include "base/length.h"
#include "cut/move.h"

#include <string>

namespace wren {

/// Writes moves as RS274/NGC lines, repeating only the words that change. Four decimals of a
/// millimetre or five of an inch, so that an arc's radii agree far inside the 0.002 mm (0.0002 in)
/// a reader may insist on (NIST IR 6556, 3.5.3).
class GcodeWriter {
public:
    /// What a controller is sure to swallow in one line, brackets left aside.
    static constexpr std::size_t longestComment = 110;

    /// A machine that takes no arcs gets lines within 0.002 mm of them.
    explicit GcodeWriter(LengthUnit unit, bool arcs = true);

    void comment(const std::string& text); ///< brackets and control characters become spaces
    void begin();                          ///< modes
    void spindle(double rpm);              ///< M3 before any cut; again only when the speed changes
    void path(const Path& path);
    void end(); ///< M5, M2
    std::size_t size() const { return text_.size(); } ///< of what is written so far
    std::string take() { return std::move(text_); }

private:
    void move(const Move& move);
    void asLines(const Move& arc);
    std::string number(double mm, double scale) const;
    void axis(std::string& line, char letter, double mm, double& last);
    void feedWord(std::string& line, double feed);

    std::string text_;
    double scale_;
    bool arcs_;
    int decimals_;
    Vec3 last_{1e99, 1e99, 1e99};
    int motion_ = -1;
    double feed_ = -1;
    double rpm_ = -1;
};

} // namespace wren
