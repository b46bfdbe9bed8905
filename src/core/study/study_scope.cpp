#include "core/study/study_scope.hpp"

#include "core/base/numbers.hpp"
#include "core/formula/expression.hpp"
#include "core/study/moving.hpp"

namespace plume {

Scope scope_of(const Study& study, double seconds) {
    Scope scope;
    scope.units = study.units;
    // Shared: a scope is handed on to every step with a formula.
    auto values = std::make_shared<std::map<std::string, Quantity, std::less<>>>();
    for (const ControlPointer& control : study.controls) {
        Scope bare{study.units, {}, {}};
        const double number = value_at(*control, seconds);
        const auto value = evaluate(exact_text(number) + ' ' + control->unit, bare);
        // A control that holds no finite number is left to fail where it is read, with its name.
        values->emplace(control->name, value ? *value : Quantity{number, plain_number});
        scope.known_names.push_back(control->name);
    }
    if (values->emplace(time_name, Quantity{seconds, plain_number}).second)
        scope.known_names.emplace_back(time_name);
    scope.find = [values](std::string_view name) -> std::optional<Quantity> {
        const auto found = values->find(name);
        if (found == values->end()) return {};
        return found->second;
    };
    return scope;
}

Scope scope_with(const Scope& scope, const std::string& name, const Quantity& value) {
    Scope wider = scope;
    wider.known_names.push_back(name);
    wider.find = [outer = scope.find, name, value](std::string_view wanted) -> std::optional<Quantity> {
        if (wanted == name) return value;
        return outer(wanted);
    };
    return wider;
}

}  // namespace plume
