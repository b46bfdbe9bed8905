#include "app/parts/page_columns.hpp"

#include <QVBoxLayout>
#include <algorithm>

namespace plume::app {
namespace {

constexpr int readings_height = 210;

}  // namespace

PageColumns::PageColumns(QWidget* page, QWidget* sheet, const char* name)
    : scroll_(new QScrollArea), columns_(new QSplitter(Qt::Horizontal)), rows_(new QSplitter(Qt::Vertical)) {
    scroll_->setObjectName(name);
    scroll_->setWidget(sheet);
    scroll_->setWidgetResizable(true);
    scroll_->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    scroll_->setFocusPolicy(Qt::NoFocus);
    scroll_->setMinimumWidth(320);
    columns_->addWidget(scroll_);
    put_beside(rows_);
    for (QSplitter* splitter : {rows_, columns_}) {
        splitter->setChildrenCollapsible(false);
        splitter->setHandleWidth(1);
    }
    auto* whole = new QVBoxLayout(page);
    whole->setContentsMargins(0, 0, 0, 0);
    whole->addWidget(columns_);
}

void PageColumns::put_beside(QWidget* right) const {
    columns_->addWidget(right);
    columns_->setStretchFactor(1, 1);
    columns_->setSizes({540, 740});
}

void PageColumns::put_above(QWidget* made) const {
    const int below = rows_->count() > 0 ? std::min(rows_->sizes().back(), readings_height) : 0;
    const int readings = below > 0 ? below : readings_height;
    rows_->insertWidget(0, made);
    rows_->setStretchFactor(0, 1);
    rows_->setSizes({std::max(2 * readings_height, rows_->height() - readings), readings});
    made->show();
}

}  // namespace plume::app
