#include "core/formula/expression.hpp"
#include "core/formula/functions.hpp"
#include "core/formula/syntax.hpp"
#include "core/study/edits/edits.hpp"
#include "core/study/edits/expression_texts.hpp"
#include "core/study/study_scope.hpp"

namespace plume {
namespace {

class UnitChange {
public:
    UnitChange(const Study& study, Units to, const NumbersByName& numbers)
        : from_(study.units), to_(to), scope_(scope_of(study)) {
        scope_.find = [controls = scope_.find, &numbers](std::string_view name) -> std::optional<Quantity> {
            const auto number = numbers.find(name);
            return number == numbers.end() ? controls(name) : number->second;
        };
    }

    // A number or expression of a slot that comes to the same in the new units.
    std::string converted(const std::string& text, Dimension dimension) const {
        const auto literal = read_literal(text);
        if (!literal) return as_quantity(with_angles_named(text), text, dimension);
        const double factor =
            internal_per_plain(dimension, from_, from_) / internal_per_plain(dimension, to_, from_);
        if (!literal->unit.empty() || factor == 1) return text;
        return literal_text({literal->number * factor, ""}, 12);
    }

private:
    std::string unit_of(Dimension dimension) const {
        return dimension == a_length              ? " " + std::string(symbol(from_.length))
               : from_.angle == AngleUnit::degree ? "°"
                                                  : " rad";
    }

    // An expression may come to a plain number or to a length; multiplying by one old unit suits only the
    // first.
    std::string as_quantity(const std::string& text, const std::string& old, Dimension dimension) const {
        const bool other = dimension == a_length   ? from_.length != to_.length
                           : dimension == an_angle ? from_.angle != to_.angle
                                                   : false;
        if (!other) return text;
        const auto value = evaluate(old, scope_);
        if (!value || value->dimension != plain_number) return text;
        return "(" + text + ") * 1" + unit_of(dimension);
    }

    // Plain numbers in sin( ) and the like, with the angle unit they count.
    std::string with_angles_named(const std::string& text) const {
        const auto syntax = parse_expression(text);
        if (from_.angle == to_.angle || !syntax) return text;
        std::map<std::size_t, std::string> insertions;  // by place in the text
        for (const SyntaxNode& node : syntax->tree.nodes()) {
            const FunctionSpec* function = node.type == SyntaxType::call ? find_function(node.text) : nullptr;
            if (!function || function->rule != UnitRule::angle_to_number) continue;
            const std::size_t begin = text.find('(', node.begin) + 1, end = node.end - 1;
            const std::string argument = text.substr(begin, end - begin);
            const auto value = evaluate(argument, scope_);
            if (!value || value->dimension != plain_number) continue;
            const bool bare = read_literal(argument).has_value();
            insertions[begin] = (bare ? "" : "(") + insertions[begin];
            insertions[end] += (bare ? "" : ") * 1") + unit_of(an_angle);
        }
        std::string named = text;
        // From the last one on, so that places before it stay.
        for (auto at = insertions.end(); at != insertions.begin();) {
            --at;
            named.insert(at->first, at->second);
        }
        return named;
    }

    Units from_, to_;
    Scope scope_;
};

}  // namespace

StudyPointer with_units(const Study& study, const Catalogue& catalogue, Units units,
                        const NumbersByName& numbers) {
    const UnitChange change(study, units, numbers);
    auto result = std::make_shared<Study>(study);
    result->units = units;
    change_slots(*result, &catalogue, [&](const SlotSpec* slot, SlotValue& value) {
        change_numbers(value, slot, [&](const std::string& text, Dimension dimension) {
            return change.converted(text, dimension);
        });
    });
    const double lengths = metres_per(study.units.length) / metres_per(units.length);
    const auto scale = [&](Camera& camera) {
        camera.target = camera.target * lengths;
        camera.distance *= lengths;
    };
    for (KeptCamera& kept : result->cameras) {
        scale(kept.camera);
        for (CameraKey& key : kept.keys)
            scale(key.camera);
    }
    for (Item& item : result->items) {
        const Step* step = step_of(item);
        const StepKind* kind = step ? catalogue.find(*step) : nullptr;
        if (!kind || !reads_plain_numbers(*kind)) continue;
        const Units written = step->text_units.value_or(study.units);
        Step changed = *step;
        changed.text_units = written == units ? std::nullopt : std::optional(written);
        item = std::make_shared<const Step>(std::move(changed));
    }
    return result;
}

}  // namespace plume
