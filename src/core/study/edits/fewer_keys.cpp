#include "core/study/edits/fewer_keys.hpp"

#include <array>
#include <cmath>
#include <limits>
#include <span>

#include "core/formula/expression.hpp"
#include "core/study/edits/keyed_things.hpp"

namespace plume {
namespace {

using Numbers = std::array<double, 3>;
struct Moved {
    double seconds = 0;
    Numbers at{};
};

// In study lengths; what stands along a line, or in a control's unit, as it is. Nothing where it may not be
// left out.
std::optional<Numbers> numbers_of(const ControlKey& key, const Scope& /*scope*/) {
    return Numbers{key.value, 0, 0};
}
std::optional<Numbers> numbers_of(const PlaceKey& key, const Scope& scope) {
    Numbers numbers{};
    std::size_t at = 0;
    for (const std::string* text : {&key.x, &key.y, &key.z}) {
        const auto number = evaluate(*text, scope);
        if (!number || !read_literal(*text)) return {};
        numbers[at++] = number->value;
    }
    return numbers;
}
std::optional<Numbers> numbers_of(const CameraKey& /*key*/, const Scope& /*scope*/) {
    return {};
}

// Those that may be left out; the others are nothing.
using Row = std::vector<std::optional<Moved>>;

// The axes that are measured together, so that how far they go is 1.
void scale(Row& row, std::span<const std::size_t> axes) {
    double square = 0;
    for (const std::size_t axis : axes) {
        double low = std::numeric_limits<double>::infinity(), high = -low;
        for (const auto& key : row) {
            if (!key) continue;
            low = std::min(low, key->at[axis]);
            high = std::max(high, key->at[axis]);
        }
        if (high > low) square += std::pow(high - low, 2);
    }
    if (square == 0) return;
    for (auto& key : row)
        for (const std::size_t axis : axes)
            if (key) key->at[axis] /= std::sqrt(square);
}

// From the straight way between two others, at its own moment.
double off_way(const Moved& from, const Moved& to, const Moved& key) {
    const double share = (key.seconds - from.seconds) / (to.seconds - from.seconds);
    Numbers off{};
    for (std::size_t axis = 0; axis < off.size(); ++axis)
        off[axis] = std::lerp(from.at[axis], to.at[axis], share) - key.at[axis];
    return std::hypot(off[0], off[1], off[2]);
}

// Those between two others that are needed are marked.
void mark_needed(const Row& row, std::size_t first, std::size_t last, double tolerance,
                 std::vector<bool>& is_needed) {
    std::vector<std::pair<std::size_t, std::size_t>> waiting{{first, last}};
    while (!waiting.empty()) {
        const auto [from, to] = waiting.back();
        waiting.pop_back();
        double largest = tolerance;
        std::size_t farthest = from;
        for (std::size_t at = from + 1; at < to; ++at) {
            const double off = off_way(*row[from], *row[to], *row[at]);
            if (off <= largest) continue;
            largest = off;
            farthest = at;
        }
        if (farthest == from) continue;
        is_needed[farthest] = true;
        waiting.emplace_back(from, farthest);
        waiting.emplace_back(farthest, to);
    }
}

// The keys of one thing.
class Thinning {
public:
    Thinning(const Study& study, const ChosenKeys& chosen, bool told, double share)
        : choice_{chosen}, told_(told), share_(share) {
        scope_.units = study.units;
    }

    template <class Key>
    std::vector<Key> left(const std::vector<Key>& keys) const {
        const Row row = row_of(keys);
        std::vector<bool> is_needed(keys.size(), true);
        for (std::size_t first = 0; first < keys.size();) {
            std::size_t last = first;
            while (last + 1 < keys.size() && row[last] && row[last + 1] &&
                   keys[last].easing == Easing::straight)
                ++last;
            for (std::size_t at = first + 1; at < last; ++at)
                is_needed[at] = false;
            if (last > first) mark_needed(row, first, last, share_, is_needed);
            first = std::max(last, first + 1);
        }
        std::vector<Key> left;
        for (std::size_t at = 0; at < keys.size(); ++at)
            if (is_needed[at]) left.push_back(keys[at]);
        return left;
    }

private:
    template <class Key>
    Row row_of(const std::vector<Key>& keys) const {
        static constexpr std::array<std::size_t, 3> axes{0, 1, 2};
        Row row;
        for (const Key& key : keys) {
            const bool chosen = is_chosen(choice_, choice_.front().of, key.seconds);
            const auto numbers = chosen ? numbers_of(key, scope_) : std::nullopt;
            row.push_back(numbers ? std::optional(Moved{key.seconds, *numbers}) : std::nullopt);
        }
        if (!told_) {
            scale(row, axes);
        } else {
            scale(row, std::span(axes).first(1));
            scale(row, std::span(axes).last(2));
        }
        return row;
    }

    const KeyChoice choice_;
    const bool told_;
    const double share_;
    Scope scope_;
};

}  // namespace

Result<FewerKeys> fewer_keys(const Study& study, const Catalogue& catalogue, const KeyChoice& choice,
                             double share) {
    FewerKeys result{std::make_shared<const Study>(study), key_count(choice), key_count(choice)};
    for (const ChosenKeys& chosen : choice) {
        const SlotSpec* slot = slot_of_place(study, catalogue, chosen.of.step, chosen.of.slot);
        const Thinning thinning(study, chosen, slot && !slot->told_by.empty(), share);
        const Edited edited = changed_thing(*result.study, chosen.of, [&](auto& thing) -> Status {
            auto left = thinning.left(thing.keys);
            result.left -= thing.keys.size() - left.size();
            thing.keys = std::move(left);
            return Done{};
        });
        if (!edited) return edited.error();
        result.study = *edited;
    }
    return result;
}

}  // namespace plume
