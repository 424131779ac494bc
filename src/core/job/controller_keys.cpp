// How the machine's controller is spoken to.
#include "job/key_table.h"

namespace wren {

void addControllerKeys(KeyTable& t) {
    enumKey(t, "controller.flow", "how many lines it is given before it has answered",
            Names<LineFlow, 2>{lineFlowNames},
            [](Project& p) -> LineFlow& { return p.machine.talk.flow; });
    t.count("controller.buffer",
            "bytes of unanswered lines it holds, line ends counted; 0: its state tells", 0, 65536,
            [](Project& p) -> int& { return p.machine.talk.buffer; });
    t.count("controller.offset", "the work offset the zero is set in: 1 is G54, 6 is G59", 1, 6,
            [](Project& p) -> int& { return p.machine.talk.offset; });
    for (const ControllerText& text : controllerTexts()) {
        const std::string name = text.name;
        t.text("controller." + name, text.meaning,
               [which = text.member](Project& p) -> std::string& { return p.machine.talk.*which; },
               name != "name" && name != "acknowledged");
        t.last().checkText = [name](const std::string& v) { checkControllerText(name, v); };
    }
}

} // namespace wren
