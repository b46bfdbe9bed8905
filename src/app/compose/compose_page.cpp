#include "app/compose/compose_page.hpp"

#include <QScrollArea>
#include <QSettings>
#include <QSplitter>
#include <QVBoxLayout>

#include "app/model/model_panel.hpp"
#include "app/parts/popup.hpp"
#include "app/readings/readings_panel.hpp"
#include "app/sheet/sheet_page.hpp"

namespace plume::app {

ComposePage::ComposePage(Document& document, QWidget* parent) : QWidget(parent) {
    sheet_ = new SheetPage(document, Page::sheet, nullptr);
    scroll_ = new QScrollArea;
    scroll_->setObjectName("sheet");
    scroll_->setWidget(sheet_);
    scroll_->setWidgetResizable(true);
    scroll_->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    scroll_->setFocusPolicy(Qt::NoFocus);
    scroll_->setMinimumWidth(320);
    connect(sheet_, &SheetPage::show_wanted, this,
            [this](QWidget* widget) { scroll_->ensureWidgetVisible(widget, 0, 24); });
    connect(sheet_, &SheetPage::language_help_wanted, this, &ComposePage::language_help_wanted);
    // An id may name another step there.
    connect(&document, &Document::replaced, this, [this] { Popup::close_all_of(window()); });
    model_ = new ModelPanel(document, nullptr);
    readings_ = new ReadingsPanel(document, nullptr);
    rows_ = new QSplitter(Qt::Vertical);
    rows_->addWidget(model_);
    rows_->addWidget(readings_);
    rows_->setStretchFactor(0, 1);
    rows_->setSizes({545, 210});
    columns_ = new QSplitter(Qt::Horizontal);
    columns_->addWidget(scroll_);
    columns_->addWidget(rows_);
    columns_->setStretchFactor(1, 1);
    columns_->setSizes({540, 740});
    for (QSplitter* splitter : {rows_, columns_}) {
        splitter->setChildrenCollapsible(false);
        splitter->setHandleWidth(1);
    }
    auto* whole = new QVBoxLayout(this);
    whole->setContentsMargins(0, 0, 0, 0);
    whole->addWidget(columns_);
}

void ComposePage::take_model() {
    const QList<int> sizes = rows_->sizes();
    rows_->insertWidget(0, model_);
    rows_->setStretchFactor(0, 1);
    const int readings = sizes.isEmpty() ? 210 : std::min(sizes.back(), 210);
    rows_->setSizes({std::max(200, rows_->height() - readings), readings});
    model_->show();
}

void ComposePage::restore(const QSettings& settings) {
    columns_->restoreState(settings.value("columns").toByteArray());
    rows_->restoreState(settings.value("rows").toByteArray());
}

void ComposePage::store(QSettings& settings) const {
    settings.setValue("columns", columns_->saveState());
    settings.setValue("rows", rows_->saveState());
}

}  // namespace plume::app
