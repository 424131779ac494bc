#pragma once

#include <array>
#include <string>
#include <vector>

namespace wren {

/// How many lines a controller is given before it has answered.
enum class LineFlow {
    counted,  ///< as many as its buffer has bytes for
    oneByOne, ///< the next when the one before is answered
};
inline constexpr std::array<const char*, 2> lineFlowNames{"counted", "one-by-one"};

/// How a machine's controller is spoken to and what it answers: data of the machine, so that no
/// word goes out that is not written here. A word that is empty is one it does not have.
///
/// Words hold {x} {y} {z} {feed} {offset} {percent} where numbers go. Answers are patterns: text
/// with {names} where numbers or words stand, {} for anything that does not matter. Bytes below a
/// space are written \xNN.
struct Controller {
    std::string name = "stand-in";
    LineFlow flow = LineFlow::counted;
    int buffer = 0; ///< bytes of unanswered lines it holds, ends counted; 0: its state tells
    std::string lineEnd = "\\x0a";

    // What it is told
    std::string greet;             ///< before anything else
    std::string ask = "?";         ///< for its state and place
    std::string home = "home";     ///< to its corner
    std::string unlock = "reset";  ///< out of an alarm
    std::string jog = "jog X{x} Y{y} Z{z} F{feed}"; ///< by so much, mm
    std::string travel = "G53 G0 X{x} Y{y}";        ///< to a place of the machine, mm
    std::string lift = "G53 G0 Z0";                 ///< the spindle all the way up
    std::string probe = "probe Z{z} F{feed}";       ///< down by so much at most, mm, z negative
    std::string zero = "G10 L2 P{offset} X{x} Y{y} Z{z}"; ///< a work offset, in machine mm
    std::string hold = "hold";
    std::string resume = "resume";
    std::string reset = "reset";
    std::string feed = "feed {percent}";       ///< override of the feed
    std::string spindle = "spindle {percent}"; ///< override of the spindle's speed
    /// Which of ask, hold, resume, reset, feed and spindle act whatever the buffer holds.
    std::string atOnce = "ask hold resume reset feed spindle";
    std::string bare;               ///< which are sent without a line's end
    std::string unanswered = "ask"; ///< which are not acknowledged
    int offset = 1;                 ///< the work offset the zero is set in: 1 is G54

    // What it answers
    std::string acknowledged = "ok";
    std::string refused = "error:{number}";
    std::string alarm; ///< unasked
    std::string state = "state:{state} x:{x} y:{y} z:{z} wx:{wx} wy:{wy} wz:{wz} free:{free} "
                        "feed:{feed} spindle:{spindle} rpm:{rpm} clock:{clock}{}";
    std::string probed = "probe:{x},{y},{z}";
    std::string restarted = "wren stand-in ready"; ///< said when it begins anew, all forgotten
    std::string states = "idle: idle; run: run; hold: hold; alarm: alarm"; ///< its words for ours
    std::string errors = "1: it could not read the line; 2: the move would leave its travel; "
                         "3: it is in alarm; 4: its buffer was overrun; 5: the probe touched "
                         "nothing; 6: it is not on hold; 7: a limit switch was met; "
                         "8: its emergency stop is pressed";

    friend bool operator==(const Controller&, const Controller&) = default;
};

/// Its text members with their names in files and fields ("line_end", "home" ...).
struct ControllerText {
    const char* name;
    std::string Controller::*member;
    const char* meaning;
};
const std::vector<ControllerText>& controllerTexts();

/// One that any machine that takes a line and answers "ok" understands, nothing else assumed.
Controller plainController();
/// One of single bytes that act at once and words of its own; the stand-in speaks it too.
Controller signalController();
/// Those three, the stand-in's first.
std::vector<Controller> shippedControllers();

// As a small file of JSON, its keys the texts' names and flow, buffer, offset.
std::string controllerToJson(const Controller& controller);
/// Throws Error: no JSON, a key there is none of, a value of another kind, a name in braces that
/// its word does not know.
Controller controllerFromJson(const std::string& json, const std::string& source);

/// What a word may hold in braces; throws Error for another name, or a brace left open.
void checkControllerText(const std::string& name, const std::string& text);

} // namespace wren
