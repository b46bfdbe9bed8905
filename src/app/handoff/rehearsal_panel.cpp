#include "app/handoff/rehearsal_panel.hpp"

#include <QFileDialog>
#include <QGridLayout>
#include <QHBoxLayout>
#include <QLabel>
#include <QPushButton>
#include <QSlider>
#include <QToolButton>
#include <QVBoxLayout>

#include "app/handoff/rehearsal_view.hpp"
#include "app/model/view_tools.hpp"
#include "app/parts/wrapped_label.hpp"
#include "app/theme/look.hpp"
#include "core/base/numbers.hpp"

namespace plume::app {
namespace {

constexpr int slider_steps = 10'000;
// However long it takes the machine.
constexpr double seconds_played = 24;
constexpr int frame_ms = 16;

}  // namespace

RehearsalPanel::RehearsalPanel(Document& document, QWidget* parent) : QWidget(parent), document_(document) {
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(0);
    auto* model = new QWidget;
    auto* over = new QGridLayout(model);
    over->setContentsMargins(0, 0, 0, 0);
    why_not_ = OrbitView::why_not();
    if (why_not_.isEmpty()) {
        view_ = new RehearsalView(model);
        tools_ = new ViewTools(*view_, ViewTools::Keys::none, {}, model);
        tools_->setContentsMargins(0, 0, 14, 12);
        over->addWidget(view_, 0, 0);
        over->addWidget(tools_, 0, 0, Qt::AlignRight | Qt::AlignBottom);
        tools_->raise();
        connect(view_, &OrbitView::camera_changed, tools_, &ViewTools::refresh);
    }
    instead_ = wrapped_label("rehearsal-instead", text_font(14));
    instead_->setAlignment(Qt::AlignCenter);
    instead_->setMargin(60);
    over->addWidget(instead_, 0, 0);
    column->addWidget(model, 1);
    player_ = new_player();
    column->addWidget(player_);
    column->addWidget(new_readings());
    progress_timer_.setInterval(100);
    // The next frame is begun when this one is seen: however slow they are, there is time for the user
    // between.
    frames_.setInterval(frame_ms);
    frames_.setSingleShot(true);
    if (view_) {
        connect(view_, &OrbitView::frame_shown, this, [this] {
            if (playing_) frames_.start();
        });
        connect(&standing_, &StandingPicture::made, view_, &RehearsalView::show_finely);
        connect(&standing_, &StandingPicture::going_on, view_, &RehearsalView::tell_fineness);
    }
    connect(&progress_timer_, &QTimer::timeout, this, &RehearsalPanel::refresh);
    connect(&frames_, &QTimer::timeout, this, &RehearsalPanel::play_on);
    connect(&rehearser_, &Rehearser::changed, this, &RehearsalPanel::take_state);
    refresh();
}

QWidget* RehearsalPanel::new_player() {
    auto* player = new QWidget;
    auto* row = new QHBoxLayout(player);
    row->setContentsMargins(16, 8, 16, 8);
    row->setSpacing(12);
    play_ = new QToolButton;
    play_->setObjectName("rehearsal-play");
    play_->setProperty("chip", true);
    slider_ = new QSlider(Qt::Horizontal);
    slider_->setObjectName("rehearsal-slider");
    slider_->setAccessibleName(tr("Minutes of the work that have passed"));
    slider_->setRange(0, slider_steps);
    slider_->setPageStep(slider_steps / 20);
    time_ = new QLabel;
    time_->setObjectName("rehearsal-time");
    time_->setProperty("second", true);
    // The slider stays as long as it is while numbers change.
    time_->setMinimumWidth(time_->fontMetrics().horizontalAdvance("00.00 min of 00.00 min · line 0000000"));
    time_->setAlignment(Qt::AlignRight | Qt::AlignVCenter);
    row->addWidget(play_);
    row->addWidget(slider_, 1);
    row->addWidget(time_);
    connect(play_, &QToolButton::clicked, this, [this] { play(!playing_); });
    connect(slider_, &QSlider::valueChanged, this, [this](int value) {
        if (shown_) go_to(shown_->minutes() * value / slider_steps);
    });
    return player;
}

QWidget* RehearsalPanel::new_readings() {
    auto* panel = new QWidget;
    panel->setObjectName("readings");
    panel->setAttribute(Qt::WA_StyledBackground);
    auto* row = new QHBoxLayout(panel);
    row->setContentsMargins(16, 12, 16, 12);
    row->setSpacing(16);
    auto* text = new QVBoxLayout;
    text->setSpacing(4);
    summary_ = wrapped_label("rehearsal-summary", text_font(15, QFont::DemiBold));
    details_ = wrapped_label("rehearsal-details", text_font(12));
    details_->setProperty("second", true);
    text->addWidget(summary_);
    text->addWidget(details_);
    text->addStretch();
    row->addLayout(text, 1);
    auto* buttons = new QVBoxLayout;
    other_file_ = new QPushButton(tr("Rehearse a file …"));
    other_file_->setObjectName("rehearsal-other-file");
    other_file_->setToolTip(tr("A file from elsewhere, on what this sentence is about"));
    own_file_ = new QPushButton(tr("What this sentence writes"));
    own_file_->setObjectName("rehearsal-own-file");
    cancel_ = new QPushButton(tr("Cancel"));
    cancel_->setObjectName("rehearsal-cancel");
    for (QPushButton* button : {cancel_, own_file_, other_file_})
        buttons->addWidget(button);
    buttons->addStretch();
    row->addLayout(buttons);
    connect(other_file_, &QPushButton::clicked, this, &RehearsalPanel::choose_file);
    connect(own_file_, &QPushButton::clicked, this, [this] { rehearser_.rehearse_file({}); });
    connect(cancel_, &QPushButton::clicked, this, [this] { rehearser_.cancel(); });
    return panel;
}

void RehearsalPanel::show_sentence(ItemId sentence, const HandOffEntry* entry, bool seen) {
    if (sentence != in_hand_.sentence && !rehearser_.file().empty()) rehearser_.rehearse_file({});
    in_hand_.take(sentence, entry, &is_rehearsed);
    if (seen)
        rehearser_.make(in_hand_.delivery, in_hand_.key, document_.study().units);
    else
        play(false);
    refresh();
}

// What is new is shown as it ends; what was played goes on where it was.
void RehearsalPanel::take_state() {
    if (rehearser_.work() != shown_) {
        const bool another =
            !shown_ || !rehearser_.work() || shown_->is_flat() != rehearser_.work()->is_flat();
        const double share = shown_ && shown_->minutes() > 0 ? shown_->now() / shown_->minutes() : 1;
        shown_ = rehearser_.work();
        if (shown_)
            shown_->go_to(share * shown_->minutes());
        else
            play(false);
        show_now(another);
        refresh_player();
    }
    refresh();
}

void RehearsalPanel::go_to(double minutes) {
    shown_->go_to(minutes);
    show_now(false);
    refresh_player();
}

void RehearsalPanel::show_now(bool another) {
    if (!view_) return;
    if (shown_)
        view_->show_now(*shown_, another);
    else
        view_->clear();
    standing_.stand(playing_ ? nullptr : shown_);
}

void RehearsalPanel::play(bool on) {
    const bool played = std::exchange(playing_, on && shown_ != nullptr);
    if (played != playing_ && view_) standing_.stand(playing_ ? nullptr : shown_);
    if (playing_) {
        // At the end it begins anew.
        if (shown_->now() >= shown_->minutes()) go_to(0);
        since_frame_.start();
        frames_.start();
    } else {
        frames_.stop();
    }
    refresh_player();
}

void RehearsalPanel::play_on() {
    if (!shown_) return play(false);
    const double whole = shown_->minutes();
    const double passed = static_cast<double>(since_frame_.restart()) / 1000;
    go_to(shown_->now() + whole * passed / seconds_played);
    if (shown_->now() >= whole) return play(false);
    if (!view_) frames_.start();
}

void RehearsalPanel::choose_file() {
    const QString file =
        QFileDialog::getOpenFileName(window(), tr("Rehearse a file for a machine"), {},
                                     tr("G-code (*.nc *.ngc *.gcode *.tap *.txt);;All files (*)"));
    if (!file.isEmpty()) rehearser_.rehearse_file(file.toStdString());
}

void RehearsalPanel::refresh_player() {
    player_->setVisible(shown_ != nullptr);
    play_->setText(playing_ ? tr("Stop") : tr("Play"));
    if (!shown_) return;
    const QSignalBlocker quiet(slider_);
    if (shown_->minutes() > 0)
        slider_->setValue(static_cast<int>(slider_steps * shown_->now() / shown_->minutes()));
    QString text =
        tr("%1 of %2")
            .arg(text_of(duration_text(shown_->now() * 60)), text_of(duration_text(shown_->minutes() * 60)));
    if (shown_->line() > 0) text += tr(" · line %1").arg(shown_->line());
    time_->setText(text);
}

void RehearsalPanel::refresh() {
    const bool busy = rehearser_.busy() && in_hand_.delivery;
    const bool seen = in_hand_.delivery && shown_;
    if (busy)
        progress_timer_.start();
    else
        progress_timer_.stop();
    if (view_) {
        view_->setVisible(seen);
        tools_->setVisible(seen);
    }
    player_->setVisible(seen);
    instead_->setVisible(!seen || !view_);
    cancel_->setVisible(busy);
    other_file_->setVisible(seen);
    own_file_->setVisible(seen && !rehearser_.file().empty());
    const std::optional<Error> wrong =
        in_hand_.wrong(document_, in_hand_.delivery ? rehearser_.error() : std::nullopt);
    if (wrong)
        instead_->setText(text_of(sentence(*wrong)));
    else if (in_hand_.delivery)
        instead_->setText(seen ? why_not_ : tr("It is rehearsed …"));
    else
        instead_->setText(tr(
            "Take a sentence that mills or cuts flat in hand, at the left, and its rehearsal is seen here."));
    set_ink(*instead_, wrong ? look().attention : look().second_ink);
    QString about =
        busy ? tr("Rehearsing, %1 %").arg(static_cast<int>(100 * rehearser_.fraction())) : QString();
    QStringList details;
    if (seen) {
        if (!busy) about = text_of(shown_->summary());
        for (const std::string& line : shown_->details())
            details << text_of(line);
        for (const std::string& remark : shown_->remarks())
            details << text_of(remark);
        if (!rehearser_.file().empty()) details.prepend(text_of(rehearser_.file().filename().string()));
    }
    summary_->setText(about);
    details_->setText(details.join("\n"));
}

}  // namespace plume::app
