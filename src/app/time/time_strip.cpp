#include "app/time/time_strip.hpp"

#include <QEvent>
#include <QHBoxLayout>
#include <QLabel>
#include <QScrollArea>
#include <QToolButton>
#include <QVBoxLayout>
#include <algorithm>

#include "app/parts/button_icon.hpp"
#include "app/parts/elided_label.hpp"
#include "app/parts/form_popup.hpp"
#include "app/theme/look.hpp"
#include "app/time/time_lanes.hpp"
#include "app/time/time_text.hpp"
#include "core/base/numbers.hpp"
#include "core/study/edits/edit_keys.hpp"
#include "core/study/moving.hpp"
#include "core/study/sentence.hpp"

namespace plume::app {
namespace {

// More lanes are scrolled.
constexpr int most_lanes_height = 158;
// Kept moments are looked at so often while they come.
constexpr int between_looks_ms = 250;

QToolButton* new_button(const char* name, QWidget* parent) {
    auto* button = new QToolButton(parent);
    button->setObjectName(name);
    // What is in hand stays so.
    button->setFocusPolicy(Qt::TabFocus);
    return button;
}

}  // namespace

TimeStrip::TimeStrip(Document& document, QWidget* parent) : QWidget(parent), document_(document) {
    setObjectName("time-strip");
    hide();  // until something moves
    setAttribute(Qt::WA_StyledBackground);
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 4);
    column->setSpacing(0);
    column->addWidget(new_head());
    lanes_ = new TimeLanes(document, nullptr);
    scroll_ = new QScrollArea;
    scroll_->setObjectName("time-scroll");
    scroll_->setWidget(lanes_);
    scroll_->setWidgetResizable(true);
    scroll_->setFrameShape(QFrame::NoFrame);
    scroll_->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    scroll_->setFocusPolicy(Qt::NoFocus);
    column->addWidget(scroll_);
    look_at_kept_.setSingleShot(true);
    look_at_kept_.setInterval(between_looks_ms);
    connect(&look_at_kept_, &QTimer::timeout, this, &TimeStrip::refresh_kept);
    connect(&document, &Document::study_changed, this, &TimeStrip::refresh);
    connect(&document, &Document::replaced, this, [this] {
        wished_.reset();
        refresh();
    });
    connect(&document.results(), &Results::evaluation_changed, this, [this] {
        if (!look_at_kept_.isActive()) look_at_kept_.start();
    });
    connect(&document.playing(), &Playing::moment_changed, this, &TimeStrip::refresh_moment);
    connect(&document.playing(), &Playing::playing_changed, this, &TimeStrip::refresh_playing);
    connect(&document.playing(), &Playing::in_hand_changed, this, &TimeStrip::refresh_in_hand);
    connect(&document.attention(), &Attention::selection_changed, this, &TimeStrip::refresh_keeping);
    refresh();
}

QWidget* TimeStrip::new_head() {
    auto* head = new QWidget;
    auto* row = new QHBoxLayout(head);
    row->setContentsMargins(16, 8, 14, 2);
    row->setSpacing(4);
    row->setSizeConstraint(QLayout::SetNoConstraint);
    play_ = new_button("time-play", this);
    loop_ = new_button("time-loop", this);
    record_ = new_button("time-record", this);
    for (QToolButton* button : {play_, loop_, record_}) {
        button->setFixedSize(28, 26);
        button->setIconSize({18, 18});
        button->setProperty("tool", true);
        row->addWidget(button);
    }
    loop_->setCheckable(true);
    record_->setCheckable(true);
    moment_ = new_button("time-moment", this);
    moment_->setToolTip(tr("The moment that is looked at: click to type another"));
    // The row stays as it is while numbers change; of one size, nothing around it is laid out anew.
    moment_->setFont(text_font(13, QFont::DemiBold));
    moment_->setFixedSize(moment_->fontMetrics().horizontalAdvance("0000.00 s") + 8,
                          moment_->sizeHint().height());
    time_ = new_button("time-length", this);
    time_->setToolTip(tr("How long the study runs, and in how many frames a second: click to change"));
    kept_ = new ElidedLabel(this);
    kept_->setObjectName("time-kept");
    kept_->setProperty("second", true);
    kept_->setFont(text_font(12));
    keep_ = new_button("time-keep", this);
    key_ = new_button("time-key", this);
    for (QToolButton* button : {keep_, key_})
        button->setProperty("small", true);
    row->addWidget(moment_);
    row->addWidget(time_);
    row->addWidget(kept_, 1);
    row->addWidget(keep_);
    row->addWidget(key_);
    connect(play_, &QToolButton::clicked, this, [this] {
        Playing& playing = document_.playing();
        playing.plays() ? playing.pause() : playing.play();
    });
    connect(loop_, &QToolButton::toggled, this, [this](bool on) { document_.playing().set_loops(on); });
    connect(record_, &QToolButton::toggled, this, [this](bool on) { document_.playing().set_records(on); });
    connect(moment_, &QToolButton::clicked, this, &TimeStrip::open_moment_form);
    connect(time_, &QToolButton::clicked, this, &TimeStrip::open_time_form);
    connect(keep_, &QToolButton::clicked, this, &TimeStrip::keep_moment);
    connect(key_, &QToolButton::clicked, this, [this] { document_.playing().key_in_hand(); });
    return head;
}

void TimeStrip::toggle() {
    wished_ = isHidden();
    refresh();
}

void TimeStrip::show_or_hide() {
    const bool shown = wished_.value_or(moves(document_.study(), document_.catalogue()));
    if (shown != isHidden()) return;
    setVisible(shown);
    document_.playing().set_shown(shown);
    if (!shown) document_.playing().pause();
}

void TimeStrip::refresh() {
    show_or_hide();
    if (isHidden()) return;
    const Timeline& time = document_.study().time;
    time_->setText(tr("of %1 s · %2 frames a second")
                       .arg(text_of(short_text(time.seconds, 6)), text_of(short_text(time.rate, 5))));
    refresh_playing();
    refresh_kept();
    refresh_keeping();
}

void TimeStrip::changeEvent(QEvent* event) {
    if (event->type() == QEvent::PaletteChange) refresh_playing();
    QWidget::changeEvent(event);
}

void TimeStrip::refresh_moment() {
    moment_->setText(seconds_text(document_.playing().seconds()));
    refresh_in_hand();
    if (document_.playing().plays() && !look_at_kept_.isActive()) look_at_kept_.start();
}

void TimeStrip::refresh_playing() {
    const Playing& playing = document_.playing();
    set_icon(*play_, playing.plays() ? "pause" : "compute", look().accent);
    play_->setToolTip(playing.plays() ? tr("Pause (Space)") : tr("Play (Space)"));
    play_->setAccessibleName(play_->toolTip());
    set_icon(*loop_, "loop", playing.loops() ? look().accent : look().second_ink);
    loop_->setChecked(playing.loops());
    loop_->setToolTip(playing.loops() ? tr("At its end it begins again") : tr("It stops at its end"));
    loop_->setAccessibleName(loop_->toolTip());
    set_icon(*record_, "record", playing.records() ? look().attention : look().second_ink);
    record_->setChecked(playing.records());
    record_->setToolTip(playing.records()
                            ? tr("What is moved while it plays is recorded, and moves there again")
                            : tr("Record what is moved while it plays"));
    record_->setAccessibleName(record_->toolTip());
    refresh_moment();
}

void TimeStrip::refresh_kept() {
    if (isHidden()) return;
    lanes_->refresh();
    scroll_->setFixedHeight(std::min(lanes_->sizeHint().height(), most_lanes_height));
    const Playing& playing = document_.playing();
    QString text, brief;
    if (lanes_->lane_count() == 0) {
        text = tr("Nothing moves yet: read time in an expression, or key a control");
    } else if (playing.plays() && playing.frames_per_second() > 0) {
        const int frames = qRound(playing.frames_per_second());
        text = tr("plays at %1 frames a second").arg(frames);
        brief = tr("plays at %1").arg(frames);
    }
    kept_->set_texts(text, brief);
    kept_->setToolTip(text);
}

void TimeStrip::refresh_keeping() {
    if (isHidden()) return;
    const Step* step =
        moment_to_keep(document_.study(), document_.catalogue(), document_.attention().selected());
    to_keep_ = step ? step->id : 0;
    refresh_in_hand();
}

void TimeStrip::refresh_in_hand() {
    if (isHidden()) return;
    const QString now = seconds_text(document_.playing().seconds());
    const Step* step = document_.study().step(to_keep_);
    keep_->setVisible(step != nullptr);
    if (step) {
        const QString name = text_of(step->name);
        keep_->setText(tr("Keep this moment"));
        keep_->setToolTip(tr("Adds a step that keeps %1 as it is at %2").arg(name, now));
        keep_->setAccessibleName(keep_->toolTip());
    }
    const std::vector<Keyed>& things = document_.playing().in_hand();
    key_->setEnabled(!things.empty());
    key_->setText(things.empty() ? tr("Key it here  K") : tr("Key %1 here  K").arg(name_in_hand()));
    key_->setToolTip(things.empty()
                         ? tr("Take hold of a control, or of a handle in the model, to set a key of it")
                         : tr("Sets a key of what is in hand at %1").arg(now));
    key_->setAccessibleName(key_->toolTip());
}

QString TimeStrip::name_in_hand() const {
    const std::vector<Keyed>& things = document_.playing().in_hand();
    if (things.size() != 1) return tr("%1 things").arg(things.size());
    const QString name = text_of(name_of(document_.study(), things.front()));
    constexpr int room = 110;
    return key_->fontMetrics().elidedText(name, Qt::ElideRight, room);
}

void TimeStrip::open_moment_form() {
    auto* form = new FormPopup(moment_, tr("Go to a moment"));
    QLineEdit* line = form->add_line(tr("Seconds"), text_of(short_text(document_.playing().seconds(), 6)));
    form->open(tr("Go there"), [this, line]() -> QString {
        const auto seconds = read_number(text_of(line->text().trimmed()));
        const Timeline& time = document_.study().time;
        if (!seconds || *seconds < 0 || *seconds > time.seconds)
            return tr("Type a number of seconds from 0 to %1.").arg(text_of(short_text(time.seconds, 6)));
        document_.playing().look_at(*seconds);
        return {};
    });
}

void TimeStrip::open_time_form() {
    auto* form = new FormPopup(time_, tr("Time of the study"));
    const Timeline& now = document_.study().time;
    QLineEdit* seconds = form->add_line(tr("Seconds"), text_of(short_text(now.seconds, 6)));
    QLineEdit* rate = form->add_line(tr("Frames a second"), text_of(short_text(now.rate, 6)));
    form->open(tr("Set time"), [this, seconds, rate]() -> QString {
        const auto typed_seconds = read_number(text_of(seconds->text().trimmed())),
                   typed_rate = read_number(text_of(rate->text().trimmed()));
        if (!typed_seconds || !typed_rate) return tr("Type two numbers, without units.");
        const Edited edited = set_timeline(document_.study(), {*typed_seconds, *typed_rate});
        if (!edited) return text_of(sentence(edited.error()));
        document_.apply(edited, tr("time of the study"));
        return {};
    });
}

void TimeStrip::keep_moment() {
    const Step* moving = document_.study().step(to_keep_);
    const StepKind* kind = document_.catalogue().find("time.keep");
    if (!moving || !kind) return;
    const Study& study = document_.study();
    const auto added =
        add_step(study, document_.catalogue(), *kind, *study.position(moving->id) + 1, moving->name);
    if (!added) return document_.show_message(text_of(sentence(added.error())));
    const std::string seconds = short_text(document_.playing().seconds(), 9);
    if (document_.apply(set_slot(*added->study, added->id, kind->read_at, NumberText{seconds}),
                        tr("kept moment")))
        document_.attention().select(added->id);
}

}  // namespace plume::app
