#include "job/variant.h"

#include "base/error.h"
#include "job/project.h"
#include "job/variant_name.h"

#include <algorithm>

#include <fmt/format.h>

namespace wren {
namespace {

template <typename Variants>
auto findIn(Variants& variants, const std::string& name) {
    return std::find_if(variants.begin(), variants.end(),
                        [&](const Variant& v) { return v.name == name; });
}

/// Of a project that may be changed, or may not.
template <typename P>
auto& kept(P& project, const std::string& name) {
    const auto it = findIn(project.variants, name);
    if (it == project.variants.end()) {
        std::string names;
        for (const Variant& v : project.variants) {
            names += (names.empty() ? "" : ", ") + v.name;
        }
        throw Error(
            fmt::format("No variant is called \"{}\"; {} was expected.", name,
                        names.empty() ? "one kept in this project, which has none yet," : names));
    }
    return *it;
}

Variant& thawed(Project& project, const std::string& name) {
    Variant& v = kept(project, name);
    if (v.frozen) {
        throw Error(
            fmt::format("The variant \"{}\" is frozen; it is thawed before it is changed.", name));
    }
    return v;
}

std::shared_ptr<const Project> alone(const Project& project) {
    auto out = std::make_shared<Project>(project);
    out->variants.clear();
    return out;
}

} // namespace

bool operator==(const Variant& a, const Variant& b) {
    return a.name == b.name && a.frozen == b.frozen && a.unknown == b.unknown &&
           (a.design == b.design || *a.design == *b.design);
}

void checkVariantName(const std::string& name, const std::string& where) {
    constexpr std::size_t longest = 60;
    const bool plain = std::none_of(name.begin(), name.end(),
                                    [](char c) { return static_cast<unsigned char>(c) < ' '; });
    if (name.empty() || name.size() > longest || !plain) {
        throw Error(fmt::format("{}A variant needs a name of 1 to {} characters.", where, longest));
    }
}

Project withVariant(const Project& project, const std::string& name) {
    checkVariantName(name);
    Project out = project;
    if (findIn(out.variants, name) != out.variants.end()) {
        thawed(out, name).design = alone(project);
        return out;
    }
    if (out.variants.size() >= mostVariants) {
        throw Error(fmt::format("A project keeps up to {} variants; one has to be dropped first.",
                                mostVariants));
    }
    out.variants.push_back({name, false, alone(project)});
    return out;
}

Project withoutVariant(const Project& project, const std::string& name) {
    Project out = project;
    thawed(out, name);
    out.variants.erase(findIn(out.variants, name));
    return out;
}

Project withFrozen(const Project& project, const std::string& name, bool frozen) {
    Project out = project;
    kept(out, name).frozen = frozen;
    return out;
}

Project takenVariant(const Project& project, const std::string& name) {
    Project out = variantOf(project, name);
    out.variants = project.variants;
    return out;
}

const Project& variantOf(const Project& project, const std::string& name) {
    return *kept(project, name).design;
}

} // namespace wren
