#include "core/results/presentation.hpp"

#include <algorithm>
#include <array>

#include "core/data/not_finite.hpp"
#include "core/geometry/measures/bounds.hpp"

namespace plume {
namespace {

constexpr std::size_t histogram_bins = 24;
constexpr int thumbnail_side = 240;
constexpr std::size_t most_resting = 10'000;

std::shared_ptr<const Thumbnail> thumbnail_of(const StepKind& kind, const Outcome& outcome, const Run& run) {
    if (!outcome.inputs || !outcome.inputs->has("file")) return nullptr;
    const auto area = context_of<PictureArea>(kind, "file", *outcome.inputs, run);
    if (!area || !*area) return nullptr;
    const ResolvedFile& file = outcome.inputs->file("file");
    const auto raster = file.store->image(file.name, run);
    if (!raster) return nullptr;
    return std::make_shared<const Thumbnail>(Thumbnail{thumbnail(**raster, thumbnail_side), **area});
}

// What of a value is not finite and was remarked on a step above, where it came from.
std::vector<std::string> inherited_not_finite(const Outcome& outcome, const Statistics* figures,
                                              const Drawable* drawable) {
    const bool any = (figures && figures->not_finite > 0) || (drawable && drawable->not_finite_points > 0);
    if (!any) return {};
    SeenColumns seen;
    std::vector<std::string> sentences = not_finite_sentences(*outcome.value, seen);
    std::erase_if(sentences, [&](const std::string& sentence) {
        return std::ranges::find(outcome.remarks, sentence, &Remark::text) != outcome.remarks.end();
    });
    return sentences;
}

std::size_t bytes_of(const std::shared_ptr<const Drawable>& drawable) {
    return drawable ? bytes_of(*drawable) : 0;
}

}  // namespace

Presenter::Kept& Presenter::kept(const Hash& key) {
    auto moved = before_.extract(key);
    if (moved.empty() && !(moved = resting_.extract(key)).empty())
        resting_bytes_ -= bytes_of(moved.mapped().drawable);
    if (!moved.empty()) return asked_.insert(std::move(moved)).position->second;
    return asked_[key];
}

Result<std::shared_ptr<const Drawable>> Presenter::draw(const Outcome& outcome, const DrawOptions& options,
                                                        const Run& run) {
    Kept& known = kept(outcome.key);
    if (!known.drawable || known.colour_by != options.colour_by) {
        Result<Drawable> made = make_drawable(*outcome.value, options, run);
        if (!made) return made.error();
        known.drawable = std::make_shared<const Drawable>(*std::move(made));
        known.colour_by = options.colour_by;
    }
    return known.drawable;
}

bool Presenter::takes_long(const Outcome& outcome) const {
    constexpr std::size_t many = 200'000;
    const PointLattice* points = outcome.value ? lattice_of(*outcome.value) : nullptr;
    if (!points || points->address_count() < many) return false;
    return std::ranges::none_of(std::array{&asked_, &before_}, [&](const auto* kept) {
        const auto known = kept->find(outcome.key);
        return known != kept->end() && known->second.rest;
    });
}

Result<Presentation> Presenter::present(const Step& step, const Outcome& outcome, const DrawOptions* draw,
                                        const Run& run) {
    const Value& value = *outcome.value;
    std::shared_ptr<const Drawable> drawable;
    if (draw) {
        auto drawn = this->draw(outcome, *draw, run);
        if (!drawn) return drawn.error();
        drawable = *std::move(drawn);
    }
    Kept& known = kept(outcome.key);
    if (!known.rest) {
        Presentation rest;
        if (const Field* field = field_in_hand(value))
            rest.figures = std::make_shared<const Statistics>(
                statistics_of(*lattice_of(value), field->values, histogram_bins));
        if (const StepKind* kind = catalogue_.find(step)) rest.thumbnail = thumbnail_of(*kind, outcome, run);
        rest.bounds = drawable ? drawable->bounds : bounds_of(value);
        rest.not_finite = inherited_not_finite(outcome, rest.figures.get(), drawable.get());
        known.rest = std::move(rest);
    }
    Presentation shown = *known.rest;
    shown.drawable = std::move(drawable);
    return shown;
}

void Presenter::forget_others(Others others) {
    auto not_asked = std::exchange(before_, std::exchange(asked_, {}));
    if (others == Others::may_come_again) return rest(not_asked);
    resting_.clear();
    rested_.clear();
    resting_bytes_ = 0;
}

void Presenter::rest(std::map<Hash, Kept>& others) {
    for (auto& [key, kept] : others) {
        resting_bytes_ += bytes_of(kept.drawable);
        rested_.push_back(key);
        resting_.insert_or_assign(key, std::move(kept));
    }
    while (resting_bytes_ > most_resting_bytes_ || rested_.size() > most_resting) {
        const auto longest = resting_.extract(rested_.front());
        rested_.pop_front();
        if (!longest.empty()) resting_bytes_ -= bytes_of(longest.mapped().drawable);
    }
}

}  // namespace plume
