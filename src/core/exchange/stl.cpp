#include "exchange/stl.h"

#include <bit>
#include <cstdint>
#include <cstring>

namespace wren {
namespace {

static_assert(std::endian::native == std::endian::little, "STL is little-endian, and so is this");

void put(std::string& out, Vec3 v) {
    for (double d : {v.x, v.y, v.z}) {
        const auto f = static_cast<float>(d);
        char bytes[sizeof f];
        std::memcpy(bytes, &f, sizeof f);
        out.append(bytes, sizeof f);
    }
}

std::array<Vec3, 3> corners(const Mesh& mesh, const std::array<int, 3>& t) {
    const auto at = [&](int i) { return mesh.vertices[static_cast<std::size_t>(i)]; };
    return {at(t[0]), at(t[1]), at(t[2])};
}

} // namespace

std::string toStl(const Mesh& mesh, const std::string& name) {
    std::string out = (name + ", mm").substr(0, 80);
    out.resize(80, ' ');
    const auto count = static_cast<std::uint32_t>(mesh.triangles.size());
    char bytes[sizeof count];
    std::memcpy(bytes, &count, sizeof count);
    out.append(bytes, sizeof count);
    for (const auto& t : mesh.triangles) {
        const auto [a, b, c] = corners(mesh, t);
        const Vec3 n = cross(b - a, c - a);
        const double size = length(n);
        put(out, size > 0 ? n * (1 / size) : Vec3{});
        put(out, a);
        put(out, b);
        put(out, c);
        out.append(2, '\0');
    }
    return out;
}

double volumeOf(const Mesh& mesh) {
    double six = 0;
    for (const auto& t : mesh.triangles) {
        const auto [a, b, c] = corners(mesh, t);
        six += dot(a, cross(b, c));
    }
    return six / 6;
}

} // namespace wren
