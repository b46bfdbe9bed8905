#include "core/readers/mesh_draft.hpp"

#include <algorithm>
#include <array>
#include <atomic>
#include <cmath>
#include <limits>
#include <numeric>

#include "core/base/numbers.hpp"
#include "core/base/parallel.hpp"
#include "core/base/text.hpp"
#include "core/data/gathered.hpp"
#include "core/geometry/meshes/face_builder.hpp"

namespace plume {
namespace {

enum class Fault : std::uint8_t { none, few_corners, no_such_vertex, not_finite, crosses_itself, repeats };
constexpr std::array fault_texts = {"", "have fewer than three corners", "have corners that are not there",
                                    "have corners that are not finite", "pass a corner twice"};

std::span<const std::uint32_t> face_of(const MeshDraft& draft, std::size_t face) {
    return std::span(draft.corners).subspan(draft.first[face], draft.first[face + 1] - draft.first[face]);
}

// Without corners that stand twice one after the other.
std::vector<std::uint32_t> without_repeats(std::span<const std::uint32_t> face) {
    std::vector<std::uint32_t> corners(face.begin(), face.end());
    corners.erase(std::unique(corners.begin(), corners.end()), corners.end());
    while (corners.size() > 1 && corners.back() == corners.front())
        corners.pop_back();
    return corners;
}

bool passes_twice(std::vector<std::uint32_t> corners) {
    std::ranges::sort(corners);
    return std::ranges::adjacent_find(corners) != corners.end();
}

class Checker {
public:
    explicit Checker(const MeshDraft& draft) : draft_(draft), all_finite_(are_finite(draft)) {}

    Fault operator()(std::size_t face) const {
        const auto corners = face_of(draft_, face);
        if (corners.size() < 3) return Fault::few_corners;
        for (const std::uint32_t corner : corners) {
            if (corner >= draft_.x.size()) return Fault::no_such_vertex;
            if (all_finite_) continue;
            if (!std::isfinite(draft_.x[corner]) || !std::isfinite(draft_.y[corner]) ||
                !std::isfinite(draft_.z[corner]))
                return Fault::not_finite;
        }
        if (corners.size() == 3)
            return corners[0] != corners[1] && corners[1] != corners[2] && corners[2] != corners[0]
                       ? Fault::none
                       : Fault::few_corners;
        const std::vector<std::uint32_t> once = without_repeats(corners);
        if (once.size() < 3) return Fault::few_corners;
        if (passes_twice(once)) return Fault::crosses_itself;
        return once.size() < corners.size() ? Fault::repeats : Fault::none;
    }

private:
    // Files mostly are: then no face has to be asked for its places.
    static bool are_finite(const MeshDraft& draft) {
        std::atomic<bool> all{true};
        parallel_blocks(draft.x.size(), usual_block, Run(), [&](std::size_t begin, std::size_t end) {
            for (std::size_t at = begin; at < end; ++at)
                if (!std::isfinite(draft.x[at] + draft.y[at] + draft.z[at])) all = false;
        });
        return all;
    }
    const MeshDraft& draft_;
    bool all_finite_;
};

std::string losses_text(const std::vector<Fault>& faults) {
    std::array<std::size_t, fault_texts.size()> counts{}, firsts{};
    std::size_t all = 0;
    for (std::size_t face = 0; face < faults.size(); ++face) {
        const auto fault = static_cast<std::size_t>(faults[face]);
        if (fault == 0 || fault >= counts.size()) continue;
        if (counts[fault]++ == 0) firsts[fault] = face + 1;
        ++all;
    }
    if (all == 0) return {};
    std::string text = count_text(all, "face was", "faces were") + " left out:";
    bool begun = false;
    for (std::size_t fault = 1; fault < counts.size(); ++fault) {
        if (counts[fault] == 0) continue;
        text += (begun ? ", " : " ") + grouped_text(static_cast<std::int64_t>(counts[fault])) + " " +
                fault_texts[fault] + " (first: number " +
                grouped_text(static_cast<std::int64_t>(firsts[fault])) + ")";
        begun = true;
    }
    return text + ".";
}

// The faces that stay, those of one part after each other, else in the order they came.
std::vector<std::uint32_t> kept_faces(const MeshDraft& draft, const std::vector<Fault>& faults) {
    std::vector<std::uint32_t> kept;
    for (std::size_t face = 0; face < faults.size(); ++face)
        if (faults[face] == Fault::none || faults[face] == Fault::repeats)
            kept.push_back(static_cast<std::uint32_t>(face));
    if (!draft.part_of.empty())
        std::ranges::stable_sort(kept, {}, [&](auto face) { return draft.part_of[face]; });
    return kept;
}

void rearrange(MeshDraft& draft, const std::vector<std::uint32_t>& kept, const std::vector<Fault>& faults) {
    std::vector<std::uint32_t> first{0}, corners;
    first.reserve(kept.size() + 1);
    corners.reserve(draft.corners.size());
    for (const std::uint32_t face : kept) {
        if (faults[face] == Fault::repeats) {
            const auto once = without_repeats(face_of(draft, face));
            corners.insert(corners.end(), once.begin(), once.end());
        } else {
            const auto as_it_is = face_of(draft, face);
            corners.insert(corners.end(), as_it_is.begin(), as_it_is.end());
        }
        first.push_back(static_cast<std::uint32_t>(corners.size()));
    }
    draft.face_fields = gathered(draft.face_fields, kept);
    if (!draft.part_of.empty()) {
        std::vector<std::uint32_t> part_of;
        part_of.reserve(kept.size());
        for (const std::uint32_t face : kept)
            part_of.push_back(draft.part_of[face]);
        draft.part_of = std::move(part_of);
    }
    draft.first = std::move(first);
    draft.corners = std::move(corners);
}

// Where each part begins, and the names of those that have faces.
void take_parts(const MeshDraft& draft, Mesh::Parts& parts, std::vector<std::string>& names) {
    if (draft.part_of.empty()) {
        names = {draft.part_names.empty() ? std::string() : draft.part_names.front()};
        return;
    }
    for (std::size_t face = 0; face < draft.part_of.size(); ++face) {
        if (face > 0 && draft.part_of[face] == draft.part_of[face - 1]) continue;
        parts.part_starts.push_back(static_cast<std::uint32_t>(face));
        names.push_back(draft.part_names[draft.part_of[face]]);
    }
}

std::size_t loose_vertices(const Mesh& mesh) {
    std::vector<std::uint8_t> used(mesh.vertex_count(), 0);
    for (const std::uint32_t corner : mesh.parts().corners)
        used[corner] = 1;
    return static_cast<std::size_t>(std::ranges::count(used, 0));
}

}  // namespace

void MeshDraft::add_face(std::span<const std::uint32_t> face) {
    if (corners.size() + face.size() >= std::numeric_limits<std::uint32_t>::max()) too_large = true;
    if (too_large) return;
    corners.insert(corners.end(), face.begin(), face.end());
    first.push_back(static_cast<std::uint32_t>(corners.size()));
}

Result<MeshFile> finished(MeshDraft draft, const Run& run) {
    if (draft.too_large)
        return Error{ErrorCode::file_too_large, "", "has more corners of faces than a mesh can count",
                     "Split it into several files."};
    std::vector<Fault> faults(draft.face_count(), Fault::none);
    std::atomic<bool> any{false};
    const Checker check(draft);
    if (!parallel_blocks(faults.size(), usual_block, run, [&](std::size_t begin, std::size_t end) {
            for (std::size_t face = begin; face < end; ++face)
                if ((faults[face] = check(face)) != Fault::none) any = true;
        }))
        return cancelled_error();
    std::vector<std::string> losses;
    if (any || !std::ranges::is_sorted(draft.part_of)) {
        if (std::string text = losses_text(faults); !text.empty()) losses.push_back(std::move(text));
        rearrange(draft, kept_faces(draft, faults), faults);
    }
    if (draft.face_count() == 0)
        return Error{ErrorCode::empty_input, "",
                     "has no face that can be read" + (losses.empty() ? "" : ": " + losses.front()),
                     "Choose a file with faces; points alone are read by ‘Read a cloud of points’."};
    Mesh::Parts parts;
    std::vector<std::string> names;
    take_parts(draft, parts, names);
    parts.x = std::move(draft.x);
    parts.y = std::move(draft.y);
    parts.z = std::move(draft.z);
    parts.first = std::move(draft.first);
    parts.corners = std::move(draft.corners);
    parts.fields = std::move(draft.fields);
    parts.face_fields = std::move(draft.face_fields);
    Result<Mesh> mesh = Mesh::make(std::move(parts));
    if (!mesh) return mesh.error();
    if (const std::size_t loose = loose_vertices(*mesh); loose > 0) {
        losses.push_back(count_text(loose, "vertex that no face has was left out.",
                                    "vertices that no face has were left out."));
        mesh = without_loose_vertices(*mesh);
    }
    return MeshFile{*std::move(mesh), std::move(names), {}, false, {}, std::move(losses), {}};
}

}  // namespace plume
