#include "app/start/start_panel.hpp"

#include <QLabel>
#include <QPushButton>
#include <QVBoxLayout>

#include "app/start/card_grid.hpp"
#include "app/start/recent_row.hpp"
#include "app/start/study_card.hpp"
#include "app/theme/look.hpp"

namespace plume::app {

StartPanel::StartPanel(QWidget* parent) : QScrollArea(parent) {
    setObjectName("start");
    setAccessibleName(tr("Ways to begin"));
    setWidgetResizable(true);
    setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
}

void StartPanel::showEvent(QShowEvent* event) {
    QScrollArea::showEvent(event);
    // What was opened lately is another list each time.
    fill();
}

void StartPanel::fill() {
    if (samples_.groups.empty()) samples_ = read_samples(samples_folder());
    auto* whole = new QWidget;
    whole->setObjectName("start-page");
    column_ = new QVBoxLayout(whole);
    column_->setContentsMargins(26, 18, 26, 24);
    column_->setSpacing(10);
    add_ways();
    if (all_)
        add_all_samples();
    else
        add_samples();
    add_recent();
    column_->addStretch(1);
    setWidget(whole);
}

void StartPanel::add_caption(const QString& bold, const QString& rest) {
    auto* caption = new QLabel(
        QString("<b>%1</b><span style='color:%2'>%3</span>").arg(bold, look().second_ink.name(), rest));
    caption->setFont(text_font(13));
    column_->addSpacing(4);
    column_->addWidget(caption);
}

// One line of other ways, above the pictures.
void StartPanel::add_ways() {
    auto* row = new QHBoxLayout;
    row->setSpacing(8);
    const auto way = [&](const char* name, const QString& words, auto wanted) {
        auto* button = new QPushButton(words);
        button->setObjectName(name);
        connect(button, &QPushButton::clicked, this, wanted);
        row->addWidget(button);
    };
    way("start-walk", tr("A first walk, in nine stops"), &StartPanel::walk_wanted);
    way("start-open", tr("Open a study …"), &StartPanel::open_wanted);
    way("start-empty", tr("An empty page"), &StartPanel::empty_wanted);
    row->addStretch(1);
    column_->addLayout(row);
    auto* drop = new QLabel(tr("Or drop a study, a picture, a table or a drawing here."));
    drop->setProperty("second", true);
    drop->setFont(text_font(12));
    column_->addWidget(drop);
}

void StartPanel::add_samples() {
    add_caption(tr("Studies from Sallow Reach"), tr(" — opened as copies"));
    if (samples_.problem.isEmpty())
        return add_cards(samples_.first, samples_.count() > samples_.first.size());
    auto* problem = new QLabel(samples_.problem);
    problem->setObjectName("start-problem");
    problem->setWordWrap(true);
    column_->addWidget(problem);
}

void StartPanel::add_all_samples() {
    for (const SampleGroup& group : samples_.groups) {
        add_caption(group.title, {});
        add_cards(group.samples, false);
    }
}

void StartPanel::add_cards(const std::vector<Sample>& samples, bool and_all) {
    auto* grid = new CardGrid(this);
    for (const Sample& sample : samples) {
        auto* card = new StudyCard(sample.title, sample.about, sample.picture, grid);
        card->setObjectName("sample");
        connect(card, &QAbstractButton::clicked, this,
                [this, path = sample.path] { Q_EMIT copy_wanted(path); });
        grid->add(card);
    }
    if (and_all) {
        auto* card = new StudyCard(tr("all %1 samples, by what they show …").arg(samples_.count()), grid);
        card->setObjectName("all-samples");
        connect(
            card, &QAbstractButton::clicked, this,
            [this] {
                all_ = true;
                fill();
                widget()->setFocus(Qt::OtherFocusReason);
            },
            Qt::QueuedConnection);
        grid->add(card);
    }
    column_->addWidget(grid);
}

void StartPanel::add_recent() {
    const std::vector<RecentStudy> recent = recent_studies();
    if (recent.empty()) return;
    add_caption(tr("Yours, lately"), {});
    const QDateTime now = QDateTime::currentDateTime();
    auto* rows = new QVBoxLayout;
    rows->setSpacing(0);
    column_->addLayout(rows);
    for (const RecentStudy& study : recent) {
        auto* row = new RecentRow(study, now, this);
        connect(row, &RecentRow::opened, this, [this, path = study.path] { Q_EMIT study_wanted(path); });
        connect(
            row, &RecentRow::forgotten, this,
            [this, path = study.path] {
                forget_study(path);
                fill();
            },
            Qt::QueuedConnection);
        rows->addWidget(row);
    }
}

}  // namespace plume::app
