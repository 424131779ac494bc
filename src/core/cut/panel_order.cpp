#include "cut/panel_order.h"

#include <algorithm>
#include <cmath>

#include <fmt/format.h>

namespace wren {
namespace {

constexpr double shallow = 1.5; ///< bit diameters down to which a down-cut clears its chips

int rank(const Bit& bit, bool visible, bool deep, bool through) {
    const BitKind best = through            ? BitKind::compression
                         : visible && !deep ? BitKind::downCut
                                            : BitKind::flat;
    return bit.kind == best ? 2 : bit.kind == BitKind::flat ? 1 : 0;
}

template <typename Ready>
const Bit* busiest(const std::vector<OpenTask>& tasks, Ready ready) {
    const Bit* best = nullptr;
    long most = -1;
    for (std::size_t i = 0; i < tasks.size(); ++i) {
        if (!ready(i)) {
            continue;
        }
        long count = 0;
        for (std::size_t k = 0; k < tasks.size(); ++k) {
            count += ready(k) && tasks[k].bit == tasks[i].bit ? 1 : 0;
        }
        if (count > most) {
            most = count;
            best = tasks[i].bit;
        }
    }
    return best;
}

} // namespace

BitChooser::Better widestOf(bool visible, double depth, bool through) {
    return [=](const Bit& a, const Bit& b) {
        if (std::abs(a.diameter - b.diameter) > 1e-9) {
            return a.diameter > b.diameter;
        }
        const bool deep = depth > shallow * a.diameter;
        const int ra = rank(a, visible, deep, through);
        const int rb = rank(b, visible, deep, through);
        return ra != rb ? ra > rb : a.fluteLength < b.fluteLength; // the stiffer one
    };
}

std::string whyKind(const Bit& bit, bool visible) {
    switch (bit.kind) {
    case BitKind::downCut:
        return visible ? " Down-cut: the edge is seen and the chips still get out." : " Down-cut.";
    case BitKind::compression:
        return " Compression: clean edges at both faces.";
    default:
        return visible ? " Up-cut: so deep, chips must be lifted out; mind the top edge's "
                         "fibres."
                       : " Up-cut: it lifts the chips out.";
    }
}

void shareBits(std::vector<OpenTask>& tasks) {
    for (OpenTask& t : tasks) {
        for (const OpenTask& u : tasks) {
            if (t.bit == u.bit || !cutsFlat(t.bit->kind) || t.bit->kind != u.bit->kind ||
                std::abs(t.bit->diameter - u.bit->diameter) > 1e-9 || !t.own.bit.empty()) {
                continue;
            }
            const Bit* other = u.bit;
            const Bit* mine = t.bit;
            const bool all = std::all_of(tasks.begin(), tasks.end(), [&](const OpenTask& v) {
                return v.bit != mine || (v.own.bit.empty() && v.judge(*other).can);
            });
            if (all) {
                for (OpenTask& v : tasks) {
                    if (v.bit == mine) {
                        v.bit = other;
                        v.why = fmt::format("{}: it is mounted for the {} anyway.", other->name,
                                            u.what);
                    }
                }
            }
        }
    }
}

std::vector<std::size_t> runningOrder(const std::vector<OpenTask>& tasks) {
    std::vector<bool> done(tasks.size(), false);
    const auto ready = [&](std::size_t i) {
        return !done[i] && std::all_of(tasks[i].after.begin(), tasks[i].after.end(),
                                       [&](std::size_t k) { return bool(done[k]); });
    };
    std::vector<std::size_t> order;
    const Bit* mounted = nullptr;
    while (order.size() < tasks.size()) {
        std::vector<std::size_t> now;
        for (std::size_t i = 0; i < tasks.size(); ++i) {
            if (ready(i) && tasks[i].bit == mounted) {
                now.push_back(i);
            }
        }
        if (now.empty()) {
            mounted = busiest(tasks, ready);
            continue;
        }
        const auto same = std::find_if(now.begin(), now.end(), [&](std::size_t i) {
            return !order.empty() && tasks[i].what == tasks[order.back()].what;
        });
        order.push_back(same == now.end() ? now.front() : *same);
        done[order.back()] = true;
    }
    return order;
}

} // namespace wren
