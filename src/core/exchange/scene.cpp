#include "core/exchange/scene.hpp"

#include <algorithm>
#include <atomic>
#include <cmath>

#include "core/base/parallel.hpp"
#include "core/picture/painted.hpp"
#include "core/results/items.hpp"

namespace plume {
namespace {

Status check_places(const std::vector<Vec3>& places, double scale, double largest, const char* what) {
    for (std::size_t index = 0; index < places.size(); ++index)
        if (Status fine = check_place(places[index] * scale, largest, what, index); !fine) return fine;
    return Done{};
}

// Looked at on all threads; which one is not is found afterwards.
bool all_within(const Mesh& mesh, double largest) {
    std::atomic<bool> within = true;
    parallel_blocks(mesh.vertex_count(), usual_block, Run(), [&](std::size_t begin, std::size_t end) {
        for (const Column* column : {&mesh.x(), &mesh.y(), &mesh.z()}) {
            const double* const values = column->span().data();
            bool all = true;
            for (std::size_t at = begin; at < end; ++at)
                all &= std::abs(values[at]) < largest;
            if (!all) within = false;
        }
    });
    return within;
}

Status check(const Written& form, double scale, double largest) {
    if (form.facets && !all_within(*form.facets, largest / scale))
        for (std::size_t index = 0; index < form.facets->vertex_count(); ++index)
            if (Status fine = check_place(form.facets->vertex(index) * scale, largest, "vertex", index);
                !fine)
                return fine;
    for (const WrittenLine& line : form.lines)
        if (Status fine = check_places(line.places, scale, largest, "point"); !fine) return fine;
    return check_places(form.points, scale, largest, form.bars.empty() ? "point" : "node");
}

bool is_empty(const Written& form) {
    return (!form.facets || form.facets->face_count() == 0) && form.lines.empty() && form.points.empty();
}

// What nobody chose colours nothing where a number has to be chosen.
Paint paint_of(const ExportedResult& result, const Written& form) {
    const bool plain = form.plain_at_first && result.show.colour_by.empty();
    return {plain ? "-" : result.show.colour_by, result.show.ramp};
}

bool colours_bars(const Written& form, const std::string& wanted) {
    return wanted.empty() ||
           std::ranges::find(form.numbers_of_bars, wanted, &Field::name) != form.numbers_of_bars.end();
}

Result<SceneObject> object_of(const ExportedResult& result, const ExportJob& job, double largest,
                              const Run& run) {
    Result<Written> form = written_of(*result.value, job.within, run);
    if (!form) return form.error();
    if (is_empty(*form))
        return Error{ErrorCode::nothing_to_write, "", "is empty",
                     "Choose a result that has something in it."};
    if (Status fine = check(*form, job.scale(), largest); !fine) return fine.error();
    SceneObject object;
    object.name = result.name;
    object.value = result.value.get();
    object.material = material_of(result.show.material);
    object.plain = plain_colour_of(object.material);
    const Paint paint = paint_of(result, *form);
    if (form->facets) {
        PaintedMesh colours = painted(*form->facets, paint);
        object.vertex_colours = std::move(colours.vertices);
        object.face_colours = std::move(colours.faces);
    } else if (form->form == WrittenForm::bars && colours_bars(*form, paint.colour_by)) {
        object.bar_colours = painted(form->numbers_of_bars, "", paint);
    } else {
        object.place_colours = painted(form->numbers, form->in_hand, paint);
    }
    object.form = *std::move(form);
    return object;
}

}  // namespace

Result<std::vector<SceneObject>> scene_of(const ExportJob& job, double largest, const Run& run) {
    std::vector<SceneObject> scene;
    for (const ExportedResult& result : job.results) {
        Result<SceneObject> object = object_of(result, job, largest, run);
        if (!object) return error_at(object.error(), "‘" + result.name + "’");
        scene.push_back(*std::move(object));
    }
    return scene;
}

Box bounds_of(const std::vector<SceneObject>& scene) {
    Box box;
    for (const SceneObject& object : scene) {
        if (object.form.facets) box.include(object.form.facets->bounds());
        for (const WrittenLine& line : object.form.lines)
            for (const Vec3 place : line.places)
                box.include(place);
        for (const Vec3 place : object.form.points)
            box.include(place);
    }
    return box;
}

Status check_place(Vec3 place, double largest, const char* what, std::size_t index) {
    const double reach = std::max({std::abs(place.x), std::abs(place.y), std::abs(place.z)});
    if (reach <= largest && is_finite(place)) return Done{};
    const std::string has = std::string("has the ") + what + ' ' + std::to_string(index + 1);
    if (!is_finite(place))
        return Error{ErrorCode::not_finite, "", has + ", which is not finite",
                     "Look at the step that moves it."};
    return Error{ErrorCode::out_of_range, "", has + " further out than the format can write",
                 "Move the form nearer to zero, or choose a larger unit."};
}

std::vector<SceneLabel> labels_of(const SceneObject& object, const Show& show, const Units& units) {
    std::vector<SceneLabel> labels;
    const Items items = items_of(*object.value);
    if (!show.labels || !items.place) return labels;
    for (std::size_t item = 0; item < items.count; ++item) {
        SceneLabel label{items.place(item), label_text(items, item, show.label_by, units)};
        if (!label.text.empty() && is_finite(label.place)) labels.push_back(std::move(label));
    }
    return labels;
}

std::vector<std::array<std::uint32_t, 2>> edges_of(const std::vector<WrittenLine>& lines) {
    std::vector<std::array<std::uint32_t, 2>> edges;
    std::uint32_t first = 0;
    for (const WrittenLine& line : lines) {
        const auto count = static_cast<std::uint32_t>(line.places.size());
        for (std::uint32_t at = 0; at + (line.closed ? 0 : 1) < count; ++at)
            edges.push_back({first + at, first + (at + 1) % count});
        first += count;
    }
    return edges;
}

std::vector<Rgb> colours_at_vertices(const Mesh& mesh, const std::vector<Rgb>& of_faces) {
    if (of_faces.empty()) return {};
    std::vector<Rgb> result(mesh.vertex_count(), plain_colour);
    std::vector<std::uint8_t> known(mesh.vertex_count(), 0);
    for (std::size_t face = 0; face < mesh.face_count(); ++face)
        for (const std::uint32_t corner : mesh.face(face)) {
            if (known[corner] != 0 && result[corner] != of_faces[face]) return {};
            result[corner] = of_faces[face];
            known[corner] = 1;
        }
    return result;
}

}  // namespace plume
