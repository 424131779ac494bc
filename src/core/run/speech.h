#pragma once

#include "geom/vec.h"
#include "shop/controller.h"

#include <cstddef>
#include <map>
#include <optional>
#include <string>
#include <string_view>

namespace wren {

/// What the machine said of itself last.
struct MachineStatus {
    std::string state; ///< "idle", "run", "hold", "alarm"; empty when it says nothing of it
    Vec3 position;     ///< machine coordinates, mm
    Vec3 work;         ///< program coordinates, mm
    std::optional<std::size_t> freeBytes; ///< room in its buffer, where it tells
    double feedPercent = 100, spindlePercent = 100;
    double rpm = 0;       ///< its spindle turns with now
    double clock = 0;     ///< seconds of its own time
    bool standIn = false; ///< a simulated machine, by its own word
};

/// Fields of a pattern and what stood for them.
using Fields = std::map<std::string, std::string>;

/// A word with its numbers put in, its written bytes made bytes. Numbers have four decimals.
std::string said(const std::string& word, const std::map<std::string, double>& numbers = {});

/// The fields of an answer that has the form of a pattern; none when it has another. A field goes
/// as far as the pattern's next sign; {} is anything.
std::optional<Fields> heard(const std::string& pattern, std::string_view line);
/// The same as it would be said: fields in their places, nothing for {}.
std::string answered(const std::string& pattern, const Fields& fields);

/// What a controller's lines mean by its description.
class Speech {
public:
    explicit Speech(const Controller& controller) : controller_(controller) {}

    const Controller& controller() const { return controller_; }
    bool acknowledges(std::string_view line) const;
    /// The sentence's end for a refusal or an alarm: "the move would leave its travel", or the
    /// number as it came; none when the line is something else.
    std::optional<std::string> refuses(std::string_view line) const;
    std::optional<std::string> alarms(std::string_view line) const;
    bool restarts(std::string_view line) const;
    /// Its state; none when the line is something else. Throws Error when it is one and cannot be
    /// true: an unknown state, a number that is none or not finite, a place or room no machine has.
    std::optional<MachineStatus> state(std::string_view line) const;
    /// Where the probe touched; none when the line is something else. Throws Error: no numbers.
    std::optional<Vec3> probed(std::string_view line) const;

    /// Whether a word ("hold", "ask" ...) is in one of the lists of names.
    bool atOnce(const char* word) const { return isIn(controller_.atOnce, word); }
    bool answers(const char* word) const { return !isIn(controller_.unanswered, word); }
    /// A word as bytes, its line's end with it where it wants one.
    std::string bytes(const char* name, const std::string& word,
                      const std::map<std::string, double>& numbers = {}) const;
    std::string lineEnd() const { return said(controller_.lineEnd); }
    /// Its word for one of our states, as the stand-in says it.
    std::string wordFor(const std::string& state) const;

private:
    static bool isIn(const std::string& list, std::string_view word);
    std::string meaningOf(const std::string& number) const;

    Controller controller_;
};

} // namespace wren
