#include "app/window/history_popup.hpp"

#include <QLabel>
#include <QListWidget>
#include <QVBoxLayout>

#include "app/theme/look.hpp"
#include "core/study/edits/change_text.hpp"

namespace plume::app {
namespace {

constexpr int row_height = 54, list_width = 400, most_rows = 8;

QString told(const History& history, std::size_t entry, const Catalogue& catalogue) {
    if (entry == 0) return QObject::tr("As it was opened");
    const auto& entries = history.entries();
    const std::string text =
        change_text(*entries[entry - 1].study, *entries[entry].study, catalogue, entries[entry].label);
    return text_of(text);
}

}  // namespace

HistoryPopup::HistoryPopup(Document& document, const HistoryPictures& pictures, QWidget* near)
    : Popup(near, tr("What was done")), document_(document), pictures_(pictures) {
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(12, 10, 12, 12);
    auto* title = new QLabel(tr("What was done"));
    title->setFont(text_font(13, QFont::DemiBold));
    column->addWidget(title);
    list_ = new QListWidget;
    list_->setObjectName("history");
    list_->setAccessibleName(tr("What was done"));
    list_->setFrameShape(QFrame::NoFrame);
    list_->setIconSize(HistoryPictures::size);
    list_->setWordWrap(true);
    list_->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    column->addWidget(list_);
    auto* hint = new QLabel(tr("A click or Return goes there."));
    hint->setProperty("second", true);
    column->addWidget(hint);
    fill();
    const auto go = [this](const QListWidgetItem* item) {
        document_.go_to(static_cast<std::size_t>(item->data(Qt::UserRole).toULongLong()));
    };
    connect(list_, &QListWidget::itemClicked, this, go);
    connect(list_, &QListWidget::itemActivated, this, go);
    connect(&document, &Document::study_changed, this, &HistoryPopup::show_where);
    place();
    list_->setFocus(Qt::PopupFocusReason);
}

void HistoryPopup::fill() {
    const History& history = document_.history();
    for (std::size_t entry = history.entries().size(); entry-- > 0;) {
        auto* item = new QListWidgetItem(told(history, entry, document_.catalogue()), list_);
        item->setData(Qt::UserRole, static_cast<qulonglong>(entry));
        item->setSizeHint({0, row_height});
        const QImage seen = pictures_.of(history.entries()[entry].study);
        QPixmap picture(HistoryPictures::size);
        picture.fill(look().desk);
        item->setIcon(QIcon(seen.isNull() ? picture : QPixmap::fromImage(seen)));
    }
    list_->setFixedSize(list_width, qMin(most_rows, list_->count()) * row_height + 4);
    show_where();
}

// The state that is in hand; another edit makes another history.
void HistoryPopup::show_where() {
    const History& history = document_.history();
    if (static_cast<std::size_t>(list_->count()) != history.entries().size()) return leave();
    for (int row = 0; row < list_->count(); ++row) {
        const bool here = list_->item(row)->data(Qt::UserRole).toULongLong() == history.at();
        list_->item(row)->setFont(text_font(13, here ? QFont::DemiBold : QFont::Normal));
        if (here) list_->setCurrentRow(row);
    }
}

}  // namespace plume::app
