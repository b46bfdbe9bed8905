// Binary PLY (Greg Turk, The PLY Polygon File Format, 1994).

#include <bit>
#include <cmath>
#include <limits>
#include <set>

#include "core/base/text.hpp"
#include "core/exchange/byte_rows.hpp"
#include "core/exchange/formats.hpp"
#include "core/exchange/scene.hpp"
#include "core/exchange/table_export.hpp"
#include "core/exchange/tally.hpp"

namespace plume {
namespace {

static_assert(std::endian::native == std::endian::little, "PLY says that it is little-endian");

// Names of properties are words.
std::string property_name(const std::string& name, std::set<std::string>& taken) {
    std::string word;
    for (const char c : name) {
        const bool plain = (c >= '0' && c <= '9') || (c >= 'a' && c <= 'z') || (c >= 'A' && c <= 'Z');
        word += plain ? c : '_';
    }
    while (!taken.insert(word).second)
        word += '_';
    return word;
}

// Numbers and a colour that stand behind every entry of an element.
class Carried {
public:
    Carried(const std::vector<Field>& fields, const std::vector<Rgb>& colours, const ExportJob& job,
            std::set<std::string> taken)
        : colours_(colours) {
        for (const Field& field : fields) {
            columns_.push_back({field.values, factor_of(field.dimension, job)});
            const std::string name = property_name(field.name, taken);
            const std::string unit = unit_of(field.dimension, job);
            properties_ += "property double " + name + '\n';
            if (!unit.empty() || name != field.name)
                comments_ += "comment " + name + " is " + printable(field.name) +
                             (unit.empty() ? "" : " in " + unit) + '\n';
        }
        if (!colours.empty())
            properties_ += "property uchar red\nproperty uchar green\nproperty uchar blue\n";
    }

    const std::string& properties() const { return properties_; }
    const std::string& comments() const { return comments_; }
    std::size_t bytes() const { return 8 * columns_.size() + (colours_.empty() ? 0 : 3); }
    void write(std::size_t entry, char*& to) const {
        for (const auto& [values, factor] : columns_)
            put(to, values[entry] * factor);
        if (colours_.empty()) return;
        for (const float part : {colours_[entry].red, colours_[entry].green, colours_[entry].blue})
            put(to, static_cast<std::uint8_t>(std::lround(part * 255)));
    }

private:
    struct Numbers {
        Column values;
        double factor;
    };
    std::vector<Numbers> columns_;
    const std::vector<Rgb>& colours_;
    std::string properties_, comments_;
};

// What stands in the head and, later, behind it.
struct Element {
    std::string head, comments;
    std::function<bool()> write;  // false: cancelled
};

class PlyWriter {
public:
    PlyWriter(const SceneObject& object, const ExportJob& job, const ByteSink& sink, const Run& run)
        : object_(object), job_(job), scale_(job.scale()), sink_(sink), run_(run) {}

    Result<ExportReport> write() {
        const Written& form = object_.form;
        if (form.facets) {
            const Mesh& mesh = *form.facets;
            add_vertices(mesh.vertex_count(), mesh.fields(), object_.vertex_colours,
                         [&mesh](std::size_t at) { return mesh.vertex(at); });
            add_faces(mesh);
        } else if (form.form == WrittenForm::lines) {
            for (const WrittenLine& line : form.lines)
                places_.insert(places_.end(), line.places.begin(), line.places.end());
            add_places(places_);
            add_edges(edges_of(form.lines), {});
        } else {
            add_places(form.points);
            if (form.form == WrittenForm::bars) add_edges(form.bars, form.numbers_of_bars);
        }
        std::string head =
            "ply\nformat binary_little_endian 1.0\ncomment Plume Lattice: " + printable(object_.name) +
            "\ncomment Unit: " + std::string(plain_name(job_.unit)) + ". Z is up.\n";
        for (const Element& element : elements_)
            head += element.comments;
        for (const Element& element : elements_)
            head += element.head;
        sink_(head + "end_header\n");
        for (const Element& element : elements_)
            if (!element.write()) return cancelled_error();
        return ExportReport{tally_.text()};
    }

private:
    using Bars = std::vector<std::array<std::uint32_t, 2>>;

    static std::string element_head(const char* name, std::size_t count) {
        return std::string("element ") + name + ' ' + std::to_string(count) + '\n';
    }

    template <class PlaceAt>
    void add_vertices(std::size_t count, const std::vector<Field>& fields, const std::vector<Rgb>& colours,
                      PlaceAt place_at) {
        const Carried carried(fields, colours, job_, {"x", "y", "z", "red", "green", "blue"});
        const std::size_t bytes = 24 + carried.bytes();
        elements_.push_back({element_head("vertex", count) +
                                 "property double x\nproperty double y\nproperty double z\n" +
                                 carried.properties(),
                             carried.comments(), [this, carried, bytes, count, place_at] {
                                 return write_rows(
                                     count, [bytes](std::size_t at) { return bytes * at; },
                                     [&](std::size_t at, char* to) {
                                         const Vec3 place = place_at(at) * scale_;
                                         put(to, place.x);
                                         put(to, place.y);
                                         put(to, place.z);
                                         carried.write(at, to);
                                     },
                                     sink_, run_);
                             }});
        tally_.add(count, "vertex", "vertices");
    }
    void add_places(const std::vector<Vec3>& places) {
        add_vertices(places.size(), object_.form.numbers, object_.place_colours,
                     [&places](std::size_t at) { return places[at]; });
    }

    // Lists of up to 255 corners have a count of one byte.
    void add_faces(const Mesh& mesh) {
        std::size_t most = 0;
        for (std::size_t face = 0; face < mesh.face_count(); ++face)
            most = std::max(most, mesh.face(face).size());
        const bool small = most <= 255, parts = mesh.part_count() > 1;
        std::set<std::string> taken{"vertex_indices", "red", "green", "blue"};
        if (parts) taken.insert("part");
        const Carried carried(mesh.face_fields(), object_.face_colours, job_, taken);
        const std::size_t besides = (small ? 1 : 4) + (parts ? 4 : 0) + carried.bytes();
        elements_.push_back({element_head("face", mesh.face_count()) +
                                 (small ? "property list uchar uint vertex_indices\n"
                                        : "property list uint uint vertex_indices\n") +
                                 (parts ? "property uint part\n" : "") + carried.properties(),
                             carried.comments(), [this, &mesh, carried, besides, small, parts] {
                                 return write_rows(
                                     mesh.face_count(),
                                     [&](std::size_t face) {
                                         return besides * face +
                                                4 * static_cast<std::size_t>(mesh.parts().first[face]);
                                     },
                                     [&](std::size_t face, char* to) {
                                         const auto corners = mesh.face(face);
                                         if (small)
                                             put(to, static_cast<std::uint8_t>(corners.size()));
                                         else
                                             put(to, static_cast<std::uint32_t>(corners.size()));
                                         for (const std::uint32_t corner : corners)
                                             put(to, corner);
                                         if (parts) put(to, static_cast<std::uint32_t>(mesh.part_of(face)));
                                         carried.write(face, to);
                                     },
                                     sink_, run_);
                             }});
        tally_.add(mesh.face_count(), "face", "faces");
    }

    void add_edges(Bars bars, const std::vector<Field>& numbers) {
        const Carried carried(numbers, object_.bar_colours, job_,
                              {"vertex1", "vertex2", "red", "green", "blue"});
        const std::size_t bytes = 8 + carried.bytes(), count = bars.size();
        elements_.push_back({element_head("edge", count) + "property int vertex1\nproperty int vertex2\n" +
                                 carried.properties(),
                             carried.comments(), [this, carried, bytes, bars = std::move(bars)] {
                                 return write_rows(
                                     bars.size(), [bytes](std::size_t at) { return bytes * at; },
                                     [&](std::size_t at, char* to) {
                                         put(to, static_cast<std::int32_t>(bars[at][0]));
                                         put(to, static_cast<std::int32_t>(bars[at][1]));
                                         carried.write(at, to);
                                     },
                                     sink_, run_);
                             }});
        tally_.add(count, "edge", "edges");
    }

    const SceneObject& object_;
    const ExportJob& job_;
    double scale_;
    const ByteSink& sink_;
    const Run& run_;
    std::vector<Vec3> places_;  // of lines, one after the other
    std::vector<Element> elements_;
    Tally tally_;
};

}  // namespace

Result<ExportReport> write_ply(const ExportJob& job, const ByteSink& sink, const Run& run) {
    const auto scene = scene_of(job, Box::infinite, run);
    if (!scene) return scene.error();
    return PlyWriter(scene->front(), job, sink, run).write();
}

}  // namespace plume
