#pragma once

#include "base/feature_id.h"
#include "base/part_id.h"
#include "job/project.h"

#include <optional>
#include <string>
#include <vector>

namespace wren {

/// A thing of the design that can be taken hold of: it has keys of its own.
struct Feature {
    PartId part;
    FeatureId id{};
    std::string path; ///< its keys stand under this: "body.controls.1", or a group: "cavity"
    std::string name; ///< "pot 2"
    std::string side; ///< "front", "back", "edge", "inside"; empty where that says nothing
    Vec2 at;          ///< its middle as its fields count it, mm
    Vec2 size;        ///< along and across, mm; zero where it is a place only
    std::optional<double> depth; ///< mm; none for right through, or where it has none
};

/// All of a project, part by part, in the order they are made.
std::vector<Feature> featuresOf(const Project& project);

/// Where a body's thing has its keys: "body.controls.1"; empty for none.
std::string pathOf(FeatureId feature);

/// The things of a project as comma-separated values.
std::string featuresCsv(const Project& project);

} // namespace wren
