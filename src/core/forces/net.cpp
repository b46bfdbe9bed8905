#include "core/forces/net.hpp"

#include <algorithm>
#include <cmath>

#include "core/base/text.hpp"
#include "core/geometry/frames/unions.hpp"

namespace plume {
namespace {

Error bad(ErrorCode code, std::string message, std::string mend) {
    return {code, "", std::move(message), std::move(mend)};
}

// Parts with links of which nothing is held.
std::size_t loose_parts(const Net& net) {
    Unions parts(net.places.size());
    std::vector<std::uint8_t> linked(net.places.size(), 0), kept(net.places.size(), 0);
    for (const auto& [from, to] : net.links) {
        parts.join(from, to);
        linked[from] = linked[to] = 1;
    }
    const auto count = static_cast<std::uint32_t>(net.places.size());
    for (std::uint32_t place = 0; place < count; ++place)
        if (net.held[place] > 0) kept[parts.of(place)] = 1;
    std::size_t loose = 0;
    for (std::uint32_t place = 0; place < count; ++place)
        if (linked[place] != 0 && parts.of(place) == place && kept[place] == 0) ++loose;
    return loose;
}

}  // namespace

Incidence links_of_places(const Net& net) {
    return incidence(net.places.size(), [&](auto use) {
        for (std::uint32_t link = 0; link < net.links.size(); ++link)
            for (const std::uint32_t end : net.links[link])
                use(end, link);
    });
}

Status check_net(const Net& net) {
    if (net.links.empty())
        return bad(ErrorCode::empty_input, "has nothing that pulls", "Give a net with members.");
    if (!std::ranges::all_of(net.places, [](Vec3 place) { return is_finite(place); }) ||
        !std::ranges::all_of(net.loads, [](Vec3 load) { return is_finite(load); }))
        return bad(ErrorCode::not_finite, "has a place or a load that is not finite",
                   "Mend the step that makes it.");
    if (!std::ranges::all_of(net.held, [](double held) { return held >= 0 && held <= 1; }))
        return bad(ErrorCode::out_of_range, "is held more firmly than 1 somewhere, or less than 0",
                   "Type a firmness from 0, free, to 1, which stays where it is.");
    const std::size_t loose = loose_parts(net);
    if (std::ranges::none_of(net.held, [](double held) { return held > 0; }))
        return bad(ErrorCode::empty_input, "is held nowhere, and would fall",
                   "Hold some of its points first: ‘Hold points’.");
    if (loose > 0)
        return bad(
            ErrorCode::empty_input,
            "has " + count_text(loose, "part that is", "parts that are") + " held nowhere, and would fall",
            "Hold some of its points too, or leave it out.");
    return Done{};
}

double spring_density(double held, double pulling_kn_per_m) {
    return held > 0 && held < 1 ? held / (1 - held) * pulling_kn_per_m : 0;
}

std::vector<Vec3> unbalanced(const Net& net, const std::vector<Vec3>& places,
                             const std::vector<double>& densities_kn_per_m) {
    std::vector<Vec3> left = net.loads.empty() ? std::vector<Vec3>(places.size()) : net.loads;
    std::vector<double> pulling(places.size(), 0);
    for (std::size_t link = 0; link < net.links.size(); ++link) {
        const auto [from, to] = net.links[link];
        const Vec3 pull = (places[to] - places[from]) * densities_kn_per_m[link];
        left[from] = left[from] + pull;
        left[to] = left[to] - pull;
        pulling[from] += std::abs(densities_kn_per_m[link]);
        pulling[to] += std::abs(densities_kn_per_m[link]);
    }
    for (std::size_t place = 0; place < places.size(); ++place) {
        const double spring = spring_density(net.held[place], pulling[place]);
        left[place] = net.held[place] >= 1 || pulling[place] == 0
                          ? Vec3{}
                          : left[place] + (net.places[place] - places[place]) * spring;
    }
    return left;
}

}  // namespace plume
