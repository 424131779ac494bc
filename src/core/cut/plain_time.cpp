#include "cut/plain_time.h"

#include <algorithm>

namespace wren {

double plainSeconds(const Path& path, const Machine& machine) {
    double seconds = 0;
    for (const Move& move : path) {
        const double rate = move.cuts() ? std::min(move.feed, machine.maxFeed) : machine.rapid;
        seconds += move.length() / rate * 60 + move.dwell;
    }
    return seconds;
}

} // namespace wren
