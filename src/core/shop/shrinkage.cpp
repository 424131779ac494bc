#include "shop/shrinkage.h"

#include <algorithm>
#include <map>

namespace wren {

std::optional<Shrinkage> shrinkageOf(const std::string& wood) {
    static const std::map<std::string, Shrinkage> known{
        {"hard-maple", {4.8, 9.9}}, {"white-ash", {4.9, 7.8}},  {"walnut", {5.5, 7.8}},
        {"cherry", {3.7, 7.1}},     {"poplar", {4.6, 8.2}},     {"soft-maple", {4.0, 8.2}},
        {"alder", {4.4, 7.3}},      {"basswood", {6.6, 9.3}},   {"birch", {7.3, 9.5}},
        {"red-oak", {4.0, 8.6}},    {"white-pine", {2.1, 6.1}}, {"spruce", {4.3, 7.5}},
        {"mahogany", {3.0, 4.1}}};
    const auto it = known.find(wood);
    return it == known.end() ? std::nullopt : std::optional(it->second);
}

double sizeAt(double size, double shrinkage, double fromMoisture, double toMoisture) {
    constexpr double saturated = 30; // per cent, where wood begins to shrink
    const auto left = [&](double moisture) {
        return 1 - shrinkage / 100 * (saturated - std::min(moisture, saturated)) / saturated;
    };
    return size * left(toMoisture) / left(fromMoisture);
}

} // namespace wren
