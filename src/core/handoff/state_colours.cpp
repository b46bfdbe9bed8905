#include "core/handoff/state_colours.hpp"

#include <numbers>

#include "core/picture/own_colours.hpp"

namespace plume {
namespace {

// Teal for what is new, persimmon for what has changed, grey for what is as before, rose for what is gone.
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

// Corners by bits: 1 at the far end of x, 2 of y, 4 of z.
void add_box(Drawable& drawable, const Box& box) {
    const auto first = static_cast<std::uint32_t>(drawable.vertices.size());
    const auto number = [](double value) { return static_cast<float>(value); };
    for (std::uint32_t corner = 0; corner < 8; ++corner) {
        const Vec3 place =
            Vec3{(corner & 1U) != 0 ? box.high.x : box.low.x, (corner & 2U) != 0 ? box.high.y : box.low.y,
                 (corner & 4U) != 0 ? box.high.z : box.low.z} -
            drawable.origin;
        drawable.vertices.push_back(
            {number(place.x), number(place.y), number(place.z), 0, 0, 1, own_colour_coordinate(gone_colour)});
        for (const std::uint32_t along : {1U, 2U, 4U})
            if ((corner & along) == 0)
                for (const std::uint32_t end : {corner, corner | along})
                    drawable.edges.push_back(first + end);
    }
}

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

std::shared_ptr<const Drawable> drawn_gone(std::span<const PartChange> changes) {
    auto drawable = std::make_shared<Drawable>();
    const auto is_placed = [](const PartChange& change) {
        return change.state == PartState::gone && !change.was->where.empty();
    };
    for (const PartChange& change : changes)
        if (is_placed(change)) drawable->bounds.include(change.was->where);
    if (drawable->bounds.empty()) return nullptr;
    drawable->origin = drawable->bounds.centre();
    drawable->lines_are = LineRole::lines;
    // More can neither be told apart nor drawn in time.
    std::size_t left = 20'000;
    for (const PartChange& change : changes)
        if (is_placed(change) && left-- > 0) add_box(*drawable, change.was->where);
    return drawable;
}

}  // namespace plume
