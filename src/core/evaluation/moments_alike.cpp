#include "core/evaluation/moments_alike.hpp"

#include <algorithm>
#include <array>
#include <tuple>

#include "core/evaluation/recipe.hpp"
#include "core/formula/expression.hpp"
#include "core/study/moving.hpp"
#include "core/study/sentence.hpp"
#include "core/study/study_scope.hpp"

namespace plume {
namespace {

// Beyond them moments are looked for one by one.
constexpr std::size_t most_taken_over = 20'000;

// A place as it is written at a moment, a share of the way from one to the other.
struct WrittenAt {
    std::array<std::string_view, 3> from, to;
    double share = 0;
    bool operator==(const WrittenAt&) const = default;
};

template <class At>
std::array<std::string_view, 3> texts_of(const At& at) {
    return {at.x, at.y, at.z};
}

WrittenAt written_at(const Place& place, double seconds) {
    if (place.keys.empty()) return {texts_of(place), texts_of(place)};
    const BetweenKeys between = between_keys(place.keys, seconds);
    const auto from = texts_of(place.keys[between.before]), to = texts_of(place.keys[between.behind]);
    if (between.share == 0 || from == to) return {from, from};
    return {from, to, between.share};
}

// How many frames from the first on something is so, `most` at most.
template <class IsSo>
std::size_t frames_while(double rate, std::size_t most, IsSo is_so) {
    std::size_t frame = 0;
    while (frame < most && is_so(Moment{frame, rate}.seconds()))
        ++frame;
    return frame;
}

class Comparing {
public:
    Comparing(const Study& before, const Study& now, const Catalogue& catalogue, double rate,
              std::size_t most)
        : before_(before), now_(now), catalogue_(catalogue), rate_(rate), most_(most) {}

    std::map<ItemId, std::size_t> all() const {
        if (before_.units != now_.units) return {};
        std::map<ItemId, std::size_t> alike;
        std::map<std::string, std::size_t> above;
        for (const Item& item : now_.items) {
            const Step* step = step_of(item);
            if (!step) continue;
            const Step* was = before_.step(step->id);
            std::size_t frames = was ? frames_of(*was, *step) : 0;
            for (const std::string& name : results_read(now_, *step))
                if (const auto read = above.find(name); read != above.end())
                    frames = std::min(frames, frames_read(*step, read->second));
            alike[step->id] = above[step->name] = frames;
        }
        return alike;
    }

private:
    // What keeps a moment reads that one alone, whatever moment it is.
    std::size_t frames_read(const Step& step, std::size_t alike) const {
        const StepKind* kind = catalogue_.find(step);
        if (alike == most_ || step.muted || !kind || kind->read_at.empty()) return alike;
        const auto text = std::get<NumberText>(slot_value(*kind->slot(kind->read_at), step)).text;
        const auto seconds = evaluate_as(plain_number, text, scope_of(now_));
        const bool stays = seconds && !follows_time(now_, catalogue_, step);
        return stays && moment_at({0, rate_}, *seconds).frame < alike ? most_ : 0;
    }

    // By what is its own, and the controls it reads.
    std::size_t frames_of(const Step& was, const Step& step) const {
        std::size_t frames = &was == &step ? most_ : frames_of_slots(was, step);
        if (frames == 0) return 0;
        for (const std::string& name : names_in_expressions(step))
            frames = std::min(frames, frames_of(before_.control(name), now_.control(name)));
        return frames;
    }

    std::size_t frames_of_slots(const Step& was, const Step& step) const {
        const StepKind* kind = catalogue_.find(step);
        const auto told = [](const Step& one) {
            return std::tie(one.kind, one.name, one.muted, one.text_units);
        };
        if (!kind || told(was) != told(step)) return 0;
        const auto slots_before = all_slots(*kind, was), slots = all_slots(*kind, step);
        if (slots_before.size() != slots.size()) return 0;
        std::size_t frames = most_;
        for (const auto& [key, value] : slots) {
            const auto same = slots_before.find(key);
            frames = same == slots_before.end() ? 0 : std::min(frames, frames_of(same->second, value));
        }
        return frames;
    }

    // Those that are as they come, too.
    static std::map<std::string, SlotValue> all_slots(const StepKind& kind, const Step& step) {
        std::map<std::string, SlotValue> slots = step.slots;
        for (const SlotSpec& slot : kind.slots)
            slots.emplace(slot.key, slot_value(slot, step));
        return slots;
    }

    std::size_t frames_of(const SlotValue& was, const SlotValue& value) const {
        if (was == value) return most_;
        const auto *places_before = std::get_if<Places>(&was), *places = std::get_if<Places>(&value);
        if (!places_before || !places || places_before->size() != places->size()) return 0;
        std::size_t frames = most_;
        for (std::size_t index = 0; index < places->size(); ++index)
            frames = std::min(frames, frames_of((*places_before)[index], (*places)[index]));
        return frames;
    }

    std::size_t frames_of(const Place& was, const Place& place) const {
        if (was == place) return most_;
        if (was.name != place.name || was.weight != place.weight) return 0;
        return frames_while(rate_, most_, [&](double seconds) {
            return written_at(was, seconds) == written_at(place, seconds);
        });
    }

    std::size_t frames_of(const Control* was, const Control* control) const {
        if (!was || !control) return was == control ? most_ : 0;
        if (*was == *control) return most_;
        if (was->unit != control->unit) return 0;
        return frames_while(rate_, most_, [&](double seconds) {
            return value_at(*was, seconds) == value_at(*control, seconds);
        });
    }

    const Study &before_, &now_;
    const Catalogue& catalogue_;
    const double rate_;
    const std::size_t most_;
};

bool has_keys(const Study& study) {
    if (std::ranges::any_of(study.controls, [](const auto& control) { return !control->keys.empty(); }))
        return true;
    const auto moves = [](const Place& place) { return !place.keys.empty(); };
    const auto holds_one_that_moves = [&](const auto& slot) {
        const auto* places = std::get_if<Places>(&slot.second);
        return places && std::ranges::any_of(*places, moves);
    };
    return std::ranges::any_of(study.items, [&](const Item& item) {
        const Step* step = step_of(item);
        return step && std::ranges::any_of(step->slots, holds_one_that_moves);
    });
}

}  // namespace

std::map<ItemId, std::size_t> frames_alike(const Study& before, const Study& now, const Catalogue& catalogue,
                                           double rate, std::size_t most) {
    return Comparing(before, now, catalogue, rate, most).all();
}

void take_over_moments(const Study& before, const Study& now, const Catalogue& catalogue, double rate,
                       ResultStore& store) {
    if (!has_keys(before) && !has_keys(now)) return;
    const std::map<ItemId, Hash> recipes_before = recipes_of(before), recipes = recipes_of(now);
    for (const auto& [id, frames] : frames_alike(before, now, catalogue, rate, most_taken_over)) {
        if (frames == 0 || recipes_before.at(id) == recipes.at(id)) continue;
        const Hash from = chain_of(recipes_before.at(id), rate), to = chain_of(recipes.at(id), rate);
        store.moments().take_over(from, to, frames);
        store.moments_made().hand_over(from, to, frames);
    }
}

}  // namespace plume
