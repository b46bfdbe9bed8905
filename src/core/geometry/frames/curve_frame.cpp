#include "core/geometry/frames/curve_frame.hpp"

#include <algorithm>

#include "core/geometry/curves/curve_crossings.hpp"
#include "core/geometry/curves/curve_sampling.hpp"
#include "core/geometry/frames/frame_assembly.hpp"
#include "core/geometry/measures/bounds.hpp"
#include "core/geometry/measures/box_tree.hpp"
#include "core/geometry/parts/scattered.hpp"

namespace plume {
namespace {

Error between(Error error, std::size_t first, std::size_t second) {
    error.where = "The curves " + std::to_string(first) + " and " + std::to_string(second);
    return error;
}

// Parameters of the nodes of each curve: ends, corners, crossings.
class Stops {
public:
    Stops(const CurveSet& set, double tolerance) : set_(set), tolerance_(tolerance) {
        for (const SplineCurve& curve : set.curves) {
            std::vector<double> stops;
            const SplineBasis& basis = curve.basis();
            if (basis.degree == 1)
                stops = basis.nodes;
            else if (!curve.closed())
                stops = {basis.start(), basis.end()};
            at.push_back(std::move(stops));
        }
    }
    Status find_crossings(const Run& run) {
        std::vector<Box> boxes;
        for (const SplineCurve& curve : set_.curves)
            boxes.push_back(bounds_of(curve));
        const BoxTree tree(boxes);
        const Vec3 reach{tolerance_, tolerance_, tolerance_};
        Status status = Done{};
        for (std::size_t first = 0; first < boxes.size() && status; ++first) {
            if (run.cancelled()) return cancelled_error();
            run.report(static_cast<double>(first) / static_cast<double>(boxes.size()));
            tree.within({boxes[first].low - reach, boxes[first].high + reach}, [&](std::uint32_t place) {
                const std::size_t second = tree.order()[place];
                if (second > first) status = cross(first, second, run);
                return status.ok();
            });
        }
        return status;
    }

    std::vector<std::vector<double>> at;

private:
    Status cross(std::size_t first, std::size_t second, const Run& run) {
        for (const auto& [one, other] : {std::pair(first, second), {second, first}}) {
            const auto found = crossings_with_curve(set_.curves[one], set_.curves[other], tolerance_, run);
            if (!found) return between(found.error(), first, second);
            at[one].insert(at[one].end(), found->begin(), found->end());
        }
        return Done{};
    }

    const CurveSet& set_;
    double tolerance_;
};

// The farthest a curve goes beside the chord of two of its places, at its quarters.
double beside(const SplineCurve& curve, double from, double to) {
    const Vec3 start = evaluate(curve, from).position, chord = evaluate(curve, to).position - start;
    double most = 0;
    for (const double share : {0.25, 0.5, 0.75}) {
        const Vec3 off = evaluate(curve, from + (to - from) * share).position - start;
        const double along = dot(chord, chord) > 0 ? dot(off, chord) / dot(chord, chord) : 0;
        most = std::max(most, length(off - chord * along));
    }
    return most;
}

class Builder {
public:
    Builder(const CurveSet& set, double tolerance) : set_(set), tolerance_(tolerance) {}

    void add(std::size_t number, std::vector<double> stops) {
        const SplineCurve& curve = set_.curves[number];
        std::ranges::sort(stops);
        const std::size_t first = places_.size();
        std::vector<double> kept;
        for (const double stop : stops) {
            const Vec3 place = evaluate(curve, stop).position;
            // The same stop found twice, or a crossing at an end.
            if (places_.size() > first && length(place - places_.back()) <= tolerance_) continue;
            marks_.push_back(std::to_string(number) + '.' + std::to_string(places_.size() - first));
            places_.push_back(place);
            kept.push_back(stop);
        }
        if (curve.closed() && kept.size() < 3) {
            places_.resize(first);
            marks_.resize(first);
            ++left_out;
            return;
        }
        for (std::size_t at = 0; at + 1 < kept.size(); ++at)
            join(curve, number, first + at, first + at + 1, kept[at], kept[at + 1]);
        if (!curve.closed()) return;
        const double round = curve.basis().end() - curve.basis().start();
        join(curve, number, first + kept.size() - 1, first, kept.back(), kept.front() + round);
    }
    Result<BarFrame> frame(const Run& run) && {
        if (members_.empty())
            return Error{ErrorCode::empty_input, "", "have no two nodes to be joined",
                         "Take curves that cross, or divide them before."};
        return welded_frame({scattered(places_),
                             std::move(members_),
                             {},
                             std::make_shared<const std::vector<std::string>>(std::move(marks_))},
                            tolerance_, run);
    }

    double beside_most = 0;
    std::size_t left_out = 0;

private:
    void join(const SplineCurve& curve, std::size_t number, std::size_t from, std::size_t to, double begin,
              double end) {
        members_.push_back({static_cast<std::uint32_t>(from), static_cast<std::uint32_t>(to), Way::other,
                            static_cast<std::uint32_t>(number)});
        if (curve.basis().degree > 1 && end <= curve.basis().end())
            beside_most = std::max(beside_most, beside(curve, begin, end));
    }

    const CurveSet& set_;
    double tolerance_;
    std::vector<Vec3> places_;
    std::vector<std::string> marks_;
    std::vector<Member> members_;
};

}  // namespace

Result<CurveFrame> frame_of_curves(const CurveSet& set, double tolerance_abs, const Run& run) {
    Stops stops(set, tolerance_abs);
    if (Status found = stops.find_crossings(run); !found) return found.error();
    Builder builder(set, tolerance_abs);
    for (std::size_t number = 0; number < set.curves.size(); ++number)
        builder.add(number, std::move(stops.at[number]));
    const double beside = builder.beside_most;
    const std::size_t left_out = builder.left_out;
    // Every crossing was found on both curves: that they are one is no news.
    auto frame = std::move(builder).frame(Run());
    if (!frame) return frame.error();
    return CurveFrame{*std::move(frame), beside, left_out};
}

}  // namespace plume
