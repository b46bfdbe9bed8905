#include "core/study/edits/excerpt.hpp"

#include <algorithm>

#include "core/formula/expression.hpp"
#include "core/study/slots/slot_form.hpp"
#include "core/study/study_scope.hpp"

namespace plume {
namespace {

using Names = std::set<std::string>;

// Everything a name could be mistaken for: results and controls of both, and what the excerpt reads from
// outside.
Names names_around(const Study& study, const Study& excerpt) {
    Names names;
    for (const Study* one : {&study, &excerpt}) {
        for (const ControlPointer& control : one->controls)
            names.insert(control->name);
        for (const Item& item : one->items)
            if (const Step* step = step_of(item)) names.insert(step->name);
    }
    for (const Item& item : excerpt.items)
        if (const Step* step = step_of(item)) {
            for (const std::string& name : results_read(excerpt, *step))
                names.insert(name);
            for (const std::string& name : names_in_expressions(*step))
                names.insert(name);
        }
    return names;
}

std::string free_among(Names& names, const std::string& wanted) {
    std::string name = wanted;
    for (int number = 2; names.contains(name); ++number)
        name = wanted + "_" + std::to_string(number);
    names.insert(name);
    return name;
}

bool taken(const Study& study, const std::string& name) {
    return study.step(name) || study.control(name);
}

bool alike(const Study& study, const Control& a, const Control& b) {
    const auto dimension = [&](const Control& control) {
        const auto one = evaluate("1 " + control.unit, Scope{study.units, {}, {}});
        return one ? one->dimension : plain_number;
    };
    return dimension(a) == dimension(b);
}

// Names of its own for whatever has one that is taken.
class Mending {
public:
    Mending(const Study& study, StudyPointer excerpt, PastedControls controls)
        : study_(study), excerpt_(std::move(excerpt)), names_(names_around(study, *excerpt_)) {
        for (const ControlPointer& control : std::vector(excerpt_->controls))
            mend(*control, controls);
        for (const Item& item : std::vector(excerpt_->items))
            if (const Step* step = step_of(item); step && taken(study_, step->name))
                take(rename_step(*excerpt_, step->id, free_among(names_, step->name)));
    }

    StudyPointer excerpt() const { return excerpt_; }
    bool shared(const std::string& control) const { return shared_.contains(control); }

private:
    void take(const Edited& edited) {
        if (edited) excerpt_ = *edited;
    }
    void mend(const Control& control, PastedControls controls) {
        const Control* there = study_.control(control.name);
        if (there && controls == PastedControls::shared && alike(study_, control, *there)) {
            shared_.insert(control.name);
        } else if (taken(study_, control.name)) {
            Control renamed = control;
            renamed.name = free_among(names_, control.name);
            take(set_control(*excerpt_, control.name, std::move(renamed)));
        }
    }

    const Study& study_;
    StudyPointer excerpt_;
    Names names_, shared_;
};

}  // namespace

StudyPointer excerpt_of(const Study& study, const ItemIds& items, const std::set<std::string>& controls) {
    auto excerpt = std::make_shared<Study>();
    excerpt->title = study.title;
    excerpt->units = study.units;
    excerpt->next_id = study.next_id;
    Names wanted = controls;
    for (const Item& item : study.items) {
        if (!items.contains(id_of(item))) continue;
        excerpt->items.push_back(item);
        if (const Step* step = step_of(item))
            for (const std::string& name : names_in_expressions(*step))
                wanted.insert(name);
    }
    for (const ControlPointer& control : study.controls)
        if (wanted.contains(control->name)) excerpt->controls.push_back(control);
    return excerpt;
}

Result<Pasted> pasted(const Study& study, const Catalogue& catalogue, const Study& excerpt,
                      std::size_t position, PastedControls controls) {
    if (excerpt.items.empty() && excerpt.controls.empty())
        return Error{ErrorCode::empty_input, "The clipboard", "holds no step, heading or control",
                     "Copy some first."};
    StudyPointer source = std::make_shared<const Study>(in_form(excerpt, catalogue));
    if (source->units != study.units) source = with_units(*source, catalogue, study.units);
    const Mending mended(study, source, controls);
    source = mended.excerpt();
    auto result = std::make_shared<Study>(study);
    Pasted made;
    for (const ControlPointer& control : source->controls) {
        if (mended.shared(control->name)) continue;
        result->controls.push_back(control);
        made.controls.push_back(control->name);
    }
    std::size_t at = position;
    for (const Item& item : source->items) {
        Item copy = item;
        if (const Step* old = step_of(item)) {
            Step step = *old;
            step.id = result->next_id++;
            copy = std::make_shared<const Step>(std::move(step));
        } else {
            Heading heading = *heading_of(item);
            heading.id = result->next_id++;
            copy = std::make_shared<const Heading>(std::move(heading));
        }
        made.items.push_back(id_of(copy));
        // Each on its page.
        at = std::clamp(at, result->page_begin(page_of(copy)), result->page_end(page_of(copy)));
        result->items.insert(result->items.begin() + static_cast<std::ptrdiff_t>(at++), std::move(copy));
    }
    made.study = std::move(result);
    return made;
}

}  // namespace plume
