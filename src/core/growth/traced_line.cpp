#include "core/growth/traced_line.hpp"

#include <algorithm>

#include "core/data/part_tree.hpp"

namespace plume {
namespace {

// Ends that are nearer than this share of a step are one place.
constexpr double same_place = 1e-7;

class Tracer {
public:
    Tracer(const Population& parts, const std::vector<std::uint8_t>& drawn) : parts_(parts), drawn_(drawn) {
        find_children();
    }

    std::vector<TracedLine> all() {
        for (std::uint32_t root = 0; root < parts_.generations[1]; ++root) {
            pen_ = parts_.placements[root].origin;
            lift();
            walk(root);
            finish();
        }
        return std::move(lines_);
    }

private:
    // Parts of one parent stand one behind the other in the next generation.
    void find_children() {
        first_.assign(parts_.size(), 0);
        count_.assign(parts_.size(), 0);
        for (std::size_t part = parts_.size(); part-- > parts_.generations[1];) {
            first_[parts_.parents[part]] = static_cast<std::uint32_t>(part);
            ++count_[parts_.parents[part]];
        }
    }

    // Depth first, with a stack of our own: growth may be as deep as it is long.
    void walk(std::uint32_t root) {
        std::vector<std::uint32_t> open{root};
        while (!open.empty()) {
            const std::uint32_t part = open.back();
            open.pop_back();
            jump(part);
            if (count_[part] == 0) step(part);
            for (std::uint32_t child = count_[part]; child-- > 0;)
                open.push_back(first_[part] + child);
        }
    }

    // By what the part was moved.
    void jump(std::uint32_t part) {
        const std::uint32_t parent = parts_.parents[part];
        if (parent == PartTree::none) return;
        const Vec3 by = parts_.placements[part].origin - parts_.placements[parent].origin;
        if (length(by) <= same_place * parts_.sizes[part]) return;
        pen_ = pen_ + by;
        lift();
    }

    void step(std::uint32_t part) {
        if (!drawn_[parts_.names[part]]) return;
        if (line_.points.empty()) add(pen_, part);
        pen_ = pen_ + parts_.placements[part].along * parts_.sizes[part];
        add(pen_, part);
        step_ = parts_.sizes[part];
    }
    void add(Vec3 place, std::uint32_t part) {
        line_.points.push_back(place);
        line_.parts.push_back(part);
    }

    void lift() {
        finish();
        line_ = {};
    }
    void finish() {
        if (line_.points.size() < 2) return;
        line_.closed = line_.points.size() > 3 &&
                       length(line_.points.back() - line_.points.front()) <= same_place * step_;
        if (line_.closed) {
            line_.points.pop_back();
            line_.parts.pop_back();
        }
        lines_.push_back(std::move(line_));
        line_ = {};
    }

    const Population& parts_;
    const std::vector<std::uint8_t>& drawn_;
    std::vector<std::uint32_t> first_, count_;  // children of each part
    Vec3 pen_;
    double step_ = 0;  // how long the last one was
    TracedLine line_;
    std::vector<TracedLine> lines_;
};

}  // namespace

std::vector<TracedLine> traced_lines(const Population& parts, const std::vector<std::uint8_t>& drawn) {
    return Tracer(parts, drawn).all();
}

}  // namespace plume
