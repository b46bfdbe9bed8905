// Wavefront OBJ (format as published in the appendix of the Advanced Visualizer manual, 1995).

#include "core/base/numbers.hpp"
#include "core/exchange/formats.hpp"
#include "core/exchange/mesh_export.hpp"
#include "core/results/written.hpp"

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

// Nodes once, and a line element a member.
Result<std::string> write_bars(const Written& frame, double scale, const ByteSink& sink) {
    for (std::size_t index = 0; index < frame.points.size(); ++index) {
        if (Status fine = check_coordinates(frame.points[index] * scale, Box::infinite, "node", index); !fine)
            return fine.error();
        put_vertex(sink, frame.points[index], scale);
    }
    for (const auto& [from, to] : frame.bars)
        sink("l " + std::to_string(from + 1) + ' ' + std::to_string(to + 1) + '\n');
    return grouped_text(static_cast<std::int64_t>(frame.bars.size())) + " members between " +
           grouped_text(static_cast<std::int64_t>(frame.points.size())) + " nodes";
}

// A line element through the places of each line; closed ones end on their first vertex.
Result<std::string> write_lines(const std::vector<WrittenLine>& lines, double scale, const ByteSink& sink) {
    std::size_t written = 0;
    for (const WrittenLine& line : lines) {
        std::string element = "l";
        for (std::size_t at = 0; at < line.places.size(); ++at) {
            if (Status fine = check_coordinates(line.places[at] * scale, Box::infinite, "point", at); !fine)
                return fine.error();
            put_vertex(sink, line.places[at], scale);
            element += ' ' + std::to_string(written + at + 1);
        }
        if (line.closed) element += ' ' + std::to_string(written + 1);
        sink(element + '\n');
        written += line.places.size();
    }
    return grouped_text(static_cast<std::int64_t>(lines.size())) +
           (lines.size() == 1 ? " curve" : " curves") + " through " +
           grouped_text(static_cast<std::int64_t>(written)) + " points";
}

Result<std::string> write_facets(const Mesh& mesh, const ExportJob& job, const ByteSink& sink,
                                 const Run& run) {
    if (Status fine = check_facets(mesh, job.scale(), Box::infinite); !fine) return fine.error();
    for (std::size_t index = 0; index < mesh.vertex_count(); ++index)
        put_vertex(sink, mesh.vertex(index), job.scale());
    for (std::size_t face = 0, part = 0; face < mesh.face_count(); ++face) {
        if (face % 4096 == 0 && run.cancelled()) return cancelled_error();
        // A group a part, so that it can be taken hold of by itself.
        if (part < mesh.part_starts().size() && mesh.part_starts()[part] == face)
            sink("g " + object_name(job.name) + '_' + std::to_string(part++) + '\n');
        std::string line = "f";
        for (const std::uint32_t corner : mesh.face(face))
            line += ' ' + std::to_string(corner + 1);
        sink(line + '\n');
    }
    return grouped_text(static_cast<std::int64_t>(mesh.vertex_count())) + " vertices and " +
           grouped_text(static_cast<std::int64_t>(mesh.face_count())) + " faces";
}

}  // namespace

Result<std::string> write_obj(const ExportJob& job, const ByteSink& sink, const Run& run) {
    sink("# Plume Lattice. Unit: " + std::string(plain_name(job.unit)) + ". Z is up.\n");
    sink("o " + object_name(job.name) + '\n');
    const Result<Written> written = written_of(job.value, run);
    if (!written) return written.error();
    if (written->facets) return write_facets(*written->facets, job, sink, run);
    if (!written->lines.empty()) return write_lines(written->lines, job.scale(), sink);
    if (!written->bars.empty()) return write_bars(*written, job.scale(), sink);
    return write_points(written->points, job.scale(), sink);
}

}  // namespace plume
