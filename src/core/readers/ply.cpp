#include <algorithm>
#include <cmath>

#include "core/base/numbers.hpp"
#include "core/base/text.hpp"
#include "core/readers/mesh_draft.hpp"
#include "core/readers/mesh_formats.hpp"
#include "core/readers/ply_body.hpp"
#include "core/readers/ply_places.hpp"
#include "core/readers/stated_units.hpp"

namespace plume {
namespace {

bool holds_corners(const PlyProperty& property) {
    return property.list && (property.name == "vertex_indices" || property.name == "vertex_index");
}

// A part of each face, where every one has a whole number for it.
void take_parts(MeshDraft& draft) {
    const auto part = std::ranges::find(draft.face_fields, "part", &Field::name);
    if (part == draft.face_fields.end()) return;
    const auto numbers = part->values.span();
    const auto names_part = [](double number) {
        return number >= 0 && number < 1e9 && number == std::floor(number);
    };
    if (!std::ranges::all_of(numbers, names_part)) return;
    std::vector<double> kinds(numbers.begin(), numbers.end());
    std::ranges::sort(kinds);
    kinds.erase(std::unique(kinds.begin(), kinds.end()), kinds.end());
    for (const double number : numbers)
        draft.part_of.push_back(
            static_cast<std::uint32_t>(std::ranges::lower_bound(kinds, number) - kinds.begin()));
    for (const double kind : kinds)
        draft.part_names.push_back("part " + short_text(kind, 10));
    draft.face_fields.erase(part);
}

void take_faces(const PlyRows& rows, const PlyElement& element, MeshDraft& draft) {
    std::vector<std::uint32_t> face;
    for (std::size_t row = 0; row + 1 < rows.list_first.size(); ++row) {
        face.clear();
        for (std::size_t at = rows.list_first[row]; at < rows.list_first[row + 1]; ++at) {
            const double corner = rows.list[at];
            const bool names_one = corner >= 0 && corner < 4e9;
            face.push_back(names_one ? static_cast<std::uint32_t>(corner) : MeshDraft::no_vertex);
        }
        draft.add_face(face);
    }
    draft.face_fields = ply_numbers(rows, element);
    take_parts(draft);
}

}  // namespace

Result<MeshFile> read_ply(std::string_view bytes, const Run& run) {
    const auto head = read_ply_head(bytes);
    if (!head) return head.error();
    std::vector<std::size_t> lists;
    for (const PlyElement& element : head->elements)
        lists.push_back(static_cast<std::size_t>(std::ranges::find_if(element.properties, holds_corners) -
                                                 element.properties.begin()));
    auto body = read_ply_body(bytes, *head, lists, run);
    if (!body) return body.error();
    MeshDraft draft;
    std::vector<std::string> losses;
    for (std::size_t at = 0; at < head->elements.size(); ++at) {
        const PlyElement& element = head->elements[at];
        if (element.name == "vertex") {
            auto places = ply_places((*body)[at], element);
            if (!places) return places.error();
            draft.x = std::move(places->x);
            draft.y = std::move(places->y);
            draft.z = std::move(places->z);
            draft.fields = std::move(places->fields);
        } else if (element.name == "face" && lists[at] < element.properties.size()) {
            take_faces((*body)[at], element, draft);
        } else if (element.count > 0) {
            losses.push_back(grouped_text(static_cast<std::int64_t>(element.count)) + " rows of ‘" +
                             shortened(element.name) + "’ were left out: they are no faces.");
        }
    }
    Result<MeshFile> made = finished(std::move(draft), run);
    if (!made) return made;
    made->metres_per_unit = stated_unit(head->comments);
    made->losses.insert(made->losses.end(), losses.begin(), losses.end());
    return made;
}

}  // namespace plume
