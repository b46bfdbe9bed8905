#include "core/geometry/solids/caps.hpp"

#include <map>

#include "core/base/numbers.hpp"
#include "core/data/place_text.hpp"
#include "core/geometry/solids/bodies.hpp"

namespace plume {

Result<Mesh> capped(const Mesh& mesh) {
    std::map<std::uint32_t, std::uint32_t> before;  // along a rim, the other way round than its faces run
    for (const auto& [from, to] : open_edges(mesh))
        if (!before.emplace(to, from).second) {
            const Vec3 at = mesh.vertex(to);
            return Error{ErrorCode::unlike_arrangement, "", "has rims that meet, at " + place_text(at),
                         "Part what touches there, or turn its faces the same way."};
        }
    Mesh::Parts parts = mesh.parts();
    if (!before.empty() && parts.part_starts.empty()) parts.part_starts.push_back(0);
    while (!before.empty()) {
        parts.part_starts.push_back(static_cast<std::uint32_t>(parts.first.size() - 1));
        const std::uint32_t start = before.begin()->first;
        for (std::uint32_t at = start;;) {
            parts.corners.push_back(at);
            const auto next = before.find(at);
            if (next == before.end())
                return Error{ErrorCode::unlike_arrangement, "", "has a rim that does not come round",
                             "Turn its faces the same way."};
            at = next->second;
            before.erase(next);
            if (at == start) break;
        }
        parts.first.push_back(static_cast<std::uint32_t>(parts.corners.size()));
    }
    return Mesh::make(std::move(parts));
}

}  // namespace plume
