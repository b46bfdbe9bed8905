#include "core/study/needed_steps.hpp"

#include <algorithm>
#include <array>
#include <optional>

#include "core/formula/expression.hpp"
#include "core/study/sentence.hpp"

namespace plume {
namespace {

// How one would plainly make a result of a kind; of several ways the shorter one, then the first.
struct PlainWay {
    Kind made;
    std::string_view step;
    std::string_view choice, word;  // of the step; empty as it is first written
};
constexpr std::array plain_ways{
    PlainWay{Kind::points, "lattice.rectangular", "", ""},
    PlainWay{Kind::curves, "outline.shape", "", ""},
    PlainWay{Kind::attractors, "attractors.points", "", ""},
    PlainWay{Kind::field, "field.distance", "", ""},
    PlainWay{Kind::directions, "directions.attractors", "", ""},
    PlainWay{Kind::placements, "placement.on_lattice", "", ""},
    PlainWay{Kind::surface, "skin", "", ""},
    PlainWay{Kind::surface, "surface.extrude", "", ""},
    PlainWay{Kind::mesh, "skin", "surface", "flat"},
    PlainWay{Kind::bodies, "body.thicken", "", ""},
    PlainWay{Kind::bodies, "body.extrude", "", ""},
    PlainWay{Kind::frame, "frame.lattice", "", ""},
    PlainWay{Kind::number, "number.statistic", "", ""},
};

// Kinds that need more than the kinds of what they read say: what grew, what is held, an open curve. The
// steps that make it, after what these need themselves.
struct ParticularWay {
    std::string_view kind;
    std::array<std::string_view, 3> steps;
};
constexpr std::array particular_ways{
    ParticularWay{"growth.keep", {"growth.parts"}},
    ParticularWay{"growth.members", {"growth.parts"}},
    ParticularWay{"growth.curves", {"growth.parts"}},
    ParticularWay{"forces.densities", {"frame.lattice", "forces.hold"}},
    ParticularWay{"forces.relax", {"frame.lattice", "forces.hold"}},
    ParticularWay{"body.cells", {"lattice.block"}},
    ParticularWay{"body.close", {"mesh.posts"}},
    ParticularWay{"points.rest", {"points.split"}},
    ParticularWay{"curve.extend", {"curve.drawn"}},
    ParticularWay{"curve.levels", {"lattice.formula", "skin"}},
    ParticularWay{"curve.write", {"lattice.formula", "skin", "curve.levels"}},
    ParticularWay{"curve.isolines", {"field.distance"}},
};

class Ways {
public:
    Ways(const Catalogue& catalogue, const std::set<Kind>& present)
        : catalogue_(catalogue), present_(present) {}

    // Behind the steps that are there already. False where no way leads there.
    bool add_for(const std::vector<Kind>& any, std::vector<Step>& steps) const {
        if (std::ranges::any_of(any, [&](Kind one) { return has(one, steps); })) return true;
        std::optional<std::vector<Step>> shortest;
        for (const Kind one : any)
            for (const PlainWay& way : plain_ways) {
                if (way.made != one) continue;
                std::vector<Step> by_this = steps;
                if (add(way, by_this) && (!shortest || by_this.size() < shortest->size()))
                    shortest = std::move(by_this);
            }
        if (!shortest) return false;
        steps = *std::move(shortest);
        return true;
    }

    // A step of that kind, after what it needs.
    bool add_step(std::string_view key, std::vector<Step>& steps) const {
        return add({Kind::number, key, "", ""}, steps);
    }

private:
    bool has(Kind kind, const std::vector<Step>& steps) const {
        return present_.contains(kind) ||
               std::ranges::any_of(steps, [&](const Step& step) { return made_by(step) == kind; });
    }
    Kind made_by(const Step& step) const {
        const auto way = std::ranges::find_if(plain_ways, [&](const PlainWay& one) {
            return one.step == step.kind && one.choice.empty() == step.slots.empty();
        });
        return way == plain_ways.end() ? catalogue_.find(step)->results.front() : way->made;
    }
    bool add(const PlainWay& way, std::vector<Step>& steps) const {
        Step step;
        step.kind = way.step;
        if (!way.choice.empty()) step.slots[std::string(way.choice)] = WordKey{std::string(way.word)};
        const StepKind* kind = catalogue_.find(way.step);
        if (!kind) return false;
        for (const SlotSpec* slot : active_slots(*kind, step))
            if (slot->type == SlotType::reference && !add_for(slot->accepts, steps)) return false;
        steps.push_back(std::move(step));
        return true;
    }

    const Catalogue& catalogue_;
    const std::set<Kind>& present_;
};

// One after the other from that position on, of which there is one at least. The id is that of the last.
Result<Added> add_all(const Study& study, const Catalogue& catalogue, const std::vector<Step>& steps,
                      std::size_t position, std::string_view prefer) {
    Added so_far{std::make_shared<const Study>(study), 0};
    std::string in_hand(prefer);
    for (const Step& step : steps) {
        Result<Added> added = add_step(*so_far.study, catalogue, step, position, in_hand);
        if (!added) return added;
        so_far = *std::move(added);
        in_hand = so_far.study->step(so_far.id)->name;
        position = *so_far.study->position(so_far.id) + 1;
    }
    return so_far;
}

}  // namespace

std::vector<Step> needed_steps(const Catalogue& catalogue, const std::set<Kind>& present,
                               const StepKind& kind, const std::vector<const SlotSpec*>& reading) {
    const Ways ways(catalogue, present);
    std::vector<Step> steps;
    const auto particular = std::ranges::find(particular_ways, kind.key, &ParticularWay::kind);
    if (particular != particular_ways.end())
        for (const std::string_view step : particular->steps)
            if (!step.empty() && !ways.add_step(step, steps)) return {};
    for (const SlotSpec* slot : reading)
        if (!ways.add_for(slot->accepts, steps)) return {};
    return steps;
}

Result<Added> add_with_needed(const Study& study, const Catalogue& catalogue, const std::vector<Step>& needed,
                              const Step& step, std::size_t position, std::string_view prefer) {
    std::vector<Step> all = needed;
    all.push_back(step);
    return add_all(study, catalogue, all, position, prefer);
}

std::vector<Step> needed_above(const Study& study, const Catalogue& catalogue, ItemId reader,
                               const SlotSpec& slot) {
    const Step& step = *study.step(reader);
    std::set<Kind> present;
    for (const ResultAbove& result : results_above(study, catalogue, *study.position(reader)))
        present.insert(result.kinds.begin(), result.kinds.end());
    return needed_steps(catalogue, present, *catalogue.find(step), {&slot});
}

Step handles_at(std::span<const Vec3> places, const Units& units) {
    const std::string unit(symbol(units.length));
    const auto text = [&](double coordinate) { return literal_text({coordinate, unit}, 6); };
    Places handles;
    for (const Vec3 at : places)
        handles.push_back(
            {"handle " + std::to_string(handles.size() + 1), text(at.x), text(at.y), text(at.z), "1"});
    Step step;
    step.kind = "attractors.points";
    step.name = "handles";
    step.slots["places"] = std::move(handles);
    return step;
}

Edited read_from_above(const Study& study, const Catalogue& catalogue, const std::vector<Step>& needed,
                       ItemId reader, const std::string& slot) {
    const Result<Added> added = add_all(study, catalogue, needed, *study.position(reader), "");
    if (!added) return added.error();
    return set_slot(*added->study, reader, slot, ResultName{added->study->step(added->id)->name});
}

}  // namespace plume
