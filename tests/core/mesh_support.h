#pragma once

#include "geom/mesh.h"

#include <map>
#include <utility>

namespace wren::test {

/// Edges that are not walked as often one way as the other: none in a closed mesh.
inline long openEdges(const Mesh& mesh) {
    std::map<std::pair<int, int>, int> walked;
    for (const auto& t : mesh.triangles) {
        for (std::size_t i = 0; i < 3; ++i) {
            ++walked[{t[i], t[(i + 1) % 3]}];
        }
    }
    long open = 0;
    for (const auto& [edge, times] : walked) {
        const auto back = walked.find({edge.second, edge.first});
        open += back == walked.end() || back->second != times ? 1 : 0;
    }
    return open;
}

/// Of a closed mesh, mm3.
inline double volumeOf(const Mesh& mesh) {
    double sum = 0;
    for (const auto& t : mesh.triangles) {
        const auto at = [&](std::size_t i) { return mesh.vertices[std::size_t(t[i])]; };
        sum += dot(at(0), cross(at(1), at(2))) / 6;
    }
    return sum;
}

} // namespace wren::test
