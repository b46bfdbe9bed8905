#include "app/window/header.hpp"

#include <QEvent>
#include <QHBoxLayout>
#include <QLabel>
#include <QMenuBar>
#include <QProgressBar>
#include <QToolButton>

#include "app/parts/button_icon.hpp"
#include "app/theme/look.hpp"
#include "app/theme/popup_menu.hpp"
#include "core/base/numbers.hpp"

namespace plume::app {
namespace {

constexpr double shown_after_s = 0.2;

}  // namespace

Header::Header(Document& document, QMenuBar* menus, QWidget* parent) : QWidget(parent), document_(document) {
    setObjectName("header");
    setAttribute(Qt::WA_StyledBackground);
    setFixedHeight(44);
    auto* row = new QHBoxLayout(this);
    row->setContentsMargins(10, 0, 12, 0);
    // The window may be narrower than all of it.
    row->setSizeConstraint(QLayout::SetNoConstraint);
    row->setSpacing(8);
    menus->setSizePolicy(QSizePolicy::Maximum, QSizePolicy::Preferred);
    row->addWidget(menus, 0, Qt::AlignVCenter);
    const auto page_button = [&](const char* name, const QString& text, const QString& tip, Page page) {
        auto* made = new QToolButton;
        made->setObjectName(name);
        made->setText(text);
        made->setToolTip(tip);
        made->setCheckable(true);
        made->setProperty("page", true);
        connect(made, &QToolButton::clicked, this, [this, page] { Q_EMIT page_wanted(page); });
        row->addWidget(made);
        return made;
    };
    row->addSpacing(4);
    compose_ =
        page_button("page-compose", tr("Compose"), tr("Where the study is made (Ctrl+Shift+1)"), Page::sheet);
    hand_off_ = page_button("page-hand-off", tr("Hand off"),
                            tr("Where it leaves: files for others (Ctrl+Shift+2)"), Page::hand_off);
    compose_->setChecked(true);
    title_ = new QLabel;
    saved_ = new QLabel;
    saved_->setObjectName("saved");
    step_ = new QLabel;
    step_->setProperty("second", true);
    bar_ = new QProgressBar;
    bar_->setObjectName("progress");
    bar_->setTextVisible(false);
    bar_->setFixedWidth(110);
    bar_->setRange(0, 1000);
    const auto button = [&](const char* name, const QString& label) {
        auto* made = new QToolButton;
        made->setObjectName(name);
        made->setAccessibleName(label);
        made->setToolTip(label);
        made->setIconSize({18, 18});
        return made;
    };
    cancel_ = button("cancel", tr("Cancel the work (Escape)"));
    cancel_->setText(tr("Cancel"));
    units_ = button("units", tr("Units of this study"));
    units_->setProperty("quiet", true);
    live_ = button("live", tr("Live: every change is computed at once. On demand: F5 computes."));
    live_->setToolButtonStyle(Qt::ToolButtonTextOnly);
    compute_ = button("compute", tr("Compute now (F5)"));
    undo_ = button("undo", tr("Undo"));
    redo_ = button("redo", tr("Redo"));
    row->addSpacing(6);
    row->addWidget(title_);
    row->addWidget(saved_);
    row->addStretch();
    for (QWidget* widget :
         {static_cast<QWidget*>(step_), static_cast<QWidget*>(bar_), static_cast<QWidget*>(cancel_),
          static_cast<QWidget*>(units_), static_cast<QWidget*>(live_), static_cast<QWidget*>(compute_),
          static_cast<QWidget*>(undo_), static_cast<QWidget*>(redo_)})
        row->addWidget(widget);
    connect(cancel_, &QToolButton::clicked, &document.results(), &Results::cancel);
    connect(live_, &QToolButton::clicked, this,
            [this] { document_.results().set_live(!document_.results().live()); });
    connect(compute_, &QToolButton::clicked, &document.results(), &Results::compute);
    connect(undo_, &QToolButton::clicked, &document, &Document::undo);
    connect(redo_, &QToolButton::clicked, &document, &Document::redo);
    connect(units_, &QToolButton::clicked, this, &Header::open_units);
    connect(&document, &Document::saved_changed, this, &Header::refresh);
    connect(&document, &Document::study_changed, this, &Header::refresh);
    connect(&document.results(), &Results::evaluation_changed, this, &Header::refresh_progress);
    connect(&document.results(), &Results::progress_changed, this, &Header::refresh_progress);
    refresh_icons();
    refresh();
}

void Header::refresh() {
    title_->setFont(text_font(13, QFont::DemiBold));
    title_->setText(title_->fontMetrics().elidedText(text_of(document_.study().title), Qt::ElideRight, 260));
    saved_->setText(document_.saved() ? (document_.path().isEmpty() ? tr("not saved yet") : tr("saved"))
                                      : tr("● edited"));
    QPalette palette = saved_->palette();
    palette.setColor(QPalette::WindowText, document_.saved() ? look().second_ink : look().attention);
    saved_->setPalette(palette);
    const Units& units = document_.study().units;
    units_->setText(text_of(plain_name(units.length)) + " · " + text_of(plain_name(units.angle)));
    const bool other =
        undo_->isEnabled() != document_.can_undo() || redo_->isEnabled() != document_.can_redo();
    undo_->setEnabled(document_.can_undo());
    redo_->setEnabled(document_.can_redo());
    if (other) refresh_icons();
    undo_->setToolTip(document_.can_undo() ? tr("Undo %1 (Ctrl+Z)").arg(document_.undo_label())
                                           : tr("Nothing to undo"));
    redo_->setToolTip(document_.can_redo() ? tr("Redo %1 (Ctrl+Shift+Z)").arg(document_.redo_label())
                                           : tr("Nothing to redo"));
    refresh_progress();
}

void Header::refresh_icons() {
    set_icon(*undo_, "undo", undo_->isEnabled() ? look().ink : look().hairline);
    set_icon(*redo_, "redo", redo_->isEnabled() ? look().ink : look().hairline);
    set_icon(*compute_, "compute", look().ink);
}

void Header::set_page(Page page) {
    compose_->setChecked(page == Page::sheet);
    hand_off_->setChecked(page == Page::hand_off);
}

void Header::refresh_progress() {
    const auto progress = document_.results().progress();
    const bool busy = progress.busy && progress.seconds > shown_after_s;
    if (busy) {
        const Step* step = document_.study().step(progress.step);
        step_->setText(step ? text_of(step->name) : QString());
        const double share = (static_cast<double>(progress.index) + progress.fraction) /
                             static_cast<double>(std::max<std::size_t>(1, progress.count));
        // By itself a bar paints at once, and the whole window with it.
        bar_->setUpdatesEnabled(false);
        bar_->setValue(static_cast<int>(share * 1000));
        bar_->setUpdatesEnabled(true);
    }
    for (QWidget* widget :
         {static_cast<QWidget*>(step_), static_cast<QWidget*>(bar_), static_cast<QWidget*>(cancel_)})
        widget->setVisible(busy);
    const QString time = text_of(duration_text(document_.results().last_seconds()));
    const std::size_t problems = document_.results().problem_count();
    QString text = document_.results().live() ? tr("● Live") : tr("○ On demand");
    if (document_.results().behind() && !document_.results().live())
        text += tr(" · out of date");
    else if (problems > 0)
        text += problems == 1 ? tr(" · 1 step needs mending") : tr(" · %1 steps need mending").arg(problems);
    else
        text += " · " + time;
    live_->setText(text);
    compute_->setVisible(!document_.results().live());
}

void Header::open_units() {
    QMenu* menu = new_popup_menu(this);
    const auto add = [&](Units units, std::string_view name, bool now) {
        QAction* action = menu->addAction(text_of(name));
        action->setCheckable(true);
        action->setChecked(now);
        connect(action, &QAction::triggered, this, [this, units] { document_.set_units(units); });
    };
    const Units now = document_.study().units;
    menu->addAction(tr("The form keeps its size"))->setEnabled(false);
    for (const LengthUnit unit : {LengthUnit::metre, LengthUnit::centimetre, LengthUnit::millimetre,
                                  LengthUnit::foot, LengthUnit::inch})
        add({unit, now.angle}, plain_name(unit), unit == now.length);
    menu->addSeparator();
    for (const AngleUnit unit : {AngleUnit::degree, AngleUnit::radian})
        add({now.length, unit}, plain_name(unit), unit == now.angle);
    menu->popup(units_->mapToGlobal(QPoint(0, units_->height())));
}

void Header::make_room() {
    for (QWidget* spare :
         {static_cast<QWidget*>(saved_), static_cast<QWidget*>(units_), static_cast<QWidget*>(title_)})
        spare->show();
    for (QWidget* spare :
         {static_cast<QWidget*>(saved_), static_cast<QWidget*>(title_), static_cast<QWidget*>(units_)}) {
        layout()->activate();
        if (layout()->sizeHint().width() <= width()) return;
        spare->hide();
    }
}

void Header::resizeEvent(QResizeEvent* event) {
    QWidget::resizeEvent(event);
    make_room();
}

void Header::changeEvent(QEvent* event) {
    if (event->type() == QEvent::PaletteChange) {
        refresh_icons();
        refresh();
    }
    QWidget::changeEvent(event);
}

}  // namespace plume::app
