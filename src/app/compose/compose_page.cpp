#include "app/compose/compose_page.hpp"

#include <QSettings>
#include <QVBoxLayout>

#include "app/model/model_panel.hpp"
#include "app/parts/popup.hpp"
#include "app/readings/readings_panel.hpp"
#include "app/sheet/sheet_page.hpp"
#include "app/sheet/why_bar.hpp"
#include "app/start/start_panel.hpp"
#include "app/time/time_strip.hpp"

namespace plume::app {

ComposePage::ComposePage(Document& document, QWidget* parent)
    : QWidget(parent),
      document_(document),
      sheet_(new SheetPage(document, Page::sheet, nullptr)),
      model_(new ModelPanel(document, nullptr)),
      time_(new TimeStrip(document, nullptr)),
      parts_(this, sheet_, "sheet", new WhyBar(document, nullptr)),
      start_(new StartPanel(this)) {
    connect(sheet_, &SheetPage::show_wanted, this, [this](QWidget* widget) { parts_.show(widget); });
    connect(sheet_, &SheetPage::language_help_wanted, this, &ComposePage::language_help_wanted);
    // An id may name another step there.
    connect(&document, &Document::replaced, this, [this] { Popup::close_all_of(window()); });
    parts_.rows().addWidget(new ReadingsPanel(document, nullptr));
    auto* seen = new QWidget;
    over_time_ = new QVBoxLayout(seen);
    over_time_->setContentsMargins(0, 0, 0, 0);
    over_time_->setSpacing(0);
    over_time_->addWidget(time_);
    parts_.put_above(seen);
    take_model();
    start_->hide();
    parts_.rows().installEventFilter(this);
    const auto as_the_page_is = [this] { show_start(document_.study().items.empty()); };
    connect(&document, &Document::study_changed, this, as_the_page_is);
    as_the_page_is();
}

void ComposePage::toggle_start() {
    show_start(start_->isHidden());
}

void ComposePage::show_start(bool shown) {
    if (shown) place_start();
    start_->setVisible(shown);
    if (shown) start_->raise();
}

// Over the model and its readings.
void ComposePage::place_start() {
    const QSplitter& rows = parts_.rows();
    start_->setGeometry(QRect(rows.mapTo(this, QPoint(0, 0)), rows.size()));
}

bool ComposePage::eventFilter(QObject* watched, QEvent* event) {
    if (event->type() == QEvent::Resize || event->type() == QEvent::Move || event->type() == QEvent::Show)
        place_start();
    return QWidget::eventFilter(watched, event);
}

bool ComposePage::end_looking() {
    // On an empty page they stay.
    if (start_->isVisible() && !document_.study().items.empty()) {
        show_start(false);
        return true;
    }
    if (document_.attention().wishes().asked.empty()) return false;
    document_.attention().stop_asking();
    return true;
}

void ComposePage::take_model() {
    over_time_->insertWidget(0, model_, 1);
    model_->show();
}

void ComposePage::restore(const QSettings& settings) {
    parts_.columns().restoreState(settings.value("columns").toByteArray());
    parts_.rows().restoreState(settings.value("rows").toByteArray());
}

void ComposePage::store(QSettings& settings) const {
    settings.setValue("columns", parts_.columns().saveState());
    settings.setValue("rows", parts_.rows().saveState());
}

}  // namespace plume::app
