// Wavefront OBJ (format as published in the appendix of the Advanced Visualizer manual, 1995), with colours
// of vertices behind their places, which the manual does not know and most readers do.

#include <map>

#include "core/base/numbers.hpp"
#include "core/exchange/formats.hpp"
#include "core/exchange/scene.hpp"
#include "core/exchange/tally.hpp"

namespace plume {
namespace {

// Names end at white space in OBJ.
std::string object_name(std::string name) {
    for (char& c : name)
        if (c == ' ' || c == '\n' || c == '\t' || c == '\r') c = '_';
    return name;
}

std::string colour_text(Rgb colour) {
    const auto part = [](float value) { return short_text(static_cast<double>(value)); };
    return part(colour.red) + ' ' + part(colour.green) + ' ' + part(colour.blue);
}

class ObjWriter {
public:
    ObjWriter(const ExportJob& job, const ByteSink& sink, const Run& run)
        : scale_(job.scale()), sink_(sink), run_(run) {}

    Status write(const SceneObject& object) {
        sink_("o " + object_name(object.name) + '\n');
        if (object.material) sink_("usemtl " + object_name(object.name) + '\n');
        switch (object.form.form) {
            case WrittenForm::facets:
                return write_facets(object);
            case WrittenForm::lines:
                return write_lines(object);
            case WrittenForm::bars:
                return write_bars(object);
            default:
                return write_points(object);
        }
    }

    ExportReport report() const {
        ExportReport report{tally_.text()};
        if (colours_lost_) report.left_out.emplace_back("colours of faces, which only vertices can have");
        return report;
    }

private:
    void put_vertex(Vec3 place, const std::vector<Rgb>& colours, std::size_t index) {
        std::string line = "v " + exact_text(place.x * scale_) + ' ' + exact_text(place.y * scale_) + ' ' +
                           exact_text(place.z * scale_);
        if (!colours.empty()) line += ' ' + colour_text(colours[index]);
        sink_(line + '\n');
    }
    std::string number_of(std::size_t vertex) const { return ' ' + std::to_string(before_ + vertex + 1); }

    Status write_points(const SceneObject& object) {
        const std::vector<Vec3>& points = object.form.points;
        for (std::size_t index = 0; index < points.size(); ++index)
            put_vertex(points[index], object.place_colours, index);
        for (std::size_t index = 0; index < points.size(); ++index)
            sink_("p" + number_of(index) + '\n');
        before_ += points.size();
        tally_.add(points.size(), "point", "points");
        return Done{};
    }

    // Nodes once, and a line element a member.
    Status write_bars(const SceneObject& object) {
        const Written& frame = object.form;
        for (std::size_t index = 0; index < frame.points.size(); ++index)
            put_vertex(frame.points[index], object.place_colours, index);
        for (const auto& [from, to] : frame.bars)
            sink_("l" + number_of(from) + number_of(to) + '\n');
        before_ += frame.points.size();
        tally_.add(frame.bars.size(), "member", "members");
        tally_.add(frame.points.size(), "node", "nodes");
        colours_lost_ = colours_lost_ || !object.bar_colours.empty();
        return Done{};
    }

    // A line element through the places of each line; closed ones end on their first vertex.
    Status write_lines(const SceneObject& object) {
        std::size_t place = 0;
        for (const WrittenLine& line : object.form.lines) {
            std::string element = "l";
            for (std::size_t at = 0; at < line.places.size(); ++at) {
                put_vertex(line.places[at], object.place_colours, place++);
                element += number_of(at);
            }
            if (line.closed) element += number_of(0);
            sink_(element + '\n');
            before_ += line.places.size();
        }
        tally_.add(object.form.lines.size(), "curve", "curves");
        tally_.add(place, "point", "points");
        return Done{};
    }

    Status write_facets(const SceneObject& object) {
        const Mesh& mesh = *object.form.facets;
        const std::vector<Rgb> from_faces = colours_at_vertices(mesh, object.face_colours);
        colours_lost_ = colours_lost_ || (from_faces.empty() && !object.face_colours.empty());
        const std::vector<Rgb>& colours = from_faces.empty() ? object.vertex_colours : from_faces;
        for (std::size_t index = 0; index < mesh.vertex_count(); ++index)
            put_vertex(mesh.vertex(index), colours, index);
        for (std::size_t face = 0, part = 0; face < mesh.face_count(); ++face) {
            if (face % 4096 == 0 && run_.cancelled()) return cancelled_error();
            // A group a part, so that it can be taken hold of by itself.
            if (part < mesh.part_starts().size() && mesh.part_starts()[part] == face)
                sink_("g " + object_name(object.name) + '_' + std::to_string(part++) + '\n');
            std::string line = "f";
            for (const std::uint32_t corner : mesh.face(face))
                line += number_of(corner);
            sink_(line + '\n');
        }
        before_ += mesh.vertex_count();
        tally_.add(mesh.vertex_count(), "vertex", "vertices");
        tally_.add(mesh.face_count(), "face", "faces");
        return Done{};
    }

    double scale_;
    const ByteSink& sink_;
    const Run& run_;
    std::size_t before_ = 0;  // vertices of earlier objects and lines
    Tally tally_;
    bool colours_lost_ = false;
};

bool has_materials(const ExportJob& job) {
    return std::ranges::any_of(job.results, [](const ExportedResult& result) {
        return material_of(result.show.material).has_value();
    });
}

}  // namespace

Result<ExportReport> write_obj(const ExportJob& job, const ByteSink& sink, const Run& run) {
    const auto scene = scene_of(job, Box::infinite, run);
    if (!scene) return scene.error();
    sink("# Plume Lattice. Unit: " + std::string(plain_name(job.unit)) + ". Z is up.\n");
    if (has_materials(job)) sink("mtllib " + job.beside_stem + ".mtl\n");
    ObjWriter writer(job, sink, run);
    for (const SceneObject& object : *scene)
        if (Status written = writer.write(object); !written) return written.error();
    return writer.report();
}

// A material a result, named as it is; with the roughness and metalness that physically based readers take.
std::string obj_materials(const ExportJob& job) {
    std::string text;
    for (const ExportedResult& result : job.results) {
        const auto material = material_of(result.show.material);
        if (!material) continue;
        const auto number = [](float value) { return short_text(static_cast<double>(value)); };
        text += "newmtl " + object_name(result.name) + "\nKd " + colour_text(plain_colour_of(material)) +
                "\nd " + number(1 - material->transparency) + "\nPr " + number(material->roughness) +
                "\nPm " + number(material->metalness) + "\nillum 2\n";
    }
    return text.empty() ? text : "# Plume Lattice.\n" + text;
}

}  // namespace plume
