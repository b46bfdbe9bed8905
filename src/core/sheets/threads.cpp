#include "core/sheets/threads.hpp"

#include <array>
#include <limits>
#include <utility>

namespace plume {
namespace {

class ThreadsMaker {
public:
    ThreadsMaker(const BarFrame& frame, const RestLengths& rest, const ThreadMaterial& material)
        : frame_(frame), rest_(rest), material_(material) {}

    Result<Sheet> all() {
        if (frame_.member_count() == 0)
            return Error{ErrorCode::empty_input, "", "has no member, so there is no thread",
                         "Give a frame with members."};
        sheet_.vertex_count = frame_.nodes().address_count();
        sheet_.thread_width = material_.width;
        for (const Member& member : frame_.members())
            sheet_.threads.push_back({member.from, member.to});
        auto rests = measured(sheet_, sheet_.threads, rest_);
        if (!rests) return rests.error();
        rests_ = *std::move(rests);
        add_springs();
        find_what_goes_on();
        add_bends();
        add_paths();
        link(sheet_);
        return std::move(sheet_);
    }

private:
    void add_springs() {
        sheet_.area.assign(sheet_.vertex_count, 0);
        // What no member ends at weighs a little, too.
        sheet_.mass.assign(sheet_.vertex_count, 1e-3 * material_.weight * sheet_.mean_edge);
        for (std::size_t at = 0; at < rests_.size(); ++at) {
            const auto [a, b] = sheet_.threads[at];
            sheet_.springs.push_back({a, b, rests_[at], material_.stretch / rests_[at]});
            for (const std::uint32_t end : {a, b}) {
                sheet_.area[end] += material_.width * rests_[at] / 2;
                sheet_.mass[end] += material_.weight * rests_[at] / 2;
            }
        }
    }

    bool go_on(std::uint32_t one, std::uint32_t other, std::size_t members_here) const {
        const Member &a = frame_.members()[one], &b = frame_.members()[other];
        return members_here == 2 || (a.way != Way::other && a.way == b.way && a.row == b.row);
    }

    // At each end of a member the one it goes on as; of several the first that has none yet.
    void find_what_goes_on() {
        const Incidence at_node = incidence(sheet_.vertex_count, [&](auto use) {
            for (std::uint32_t at = 0; at < sheet_.threads.size(); ++at)
                for (const std::uint32_t end : sheet_.threads[at])
                    use(end, at);
        });
        next_.assign(sheet_.threads.size(), {none, none});
        for (std::uint32_t node = 0; node < sheet_.vertex_count; ++node) {
            const auto here = at_node.at(node);
            if (here.empty()) sheet_.paths.push_back({node});
            for (std::size_t one = 0; one < here.size(); ++one)
                for (std::size_t other = one + 1; other < here.size(); ++other) {
                    std::uint32_t &from = next(here[one], node), &to = next(here[other], node);
                    if (from != none || to != none || !go_on(here[one], here[other], here.size())) continue;
                    from = here[other];
                    to = here[one];
                }
        }
    }
    std::uint32_t& next(std::uint32_t member, std::uint32_t node) {
        return next_[member][sheet_.threads[member][0] == node ? 0 : 1];
    }
    std::uint32_t far_end(std::uint32_t member, std::uint32_t node) const {
        const auto [a, b] = sheet_.threads[member];
        return a == node ? b : a;
    }

    // How far it is from straight on: the difference of its directions before and behind a node.
    void add_bends() {
        for (std::uint32_t member = 0; member < sheet_.threads.size(); ++member)
            for (const std::uint32_t node : sheet_.threads[member]) {
                const std::uint32_t behind = next(member, node);
                if (behind == none || behind < member) continue;
                const double a = rests_[member], b = rests_[behind];
                const std::uint32_t from = far_end(member, node);
                sheet_.hinges.push_back({{from, node, far_end(behind, node), from},
                                         {1 / a, -1 / a - 1 / b, 1 / b, 0},
                                         2 * material_.bending / (a + b)});
            }
    }

    // From where one begins to where it ends, or once round.
    void add_paths() {
        std::vector<char> walked(sheet_.threads.size(), 0);
        const auto walk = [&](std::uint32_t member, std::uint32_t from) {
            std::vector<std::uint32_t> path{from};
            while (member != none && std::exchange(walked[member], char{1}) == 0) {
                const std::uint32_t to = far_end(member, path.back());
                if (to == from) break;
                path.push_back(to);
                member = next(member, to);
            }
            sheet_.paths.push_back(std::move(path));
        };
        for (std::uint32_t member = 0; member < sheet_.threads.size(); ++member)
            for (const std::uint32_t end : sheet_.threads[member])
                if (walked[member] == 0 && next(member, end) == none) walk(member, end);
        for (std::uint32_t member = 0; member < sheet_.threads.size(); ++member)
            if (walked[member] == 0) walk(member, sheet_.threads[member][0]);
    }

    static constexpr std::uint32_t none = std::numeric_limits<std::uint32_t>::max();

    const BarFrame& frame_;
    const RestLengths& rest_;
    const ThreadMaterial& material_;
    Sheet sheet_;
    std::vector<double> rests_;
    std::vector<std::array<std::uint32_t, 2>> next_;  // of members, at their ends
};

}  // namespace

Result<Sheet> make_threads(const BarFrame& frame, const RestLengths& rest, const ThreadMaterial& material) {
    return ThreadsMaker(frame, rest, material).all();
}

}  // namespace plume
