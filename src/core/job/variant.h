#pragma once

#include <memory>
#include <string>

namespace wren {

struct Project;

/// A design kept under a name inside its project.
struct Variant {
    std::string name;
    bool frozen = false;                   ///< neither replaced nor dropped
    std::shared_ptr<const Project> design; ///< never null; holds no variants itself
    std::string unknown{}; ///< what a file held of it that this version does not know

    /// By what the designs hold.
    friend bool operator==(const Variant& a, const Variant& b);
};

inline constexpr std::size_t mostVariants = 24;

// Each throws Error and leaves the project as it is: a name that is empty, longer than 60
// characters or none of those kept, a frozen one, too many.
/// The present design kept under a name, in place of what was kept under it.
Project withVariant(const Project& project, const std::string& name);
Project withoutVariant(const Project& project, const std::string& name);
Project withFrozen(const Project& project, const std::string& name, bool frozen);
/// The design kept under that name as the present one, beside the same variants.
Project takenVariant(const Project& project, const std::string& name);
/// The variant itself, without others beside it.
const Project& variantOf(const Project& project, const std::string& name);

} // namespace wren
