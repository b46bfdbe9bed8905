#pragma once
// Curves as they come from a drawing, with the layers they stand on and a tally of what is no curve.

#include <map>
#include <string>
#include <unordered_map>

#include "core/readers/curve_file.hpp"

namespace plume {

class CurveDraft {
public:
    // That drawings may place: those of blocks within blocks could be any number.
    static constexpr std::size_t most_curves = 4'000'000;

    void add(SplineCurve curve, const std::string& layer);
    // Something that is no curve, under the name the format has for it.
    void leave_out(const std::string& what) { ++left_out_[what]; }
    void lose(std::string sentence) { losses_.push_back(std::move(sentence)); }

    // Error: empty_input without a curve.
    Result<CurveFile> finish() &&;

private:
    std::vector<SplineCurve> curves_;
    std::vector<std::uint32_t> layer_of_;
    std::vector<std::string> layers_, losses_;
    std::unordered_map<std::string, std::uint32_t> numbers_;
    std::map<std::string, std::size_t> left_out_;
};

}  // namespace plume
