#include "shop/controller.h"

#include "base/error.h"

#include <algorithm>
#include <cctype>

#include <fmt/format.h>
#include <nlohmann/json.hpp>

namespace wren {

const std::vector<ControllerText>& controllerTexts() {
    static const std::vector<ControllerText> all{
        {"name", &Controller::name, "what this description is called"},
        {"line_end", &Controller::lineEnd, "what ends a line, bytes below a space as \\xNN"},
        {"greet", &Controller::greet, "said before anything else"},
        {"ask", &Controller::ask, "asks for its state and place"},
        {"home", &Controller::home, "sends it to its home corner"},
        {"unlock", &Controller::unlock, "takes it out of an alarm"},
        {"jog", &Controller::jog, "moves it by {x} {y} {z} mm at {feed} mm/min"},
        {"travel", &Controller::travel, "moves it to a place {x} {y} of the machine"},
        {"lift", &Controller::lift, "moves the spindle all the way up"},
        {"probe", &Controller::probe, "goes down by {z} mm at most, until the plate is touched"},
        {"zero", &Controller::zero, "sets the work zero at {x} {y} {z} of the machine"},
        {"hold", &Controller::hold, "stands still, spindle turning"},
        {"resume", &Controller::resume, "goes on after a hold"},
        {"reset", &Controller::reset, "drops everything, spindle off"},
        {"feed", &Controller::feed, "turns all feeds to {percent} %"},
        {"spindle", &Controller::spindle, "turns the spindle's speed to {percent} %"},
        {"at_once", &Controller::atOnce, "which words act at once, whatever waits in its buffer"},
        {"bare", &Controller::bare, "which words go without a line's end"},
        {"unanswered", &Controller::unanswered, "which words it does not acknowledge"},
        {"acknowledged", &Controller::acknowledged, "its answer to a line it has taken"},
        {"refused", &Controller::refused, "its answer to a line it has not, with {number}"},
        {"alarm", &Controller::alarm, "said when it stops by itself, with {number} if any"},
        {"state", &Controller::state, "its answer when asked: {state}, {x} {y} {z}, {free} ..."},
        {"probed", &Controller::probed, "where the probe touched: {x} {y} {z} of the machine"},
        {"restarted", &Controller::restarted, "said when it begins anew, all forgotten"},
        {"states", &Controller::states, "its words for idle, run, hold, alarm: run: busy, moving"},
        {"errors", &Controller::errors, "what its numbers mean, as 1: it could not read the line"}};
    return all;
}

Controller plainController() {
    Controller c;
    c.name = "plain";
    c.flow = LineFlow::oneByOne;
    for (const ControllerText& t : controllerTexts()) {
        const std::string name = t.name;
        if (name != "name" && name != "line_end" && name != "acknowledged") {
            (c.*t.member).clear();
        }
    }
    return c;
}

Controller signalController() {
    Controller c;
    c.name = "signals";
    c.buffer = 128;
    c.lineEnd = "\\x0d";
    c.greet = "HELLO";
    c.ask = "\\x05";
    c.home = "GO HOME";
    c.unlock = "CLEAR";
    c.jog = "STEP {x} {y} {z} AT {feed}";
    c.probe = "FEEL {z} AT {feed}";
    c.hold = "\\x13";
    c.resume = "\\x11";
    c.reset = "\\x1a";
    c.feed = "PACE {percent}";
    c.spindle = "TURN {percent}";
    c.atOnce = "ask hold resume reset";
    c.bare = "ask hold resume reset";
    c.unanswered = "ask hold resume reset";
    c.acknowledged = "DONE";
    c.refused = "NO {number}";
    c.alarm = "HALTED {number}";
    c.state = "IS {state} AT {x} {y} {z} WORK {wx} {wy} {wz} PACE {feed} TURN {spindle} {rpm}{}";
    c.probed = "FELT {x} {y} {z}";
    c.restarted = "AWAKE";
    c.states = "idle: WAITING; run: BUSY; hold: HELD; alarm: HALTED";
    return c;
}

std::vector<Controller> shippedControllers() {
    return {Controller(), plainController(), signalController()};
}

namespace {

std::vector<std::string> fieldsOf(const std::string& name) {
    if (name == "jog") {
        return {"x", "y", "z", "feed"};
    }
    if (name == "travel") {
        return {"x", "y"};
    }
    if (name == "probe") {
        return {"z", "feed"};
    }
    if (name == "zero") {
        return {"offset", "x", "y", "z"};
    }
    if (name == "feed" || name == "spindle") {
        return {"percent"};
    }
    if (name == "refused" || name == "alarm") {
        return {"number", ""};
    }
    if (name == "probed") {
        return {"x", "y", "z", ""};
    }
    if (name == "state") {
        return {"state", "x",    "y",    "z",       "wx",    "wy",
                "wz",    "free", "feed", "spindle", "rpm", "clock", ""};
    }
    return {};
}

} // namespace

void checkControllerText(const std::string& name, const std::string& text) {
    const std::vector<std::string> known = fieldsOf(name);
    for (std::size_t at = text.find('{'); at != std::string::npos; at = text.find('{', at + 1)) {
        const std::size_t end = text.find('}', at);
        if (end == std::string::npos) {
            throw Error(fmt::format("controller.{}: a brace is left open in \"{}\".", name, text));
        }
        const std::string field = text.substr(at + 1, end - at - 1);
        if (std::find(known.begin(), known.end(), field) == known.end()) {
            throw Error(known.empty()
                            ? fmt::format("controller.{}: there is nothing to put in for {{{}}}.",
                                          name, field)
                            : fmt::format("controller.{}: {{{}}} is not known; one of {} was "
                                          "expected.",
                                          name, field, fmt::join(known, ", ")));
        }
    }
}

std::string controllerToJson(const Controller& c) {
    nlohmann::ordered_json doc;
    doc["flow"] = lineFlowNames[static_cast<std::size_t>(c.flow)];
    doc["buffer"] = c.buffer;
    doc["offset"] = c.offset;
    for (const ControllerText& t : controllerTexts()) {
        doc[t.name] = c.*t.member;
    }
    return doc.dump(2) + "\n";
}

Controller controllerFromJson(const std::string& text, const std::string& source) {
    const auto doc = nlohmann::json::parse(text, nullptr, false);
    if (!doc.is_object()) {
        throw Error(fmt::format("{} is no description of a controller: an object of JSON was "
                                "expected.",
                                source));
    }
    Controller c = plainController();
    const auto number = [&](const std::string& key, const nlohmann::json& v, int least, int most) {
        if (!v.is_number_integer() || v.get<long long>() < least || v.get<long long>() > most) {
            throw Error(fmt::format("{}: \"{}\" is {}; a whole number from {} to {} was expected.",
                                    source, key, v.dump(), least, most));
        }
        return v.get<int>();
    };
    for (const auto& [key, value] : doc.items()) {
        const auto& texts = controllerTexts();
        const auto it = std::find_if(texts.begin(), texts.end(),
                                     [&, k = key](const ControllerText& t) { return k == t.name; });
        if (key == "buffer") {
            c.buffer = number(key, value, 0, 65536);
        } else if (key == "offset") {
            c.offset = number(key, value, 1, 6);
        } else if (key == "flow" && (value == "counted" || value == "one-by-one")) {
            c.flow = value == "counted" ? LineFlow::counted : LineFlow::oneByOne;
        } else if (key == "flow") {
            throw Error(fmt::format("{}: \"flow\" is {}; \"counted\" or \"one-by-one\" was "
                                    "expected.",
                                    source, value.dump()));
        } else if (it == texts.end()) {
            throw Error(fmt::format("{}: a controller has no \"{}\".", source, key));
        } else if (!value.is_string() || value.get<std::string>().size() > 2000) {
            throw Error(fmt::format("{}: \"{}\" is no text of at most 2000 signs.", source, key));
        } else {
            checkControllerText(key, value.get<std::string>());
            c.*it->member = value.get<std::string>();
        }
    }
    if (c.acknowledged.empty()) {
        throw Error(fmt::format("{}: \"acknowledged\" is empty; how a line is answered was "
                                "expected.",
                                source));
    }
    return c;
}

} // namespace wren
