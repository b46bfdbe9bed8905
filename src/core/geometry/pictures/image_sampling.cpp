#include "core/geometry/pictures/image_sampling.hpp"

#include <algorithm>
#include <array>
#include <cmath>
#include <cstring>

#include "core/base/parallel.hpp"

namespace plume {
namespace {

// 0.2126, 0.7152, 0.0722: ITU-R BT.709, item 3.2.
double channel_of(const Raster& raster, std::size_t x, std::size_t y, Channel channel) {
    const bool coloured = raster.channels >= 3;
    const auto at = [&](std::size_t number) { return static_cast<double>(raster.at(x, y, number)); };
    switch (channel) {
        case Channel::brightness:
            return coloured ? 0.2126 * at(0) + 0.7152 * at(1) + 0.0722 * at(2) : at(0);
        case Channel::red:
            return at(0);
        case Channel::green:
            return coloured ? at(1) : at(0);
        case Channel::blue:
            return coloured ? at(2) : at(0);
        case Channel::alpha:
            return raster.channels == 4 ? at(3) : (raster.channels == 2 ? at(1) : 1);
    }
    return 0;
}

std::vector<double> bell(double deviation) {
    const auto reach = static_cast<std::ptrdiff_t>(std::ceil(3 * deviation));
    std::vector<double> weights;
    double sum = 0;
    for (std::ptrdiff_t at = -reach; at <= reach; ++at) {
        weights.push_back(std::exp(-0.5 * std::pow(static_cast<double>(at) / deviation, 2)));
        sum += weights.back();
    }
    for (double& weight : weights)
        weight /= sum;
    return weights;
}

// Along rows or along columns; edges go on as they are.
bool blur_along(Raster& raster, bool rows, const std::vector<double>& weights, const Run& run) {
    const auto reach = static_cast<std::ptrdiff_t>(weights.size() / 2);
    const std::size_t lines = rows ? raster.height : raster.width,
                      length = rows ? raster.width : raster.height;
    const std::size_t step = rows ? 1 : raster.width, next_line = rows ? raster.width : 1;
    return parallel_blocks(lines, 16, run, [&](std::size_t begin, std::size_t end) {
        std::vector<float> line(length);
        for (std::size_t number = begin; number < end; ++number) {
            float* const start = raster.values.data() + number * next_line;
            for (std::size_t at = 0; at < length; ++at)
                line[at] = start[at * step];
            for (std::size_t at = 0; at < length; ++at) {
                double sum = 0;
                for (std::ptrdiff_t by = -reach; by <= reach; ++by) {
                    const auto from = std::clamp<std::ptrdiff_t>(static_cast<std::ptrdiff_t>(at) + by, 0,
                                                                 static_cast<std::ptrdiff_t>(length) - 1);
                    sum += weights[static_cast<std::size_t>(by + reach)] *
                           static_cast<double>(line[static_cast<std::size_t>(from)]);
                }
                start[at * step] = static_cast<float>(sum);
            }
        }
    });
}

// Four taps side by side.
using Four = float __attribute__((vector_size(16)));

// Keys' kernel with a = -1/2 at the distances 1 + s, s, 1 - s, 2 - s, as one polynomial over four lanes.
inline Four keys_weights(float s) {
    constexpr Four third{-0.5F, 1.5F, -1.5F, 0.5F}, second{1, -2.5F, 2, -0.5F}, first{-0.5F, 0, 0.5F, 0},
        none{0, 1, 0, 0};
    return ((third * s + second) * s + first) * s + none;
}

// Whole numbers below; a few instructions where the C library's floor is a call.
inline std::ptrdiff_t whole_below(double x) {
    const auto cut = static_cast<std::ptrdiff_t>(x);
    return cut - (static_cast<double>(cut) > x ? 1 : 0);
}

}  // namespace

Result<Raster> prepared(const Raster& raster, const ImagePlan& plan, const Run& run) {
    const auto first = [](double share, std::size_t count) {
        return static_cast<std::size_t>(
            std::clamp(std::round(share * static_cast<double>(count)), 0.0, static_cast<double>(count)));
    };
    const std::size_t x0 = first(plan.left, raster.width), x1 = first(plan.right, raster.width);
    const std::size_t y0 = first(1 - plan.top, raster.height), y1 = first(1 - plan.bottom, raster.height);
    if (x0 >= x1 || y0 >= y1)
        return Error{ErrorCode::out_of_range, "", "The part of the picture that is used has no pixel in it",
                     "Let its left stand left of its right, and its bottom below its top."};
    Raster part;
    part.width = x1 - x0;
    part.height = y1 - y0;
    part.values.resize(part.width * part.height);
    bool finished = parallel_blocks(part.height, 64, run, [&](std::size_t begin, std::size_t end) {
        for (std::size_t y = begin; y < end; ++y)
            for (std::size_t x = 0; x < part.width; ++x)
                part.values[x + part.width * y] =
                    static_cast<float>(channel_of(raster, x + x0, y + y0, plan.channel));
    });
    if (finished && plan.blur > 0) {
        const std::vector<double> weights = bell(plan.blur);
        finished = blur_along(part, true, weights, run) && blur_along(part, false, weights, run);
    }
    if (!finished) return cancelled_error();
    const auto contrast = static_cast<float>(plan.contrast);
    if (contrast != 1 || plan.invert)
        for (float& value : part.values) {
            value = 0.5F + (value - 0.5F) * contrast;
            if (plan.invert) value = 1 - value;
        }
    return part;
}

std::size_t ImageSampler::wrapped(std::ptrdiff_t number, std::size_t count) const {
    const auto n = static_cast<std::ptrdiff_t>(count);
    if (number >= 0 && number < n) return static_cast<std::size_t>(number);
    if (beyond_ == Beyond::edge)
        return static_cast<std::size_t>(std::clamp<std::ptrdiff_t>(number, 0, n - 1));
    const std::ptrdiff_t period = beyond_ == Beyond::tile ? n : 2 * n;
    std::ptrdiff_t rest = number % period;
    if (rest < 0) rest += period;
    return static_cast<std::size_t>(rest < n ? rest : period - 1 - rest);
}

double ImageSampler::linear(double x, double y) const {
    const std::ptrdiff_t i = whole_below(x), j = whole_below(y);
    const double s = x - static_cast<double>(i), t = y - static_cast<double>(j);
    const auto at = [&](std::ptrdiff_t a, std::ptrdiff_t b) { return static_cast<double>(pixel(a, b)); };
    return std::lerp(std::lerp(at(i, j), at(i + 1, j), s), std::lerp(at(i, j + 1), at(i + 1, j + 1), s), t);
}

// A picture large enough, away from its edges: four rows of four taps, read as they lie.
inline double ImageSampler::cubic(double x, double y) const {
    const std::ptrdiff_t x0 = whole_below(x), y0 = whole_below(y), i = x0 - 1, j = y0 - 1;
    const bool inside = i >= 0 && j >= 0 && i + 3 < static_cast<std::ptrdiff_t>(raster_.width) &&
                        j + 3 < static_cast<std::ptrdiff_t>(raster_.height);
    if (!inside) return cubic_at_edge(x, y);
    const auto width = static_cast<std::ptrdiff_t>(raster_.width);
    const float* const at = raster_.values.data() + i + width * j;
    const auto row = [at, width](std::ptrdiff_t number) {
        Four taps;
        std::memcpy(&taps, at + width * number, sizeof taps);
        return taps;
    };
    const Four up = keys_weights(static_cast<float>(y - static_cast<double>(y0)));
    const Four across = keys_weights(static_cast<float>(x - static_cast<double>(x0)));
    const Four sum = ((row(0) * up[0] + row(1) * up[1]) + (row(2) * up[2] + row(3) * up[3])) * across;
    return static_cast<double>((sum[0] + sum[2]) + (sum[1] + sum[3]));
}

double ImageSampler::cubic_at_edge(double x, double y) const {
    const std::ptrdiff_t x0 = whole_below(x), y0 = whole_below(y);
    const Four across = keys_weights(static_cast<float>(x - static_cast<double>(x0)));
    const Four up = keys_weights(static_cast<float>(y - static_cast<double>(y0)));
    float sum = 0;
    for (int b = 0; b < 4; ++b)
        for (int a = 0; a < 4; ++a)
            sum += across[a] * up[b] * pixel(x0 - 1 + a, y0 - 1 + b);
    return static_cast<double>(sum);
}

template <class One>
void ImageSampler::sample_each(const double* u, const double* v, std::size_t count, double* out,
                               One one) const {
    const auto width = static_cast<double>(raster_.width), height = static_cast<double>(raster_.height);
    // Far outside and not a number: kept where whole numbers can count pixels.
    constexpr double furthest = 1e12;
    for (std::size_t index = 0; index < count; ++index) {
        const double x = u[index] * width - 0.5, y = (1 - v[index]) * height - 0.5;
        const bool near = std::abs(x) < furthest && std::abs(y) < furthest;
        out[index] = near ? one(x, y) : std::nan("");
    }
}

void ImageSampler::sample(const double* u, const double* v, std::size_t count, double* out) const {
    switch (filter_) {
        case Filter::nearest:
            return sample_each(u, v, count, out, [this](double x, double y) {
                return static_cast<double>(pixel(whole_below(x + 0.5), whole_below(y + 0.5)));
            });
        case Filter::linear:
            return sample_each(u, v, count, out, [this](double x, double y) { return linear(x, y); });
        case Filter::cubic:
            return sample_each(u, v, count, out, [this](double x, double y) { return cubic(x, y); });
    }
}

double ImageSampler::operator()(double u, double v) const {
    double value = 0;
    sample(&u, &v, 1, &value);
    return value;
}

}  // namespace plume
