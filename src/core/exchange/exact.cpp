// STEP (ISO 10303-242) and IGES 5.3 (ANSI US PRO/IPO-100-1996), by OpenCASCADE.

#include "core/exchange/exact_kernel.hpp"
#include "core/exchange/formats.hpp"
#include "core/exchange/passing_file.hpp"
#include "core/exchange/scene.hpp"
#include "core/exchange/tally.hpp"
#include "core/picture/ramp.hpp"

namespace plume {
namespace {

// Each facet is a plane with edges of its own in these formats.
constexpr std::size_t most_facets = 100'000;

Status check_places(const ExactForm& form) {
    const auto check = [](std::size_t count, const char* what, const auto& place_at) -> Status {
        for (std::size_t at = 0; at < count; ++at)
            if (Status fine = check_place(place_at(at), Box::infinite, what, at); !fine) return fine;
        return Done{};
    };
    if (Status fine = check(form.points.size(), "point", [&](std::size_t at) { return form.points[at]; });
        !fine)
        return fine;
    for (const ExactFace& face : form.faces) {
        const SplinePatch& patch = face.patch;
        if (Status fine = check(patch.x().size(), "pole",
                                [&](std::size_t at) {
                                    return Vec3{patch.x()[at], patch.y()[at], patch.z()[at]};
                                });
            !fine)
            return fine;
    }
    for (const Mesh& mesh : form.facets)
        if (Status fine =
                check(mesh.vertex_count(), "vertex", [&](std::size_t at) { return mesh.vertex(at); });
            !fine)
            return fine;
    return Done{};
}

Result<ExactObject> object_of(const ExportedResult& result) {
    const auto material = material_of(result.show.material);
    ExactObject object{result.name, plain_colour_of(material), material ? 1 - material->transparency : 1,
                       exact_form_of(*result.value)};
    const ExactForm& form = object.form;
    if (form.points.empty() && form.curves.empty() && form.faces.empty() && form.bodies.empty() &&
        form.facets.empty())
        return Error{ErrorCode::nothing_to_write, "", "is empty",
                     "Choose a result that has something in it."};
    if (Status finite = check_places(form); !finite) return finite.error();
    std::size_t facets = 0;
    for (const Mesh& mesh : form.facets)
        facets += mesh.face_count();
    if (facets > most_facets)
        return Error{ErrorCode::over_budget, "",
                     "has " + count_text(facets, "facet", "facets") +
                         ", each of which would be a plane by itself in this format",
                     "Write it as a mesh, .glb or .ply, or thin it out first."};
    open_seams(object.form);
    return object;
}

Result<ExportReport> write_exact(ExactFormat format, const char* name, const ExportJob& job,
                                 const ByteSink& sink, const Run& run) {
    const Result<const ExactWriter*> writer = exact_writer(name);
    if (!writer) return writer.error();
    const PassingFile file;
    if (file.path().empty()) return no_passing_file(name);
    ExactJob exact{format, {}, 1000 * metres_per(job.study_units.length), job.unit, file.path()};
    for (const ExportedResult& result : job.results) {
        auto object = object_of(result);
        if (!object) return error_at(object.error(), "‘" + result.name + "’");
        exact.objects.push_back(*std::move(object));
    }
    const auto counts = (*writer)->write(exact, run);
    if (!counts) return counts.error();
    const auto bytes = file.bytes();
    if (!bytes) return bytes.error();
    sink(*bytes);
    Tally tally;
    const auto say = [&](std::size_t count, const char* one, const char* many) {
        if (count > 0) tally.add(count, one, many);
    };
    say(counts->bodies, "body", "bodies");
    say(counts->faces, "surface", "surfaces");
    say(counts->facets, "flat facet", "flat facets");
    say(counts->curves, "curve", "curves");
    say(counts->points, "point", "points");
    ExportReport report{tally.text()};
    if (counts->loose_bodies > 0)
        report.left_out.push_back(count_text(
            counts->loose_bodies, "body that is written as loose surfaces, since its edges do not meet",
            "bodies that are written as loose surfaces, since their edges do not meet"));
    return report;
}

}  // namespace

Result<ExportReport> write_step(const ExportJob& job, const ByteSink& sink, const Run& run) {
    return write_exact(ExactFormat::step, "STEP", job, sink, run);
}

Result<ExportReport> write_iges(const ExportJob& job, const ByteSink& sink, const Run& run) {
    return write_exact(ExactFormat::iges, "IGES", job, sink, run);
}

}  // namespace plume
