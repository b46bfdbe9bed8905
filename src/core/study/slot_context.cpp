#include "core/study/slot_context.hpp"

namespace plume {

Result<CheckedFormula> check_at(const ResolvedFormula& formula, const FormulaSite& site) {
    auto checked = check_formula(formula.text, {formula.scope, site.inputs, formula.muted,
                                                UnitStrictness::formula, site.point_number});
    if (checked || checked.error().code != ErrorCode::name_clash) return checked;
    // `z = …` where the old z is read and the new one is called otherwise.
    Error error = checked.error();
    const std::string name = formula.text.substr(error.begin, error.end - error.begin);
    for (const FormulaResult& result : site.results)
        if (result.name == "to_" + name)
            error.mend = "Here it is the old one; the new one is " + result.name + " = ….";
    return error;
}

}  // namespace plume
