#include "core/readers/building/curved_text.hpp"

#include <algorithm>
#include <array>
#include <cstdlib>
#include <string_view>
#include <utility>

#include "core/base/numbers.hpp"

namespace plume {
namespace {

struct Instance {
    std::string_view entity, attributes;
};
using Instances = std::map<int, Instance>;

// "#12=IFCPLANE(#11)", whatever blanks stand in between.
Instances instances_in(const std::vector<std::string>& lines) {
    Instances found;
    for (const std::string& line : lines) {
        const std::string_view text(line);
        const std::size_t sharp = text.find('#'), equals = text.find('='), open = text.find('('),
                          close = text.rfind(')');
        if (sharp == std::string_view::npos || equals == std::string_view::npos ||
            open == std::string_view::npos || close == std::string_view::npos || open < equals ||
            close < open)
            continue;
        std::string_view entity = text.substr(equals + 1, open - equals - 1);
        while (!entity.empty() && entity.front() <= ' ')
            entity.remove_prefix(1);
        while (!entity.empty() && entity.back() <= ' ')
            entity.remove_suffix(1);
        found[std::atoi(line.c_str() + sharp + 1)] = {entity, text.substr(open + 1, close - open - 1)};
    }
    return found;
}

// The numbers behind # that stand in no text.
std::vector<int> named_in(std::string_view attributes) {
    std::vector<int> numbers;
    bool quoted = false;
    for (std::size_t at = 0; at < attributes.size(); ++at) {
        if (attributes[at] == '\'') quoted = !quoted;
        if (attributes[at] == '#' && !quoted) numbers.push_back(std::atoi(attributes.data() + at + 1));
    }
    return numbers;
}

// Between the outermost commas.
std::vector<std::string> each_of(std::string_view attributes) {
    std::vector<std::string> found(1);
    int depth = 0;
    for (const char sign : attributes) {
        depth += (sign == '(') - (sign == ')');
        if (sign == ',' && depth == 0)
            found.emplace_back();
        else
            found.back() += sign;
    }
    return found;
}
std::string joined(const std::vector<std::string>& all, std::size_t from, std::size_t to) {
    std::string text;
    for (std::size_t at = from; at < to; ++at)
        text += (at > from ? "," : "") + all[at];
    return text;
}

// What has the same attributes behind a name.
struct Same {
    std::string_view ifc, step;
};
constexpr std::array plain = {Same{"IFCCARTESIANPOINT", "CARTESIAN_POINT"},
                              Same{"IFCDIRECTION", "DIRECTION"},
                              Same{"IFCAXIS2PLACEMENT3D", "AXIS2_PLACEMENT_3D"},
                              Same{"IFCPLANE", "PLANE"},
                              Same{"IFCPOLYLINE", "POLYLINE"},
                              Same{"IFCVERTEXPOINT", "VERTEX_POINT"},
                              Same{"IFCEDGECURVE", "EDGE_CURVE"},
                              Same{"IFCORIENTEDEDGE", "ORIENTED_EDGE"},
                              Same{"IFCEDGELOOP", "EDGE_LOOP"},
                              Same{"IFCFACEOUTERBOUND", "FACE_OUTER_BOUND"},
                              Same{"IFCFACEBOUND", "FACE_BOUND"},
                              Same{"IFCADVANCEDFACE", "ADVANCED_FACE"},
                              Same{"IFCCLOSEDSHELL", "CLOSED_SHELL"},
                              Same{"IFCOPENSHELL", "OPEN_SHELL"},
                              Same{"IFCADVANCEDBREP", "MANIFOLD_SOLID_BREP"},
                              Same{"IFCSHELLBASEDSURFACEMODEL", "SHELL_BASED_SURFACE_MODEL"},
                              Same{"IFCBSPLINECURVEWITHKNOTS", "B_SPLINE_CURVE_WITH_KNOTS"},
                              Same{"IFCBSPLINESURFACEWITHKNOTS", "B_SPLINE_SURFACE_WITH_KNOTS"}};

// Empty where there is no such entity.
std::string translated(const Instance& instance) {
    const auto same = std::ranges::find(plain, instance.entity, &Same::ifc);
    if (same != plain.end()) return std::string(same->step) + "(''," + std::string(instance.attributes) + ')';
    const std::vector<std::string> told = each_of(instance.attributes);
    if (instance.entity == "IFCRATIONALBSPLINECURVEWITHKNOTS" && told.size() == 9)
        return "(BOUNDED_CURVE()B_SPLINE_CURVE(" + joined(told, 0, 5) + ")B_SPLINE_CURVE_WITH_KNOTS(" +
               joined(told, 5, 8) + ")CURVE()GEOMETRIC_REPRESENTATION_ITEM()RATIONAL_B_SPLINE_CURVE(" +
               told[8] + ")REPRESENTATION_ITEM(''))";
    if (instance.entity == "IFCRATIONALBSPLINESURFACEWITHKNOTS" && told.size() == 13)
        return "(BOUNDED_SURFACE()B_SPLINE_SURFACE(" + joined(told, 0, 7) + ")B_SPLINE_SURFACE_WITH_KNOTS(" +
               joined(told, 7, 12) + ")GEOMETRIC_REPRESENTATION_ITEM()RATIONAL_B_SPLINE_SURFACE(" + told[12] +
               ")REPRESENTATION_ITEM('')SURFACE())";
    return {};
}

class StepText {
public:
    StepText(const Instances& instances, double metres_per_unit)
        : instances_(instances), next_(instances.empty() ? 1 : instances.rbegin()->first + 1) {
        application_ = add("APPLICATION_CONTEXT('mechanical design')");
        add("APPLICATION_PROTOCOL_DEFINITION('international standard','automotive_design',2000," +
            application_ + ')');
        product_context_ = add("PRODUCT_CONTEXT(''," + application_ + ",'mechanical')");
        const std::string metre = add("(LENGTH_UNIT()NAMED_UNIT(*)SI_UNIT($,.METRE.))");
        const std::string angle = add("(NAMED_UNIT(*)PLANE_ANGLE_UNIT()SI_UNIT($,.RADIAN.))");
        const std::string solid = add("(NAMED_UNIT(*)SI_UNIT($,.STERADIAN.)SOLID_ANGLE_UNIT())");
        const std::string within =
            add("UNCERTAINTY_MEASURE_WITH_UNIT(LENGTH_MEASURE(" + step_number(1e-6 / metres_per_unit) + ")," +
                metre + ",'distance_accuracy_value','')");
        context_ = add("(GEOMETRIC_REPRESENTATION_CONTEXT(3)GLOBAL_UNCERTAINTY_ASSIGNED_CONTEXT((" + within +
                       "))GLOBAL_UNIT_ASSIGNED_CONTEXT((" + metre + ',' + angle + ',' + solid +
                       "))REPRESENTATION_CONTEXT('',''))");
    }
    void add_part(const std::string& name, const std::set<int>& items) {
        std::string shapes;
        for (const int item : items) {
            add_instance(item);
            shapes += (shapes.empty() ? "#" : ",#") + std::to_string(item);
        }
        const std::string quoted = '\'' + name + '\'';
        const std::string product =
            add("PRODUCT(" + quoted + ',' + quoted + ",'',(" + product_context_ + "))");
        const std::string formation = add("PRODUCT_DEFINITION_FORMATION('',''," + product + ')');
        const std::string stage =
            add("PRODUCT_DEFINITION_CONTEXT('part definition'," + application_ + ",'design')");
        const std::string definition = add("PRODUCT_DEFINITION('design',''," + formation + ',' + stage + ')');
        const std::string shape = add("PRODUCT_DEFINITION_SHAPE('',''," + definition + ')');
        const std::string representation =
            add("SHAPE_REPRESENTATION(" + quoted + ",(" + shapes + ")," + context_ + ')');
        add("SHAPE_DEFINITION_REPRESENTATION(" + shape + ',' + representation + ')');
    }
    std::string text() const {
        return "ISO-10303-21;\nHEADER;\nFILE_DESCRIPTION((''),'2;1');\n"
               "FILE_NAME('','2000-01-01T00:00:00',(''),(''),'','','');\n"
               "FILE_SCHEMA(('AUTOMOTIVE_DESIGN { 1 0 10303 214 1 1 1 1 }'));\nENDSEC;\nDATA;\n" +
               lines_ + "ENDSEC;\nEND-ISO-10303-21;\n";
    }

private:
    static std::string step_number(double value) {
        std::string text = exact_text(value);
        const std::size_t exponent = text.find('e');
        if (exponent != std::string::npos) text[exponent] = 'E';
        if (text.find('.') == std::string::npos) text.insert(std::min(exponent, text.size()), ".");
        return text;
    }
    // Returns how others name it.
    std::string add(const std::string& entity) {
        std::string name = '#' + std::to_string(next_++);
        lines_ += name + '=' + entity + ";\n";
        return name;
    }
    void add_instance(int root) {
        std::vector<int> open{root};
        while (!open.empty()) {
            const int number = open.back();
            open.pop_back();
            const auto found = instances_.find(number);
            if (found == instances_.end() || !added_.insert(number).second) continue;
            const std::string entity = translated(found->second);
            if (entity.empty()) continue;
            lines_ += '#' + std::to_string(number) + '=' + entity + ";\n";
            for (const int named : named_in(found->second.attributes))
                open.push_back(named);
        }
    }

    const Instances& instances_;
    std::set<int> added_;
    int next_;
    std::string application_, product_context_, context_, lines_;
};

}  // namespace

std::string curved_text(const std::vector<std::string>& lines,
                        const std::map<std::string, std::set<int>>& items, double metres_per_unit) {
    if (items.empty()) return {};
    const Instances instances = instances_in(lines);
    StepText step(instances, metres_per_unit);
    for (const auto& [name, numbers] : items)
        step.add_part(name, numbers);
    return step.text();
}

}  // namespace plume
