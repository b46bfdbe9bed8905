// IFC4 ADD2 TC1 (ISO 16739-1:2018).
//
// A project with a site, a building and storeys; an element a result or a part. Curved parts are bounded
// exactly, bodies that are an outline pulled along are swept, others triangles; members without a section are
// axes. Numbers of parts are a set of
// properties, volume, area and length quantities; elements have the same identity as long as their result
// keeps its name and they their mark.

#include <algorithm>
#include <limits>
#include <map>

#include "core/base/listed.hpp"
#include "core/base/numbers.hpp"
#include "core/base/text.hpp"
#include "core/data/building_classes.hpp"
#include "core/exchange/exact_parts.hpp"
#include "core/exchange/formats.hpp"
#include "core/exchange/ifc_boundary.hpp"
#include "core/exchange/ifc_text.hpp"
#include "core/exchange/layers.hpp"
#include "core/exchange/part_ids.hpp"
#include "core/exchange/prisms.hpp"
#include "core/exchange/scene.hpp"
#include "core/exchange/shared_parts.hpp"
#include "core/exchange/table_export.hpp"
#include "core/exchange/tally.hpp"
#include "core/geometry/meshes/mesh_volume.hpp"
#include "core/geometry/meshes/triangulate.hpp"

namespace plume {
namespace {

// What an element is made of.
struct Shape {
    IfcRef item;
    const char* identifier = "Body";  // or "Axis"
    const char* type = "Tessellation";
    double volume = 0, area = 0, length = 0;  // 0: not known
};

class IfcWriter {
public:
    IfcWriter(const ExportJob& job, const ByteSink& sink, const Run& run)
        : job_(job), scale_(job.scale()), metres_(metres_per(job.unit)), run_(run), lines_(sink) {
        sink(
            "ISO-10303-21;\nHEADER;\nFILE_DESCRIPTION((''),'2;1');\n"
            "FILE_NAME('" +
            job.beside_stem +
            "','2000-01-01T00:00:00',(''),(''),'Plume Lattice','Plume Lattice','');\n"
            "FILE_SCHEMA(('IFC4'));\nENDSEC;\nDATA;\n");
        begin();
    }

    Status add(const SceneObject& object, const std::string& wanted_class) {
        const bool bars = object.form.form == WrittenForm::bars || carries_members(object);
        const BuildingClass* const chosen = wanted_class.empty() ? &usual_building_class(object.name, bars)
                                                                 : find_building_class(wanted_class);
        class_ = *chosen;
        elements_of_result_.clear();
        if (object.form.form == WrittenForm::bars)
            add_bars(object);
        else if (Status added = add_facets(object); !added)
            return error_at(added.error(), "‘" + object.name + "’");
        if (object.material) associate_material(object);
        tally_.add(elements_of_result_.size(), chosen->key.data(), chosen->many.data());
        return run_.cancelled() ? Status(cancelled_error()) : Status(Done{});
    }

    ExportReport finish(const ByteSink& sink) {
        end();
        lines_.flush();
        sink("ENDSEC;\nEND-ISO-10303-21;\n");
        report_.what = count_text(element_count_, "element", "elements") + " (" + tally_.text() + ")";
        return std::move(report_);
    }

private:
    struct Storey {
        std::string name;
        double elevation;  // of its lowest part
        std::vector<IfcRef> elements;
    };

    static bool carries_members(const SceneObject& object) {
        const auto& fields = object.form.facets->face_fields();
        return std::ranges::find(fields, "section_width", &Field::name) != fields.end();
    }
    static std::string guid(const std::string& result, const std::string& part, const std::string& what) {
        return ifc_guid(identity_of(result, part, what));
    }

    // --- what the file begins with

    IfcRef length_unit() {
        switch (job_.unit) {
            case LengthUnit::metre:
                return lines_.add("IFCSIUNIT", "(*,.LENGTHUNIT.,$,.METRE.)");
            case LengthUnit::centimetre:
                return lines_.add("IFCSIUNIT", "(*,.LENGTHUNIT.,.CENTI.,.METRE.)");
            case LengthUnit::millimetre:
                return lines_.add("IFCSIUNIT", "(*,.LENGTHUNIT.,.MILLI.,.METRE.)");
            case LengthUnit::foot:
            case LengthUnit::inch:
                break;
        }
        const IfcRef metre = lines_.add("IFCSIUNIT", "(*,.LENGTHUNIT.,$,.METRE.)");
        const IfcRef measure = lines_.add(
            "IFCMEASUREWITHUNIT", "(IFCLENGTHMEASURE(" + ifc_number(metres_) + ")," + metre.text() + ')');
        const IfcRef exponents = lines_.add("IFCDIMENSIONALEXPONENTS", "(1,0,0,0,0,0,0)");
        return lines_.add("IFCCONVERSIONBASEDUNIT",
                          '(' + exponents.text() + ",.LENGTHUNIT.," +
                              (job_.unit == LengthUnit::foot ? "'FOOT'," : "'INCH',") + measure.text() + ')');
    }
    void begin() {
        const std::vector<IfcRef> units{length_unit(),
                                        lines_.add("IFCSIUNIT", "(*,.AREAUNIT.,$,.SQUARE_METRE.)"),
                                        lines_.add("IFCSIUNIT", "(*,.VOLUMEUNIT.,$,.CUBIC_METRE.)"),
                                        lines_.add("IFCSIUNIT", "(*,.PLANEANGLEUNIT.,$,.RADIAN.)")};
        const IfcRef assignment = lines_.add("IFCUNITASSIGNMENT", '(' + ifc_list(units) + ')');
        const IfcRef origin = lines_.add("IFCCARTESIANPOINT", "((0.,0.,0.))");
        up_ = lines_.add("IFCDIRECTION", "((0.,0.,1.))");
        const IfcRef axes = lines_.add("IFCAXIS2PLACEMENT3D", '(' + origin.text() + ",$,$)");
        const IfcRef context =
            lines_.add("IFCGEOMETRICREPRESENTATIONCONTEXT", "($,'Model',3,1.E-05," + axes.text() + ",$)");
        for (const char* name : {"Body", "Axis"})
            contexts_[name] = lines_.add(
                "IFCGEOMETRICREPRESENTATIONSUBCONTEXT",
                "('" + std::string(name) + "','Model',*,*,*,*," + context.text() + ",$,.MODEL_VIEW.,$)");
        project_ = lines_.add("IFCPROJECT", '(' + guid("", "", "project") + ",$," +
                                                ifc_string(job_.results.front().name) + ",$,$,$,$,(" +
                                                context.text() + ")," + assignment.text() + ')');
        placement_ = lines_.add("IFCLOCALPLACEMENT", "($," + axes.text() + ')');
    }

    // --- elements

    Status add_facets(const SceneObject& object) {
        const Mesh& mesh = *object.form.facets;
        std::map<std::size_t, ExactPartShape> exact;
        if (job_.exact) {
            auto parts =
                exact_parts_of(*object.value, 1000 * metres_per(job_.study_units.length), "IFC", run_);
            if (!parts) return parts.error();
            exact = *std::move(parts);
        }
        for (std::size_t part = 0; part < mesh.part_count() && !run_.cancelled(); ++part) {
            const ColouredPart alone = coloured_part(mesh, part, object.vertex_colours, object.face_colours);
            const auto curved = exact.find(part);
            const Shape shape = curved != exact.end() ? exact_shape(curved->second)
                                                      : shape_of(alone.mesh, prism_of(mesh, part));
            style(shape.item, colour_of(object, alone), object);
            const std::string mark = mesh.part_count() == 1 ? std::string() : mesh.part_mark(part);
            const std::vector<NumberOfPart> numbers = numbers_of_part(mesh, part);
            add_element(object, mark, shape, alone.mesh.bounds().low.z, numbers);
            leave_out_others(mesh.face_fields(), numbers);
            leave_out_others(mesh.fields(), numbers);
        }
        return Done{};
    }
    // Elements have one: that of all of it, or the plain one where it varies.
    Rgb colour_of(const SceneObject& object, const ColouredPart& part) {
        const std::vector<Rgb>& colours = part.face_colours.empty() ? part.vertex_colours : part.face_colours;
        if (colours.empty()) return object.plain;
        const auto alike = [&](const Rgb& one) {
            return one.red == colours[0].red && one.green == colours[0].green && one.blue == colours[0].blue;
        };
        if (std::ranges::all_of(colours, alike)) return colours[0];
        report_.leave_out("colours that vary within a part");
        return object.plain;
    }

    void add_bars(const SceneObject& object) {
        const Written& frame = object.form;
        for (const Field& field : frame.numbers)
            report_.leave_out("the number " + field.name + " of nodes");
        for (std::size_t bar = 0; bar < frame.bars.size() && !run_.cancelled(); ++bar) {
            const Vec3 from = frame.points[frame.bars[bar][0]], to = frame.points[frame.bars[bar][1]];
            Shape shape{lines_.add("IFCPOLYLINE", '(' + ifc_list({point(from), point(to)}) + ')'), "Axis",
                        "Curve3D"};
            shape.length = length(to - from);
            style(shape.item, object.bar_colours.empty() ? object.plain : object.bar_colours[bar], object);
            add_element(object, frame.marks_of_bars->mark(bar), shape, std::min(from.z, to.z),
                        numbers_of_bar(frame, bar));
            leave_out_others(frame.numbers_of_bars, numbers_of_bar(frame, bar));
        }
    }

    static std::vector<NumberOfPart> numbers_of_bar(const Written& frame, std::size_t bar) {
        std::vector<NumberOfPart> numbers;
        for (const Field& field : frame.numbers_of_bars)
            if (std::isfinite(field.values[bar])) numbers.push_back({&field, field.values[bar]});
        return numbers;
    }
    // What elements cannot tell.
    void leave_out_others(const std::vector<Field>& fields, const std::vector<NumberOfPart>& told) {
        for (const Field& field : fields)
            if (!tells(told, field))
                report_.leave_out("the number " + field.name +
                                  " where it is not finite or varies within a part");
    }

    // The mark is empty where the result is one part.
    void add_element(const SceneObject& object, const std::string& mark, const Shape& shape, double lowest,
                     const std::vector<NumberOfPart>& numbers) {
        const IfcRef representation = lines_.add(
            "IFCSHAPEREPRESENTATION", '(' + contexts_[shape.identifier].text() + ",'" + shape.identifier +
                                          "','" + shape.type + "',(" + shape.item.text() + "))");
        const IfcRef definition =
            lines_.add("IFCPRODUCTDEFINITIONSHAPE", "($,$,(" + representation.text() + "))");
        const IfcRef element = lines_.add(
            class_.entity, '(' + guid(object.name, mark, "element") + ",$," +
                               ifc_string(mark.empty() ? object.name : object.name + ' ' + mark) + ",$,$," +
                               placement_.text() + ',' + definition.text() + ',' + ifc_string(mark) + ",$)");
        elements_of_result_.push_back(element);
        ++element_count_;
        add_properties(object, mark, element, numbers);
        add_quantities(object, mark, element, shape);
        Storey& storey = storey_of(numbers);
        storey.elements.push_back(element);
        storey.elevation = std::min(storey.elevation, lowest * scale_);
    }
    Storey& storey_of(const std::vector<NumberOfPart>& numbers) {
        const auto number = std::ranges::find_if(
            numbers, [&](const NumberOfPart& one) { return one.field->name == job_.layers_by; });
        const std::string name =
            number == numbers.end() ? "ground" : Layers(job_, "ground").of(*number->field, number->value);
        const auto found = std::ranges::find(storeys_, name, &Storey::name);
        return found != storeys_.end() ? *found : storeys_.emplace_back(Storey{name, Box::infinite, {}});
    }

    // --- shapes

    IfcRef point(Vec3 place) { return lines_.point(place * scale_); }

    Shape shape_of(const Mesh& mesh, const std::optional<Prism>& prism) {
        Shape shape;
        const bool closed = is_closed(mesh);
        if (prism) {
            shape = {swept(*prism), "Body", "SweptSolid"};
            shape.length = prism->length;
        } else
            shape.item = triangles(mesh, closed);
        if (closed) shape.volume = std::abs(volume_of(mesh));
        shape.area = area(mesh);
        return shape;
    }
    Shape exact_shape(const ExactPartShape& part) {
        return {add_boundary(lines_, part.boundary, 0.001 / metres_), "Body",
                part.boundary.closed ? "AdvancedBrep" : "SurfaceModel", part.volume, part.area};
    }
    IfcRef swept(const Prism& prism) {
        const IfcRef position = lines_.placement(point(prism.at.origin), prism.at.up, prism.at.along);
        return lines_.add("IFCEXTRUDEDAREASOLID", '(' + profile(prism).text() + ',' + position.text() + ',' +
                                                      up_.text() + ',' + ifc_number(prism.length * scale_) +
                                                      ')');
    }
    // Bars of one section share it.
    IfcRef profile(const Prism& prism) {
        const std::string outer = flat_ring(prism.outline),
                          inner = prism.hollow.empty() ? "" : flat_ring(prism.hollow);
        const auto known = profiles_.find(outer + inner);
        if (known != profiles_.end()) return known->second;
        const IfcRef ring = curve(outer);
        const IfcRef made = inner.empty()
                                ? lines_.add("IFCARBITRARYCLOSEDPROFILEDEF", "(.AREA.,$," + ring.text() + ')')
                                : lines_.add("IFCARBITRARYPROFILEDEFWITHVOIDS",
                                             "(.AREA.,$," + ring.text() + ",(" + curve(inner).text() + "))");
        return profiles_[outer + inner] = made;
    }
    // To a millionth of the unit, so that what is one section but for rounding is one.
    std::string flat_ring(const std::vector<Vec3>& places) const {
        std::string text = "(";
        const auto rounded = [&](double value) {
            return ifc_number(std::round(value * scale_ * 1e9) / 1e9 + 0.0);
        };
        for (std::size_t at = 0; at <= places.size(); ++at) {
            const Vec3 place = places[at % places.size()];
            text += (at > 0 ? ",(" : "(") + rounded(place.x) + ',' + rounded(place.y) + ')';
        }
        return text + ')';
    }
    IfcRef curve(const std::string& ring) {
        const IfcRef list = lines_.add("IFCCARTESIANPOINTLIST2D", '(' + ring + ')');
        return lines_.add("IFCINDEXEDPOLYCURVE", '(' + list.text() + ",$,.F.)");
    }
    IfcRef triangles(const Mesh& mesh, bool closed) {
        std::string places = "(", corners = "(";
        for (std::size_t vertex = 0; vertex < mesh.vertex_count(); ++vertex)
            places += (vertex > 0 ? "," : "") + ifc_list(mesh.vertex(vertex) * scale_);
        for (std::size_t face = 0; face < mesh.face_count(); ++face) {
            const auto around = mesh.face(face);
            for_each_triangle(mesh, face, [&](std::uint32_t a, std::uint32_t b, std::uint32_t c) {
                corners += (corners.size() > 1 ? ",(" : "(") + std::to_string(around[a] + 1) + ',' +
                           std::to_string(around[b] + 1) + ',' + std::to_string(around[c] + 1) + ')';
            });
        }
        const IfcRef list = lines_.add("IFCCARTESIANPOINTLIST3D", '(' + places + "))");
        return lines_.add("IFCTRIANGULATEDFACESET",
                          '(' + list.text() + ",$," + (closed ? ".T.," : ".F.,") + corners + "),$)");
    }

    void style(IfcRef item, Rgb colour, const SceneObject& object) {
        const double transparency = object.material ? static_cast<double>(object.material->transparency) : 0;
        const std::string key =
            ifc_list(std::vector<double>{static_cast<double>(colour.red), static_cast<double>(colour.green),
                                         static_cast<double>(colour.blue), transparency});
        auto known = styles_.find(key);
        if (known == styles_.end()) {
            const IfcRef rgb =
                lines_.add("IFCCOLOURRGB", "($," + ifc_number(static_cast<double>(colour.red)) + ',' +
                                               ifc_number(static_cast<double>(colour.green)) + ',' +
                                               ifc_number(static_cast<double>(colour.blue)) + ')');
            const IfcRef shading =
                lines_.add("IFCSURFACESTYLESHADING", '(' + rgb.text() + ',' + ifc_number(transparency) + ')');
            known = styles_.emplace(key, lines_.add("IFCSURFACESTYLE", "($,.BOTH.,(" + shading.text() + "))"))
                        .first;
        }
        lines_.add("IFCSTYLEDITEM", '(' + item.text() + ",(" + known->second.text() + "),$)");
    }

    // --- what is told of elements

    // In the units of the file; areas and volumes in metres.
    std::string measure(const Field& field, double value) const {
        const auto in_metres = [&](int power) {
            return ifc_number(value * std::pow(metres_per(job_.study_units.length), power));
        };
        if (field.dimension == a_length) return "IFCLENGTHMEASURE(" + ifc_number(value * scale_) + ')';
        if (field.dimension == an_angle) return "IFCPLANEANGLEMEASURE(" + ifc_number(value) + ')';
        if (field.dimension == Dimension{2, 0}) return "IFCAREAMEASURE(" + in_metres(2) + ')';
        if (field.dimension == Dimension{3, 0}) return "IFCVOLUMEMEASURE(" + in_metres(3) + ')';
        return "IFCREAL(" + ifc_number(value * factor_of(field.dimension, job_)) + ')';
    }
    // Of numbers that are in none of the file's units, what they count stands in words.
    static std::string unit_told(const Field& field) {
        return field.dimension == a_force ? ifc_string(unit_text(a_force, {})) : "$";
    }
    void add_properties(const SceneObject& object, const std::string& mark, IfcRef element,
                        const std::vector<NumberOfPart>& numbers) {
        std::vector<IfcRef> properties;
        properties.reserve(numbers.size());
        for (const auto& [field, value] : numbers)
            properties.push_back(lines_.add("IFCPROPERTYSINGLEVALUE", '(' + ifc_string(field->name) + ',' +
                                                                          unit_told(*field) + ',' +
                                                                          measure(*field, value) + ",$)"));
        if (properties.empty()) return;
        const IfcRef set = lines_.add("IFCPROPERTYSET", '(' + guid(object.name, mark, "numbers") +
                                                            ",$,'Numbers',$," + ifc_list(properties) + ')');
        define(object, mark, element, set, "numbers of");
    }
    void add_quantities(const SceneObject& object, const std::string& mark, IfcRef element,
                        const Shape& shape) {
        std::vector<IfcRef> quantities;
        const double metres = metres_per(job_.study_units.length);
        if (shape.length > 0)
            quantities.push_back(lines_.add("IFCQUANTITYLENGTH",
                                            "('Length',$,$," + ifc_number(shape.length * scale_) + ",$)"));
        if (shape.area > 0)
            quantities.push_back(
                lines_.add("IFCQUANTITYAREA",
                           "('GrossSurfaceArea',$,$," + ifc_number(shape.area * metres * metres) + ",$)"));
        if (shape.volume > 0)
            quantities.push_back(lines_.add(
                "IFCQUANTITYVOLUME",
                "('NetVolume',$,$," + ifc_number(shape.volume * metres * metres * metres) + ",$)"));
        if (quantities.empty()) return;
        const IfcRef set =
            lines_.add("IFCELEMENTQUANTITY", '(' + guid(object.name, mark, "quantities") +
                                                 ",$,'BaseQuantities',$,$," + ifc_list(quantities) + ')');
        define(object, mark, element, set, "quantities of");
    }
    void define(const SceneObject& object, const std::string& mark, IfcRef element, IfcRef set,
                const char* what) {
        lines_.add("IFCRELDEFINESBYPROPERTIES", '(' + guid(object.name, mark, what) + ",$,$,$,(" +
                                                    element.text() + ")," + set.text() + ')');
    }
    void associate_material(const SceneObject& object) {
        const std::string label(object.material->label);
        auto known = materials_.find(label);
        if (known == materials_.end())
            known =
                materials_.emplace(label, lines_.add("IFCMATERIAL", '(' + ifc_string(label) + ",$,$)")).first;
        lines_.add("IFCRELASSOCIATESMATERIAL", '(' + guid(object.name, "", "material of") + ",$,$,$," +
                                                   ifc_list(elements_of_result_) + ',' +
                                                   known->second.text() + ')');
    }

    // --- what it all stands in

    IfcRef aggregate(IfcRef whole, const std::vector<IfcRef>& parts, const char* what) {
        return lines_.add("IFCRELAGGREGATES",
                          '(' + guid("", "", what) + ",$,$,$," + whole.text() + ',' + ifc_list(parts) + ')');
    }
    void end() {
        const IfcRef site = lines_.add("IFCSITE", '(' + guid("", "", "site") + ",$,'Site',$,$," +
                                                      placement_.text() + ",$,$,.ELEMENT.,$,$,$,$,$)");
        const IfcRef building = lines_.add(
            "IFCBUILDING", '(' + guid("", "", "building") + ",$," + ifc_string(job_.results.front().name) +
                               ",$,$," + placement_.text() + ",$,$,.ELEMENT.,$,$,$)");
        aggregate(project_, {site}, "sites");
        aggregate(site, {building}, "buildings");
        std::vector<IfcRef> storeys;
        for (const Storey& storey : storeys_) {
            storeys.push_back(lines_.add("IFCBUILDINGSTOREY", '(' + guid(storey.name, "", "storey") + ",$," +
                                                                  ifc_string(storey.name) + ",$,$," +
                                                                  placement_.text() + ",$,$,.ELEMENT.," +
                                                                  ifc_number(storey.elevation) + ')'));
            lines_.add("IFCRELCONTAINEDINSPATIALSTRUCTURE", '(' + guid(storey.name, "", "elements") +
                                                                ",$,$,$," + ifc_list(storey.elements) + ',' +
                                                                storeys.back().text() + ')');
        }
        aggregate(building, storeys, "storeys");
    }

    const ExportJob& job_;
    double scale_, metres_;  // a unit of the file in metres
    const Run& run_;
    IfcLines lines_;
    BuildingClass class_;
    IfcRef project_, placement_, up_;
    std::map<std::string, IfcRef> contexts_, profiles_, styles_, materials_;
    std::vector<IfcRef> elements_of_result_;
    std::vector<Storey> storeys_;
    std::size_t element_count_ = 0;
    Tally tally_;
    ExportReport report_;
};

Status check_classes(const ExportJob& job) {
    for (const ExportedResult& result : job.results) {
        if (result.building_class.empty() || find_building_class(result.building_class)) continue;
        std::vector<std::string> known;
        for (const BuildingClass& one : building_classes())
            known.emplace_back(one.key);
        return Error{ErrorCode::unknown_name, "‘" + shortened(printable(result.building_class)) + "’",
                     "is no part of a building", "Choose one of " + listed(known, "or") + '.'};
    }
    return Done{};
}

}  // namespace

Result<ExportReport> write_ifc(const ExportJob& job, const ByteSink& sink, const Run& run) {
    if (Status known = check_classes(job); !known) return known.error();
    if (Status known = check_layers(job); !known) return known.error();
    const auto scene = scene_of(job, Box::infinite, run);
    if (!scene) return scene.error();
    IfcWriter writer(job, sink, run);
    for (std::size_t at = 0; at < scene->size(); ++at)
        if (Status added = writer.add((*scene)[at], job.results[at].building_class); !added)
            return added.error();
    return writer.finish(sink);
}

}  // namespace plume
