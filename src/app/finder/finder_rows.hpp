#pragma once
// What the step finder lists for what was typed: steps, small studies to begin from, a heading, and captions
// where nothing was typed.

#include <QString>
#include <vector>

#include "app/document/document.hpp"
#include "core/exchange/own_steps.hpp"
#include "core/study/step_search.hpp"

namespace plume::app {

struct FinderRow {
    enum class What { caption, step, ready, heading, note };
    What what = What::caption;
    QString text, right;  // right: what comes of it, or what has to come first
    bool can_be_taken = false;
    StepOffer offer = {};   // step
    std::size_t ready = 0;  // of ready_studies()
};

// Where a step would stand.
struct FinderPlace {
    Page page = Page::sheet;
    std::size_t position = 0;
    std::string in_hand;  // the result that is gone on with; may be empty
};

class FinderRows {
public:
    FinderRows(const Document& document, FinderPlace place, const OwnSteps& own);
    // What was typed, its numbers apart.
    std::vector<FinderRow> rows(const QString& typed) const;
    // The likeliest of each of a few things one may want to do, for an empty line.
    QString first_few() const;

private:
    std::vector<StepOffer> offers(std::string_view name) const;
    std::vector<FinderRow> grouped() const;
    std::vector<FinderRow> found(const QString& typed) const;
    FinderRow row(const StepOffer& offer) const;

    const Document& document_;
    FinderPlace place_;
    const OwnSteps& own_;
    std::vector<std::string> lately_;
};

}  // namespace plume::app
