#pragma once
// The page where a study leaves: what is handed off as sentences, what of that is new since the last time,
// and writing it. Shows the same model as the page where the study is made, and what arrived.

#include <QWidget>

#include "app/handoff/hand_off_writer.hpp"
#include "app/parts/page_columns.hpp"

class QLabel;
class QPushButton;
class QSettings;
class QStackedWidget;
class QTableView;
class QToolButton;

namespace plume::app {

class ModelPanel;
class PartTable;
class PicturePanel;
class ReceivedPanel;
class RehearsalPanel;
class SheetPage;
class SheetPanel;

class HandOffPage : public QWidget {
    Q_OBJECT

public:
    explicit HandOffPage(Document& document, QWidget* parent = nullptr);

    SheetPage& sheet() { return *sheet_; }
    // The page is the one that is seen, with this model; or no longer.
    void open(ModelPanel* model);
    void close_page();
    void restore(const QSettings& settings);
    void store(QSettings& settings) const;

private:
    QWidget* new_head();
    QWidget* new_readings();
    QWidget* new_tabs();
    void look_at_what_arrived();
    void look_closer();
    void refresh();
    void refresh_head();
    void refresh_readings();
    void look_at_files();
    ItemId step_in_hand() const;
    void write(std::vector<ItemId> steps);
    // Whether what somebody else changed may be replaced; nothing: it is not to be written at all.
    std::optional<bool> allowed(const std::vector<ItemId>& steps);
    void take_reports(const std::vector<HandOffWriter::Report>& reports);
    void edit_folder();

    Document& document_;
    HandOffWriter writer_;
    SheetPage* sheet_;
    std::unique_ptr<PageColumns> parts_;
    QLabel *where_, *progress_, *name_, *state_, *details_, *left_over_;
    QPushButton *folder_, *write_, *write_one_, *cancel_;
    QToolButton *leaves_, *the_sheet_, *the_picture_, *rehearsal_, *arrived_;
    QStackedWidget* at_the_right_;
    ReceivedPanel* received_;
    SheetPanel* drawn_;
    PicturePanel* pictured_;
    ModelPanel* model_ = nullptr;
    RehearsalPanel* rehearsed_;
    QTableView* table_;
    PartTable* table_rows_;
    bool open_ = false;
    QTimer progress_timer_;
};

}  // namespace plume::app
