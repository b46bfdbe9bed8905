#include "core/handoff/state_colours.hpp"

#include <numbers>

namespace plume {
namespace {

// Teal for what is new, persimmon for what has changed, grey for what is as before.
struct StateColour {
    double hue_rad, saturation, brightness;
};
StateColour colour_of(PartState state) {
    constexpr double degree = std::numbers::pi / 180;
    if (state == PartState::fresh) return {175 * degree, 0.7, 0.62};
    if (state == PartState::changed) return {21 * degree, 0.75, 0.87};
    return {40 * degree, 0.04, 0.78};
}

// One entry a part or corner, all three numbers of a colour.
std::vector<Field> colour_fields(std::size_t count, const std::function<PartState(std::size_t)>& state_of) {
    Doubles hue(count), saturation(count), brightness(count);
    for (std::size_t at = 0; at < count; ++at) {
        const StateColour colour = colour_of(state_of(at));
        hue[at] = colour.hue_rad;
        saturation[at] = colour.saturation;
        brightness[at] = colour.brightness;
    }
    return {{"hue", std::move(hue), an_angle},
            {"saturation", std::move(saturation), plain_number},
            {"brightness", std::move(brightness), plain_number}};
}

class Colouring {
public:
    // The states of the result's parts, in its order.
    explicit Colouring(std::vector<PartState> states) : states_(std::move(states)) {}

    Result<Value> operator()(const Mesh& mesh) const {
        Mesh::Parts parts = mesh.parts();
        parts.fields.clear();
        parts.face_fields = colour_fields(mesh.face_count(), [&](std::size_t face) {
            return state(mesh.part_count() == 1 ? 0 : mesh.part_of(face));
        });
        return as_value(Mesh::make(std::move(parts)));
    }
    Result<Value> operator()(const SurfaceSet& set) const {
        SurfaceSet coloured;
        for (std::size_t at = 0; at < set.patches.size(); ++at) {
            Result<SplinePatch> patch = recoloured(set.patches[at], at);
            if (!patch) return patch.error();
            coloured.patches.push_back(*std::move(patch));
        }
        return Value(std::move(coloured));
    }
    Result<Value> operator()(const CurveSet& set) const {
        CurveSet coloured;
        for (std::size_t at = 0; at < set.curves.size(); ++at) {
            const SplineCurve& curve = set.curves[at];
            Result<SplineCurve> made =
                SplineCurve::make({curve.basis(), curve.x(), curve.y(), curve.z(), curve.weights(),
                                   colour_fields(curve.x().size(), [&](std::size_t) { return state(at); })});
            if (!made) return made.error();
            coloured.curves.push_back(*std::move(made));
        }
        return Value(std::move(coloured));
    }
    Result<Value> operator()(const SolidSet& set) const {
        return Value(SolidSet{set.bodies,
                              colour_fields(set.bodies.size(), [&](std::size_t at) { return state(at); }),
                              set.marks});
    }
    Result<Value> operator()(const BarFrame& frame) const {
        BarFrame coloured = frame;
        for (Field& field : colour_fields(frame.member_count(), [&](std::size_t at) { return state(at); }))
            coloured = coloured.with_field(std::move(field));
        return Value(std::move(coloured));
    }
    template <class Other>
    Result<Value> operator()(const Other& other) const {
        return Value(other);
    }

private:
    PartState state(std::size_t part) const {
        return part < states_.size() ? states_[part] : PartState::as_before;
    }
    Result<SplinePatch> recoloured(const SplinePatch& patch, std::size_t at) const {
        SplinePatch::Parts parts = patch.parts();
        parts.fields = colour_fields(patch.x().size(), [&](std::size_t) { return state(at); });
        return SplinePatch::make(std::move(parts));
    }

    std::vector<PartState> states_;
};

// Marks are the result's name, alone or before the part's.
bool is_of(const std::string& mark, const std::string& result) {
    return mark.starts_with(result) && (mark.size() == result.size() || mark[result.size()] == ' ');
}

}  // namespace

Result<Value> coloured_by_state(const GivenResult& given, std::span<const PartChange> changes) {
    std::vector<PartState> states;
    for (const PartChange& change : changes)
        if (change.is && is_of(change.is->mark, given.name)) states.push_back(change.state);
    return std::visit(Colouring(std::move(states)), *given.value);
}

}  // namespace plume
