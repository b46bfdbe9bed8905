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
        auto* tools = new ViewTools(*view_, ViewTools::Keys::none, {}, model);
        tools->setContentsMargins(0, 0, 14, 12);
        over->addWidget(view_, 0, 0);
        over->addWidget(tools, 0, 0, Qt::AlignRight | Qt::AlignBottom);
        tools->raise();
        connect(view_, &OrbitView::camera_changed, tools, &ViewTools::refresh);
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
    if (view_)
        connect(view_, &QOpenGLWidget::frameSwapped, this, [this] {
            if (playing_) frames_.start();
        });
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
    slider_->setAccessibleName(tr("Minutes of milling that have passed"));
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
        if (shown_) go_to(shown_->playback.minutes() * value / slider_steps);
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
    other_file_->setToolTip(tr("A milling file from elsewhere, against this form, board and cutters"));
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
    in_hand_.take(sentence, entry, &is_milled);
    if (seen)
        rehearser_.make(in_hand_.delivery, in_hand_.key, document_.study().units);
    else
        play(false);
    refresh();
}

// What is new is shown as it ends; what was played goes on where it was.
void RehearsalPanel::take_state() {
    if (rehearser_.state() != shown_) {
        const bool first = shown_ == nullptr;
        const double share = shown_ && shown_->playback.minutes() > 0
                                 ? shown_->playback.now() / shown_->playback.minutes()
                                 : 1;
        shown_ = rehearser_.state();
        if (shown_) {
            shown_->playback.go_to(share * shown_->playback.minutes());
            if (view_) view_->show_now(*shown_, first);
        } else if (view_) {
            view_->clear();
            play(false);
        }
        refresh_player();
    }
    refresh();
}

void RehearsalPanel::go_to(double minutes) {
    shown_->playback.go_to(minutes);
    if (view_) view_->show_now(*shown_, false);
    refresh_player();
}

void RehearsalPanel::play(bool on) {
    playing_ = on && shown_ != nullptr;
    if (playing_) {
        // At the end it begins anew.
        if (shown_->playback.now() >= shown_->playback.minutes()) go_to(0);
        since_frame_.start();
        frames_.start();
    } else {
        frames_.stop();
    }
    refresh_player();
}

void RehearsalPanel::play_on() {
    if (!shown_) return play(false);
    const double whole = shown_->playback.minutes();
    const double passed = static_cast<double>(since_frame_.restart()) / 1000;
    go_to(shown_->playback.now() + whole * passed / seconds_played);
    if (shown_->playback.now() >= whole) return play(false);
    if (!view_) frames_.start();
}

void RehearsalPanel::choose_file() {
    const QString file =
        QFileDialog::getOpenFileName(window(), tr("Rehearse a milling file"), {},
                                     tr("Milling files (*.nc *.ngc *.gcode *.tap *.txt);;All files (*)"));
    if (!file.isEmpty()) rehearser_.rehearse_file(file.toStdString());
}

void RehearsalPanel::refresh_player() {
    player_->setVisible(shown_ != nullptr);
    play_->setText(playing_ ? tr("Stop") : tr("Play"));
    if (!shown_) return;
    const Playback& playback = shown_->playback;
    const QSignalBlocker quiet(slider_);
    if (playback.minutes() > 0)
        slider_->setValue(static_cast<int>(slider_steps * playback.now() / playback.minutes()));
    QString text = tr("%1 of %2")
                       .arg(text_of(duration_text(playback.now() * 60)),
                            text_of(duration_text(playback.minutes() * 60)));
    if (playback.line() > 0) text += tr(" · line %1").arg(playback.line());
    time_->setText(text);
}

void RehearsalPanel::refresh() {
    const bool busy = rehearser_.busy() && in_hand_.delivery;
    const bool seen = in_hand_.delivery && shown_;
    if (busy)
        progress_timer_.start();
    else
        progress_timer_.stop();
    if (view_) view_->setVisible(seen);
    player_->setVisible(seen);
    instead_->setVisible(!seen || !view_);
    cancel_->setVisible(busy);
    other_file_->setVisible(seen);
    own_file_->setVisible(seen && !rehearser_.file().empty());
    const std::optional<Error> wrong = in_hand_.error      ? in_hand_.error
                                       : in_hand_.delivery ? rehearser_.error()
                                                           : std::nullopt;
    if (wrong)
        instead_->setText(text_of(sentence(*wrong)));
    else if (in_hand_.delivery)
        instead_->setText(seen ? why_not_ : tr("It is rehearsed …"));
    else
        instead_->setText(
            tr("Take a sentence that mills in hand, at the left, and its rehearsal is seen here."));
    set_ink(*instead_, wrong ? look().attention : look().second_ink);
    QString about =
        busy ? tr("Rehearsing, %1 %").arg(static_cast<int>(100 * rehearser_.fraction())) : QString();
    QStringList details;
    if (seen) {
        const Rehearsal& made = shown_->rehearsal;
        if (!busy) about = text_of(made.summary());
        for (const std::string& line : made.details())
            details << text_of(line);
        if (!shown_->overhangs.empty()) details << text_of(shown_->overhangs);
        for (const std::string& remark : shown_->remarks)
            details << text_of(remark);
        if (!rehearser_.file().empty()) details.prepend(text_of(rehearser_.file().filename().string()));
    }
    summary_->setText(about);
    details_->setText(details.join("\n"));
}

}  // namespace plume::app
