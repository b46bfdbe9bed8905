// Wavefront OBJ (format as published in the appendix of the Advanced Visualizer manual, 1995).

#include "core/base/numbers.hpp"
#include "core/exchange/formats.hpp"
#include "core/exchange/mesh_export.hpp"
#include "core/geometry/curve_sampling.hpp"

namespace plume {
namespace {

void put_vertex(const ByteSink& sink, Vec3 p, double scale) {
    sink("v " + exact_text(p.x * scale) + ' ' + exact_text(p.y * scale) + ' ' + exact_text(p.z * scale) +
         '\n');
}

// Names end at white space in OBJ.
std::string object_name(std::string name) {
    for (char& c : name)
        if (c == ' ' || c == '\n' || c == '\t' || c == '\r') c = '_';
    return name;
}

Result<std::string> write_points(const std::vector<Vec3>& points, double scale, const ByteSink& sink) {
    if (points.empty())
        return Error{ErrorCode::nothing_to_write, "", "is empty",
                     "Choose a result that has something in it."};
    for (std::size_t index = 0; index < points.size(); ++index) {
        if (Status fine = check_coordinates(points[index] * scale, Box::infinite, "point", index); !fine)
            return fine.error();
        put_vertex(sink, points[index], scale);
    }
    for (std::size_t index = 0; index < points.size(); ++index)
        sink("p " + std::to_string(index + 1) + '\n');
    return grouped_text(static_cast<std::int64_t>(points.size())) + " points";
}

std::vector<Vec3> points_of(const Value& value) {
    std::vector<Vec3> points;
    if (const PointLattice* lattice = lattice_of(value)) {
        for (std::size_t index = 0; index < lattice->address_count(); ++index)
            if (lattice->present(index)) points.push_back(lattice->point(index));
    } else if (const auto* attractors = std::get_if<Attractors>(&value)) {
        for (const Attractor& item : attractors->items())
            points.push_back(item.position);
    }
    return points;
}

// A line element through the samples of each curve; closed ones end on their first vertex.
Result<std::string> write_curves(const CurveSet& set, double scale, const ByteSink& sink) {
    std::size_t written = 0;
    for (const SplineCurve& curve : set.curves) {
        const CurveSamples samples = sample(curve, usual_tolerance(curve));
        std::string line = "l";
        for (std::size_t at = 0; at < samples.points.size(); ++at) {
            if (Status fine = check_coordinates(samples.points[at] * scale, Box::infinite, "point", at);
                !fine)
                return fine.error();
            put_vertex(sink, samples.points[at], scale);
            line += ' ' + std::to_string(written + at + 1);
        }
        if (samples.closed) line += ' ' + std::to_string(written + 1);
        sink(line + '\n');
        written += samples.points.size();
    }
    return grouped_text(static_cast<std::int64_t>(set.curves.size())) +
           (set.curves.size() == 1 ? " curve" : " curves") + " through " +
           grouped_text(static_cast<std::int64_t>(written)) + " points";
}

}  // namespace

Result<std::string> write_obj(const ExportJob& job, const ByteSink& sink, const Run& run) {
    sink("# Plume Lattice. Unit: " + std::string(plain_name(job.unit)) + ". Z is up.\n");
    sink("o " + object_name(job.name) + '\n');
    if (const auto* curves = std::get_if<CurveSet>(&job.value))
        return write_curves(*curves, job.scale(), sink);
    if (kind_of(job.value) != Kind::mesh && kind_of(job.value) != Kind::surface)
        return write_points(points_of(job.value), job.scale(), sink);
    const Result<Mesh> mesh = exportable_mesh(job.value, job.scale(), Box::infinite, run);
    if (!mesh) return mesh.error();
    for (std::size_t index = 0; index < mesh->vertex_count(); ++index)
        put_vertex(sink, mesh->vertex(index), job.scale());
    for (std::size_t face = 0, part = 0; face < mesh->face_count(); ++face) {
        if (face % 4096 == 0 && run.cancelled()) return cancelled_error();
        // A group a part, so that it can be taken hold of by itself.
        if (part < mesh->part_starts().size() && mesh->part_starts()[part] == face)
            sink("g " + object_name(job.name) + '_' + std::to_string(part++) + '\n');
        std::string line = "f";
        for (const std::uint32_t corner : mesh->face(face))
            line += ' ' + std::to_string(corner + 1);
        sink(line + '\n');
    }
    return grouped_text(static_cast<std::int64_t>(mesh->vertex_count())) + " vertices and " +
           grouped_text(static_cast<std::int64_t>(mesh->face_count())) + " faces";
}

}  // namespace plume
