#include "core/readers/curve_draft.hpp"

#include "core/base/numbers.hpp"
#include "core/base/text.hpp"

namespace plume {

void CurveDraft::add(SplineCurve curve, const std::string& layer) {
    const auto [at, added] = numbers_.try_emplace(layer, static_cast<std::uint32_t>(layers_.size()));
    if (added) layers_.push_back(layer);
    curves_.push_back(std::move(curve));
    layer_of_.push_back(at->second);
}

Result<CurveFile> CurveDraft::finish() && {
    if (!left_out_.empty()) {
        std::string told;
        for (const auto& [what, count] : left_out_)
            told += (told.empty() ? "" : ", ") + grouped_text(static_cast<std::int64_t>(count)) + " " +
                    shortened(what);
        losses_.push_back("Left out, for they are no curves: " + told + ".");
    }
    if (curves_.empty())
        return Error{ErrorCode::empty_input, "",
                     "has no curve that can be read" + (losses_.empty() ? "" : ". " + losses_.back()),
                     "Choose a drawing with lines, arcs or splines."};
    return CurveFile{std::move(curves_), std::move(layer_of_), std::move(layers_), {}, std::move(losses_)};
}

}  // namespace plume
