#include "post/motion_text.h"

#include <sstream>

namespace wren {

std::string motionText(const std::string& program) {
    std::string motion;
    std::istringstream in(program);
    for (std::string line; std::getline(in, line);) {
        std::string plain;
        int deep = 0;
        for (char c : line) {
            deep += c == '(' ? 1 : 0;
            if (deep == 0) {
                plain += c;
            }
            deep -= c == ')' ? 1 : 0;
        }
        if (plain.find_first_not_of(" \r\t") != std::string::npos) {
            motion += plain + "\n";
        }
    }
    return motion;
}

} // namespace wren
