#include "app/compose/compose_page.hpp"

#include <QSettings>
#include <QVBoxLayout>

#include "app/model/model_panel.hpp"
#include "app/parts/popup.hpp"
#include "app/readings/readings_panel.hpp"
#include "app/sheet/sheet_page.hpp"
#include "app/time/time_strip.hpp"

namespace plume::app {

ComposePage::ComposePage(Document& document, QWidget* parent)
    : QWidget(parent),
      sheet_(new SheetPage(document, Page::sheet, nullptr)),
      model_(new ModelPanel(document, nullptr)),
      time_(new TimeStrip(document, nullptr)),
      parts_(this, sheet_, "sheet") {
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
