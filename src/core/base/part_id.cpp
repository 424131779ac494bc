#include "base/part_id.h"

#include <array>
#include <charconv>

namespace wren {
namespace {

constexpr std::array<const char*, 21> roleNames{"fretboard",
                                                "neck",
                                                "body",
                                                "core",
                                                "top",
                                                "back",
                                                "wing",
                                                "lid",
                                                "inlay",
                                                "plate",
                                                "neck fixture",
                                                "body fixture",
                                                "neck cradle",
                                                "outline template",
                                                "neck pocket template",
                                                "pickup template",
                                                "cavity template",
                                                "ledge template",
                                                "lid template",
                                                "test slots",
                                                "bed"};

} // namespace

std::string PartId::shortName() const {
    const std::string word = roleNames[static_cast<std::size_t>(role)];
    return number > 0 ? word + " " + std::to_string(number) : word;
}

std::string PartId::name() const {
    return ofBody() && role != Role::body ? "body " + shortName() : shortName();
}

std::optional<PartId> PartId::named(std::string_view name) {
    int number = 0;
    const std::size_t space = name.rfind(' ');
    if (space != std::string_view::npos) {
        const std::string_view tail = name.substr(space + 1);
        const auto read = std::from_chars(tail.data(), tail.data() + tail.size(), number);
        number = read.ec == std::errc() && read.ptr == tail.data() + tail.size() ? number : 0;
    }
    for (std::size_t i = 0; i < roleNames.size(); ++i) {
        const PartId part(static_cast<Role>(i), number);
        if (part.name() == name) {
            return part;
        }
    }
    return std::nullopt;
}

} // namespace wren
