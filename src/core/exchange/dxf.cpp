// DXF of AutoCAD R2000 (Autodesk, DXF Reference, u18), by dxflib.

#include <dxflib/dl_dxf.h>

#include <cmath>
#include <memory>
#include <numbers>
#include <set>

#include "core/base/text.hpp"
#include "core/exchange/formats.hpp"
#include "core/exchange/layers.hpp"
#include "core/exchange/passing_file.hpp"
#include "core/exchange/plan.hpp"
#include "core/exchange/scene.hpp"
#include "core/exchange/tally.hpp"
#include "core/geometry/curves/arc_path.hpp"
#include "core/geometry/curves/curve_edit.hpp"
#include "core/geometry/meshes/triangulate.hpp"
#include "core/results/exact_form.hpp"
#include "core/results/numbers_along.hpp"

namespace plume {
namespace {

int unit_code(LengthUnit unit) {
    switch (unit) {
        case LengthUnit::metre:
            return 6;
        case LengthUnit::centimetre:
            return 5;
        case LengthUnit::millimetre:
            return 4;
        case LengthUnit::foot:
            return 2;
        case LengthUnit::inch:
            return 1;
    }
    return 0;
}

int code_of(Rgb colour) {
    const auto part = [](float value) { return static_cast<int>(std::lround(value * 255)); };
    return part(colour.red) << 16 | part(colour.green) << 8 | part(colour.blue);
}

// Files of this version are in the code page they name, of which the Latin letters are those of Unicode;
// others are \U+XXXX in texts, and have no place in names.
enum class Others { as_codes, as_lines };
std::string coded(const std::string& text, Others others) {
    std::string result;
    for (const char32_t character : characters_of(text)) {
        if ((character >= 0x20 && character < 0x7F) || (character >= 0xA0 && character <= 0xFF)) {
            result += static_cast<char>(character);
            continue;
        }
        std::array<char, 16> code{"_"};
        if (others == Others::as_codes)
            std::snprintf(code.data(), code.size(), "\\U+%04X",
                          static_cast<unsigned>(std::min<char32_t>(character, 0xFFFF)));
        result += code.data();
    }
    return result;
}

// What names of layers may not have.
std::string layer_name(const std::string& name) {
    std::string plain;
    for (const char c : name)
        plain += std::string_view("<>/\\\":;?*|=`,").find(c) == std::string_view::npos ? c : '_';
    return coded(clipped(plain, 200), Others::as_lines);
}

// What stands in the section of entities: kept until the layers before it are known.
struct Entity {
    std::string layer;  // as the file names it
    Rgb colour;
    std::function<void(const DL_Attributes& as)> write;
};

class Drawing {
public:
    // `unit` is what the file's numbers count; what is added is so many times as large there.
    Drawing(LengthUnit unit, double scale, const std::string& path)
        : unit_(unit), scale_(scale), writer_(dxf_.out(path.c_str(), DL_VERSION_2000)) {}

    bool opened() const { return writer_ != nullptr; }

    void add(const ExportJob& job, const SceneObject& object, const Show& show) {
        const Layers layers(job, object.name);
        const Written& form = object.form;
        switch (form.form) {
            case WrittenForm::lines:
                add_curves(object, layers);
                break;
            case WrittenForm::bars:
                add_bars(object, layers);
                break;
            case WrittenForm::facets:
                add_facets(object, layers);
                break;
            default:
                add_points(object, layers);
        }
        add_labels(labels_of(object, show, job.study_units), object.name + " labels");
    }

    void add(const PlanLayer& layer) {
        for (const PlanFill& fill : layer.fills)
            add(layer.name, fill.colour, [this, fill](const DL_Attributes& as) { write_fill(fill, as); });
        for (const PlanPath& path : layer.paths)
            add_plan_path(path, layer.name);
        for (const PlanDot& dot : layer.dots)
            add(layer.name, dot.colour, [this, dot](const DL_Attributes& as) {
                dxf_.writeCircle(*writer_, {dot.at.x, dot.at.y, 0, plan_dot / 2}, as);
            });
        for (const PlanText& text : layer.texts)
            add(layer.name, {0, 0, 0}, [this, text](const DL_Attributes& as) {
                const double x = text.at.x - (text.middle ? text_width_mm(text) / 2 : 0);
                write_text({x, text.at.y, 0}, text.letters, coded(text.text, Others::as_codes), as);
            });
    }

    ExportReport finish() {
        write_head();
        writer_->sectionEntities();
        for (const Entity& entity : entities_) {
            DL_Attributes as(entity.layer, 256, code_of(entity.colour), -1, "BYLAYER");
            entity.write(as);
        }
        writer_->sectionEnd();
        write_objects();
        writer_->dxfEOF();
        writer_->close();
        return {tally_.text()};
    }

private:
    Vec3 scaled(Vec3 place) const { return place * scale_; }

    void add(const std::string& layer, Rgb colour, std::function<void(const DL_Attributes&)> write) {
        std::string name = layer_name(layer);
        if (layer_names_.insert(name).second) layers_.push_back({name, colour});
        entities_.push_back({std::move(name), colour, std::move(write)});
    }

    void add_points(const SceneObject& object, const Layers& layers) {
        const std::vector<Vec3>& places = object.form.points;
        for (std::size_t at = 0; at < places.size(); ++at) {
            const Vec3 place = scaled(places[at]);
            add(layers.of(object.form.numbers, at), colour_at(object.place_colours, at, object.plain),
                [this, place](const DL_Attributes& as) {
                    dxf_.writePoint(*writer_, {place.x, place.y, place.z}, as);
                });
        }
        tally_.add(places.size(), "point", "points");
    }
    static Rgb colour_at(const std::vector<Rgb>& colours, std::size_t index, Rgb plain) {
        return colours.empty() ? plain : colours[index];
    }

    void add_bars(const SceneObject& object, const Layers& layers) {
        const Written& frame = object.form;
        for (std::size_t bar = 0; bar < frame.bars.size(); ++bar) {
            const Vec3 from = scaled(frame.points[frame.bars[bar][0]]),
                       to = scaled(frame.points[frame.bars[bar][1]]);
            add(layers.of(frame.numbers_of_bars, bar), colour_at(object.bar_colours, bar, object.plain),
                [this, from, to](const DL_Attributes& as) {
                    dxf_.writeLine(*writer_, {from.x, from.y, from.z, to.x, to.y, to.z}, as);
                });
        }
        tally_.add(frame.bars.size(), "line", "lines");
    }

    // A closed curve is coloured as it begins.
    void add_curves(const SceneObject& object, const Layers& layers) {
        const std::vector<SplineCurve> curves = exact_form_of(*object.value).curves;
        const std::vector<Field> numbers = numbers_along(curves);
        std::size_t first_place = 0;
        for (std::size_t at = 0; at < curves.size(); ++at) {
            const Rgb colour = colour_at(object.place_colours, first_place, object.plain);
            first_place += object.form.lines[at].places.size();
            add_curve(curves[at], layers.of(numbers, at), colour);
        }
    }
    void add_curve(const SplineCurve& curve, const std::string& layer, Rgb colour) {
        if (auto path = arc_path(curve)) return add_path(*std::move(path), layer, colour);
        if (curve.basis().degree == 1) return add_polyline(curve, layer, colour);
        SplineCurve open = curve.closed() ? changed(curve, plume::opened(curve.basis())) : curve;
        add(layer, colour, [this, open = std::move(open), closed = curve.closed()](const DL_Attributes& as) {
            write_spline(open, closed, as);
        });
        tally_.add(1, "spline", "splines");
    }

    void add_path(ArcPath path, const std::string& layer, Rgb colour) {
        const bool one = path.pieces.size() == 1;
        if (is_circle(path)) {
            const Vec3 centre = scaled(centre_of(path.start, path.pieces.front()));
            const double radius = length(scaled(path.start) - centre);
            add(layer, colour, [this, centre, radius](const DL_Attributes& as) {
                dxf_.writeCircle(*writer_, {centre.x, centre.y, centre.z, radius}, as);
            });
            return tally_.add(1, "circle", "circles");
        }
        if (one && path.pieces.front().bulge != 0) return add_arc(path, layer, colour);
        add(layer, colour, [this, path = std::move(path)](const DL_Attributes& as) { write_path(path, as); });
        tally_.add(1, "polyline", "polylines");
    }
    static bool is_circle(const ArcPath& path) {
        const auto& pieces = path.pieces;
        return path.closed && pieces.size() == 2 && std::abs(std::abs(pieces[0].bulge) - 1) < 1e-9 &&
               std::abs(pieces[0].bulge - pieces[1].bulge) < 1e-9;
    }
    void add_arc(const ArcPath& path, const std::string& layer, Rgb colour) {
        const ArcPiece& piece = path.pieces.front();
        const Vec3 centre = scaled(centre_of(path.start, piece)), from = scaled(path.start),
                   to = scaled(piece.to);
        const auto degrees = [&](Vec3 place) {
            return std::atan2(place.y - centre.y, place.x - centre.x) * 180 / std::numbers::pi;
        };
        // Arcs run anticlockwise here.
        const double begin = degrees(piece.bulge > 0 ? from : to), end = degrees(piece.bulge > 0 ? to : from);
        const double radius = length(from - centre);
        add(layer, colour, [this, centre, radius, begin, end](const DL_Attributes& as) {
            dxf_.writeArc(*writer_, {centre.x, centre.y, centre.z, radius, begin, end}, as);
        });
        tally_.add(1, "arc", "arcs");
    }
    // As a light polyline: its height once, bulges at the vertices they start from.
    void write_path(const ArcPath& path, const DL_Attributes& as) {
        std::vector<std::pair<Vec3, double>> vertices;
        Vec3 at = path.start;
        for (const ArcPiece& piece : path.pieces) {
            vertices.emplace_back(at, piece.bulge);
            at = piece.to;
        }
        if (!path.closed) vertices.emplace_back(at, 0);
        begin_entity("LWPOLYLINE", "AcDbPolyline", as);
        writer_->dxfInt(90, static_cast<int>(vertices.size()));
        writer_->dxfInt(70, path.closed ? 1 : 0);
        writer_->dxfReal(38, path.start.z * scale_);
        for (const auto& [place, bulge] : vertices) {
            writer_->dxfReal(10, place.x * scale_);
            writer_->dxfReal(20, place.y * scale_);
            if (bulge != 0) writer_->dxfReal(42, bulge);
        }
    }

    void add_polyline(const SplineCurve& curve, const std::string& layer, Rgb colour) {
        std::vector<Vec3> places;
        const std::size_t count = curve.x().size() - (curve.closed() ? 1 : 0);
        for (std::size_t pole = 0; pole < count; ++pole)
            places.push_back(scaled(curve.pole(pole)));
        add(layer, colour,
            [this, places = std::move(places), closed = curve.closed()](const DL_Attributes& as) {
                dxf_.writePolyline(*writer_, {static_cast<int>(places.size()), 0, 0, closed ? 9 : 8}, as);
                for (const Vec3 place : places)
                    dxf_.writeVertex(*writer_, {place.x, place.y, place.z});
                dxf_.writePolylineEnd(*writer_);
            });
        tally_.add(1, "polyline", "polylines");
    }

    void write_spline(const SplineCurve& curve, bool closed, const DL_Attributes& as) {
        begin_entity("SPLINE", "AcDbSpline", as);
        writer_->dxfInt(70, (closed ? 1 : 0) | (curve.rational() ? 4 : 0));
        writer_->dxfInt(71, curve.basis().degree);
        writer_->dxfInt(72, static_cast<int>(curve.basis().knots.size()));
        writer_->dxfInt(73, static_cast<int>(curve.x().size()));
        writer_->dxfInt(74, 0);
        for (const double knot : curve.basis().knots)
            writer_->dxfReal(40, knot);
        for (std::size_t pole = 0; pole < curve.x().size() && curve.rational(); ++pole)
            writer_->dxfReal(41, curve.weight(pole));
        for (std::size_t pole = 0; pole < curve.x().size(); ++pole) {
            const Vec3 place = scaled(curve.pole(pole));
            writer_->dxfReal(10, place.x);
            writer_->dxfReal(20, place.y);
            writer_->dxfReal(30, place.z);
        }
    }
    // Of entities that the library writes without weights or bulges, or in another form.
    void begin_entity(const char* name, const char* subclass, const DL_Attributes& as) {
        writer_->entity(name);
        writer_->dxfString(100, "AcDbEntity");
        writer_->entityAttributes(as);
        writer_->dxfString(100, subclass);
    }

    void add_facets(const SceneObject& object, const Layers& layers) {
        const Mesh& mesh = *object.form.facets;
        std::size_t facets = 0;
        const auto add_one = [&](std::size_t face, std::array<std::uint32_t, 4> corners) {
            std::array<Vec3, 4> places;
            for (std::size_t at = 0; at < 4; ++at)
                places[at] = scaled(mesh.vertex(corners[at]));
            const Rgb colour = object.face_colours.empty()
                                   ? colour_at(object.vertex_colours, corners[0], object.plain)
                                   : object.face_colours[face];
            add(layers.of(mesh.face_fields(), face), colour, [this, places](const DL_Attributes& as) {
                DL_3dFaceData data(places[0].x, places[0].y, places[0].z, places[1].x, places[1].y,
                                   places[1].z, places[2].x, places[2].y, places[2].z, places[3].x,
                                   places[3].y, places[3].z, 0);
                dxf_.write3dFace(*writer_, data, as);
            });
            ++facets;
        };
        for (std::size_t face = 0; face < mesh.face_count(); ++face) {
            const auto around = mesh.face(face);
            if (around.size() == 4 && is_fan(mesh, face)) {
                add_one(face, {around[0], around[1], around[2], around[3]});
                continue;
            }
            for_each_triangle(mesh, face, [&](std::uint32_t a, std::uint32_t b, std::uint32_t c) {
                add_one(face, {around[a], around[b], around[c], around[c]});
            });
        }
        tally_.add(facets, "facet", "facets");
    }

    // Of a sheet: lines, and arcs of circles as bulges.
    void add_plan_path(const PlanPath& path, const std::string& layer) {
        add(layer, path.colour, [this, path](const DL_Attributes& plain) {
            DL_Attributes as = plain;
            if (path.dashes != PlanDashes::none) as.setLinetype(dashes_name(path.dashes));
            const bool arcs = std::ranges::any_of(
                path.steps, [](const PlanStep& step) { return step.form == PlanStep::Form::arc; });
            if (path.steps.size() == 1 && !path.closed && !arcs) {
                const PaperPlace from = path.start, to = path.steps.front().to;
                return dxf_.writeLine(*writer_, {from.x, from.y, 0, to.x, to.y, 0}, as);
            }
            ArcPath polyline{{path.start.x, path.start.y, 0}, {}, path.closed};
            PaperPlace from = path.start;
            for (const PlanStep& step : path.steps) {
                polyline.pieces.push_back({{step.to.x, step.to.y, 0}, bulge_of(from, step)});
                from = step.to;
            }
            // The way back is a line of its own.
            if (path.closed && std::hypot(from.x - path.start.x, from.y - path.start.y) > 1e-9)
                polyline.pieces.push_back({polyline.start, 0});
            write_path(polyline, as);
        });
    }
    // The tangent of a quarter of its angle.
    static double bulge_of(PaperPlace from, const PlanStep& step) {
        if (step.form != PlanStep::Form::arc) return 0;
        return std::tan(arc_of(from, step).turn_rad / 4);
    }
    static const char* dashes_name(PlanDashes dashes) {
        return dashes == PlanDashes::chain ? "CHAIN" : "DASHED";
    }
    void write_dashes(PlanDashes dashes) {
        const auto lengths = dash_lengths(dashes);
        double sum = 0;
        for (const double part : lengths)
            sum += part;
        writer_->tableLinetypeEntry();
        writer_->dxfString(2, dashes_name(dashes));
        writer_->dxfInt(70, 0);
        writer_->dxfString(3, "");
        writer_->dxfInt(72, 65);
        writer_->dxfInt(73, static_cast<int>(lengths.size()));
        writer_->dxfReal(40, sum);
        for (std::size_t part = 0; part < lengths.size(); ++part) {
            writer_->dxfReal(49, part % 2 == 0 ? lengths[part] : -lengths[part]);
            writer_->dxfInt(74, 0);
        }
    }
    // Within its rings by turns, as polylines.
    void write_fill(const PlanFill& fill, const DL_Attributes& as) {
        begin_entity("HATCH", "AcDbHatch", as);
        for (const int code : {10, 20, 30, 210, 220})
            writer_->dxfReal(code, 0);
        writer_->dxfReal(230, 1);
        writer_->dxfString(2, "SOLID");
        writer_->dxfInt(70, 1);
        writer_->dxfInt(71, 0);
        writer_->dxfInt(91, static_cast<int>(fill.rings.size()));
        for (const std::vector<PaperPlace>& ring : fill.rings) {
            writer_->dxfInt(92, 2);
            writer_->dxfInt(72, 0);
            writer_->dxfInt(73, 1);
            writer_->dxfInt(93, static_cast<int>(ring.size()));
            for (const PaperPlace place : ring) {
                writer_->dxfReal(10, place.x);
                writer_->dxfReal(20, place.y);
            }
            writer_->dxfInt(97, 0);
        }
        writer_->dxfInt(75, 0);
        writer_->dxfInt(76, 1);
        writer_->dxfInt(98, 0);
    }

    void write_text(Vec3 at, double height, const std::string& text, const DL_Attributes& as) {
        dxf_.writeText(*writer_,
                       {at.x, at.y, at.z, at.x, at.y, at.z, height, 1, 0, 0, 0, text, "STANDARD", 0}, as);
    }

    // As they are shown: at their items, in letters of a hundred-and-twentieth of what there is.
    void add_labels(const std::vector<SceneLabel>& labels, const std::string& layer) {
        if (labels.empty()) return;
        Box box;
        for (const SceneLabel& label : labels)
            box.include(label.place);
        const double height = std::max(box.diagonal() / 120, 1e-9) * scale_;
        for (const SceneLabel& label : labels) {
            const Vec3 at = scaled(label.place);
            add(layer, {0, 0, 0},
                [this, text = coded(label.text, Others::as_codes), at, height](const DL_Attributes& as) {
                    write_text(at, height, text, as);
                });
        }
        tally_.add(labels.size(), "label", "labels");
    }

    // The dictionaries there have to be; those of the library belong to nobody.
    void write_objects() {
        writer_->section("OBJECTS");
        const auto begin = [&](const char* handle, const char* owner) {
            writer_->dxfString(0, "DICTIONARY");
            writer_->dxfString(5, handle);
            writer_->dxfString(330, owner);
            writer_->dxfString(100, "AcDbDictionary");
            writer_->dxfInt(281, 1);
        };
        begin("C", "0");
        writer_->dxfString(3, "ACAD_GROUP");
        writer_->dxfString(350, "D");
        begin("D", "C");
        writer_->sectionEnd();
    }

    // Of the two blocks there have to be; the library has a third, whose layout is missing.
    void write_block_records() {
        writer_->dxfString(0, "TABLE");
        writer_->dxfString(2, "BLOCK_RECORD");
        writer_->dxfString(5, "1");
        writer_->dxfString(100, "AcDbSymbolTable");
        writer_->dxfInt(70, 2);
        for (const auto& [handle, name] : {std::pair{"1F", "*Model_Space"}, {"1B", "*Paper_Space"}}) {
            writer_->dxfString(0, "BLOCK_RECORD");
            writer_->dxfString(5, handle);
            writer_->dxfString(100, "AcDbSymbolTableRecord");
            writer_->dxfString(100, "AcDbBlockTableRecord");
            writer_->dxfString(2, name);
        }
        writer_->tableEnd();
    }

    void write_head() {
        dxf_.writeHeader(*writer_);
        writer_->dxfString(9, "$DWGCODEPAGE");
        writer_->dxfString(3, "ANSI_1252");
        writer_->dxfString(9, "$INSUNITS");
        writer_->dxfInt(70, unit_code(unit_));
        writer_->dxfString(9, "$MEASUREMENT");
        writer_->dxfInt(70, unit_ == LengthUnit::foot || unit_ == LengthUnit::inch ? 0 : 1);
        writer_->sectionEnd();
        writer_->sectionTables();
        dxf_.writeVPort(*writer_);
        writer_->tableLinetypes(5);
        for (const char* name : {"BYBLOCK", "BYLAYER", "CONTINUOUS"})
            dxf_.writeLinetype(*writer_, {name, name, 0, 0, 0});
        for (const PlanDashes dashes : {PlanDashes::dashed, PlanDashes::chain})
            write_dashes(dashes);
        writer_->tableEnd();
        writer_->tableLayers(static_cast<int>(layers_.size()) + 1);
        dxf_.writeLayer(*writer_, {"0", 0}, DL_Attributes("", 7, -1, -1, "CONTINUOUS"));
        for (const auto& [name, colour] : layers_)
            dxf_.writeLayer(*writer_, {name, 0}, DL_Attributes("", 7, code_of(colour), -1, "CONTINUOUS"));
        writer_->tableEnd();
        writer_->tableStyle(1);
        dxf_.writeStyle(*writer_, {"STANDARD", 0, 0, 1, 0, 0, 2.5, "txt", ""});
        writer_->tableEnd();
        dxf_.writeView(*writer_);
        dxf_.writeUcs(*writer_);
        writer_->tableAppid(1);
        dxf_.writeAppid(*writer_, "ACAD");
        writer_->tableEnd();
        dxf_.writeDimStyle(*writer_, 1, 1, 1, 1, 1);
        write_block_records();
        writer_->sectionEnd();
        writer_->sectionBlocks();
        for (const char* name : {"*Model_Space", "*Paper_Space"}) {
            dxf_.writeBlock(*writer_, {name, 0, 0, 0, 0});
            dxf_.writeEndBlock(*writer_, name);
        }
        writer_->sectionEnd();
    }

    struct Layer {
        std::string name;
        Rgb colour;
    };

    LengthUnit unit_;
    double scale_;
    DL_Dxf dxf_;
    std::unique_ptr<DL_WriterA> writer_;
    std::vector<Layer> layers_;
    std::set<std::string> layer_names_;
    std::vector<Entity> entities_;
    Tally tally_;
};

}  // namespace

Result<ExportReport> write_dxf(const ExportJob& job, const ByteSink& sink, const Run& run) {
    if (Status known = check_layers(job); !known) return known.error();
    const auto scene = scene_of(job, Box::infinite, run);
    if (!scene) return scene.error();
    const PassingFile file;
    Drawing drawing(job.unit, job.scale(), file.path());
    if (file.path().empty() || !drawing.opened()) return no_passing_file("The drawing");
    for (std::size_t at = 0; at < scene->size(); ++at) {
        if (run.cancelled()) return cancelled_error();
        drawing.add(job, (*scene)[at], job.results[at].show);
    }
    ExportReport report = drawing.finish();
    const auto bytes = file.bytes("EOF\n");
    if (!bytes) return bytes.error();
    sink(*bytes);
    return report;
}

Status write_plan_dxf(const Plan& plan, const ByteSink& sink) {
    const PassingFile file;
    Drawing drawing(LengthUnit::millimetre, 1, file.path());
    if (file.path().empty() || !drawing.opened()) return no_passing_file("The drawing");
    for (const PlanLayer& layer : plan.layers)
        drawing.add(layer);
    drawing.finish();
    const auto bytes = file.bytes("EOF\n");
    if (!bytes) return bytes.error();
    sink(*bytes);
    return Done{};
}

}  // namespace plume
