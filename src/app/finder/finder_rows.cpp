#include "app/finder/finder_rows.hpp"

#include <QObject>

#include "app/finder/lately_used.hpp"
#include "app/finder/ready_studies.hpp"
#include "core/study/subjects.hpp"

namespace plume::app {
namespace {

QString tr(const char* text) {
    return QObject::tr(text);
}

FinderRow caption(const QString& text) {
    return {.what = FinderRow::What::caption, .text = text, .right = {}};
}

FinderRow heading_row() {
    return {.what = FinderRow::What::heading,
            .text = tr("Heading"),
            .right = tr("a title for what follows"),
            .can_be_taken = true};
}

// "lattice, surface first".
QString needed_text(const Catalogue& catalogue, const StepOffer& offer) {
    QStringList names;
    for (const Step& step : offer.needed)
        names << text_of(catalogue.find(step.kind)->result_name);
    return names.join(", ");
}

}  // namespace

FinderRows::FinderRows(const Document& document, FinderPlace place, const OwnSteps& own)
    : document_(document), place_(std::move(place)), own_(own), lately_(lately_used()) {}

std::vector<StepOffer> FinderRows::offers(std::string_view name) const {
    return step_offers({.study = document_.study(),
                        .catalogue = document_.catalogue(),
                        .position = place_.position,
                        .in_hand = place_.in_hand,
                        .page = place_.page,
                        .own = own_.steps,
                        .lately = lately_},
                       name);
}

FinderRow FinderRows::row(const StepOffer& offer) const {
    FinderRow row{
        .what = FinderRow::What::step, .text = text_of(offer.kind->verb), .right = {}, .offer = offer};
    row.can_be_taken = offer.fits || !offer.needed.empty();
    if (offer.fits)
        row.right = text_of(offer.kind->result_name);
    else if (row.can_be_taken)
        row.right = tr("after %1").arg(needed_text(document_.catalogue(), offer));
    else
        row.right = tr("needs %1 above").arg(text_of(plain_name(*offer.missing)));
    if (offer.own) row.right += tr(" · my own");
    return row;
}

std::vector<FinderRow> FinderRows::rows(const QString& typed) const {
    return typed.trimmed().isEmpty() ? grouped() : found(typed);
}

// By what one wants to do; before it what was used lately and fits, behind it what is amiss.
std::vector<FinderRow> FinderRows::grouped() const {
    constexpr std::size_t most_lately = 5;
    const std::vector<StepOffer> all = offers({});
    std::vector<FinderRow> rows;
    const auto add_group = [&](const QString& title, const auto& belongs, std::size_t most) {
        std::size_t added = 0;
        for (const StepOffer& offer : all) {
            if (added == most || !belongs(offer)) continue;
            if (added++ == 0) rows.push_back(caption(title));
            rows.push_back(row(offer));
        }
    };
    add_group(
        tr("Used lately"),
        [&](const StepOffer& offer) {
            return offer.fits && std::ranges::find(lately_, offer.kind->key) != lately_.end();
        },
        most_lately);
    add_group(
        tr("My own"), [](const StepOffer& offer) { return offer.own != nullptr; }, all.size());
    for (const Subject& subject : subjects())
        add_group(
            text_of(subject.title),
            [&](const StepOffer& offer) { return !offer.own && &subject_of(*offer.kind) == &subject; },
            all.size());
    rows.push_back(caption(tr("Put in order")));
    rows.push_back(heading_row());
    if (place_.page == Page::sheet)
        for (const Error& problem : own_.problems)
            rows.push_back({.what = FinderRow::What::note,
                            .text = tr("Among my own: %1").arg(text_of(sentence(problem))),
                            .right = {}});
    return rows;
}

std::vector<FinderRow> FinderRows::found(const QString& typed) const {
    std::vector<FinderRow> rows;
    const std::string name = read_typed(text_of(typed)).name;
    for (const StepOffer& offer : offers(name))
        rows.push_back(row(offer));
    // After the last step that fits, before those that need others first.
    const auto behind_fitting = [&] {
        const auto last = std::ranges::find_if(rows.rbegin(), rows.rend(), [](const FinderRow& one) {
            return one.what != FinderRow::What::step || one.offer.fits;
        });
        return last.base();
    };
    if (tr("Heading").startsWith(typed.trimmed(), Qt::CaseInsensitive))
        rows.insert(typed.trimmed().size() > 3 ? rows.begin() : behind_fitting(), heading_row());
    if (place_.page == Page::sheet) {
        const std::vector<ReadyStudy>& all = ready_studies();
        for (std::size_t number = 0; number < all.size(); ++number) {
            const Study& study = *all[number].study;
            if (!are_named(study.title + " " + study.note, name)) continue;
            const auto behind = behind_fitting();
            rows.insert(behind == rows.begin() ? rows.end() : behind, {.what = FinderRow::What::ready,
                                                                       .text = text_of(study.title),
                                                                       .right = tr("to begin from"),
                                                                       .can_be_taken = true,
                                                                       .ready = number});
        }
    }
    if (rows.empty())
        rows.push_back({.what = FinderRow::What::note,
                        .text = tr("No step is called that. Try another word."),
                        .right = {}});
    return rows;
}

QString FinderRows::first_few() const {
    constexpr qsizetype few = 3;
    const std::vector<StepOffer> all = offers({});
    const auto goes_on = [](const StepOffer& offer) { return offer.fits && offer.reads_in_hand; };
    const bool in_hand = std::ranges::any_of(all, goes_on);
    QStringList names;
    for (const Subject& subject : subjects()) {
        const auto likeliest = std::ranges::find_if(all, [&](const StepOffer& offer) {
            return (in_hand ? goes_on(offer) : offer.fits) && &subject_of(*offer.kind) == &subject;
        });
        if (likeliest == all.end()) continue;
        names << text_of(likeliest->kind->verb).toLower();
        if (names.size() == few) break;
    }
    return names.join(", ");
}

}  // namespace plume::app
