#include <cmath>

#include "core/base/parallel.hpp"
#include "core/geometry/pictures/image_sampling.hpp"
#include "core/steps/numbers/response_words.hpp"

namespace plume {
namespace {

Channel channel_of(const std::string& word) {
    static const std::map<std::string, Channel> channels{{"brightness", Channel::brightness},
                                                         {"red", Channel::red},
                                                         {"green", Channel::green},
                                                         {"blue", Channel::blue},
                                                         {"alpha", Channel::alpha}};
    return channels.at(word);
}

ImagePlan plan_of(const Inputs& in) {
    ImagePlan plan;
    plan.channel = channel_of(in.word("channel"));
    plan.invert = in.word("tone") == "negative";
    plan.blur = in.number("blur");
    plan.contrast = in.number("contrast");
    if (in.word("crop") == "part") {
        plan.left = in.number("left");
        plan.right = in.number("right");
        plan.bottom = in.number("bottom");
        plan.top = in.number("top");
    }
    return plan;
}

// The picture over the points as a rectangle in its own shares: u = a x + b.
struct Laying {
    double u_factor = 1, u_start = 0, v_factor = 1, v_start = 0;
    Beyond beyond = Beyond::edge;
};

// Shares of the whole from 0 to 1 both ways, and how wide the whole is for its height.
struct Spread {
    Doubles u, v;
    double aspect = 1;
};

Spread by_address(const PointLattice& points) {
    Spread spread{Doubles(points.address_count()), Doubles(points.address_count()), 1};
    std::array<double, 2> length{0, 0};
    const auto share = [&](std::size_t number, std::size_t d) {
        const bool closed = points.closed(static_cast<int>(d));
        const std::size_t bays = points.counts()[d] - (closed ? 0 : 1);
        return bays == 0 ? 0.5 : static_cast<double>(number) / static_cast<double>(bays);
    };
    for (std::size_t index = 0; index < spread.u.size(); ++index) {
        const Address at = points.address(index);
        spread.u[index] = share(at.i, 0);
        spread.v[index] = share(at.j, 1);
    }
    // Lengths of the first row and the first column.
    for (std::size_t i = 1; i < points.counts()[0]; ++i)
        length[0] += plume::length(points.point(i) - points.point(i - 1));
    for (std::size_t j = 1; j < points.counts()[1]; ++j)
        length[1] +=
            plume::length(points.point(points.index({0, j, 0})) - points.point(points.index({0, j - 1, 0})));
    spread.aspect = length[0] > 0 && length[1] > 0 ? length[0] / length[1] : 1;
    return spread;
}

Spread by_plan(const PointLattice& points) {
    Spread spread{Doubles(points.address_count()), Doubles(points.address_count()), 1};
    const Box box = points.bounds();
    const double width = box.high.x - box.low.x, depth = box.high.y - box.low.y;
    for (std::size_t index = 0; index < spread.u.size(); ++index) {
        spread.u[index] = width > 0 ? (points.x()[index] - box.low.x) / width : 0.5;
        spread.v[index] = depth > 0 ? (points.y()[index] - box.low.y) / depth : 0.5;
    }
    spread.aspect = width > 0 && depth > 0 ? width / depth : 1;
    return spread;
}

// u over the whole becomes u of the picture, by how the picture's proportions are kept.
Laying laying_of(const Inputs& in, double whole_aspect, double picture_aspect) {
    const std::string& word = in.word("laying");
    Laying laying;
    const auto about_middle = [](double factor) { return 0.5 - factor / 2; };
    if (word == "fit" || word == "fill") {
        // How much wider the whole is than the picture would be at the same height.
        const double wider = whole_aspect / picture_aspect;
        const bool shrink_u = (wider > 1) == (word == "fit");
        if (shrink_u)
            laying.u_factor = wider;
        else
            laying.v_factor = 1 / wider;
        laying.u_start = about_middle(laying.u_factor);
        laying.v_start = about_middle(laying.v_factor);
    } else if (word == "tile" || word == "mirror") {
        laying.beyond = word == "tile" ? Beyond::tile : Beyond::mirror;
        laying.u_factor = in.number("repeats");
        laying.v_factor = in.number("repeats") * picture_aspect / whole_aspect;
    }
    return laying;
}

Filter filter_of(const std::string& word) {
    return word == "nearest" ? Filter::nearest : (word == "linear" ? Filter::linear : Filter::cubic);
}

Result<Doubles> sampled(const Inputs& in, const Run& run) {
    const ResolvedFile& file = in.file("file");
    const Result<RasterPointer> picture = file.store->image(file.name, run);
    if (!picture) return picture.error();
    const Result<Raster> raster = prepared(**picture, plan_of(in), run);
    if (!raster) return about_slot(raster.error(), "left");
    const PointLattice& points = in.lattice("points");
    Spread spread = in.word("over") == "plan" ? by_plan(points) : by_address(points);
    const Laying laying = laying_of(in, spread.aspect,
                                    static_cast<double>(raster->width) / static_cast<double>(raster->height));
    const ImageSampler sampler(*raster, filter_of(in.word("filter")), laying.beyond);
    Doubles values(points.address_count());
    const bool finished =
        parallel_blocks(values.size(), usual_block, run, [&](std::size_t begin, std::size_t end) {
            for (std::size_t index = begin; index < end; ++index) {
                spread.u[index] = spread.u[index] * laying.u_factor + laying.u_start;
                spread.v[index] = spread.v[index] * laying.v_factor + laying.v_start;
            }
            sampler.sample(spread.u.data() + begin, spread.v.data() + begin, end - begin,
                           values.data() + begin);
        });
    if (!finished) return cancelled_error();
    return values;
}

Estimate estimate(const Inputs& in) {
    const ResolvedFile& file = in.file("file");
    const auto facts = file.store->image_facts(file.name);
    const auto points = static_cast<double>(in.lattice("points").address_count());
    const double pixels =
        facts ? static_cast<double>((*facts)->width) * static_cast<double>((*facts)->height) : 0;
    const double blur = in.number("blur");
    return {(facts ? (*facts)->bytes() : 0) + pixels * sizeof(float) + points * 3 * sizeof(double),
            pixels * (2e-8 + 6 * blur * 2e-9) + points * 3e-8};
}

Result<Value> make(const Inputs& in, const Run& run) {
    const Result<Shaping> shaping = shaping_in(in);
    if (!shaping) return shaping.error();
    Result<Doubles> values = sampled(in, run);
    if (!values) return values.error();
    Column column(*std::move(values));
    if (shaping->response != Response::straight) {
        Result<Column> shaped = answered(column, *shaping, {0, 1}, run);
        if (!shaped) return shaped.error();
        column = *std::move(shaped);
    }
    Field field{in.result_name(), column, plain_number};
    return Value(FieldOnPoints{in.lattice("points").with_field(std::move(field)), in.result_name()});
}

Result<ResponseNumbers> through_response(const Inputs& in, const Run& run) {
    const Result<Shaping> shaping = shaping_in(in);
    if (!shaping) return shaping.error();
    Result<Doubles> values = sampled(in, run);
    if (!values) return values.error();
    return flow_of(present_numbers(in.lattice("points"), *std::move(values)), *shaping);
}

PictureArea area_of(const Inputs& in) {
    const ImagePlan plan = plan_of(in);
    return {plan.left, plan.right, plan.bottom, plan.top};
}

SlotSpec share_slot(const char* key, const char* label, const char* preset) {
    SlotSpec spec = number_slot(key, label, preset);
    spec.least = 0;
    spec.most = 1;
    return spec;
}

}  // namespace

StepKind read_image() {
    SlotSpec blur = number_slot("blur", "Blur", "0");
    blur.least = 0;
    blur.most = 1000;
    SlotSpec repeats = number_slot("repeats", "Repeats", "3");
    repeats.least = 0;
    repeats.above_least = true;
    return {
        .key = "field.image",
        .verb = "Read numbers from a picture",
        .synonyms = "image photo brightness bitmap png jpeg tiff sample heightmap relief grey",
        .sentence =
            "Read the {channel} of the picture {file} over {points} by {over}, {laying}[laying=tile,mirror| "
            "{repeats} times across][more|, {filter}][more|, blurred by {blur} pixels][more|, contrast "
            "{contrast}][more|, {tone}][more|, {crop}][crop=part| {left} … {right} across and {bottom} … "
            "{top} up], answering {response}" +
            waves_text() + ".",
        .slots = with_wave_slots(
            {choice_slot("channel", "Channel",
                         {{"brightness", "brightness", "luma of red, green and blue"},
                          {"red", "red", ""},
                          {"green", "green", ""},
                          {"blue", "blue", ""},
                          {"alpha", "opacity", ""}}),
             file_slot("file", "Picture", {"Pictures", {"png", "jpg", "jpeg", "tif", "tiff"}}),
             reference_slot("points", "Points", {Kind::points, Kind::field}),
             choice_slot("over", "Over",
                         {{"rows", "rows and columns", "i across the picture, j up"},
                          {"plan", "plan", "the extents of the points in x and y"}}),
             choice_slot("laying", "Laying",
                         {{"stretch", "stretched", "from edge to edge both ways"},
                          {"fit", "fitted", "whole, its proportions kept; its edges go on"},
                          {"fill", "filling", "its proportions kept; what sticks out is not used"},
                          {"tile", "tiled", "again and again"},
                          {"mirror", "mirrored", "again and again, every other one turned round"}}),
             repeats,
             choice_slot("filter", "Filter",
                         {{"cubic", "cubic", "smooth between pixels"},
                          {"linear", "linear", "straight between pixels"},
                          {"nearest", "nearest", "the pixel itself"}}),
             blur, number_slot("contrast", "Contrast", "1"),
             choice_slot("tone", "Tone",
                         {{"positive", "as it is", ""}, {"negative", "inverted", "light is low"}}),
             choice_slot("crop", "Part",
                         {{"whole", "the whole of it", ""},
                          {"part", "the part", "in shares of its width and height"}}),
             share_slot("left", "Left", "0"), share_slot("right", "Right", "1"),
             share_slot("bottom", "Bottom", "0"), share_slot("top", "Top", "1"), share_response_slot()}),
        .results = {Kind::field},
        .result_name = "picture",
        .help =
            "A number on each point from a picture: PNG, JPEG or TIFF of 8, 16 bits or floats, black being 0 "
            "and white "
            "1. A file that changes on the disk is noticed, and read again when you say so.",
        .bears_name = true,
        .estimate = estimate,
        .make = make,
        .contexts = {{"response", context(through_response)}, {"file", context(area_of)}},
    };
}

}  // namespace plume
