#pragma once
// How the window's pages are laid out: at the left a sheet that scrolls, at the right what it makes above its
// readings.

#include <QScrollArea>
#include <QSplitter>

namespace plume::app {

class PageColumns {
public:
    // On `page`, which gets a layout; `sheet` scrolls under the name given, below the head, if there is one,
    // which stays. The rows at the right are the page's to fill.
    PageColumns(QWidget* page, QWidget* sheet, const char* name, QWidget* head = nullptr);

    QSplitter& rows() const { return *rows_; }
    QSplitter& columns() const { return *columns_; }
    void show(QWidget* part_of_the_sheet) const { scroll_->ensureWidgetVisible(part_of_the_sheet, 0, 24); }
    // What stands at the right instead of the rows, which it may hold.
    void put_beside(QWidget* right) const;
    // What the sheet makes, above its readings.
    void put_above(QWidget* made) const;

private:
    QScrollArea* scroll_;
    QSplitter *columns_, *rows_;
};

}  // namespace plume::app
