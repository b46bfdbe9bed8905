#include "core/catalogue/every_kind.hpp"

#include <algorithm>
#include <cmath>

#include "core/base/overloaded.hpp"
#include "core/data/delivery.hpp"

namespace plume::test {
namespace {

// A result that the slot takes. Where one curve is wanted it is the loop.
std::string reading(const StepKind& kind, const SlotSpec& slot) {
    static const std::map<std::string, std::string> special{{"thing.repeat curve", "loop"},
                                                            {"lattice.on_surface surface", "roof"},
                                                            {"points.rest part", "kept"},
                                                            {"mesh.tube curves", "rows"},
                                                            {"thing.place to", "stations"},
                                                            {"mesh.flatten panels", "facets"},
                                                            {"curve.extend curve", "rows"},
                                                            {"curve.offset curve", "rows"},
                                                            {"points.corners curve", "rows"},
                                                            {"curve.reverse curve", "rows"},
                                                            {"curve.part curve", "rows"},
                                                            {"curve.split curve", "rows"},
                                                            {"curve.soften curve", "rows"},
                                                            {"curve.connect curve", "rows"},
                                                            {"curve.simplify curve", "rows"},
                                                            {"number.curve curve", "rows"},
                                                            {"surface.loft curve", "ribs"},
                                                            {"surface.loft last", "loop"},
                                                            {"body.close thing", "feet"},
                                                            {"surface.sweep curve", "crown"},
                                                            {"body.combine second", "drum"},
                                                            {"body.between upper", "raised_crown"},
                                                            {"surface.trim curve", "peephole"},
                                                            {"surface.span first", "south"},
                                                            {"surface.span second", "east"},
                                                            {"surface.span third", "north"},
                                                            {"surface.span fourth", "west"},
                                                            {"points.crossings cutter", "north"},
                                                            {"body.cells points", "stack"},
                                                            {"curve.section planes", "stations"},
                                                            {"curve.section rail", "north"},
                                                            {"curve.isolines thing", "reach"},
                                                            {"curve.write thing", "reach"},
                                                            {"curve.split cutter", "loop"},
                                                            {"thing.measure thing", "hills"},
                                                            {"field.of_form goals", "perches"},
                                                            {"cells.fill unit", "feet"},
                                                            {"cells.fill points", "ground"},
                                                            {"thing.lay_along curve", "loop"},
                                                            {"thing.lay_along thing", "north"},
                                                            {"thing.carry thing", "hills"},
                                                            {"thing.carry target", "roof"},
                                                            {"lattice.tower upper", "crown"},
                                                            {"frame.diagrid points", "plot"},
                                                            {"frame.of_curves curve", "rows"},
                                                            {"mesh.keep_faces points", "tiles"},
                                                            {"thing.unroll thing", "hills"},
                                                            {"mesh.on_sheets mesh", "boards"},
                                                            {"curve.of_sheets sheets", "laid"},
                                                            {"growth.keep placements", "grove"},
                                                            {"growth.members placements", "grove"},
                                                            {"growth.curves placements", "grove"},
                                                            {"growth.parts form", "drum"},
                                                            {"growth.towards form", "drum"},
                                                            {"forces.densities net", "hung"},
                                                            {"forces.relax net", "hung"},
                                                            {"sheet.drape form", "paving"},
                                                            {"sheet.strain sheet", "paving"},
                                                            {"sheet.strain rest", "paving"}};
    if (const auto found = special.find(kind.key + " " + slot.key); found != special.end())
        return found->second;
    switch (slot.accepts.front()) {
        case Kind::points:
            return "hills";
        case Kind::field:
            return "reach";
        case Kind::attractors:
            return "perches";
        case Kind::mesh:
            return "facets";
        case Kind::surface:
            return "roof";
        case Kind::curves:
            return "loop";
        case Kind::directions:
            return "flow";
        case Kind::placements:
            return "placements";
        case Kind::bodies:
            return "blocks";
        case Kind::frame:
            return "trellis";
        case Kind::number:
            return "figure";
        case Kind::delivery:
            break;  // nothing reads one
    }
    return {};
}

class Measured {
public:
    Measured(const Value& value, double metre) : metre_(metre) {
        std::visit(
            Overloaded{
                [&](const PointLattice& points) { add(points); },
                [&](const FieldOnPoints& field) { add(field.points); },
                [&](const DirectionsOnPoints& field) { add(field.points); },
                [&](const Placements& placements) {
                    add(placements.origins());
                    for (const Placement& placement : placements.present_placements())
                        for (const Vec3 axis : {placement.along, placement.across, placement.up})
                            numbers.insert(numbers.end(), {axis.x, axis.y, axis.z});
                },
                [&](const Attractors& attractors) {
                    for (const Attractor& item : attractors.items())
                        numbers.insert(numbers.end(), {item.position.x * metre_, item.position.y * metre_,
                                                       item.position.z * metre_, item.weight});
                },
                [&](const Mesh& mesh) {
                    add_columns(mesh);
                    for (const Field& field : mesh.face_fields())
                        add(field.values, factor(field.dimension));
                },
                [&](const SurfaceSet& surfaces) {
                    for (const SplinePatch& patch : surfaces.patches) {
                        add_columns(patch);
                        for (const SplineCurve& trim : patch.trims())
                            for (const double at : trim.x().span())
                                numbers.push_back((at - patch.u().start()) /
                                                  (patch.u().end() - patch.u().start()));
                    }
                },
                [&](const CurveSet& set) {
                    for (const SplineCurve& curve : set.curves)
                        add_columns(curve);
                },
                [&](const SolidSet& set) {
                    for (const Body& body : set.bodies) {
                        // Rounding may cut the faces of a mesh into other triangles.
                        const BodyFigures& figures = body.figures();
                        numbers.insert(numbers.end(),
                                       {figures.volume * std::pow(metre_, 3), figures.area * metre_ * metre_,
                                        figures.centroid.x * metre_, figures.centroid.y * metre_,
                                        figures.centroid.z * metre_});
                        for (const SplinePatch& patch : body.patches())
                            add_columns(patch);
                    }
                },
                [&](const BarFrame& frame) {
                    add(frame.nodes());
                    for (const Member& member : frame.members())
                        for (const double part :
                             {static_cast<double>(member.from), static_cast<double>(member.to),
                              static_cast<double>(member.way), static_cast<double>(member.row)})
                            numbers.push_back(part);
                    for (const Field& field : frame.fields())
                        add(field.values, factor(field.dimension));
                },
                [&](const Quantity& number) { numbers.push_back(number.value * factor(number.dimension)); },
                [&](const Delivery& delivery) {
                    for (const GivenResult& given : delivery->results)
                        for (const double number : Measured(*given.value, metre_).numbers)
                            numbers.push_back(number);
                }},
            value);
    }

    std::vector<double> numbers;

private:
    double factor(Dimension dimension) const { return std::pow(metre_, dimension.length); }
    void add(const Column& column, double times) {
        for (const double number : column.span())
            numbers.push_back(number * times);
    }
    template <class T>
    void add_columns(const T& thing) {
        for (const Column* column : {&thing.x(), &thing.y(), &thing.z()})
            add(*column, metre_);
        for (const Field& field : thing.fields())
            add(field.values, factor(field.dimension));
    }
    void add(const PointLattice& lattice) { add_columns(lattice); }

    double metre_;
};

std::string family_of(const StepKind& kind) {
    return kind.key.substr(0, kind.key.find('.'));
}

}  // namespace

std::vector<std::string> families() {
    std::vector<std::string> families;
    for (const StepKind& kind : standard_catalogue().kinds())
        if (std::ranges::find(families, family_of(kind)) == families.end())
            families.push_back(family_of(kind));
    return families;
}

std::vector<StepKind> kinds_of(const std::string& family) {
    std::vector<StepKind> kinds;
    std::ranges::copy_if(standard_catalogue().kinds(), std::back_inserter(kinds),
                         [&](const StepKind& kind) { return family_of(kind) == family; });
    return kinds;
}

StudyMaker ground(std::size_t columns, std::size_t rows) {
    StudyMaker maker;
    maker.add("lattice.block", "stack");
    maker.number("stack", "columns", std::to_string(std::max<std::size_t>(2, columns / 10)));
    maker.number("stack", "rows", std::to_string(std::max<std::size_t>(2, rows / 10)));
    maker.add("lattice.rectangular", "ground");
    maker.number("ground", "columns", std::to_string(columns)).number("ground", "rows", std::to_string(rows));
    maker.add("attractors.points", "perches");
    maker.add("field.distance", "reach");
    maker.set("reach", "points", ResultName{"ground"});
    maker.add("points.push", "hills");
    maker.set("hills", "points", ResultName{"ground"}).set("hills", "amount", ResultName{"reach"});
    maker.add("directions.attractors", "flow");
    maker.set("flow", "points", ResultName{"ground"});
    maker.add("placement.on_lattice", "placements");
    maker.set("placements", "points", ResultName{"hills"});
    maker.add("growth.parts", "grove");
    maker.formula("grove",
                  "trunk becomes\ntrunk, moved size up, turned 30° about along, sized 0.8\n"
                  "twig, moved size up, turned -50° about along, sized 0.5\ntwig becomes, where depth < 3\n"
                  "leaf times 3, moved size up, turned 120° * copy about up, turned 40° about along");
    maker.add("skin", "roof");
    maker.set("roof", "points", ResultName{"hills"}).word("roof", "surface", "smooth");
    maker.add("skin", "facets");
    maker.set("facets", "points", ResultName{"hills"}).word("facets", "surface", "flat");
    constexpr const char* corners[] = {"-9 m", "-5 m", "9 m", "-5 m", "8 m", "6 m", "-7 m", "5 m"};
    constexpr const char* sides[] = {"south", "east", "north", "west"};
    for (std::size_t side = 0; side < 4; ++side) {
        const std::size_t next = (side + 1) % 4;
        maker.add("curve.arc", sides[side]);
        maker.word(sides[side], "shape", "line");
        maker.set(sides[side], "ends",
                  Places{{"a", corners[2 * side], corners[2 * side + 1], "0 m", "1"},
                         {"b", corners[2 * next], corners[2 * next + 1], "0 m", "1"}});
    }
    maker.add("curve.drawn", "peephole");
    maker.word("peephole", "ends", "closed");
    maker.set("peephole", "poles",
              Places{{"l1", "1.9 m", "1.2 m", "0 m", "1"},
                     {"l2", "1.5 m", "1.6 m", "0 m", "1"},
                     {"l3", "1.1 m", "1.2 m", "0 m", "1"},
                     {"l4", "1.5 m", "0.8 m", "0 m", "1"}});
    maker.add("curve.join", "rows");
    maker.set("rows", "points", ResultName{"hills"}).word("rows", "route", "rows");
    maker.add("outline.shape", "loop");
    maker.number("loop", "radius", "9 m").word("loop", "shape", "circle");
    maker.add("outline.shape", "crown");
    maker.number("crown", "radius", "5 m").word("crown", "shape", "circle");
    maker.add("curve.blend", "ribs");
    maker.set("ribs", "curve", ResultName{"loop"}).set("ribs", "last", ResultName{"crown"});
    maker.add("curve.drawn", "raised_crown");
    maker.word("raised_crown", "ends", "closed");
    maker.set("raised_crown", "poles",
              Places{{"p1", "5 m", "0 m", "3 m", "1"},
                     {"p2", "0 m", "5 m", "3 m", "1"},
                     {"p3", "-5 m", "0 m", "3 m", "1"},
                     {"p4", "0 m", "-5 m", "3 m", "1"}});
    maker.add("body.extrude", "blocks");
    maker.set("blocks", "curve", ResultName{"loop"});
    maker.add("body.extrude", "drum");
    maker.set("drum", "curve", ResultName{"crown"}).number("drum", "by", "2 m");
    maker.add("number.statistic", "figure");
    maker.add("placement.on_curve", "stations");
    maker.set("stations", "curve", ResultName{"loop"});
    maker.add("mesh.posts", "feet");
    maker.set("feet", "points", ResultName{"stations"});
    maker.add("points.split", "kept");
    maker.set("kept", "points", ResultName{"hills"});
    maker.add("lattice.rectangular", "plot");
    maker.number("plot", "columns", std::to_string(12 * std::max<std::size_t>(1, columns / 12)));
    maker.number("plot", "rows", std::to_string(8 * std::max<std::size_t>(1, rows / 8)));
    maker.add("frame.lattice", "trellis");
    maker.set("trellis", "points", ResultName{"hills"});
    maker.add("forces.hold", "hung");
    maker.set("hung", "thing", ResultName{"trellis"});
    maker.add("lattice.rectangular", "yard");
    maker.word("yard", "sizing", "spaced").number("yard", "pitch_u", "1.1 m");
    maker.number("yard", "columns", std::to_string(std::max<std::size_t>(2, columns / 10)));
    maker.number("yard", "rows", std::to_string(std::max<std::size_t>(2, rows / 10)));
    maker.add("skin", "paving");
    maker.set("paving", "points", ResultName{"yard"}).word("paving", "surface", "flat");
    maker.add("mesh.panels", "boards");
    maker.set("boards", "mesh", ResultName{"paving"});
    maker.add("mesh.on_sheets", "laid");
    maker.set("laid", "mesh", ResultName{"boards"})
        .number("laid", "width", "4 m")
        .number("laid", "length", "5 m");
    maker.add("points.of_mesh", "tiles");
    maker.set("tiles", "mesh", ResultName{"facets"});
    return maker;
}

StudyMaker with_subject(const StudyMaker& ground, const StepKind& kind) {
    StudyMaker maker = ground;
    maker.add(kind.key, "subject");
    for (const SlotSpec& slot : kind.slots) {
        if (slot.type == SlotType::reference) maker.set("subject", slot.key, ResultName{reading(kind, slot)});
        if (slot.type == SlotType::results)
            maker.set("subject", slot.key,
                      ResultList{ResultList::Of::listed, "", {{reading(kind, slot), ""}}});
    }
    // What grows step by step is small here.
    if (kind.key == "sheet.grow") maker.number("subject", "edge", "1 m").number("subject", "rings", "3");
    if (kind.key == "sheet.patchwork") maker.number("subject", "rings", "2");
    // As few sheets as tell the same as hundreds.
    if (kind.key == "body.sheets") maker.number("subject", "thickness", "0.2 m");
    // Lines go on until they are at rest, which those that cross never are.
    if (kind.key == "forces.lines") maker.number("subject", "rounds", "60");
    // Nor edges that no form lets become equal.
    if (kind.key == "mesh.even_edges") maker.number("subject", "rounds", "20");
    return maker;
}

StudyPointer upstream_of_subject(const Study& study) {
    std::vector<std::string> needed{"subject"};
    Study upstream = study;
    upstream.items.clear();
    for (std::size_t at = study.items.size(); at-- > 0;) {
        const Step* const step = step_of(study.items[at]);
        if (!step || std::ranges::find(needed, step->name) == needed.end()) continue;
        upstream.items.push_back(study.items[at]);
        for (const std::string& name : results_read(study, *step))
            needed.push_back(name);
    }
    std::ranges::reverse(upstream.items);
    return std::make_shared<const Study>(std::move(upstream));
}

Outcome outcome_of_subject(const StudyPointer& study, ResultStore& cache) {
    return *run(upstream_of_subject(*study), {}, &cache).outcome("subject");
}

bool reads_file(const StepKind& kind) {
    return std::ranges::find(kind.slots, SlotType::file, &SlotSpec::type) != kind.slots.end();
}

std::vector<double> numbers_of(const Value& value, double metre) {
    return Measured(value, metre).numbers;
}

}  // namespace plume::test
