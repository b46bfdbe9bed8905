#pragma once
// The window: header, pages, and the commands of its menus.

#include <QMainWindow>

#include "app/document/document.hpp"
#include "core/study/edits/excerpt.hpp"

class QLabel;
class QMenu;
class QMenuBar;
class QStackedWidget;

namespace plume::app {

class ComposePage;
class HandOffPage;
class Header;
class HistoryPictures;
class ModelPanel;
class RecoveryBanner;
class ReferenceWindow;
class SheetPage;
class StudyFiles;
class WalkCard;

class MainWindow : public QMainWindow {
    Q_OBJECT

public:
    MainWindow();
    ~MainWindow() override;

    Document& document() { return document_; }
    SheetPage& sheet();  // of the page that is seen
    ModelPanel& model();
    // False when it could not be read; says why in the window.
    bool open_file(const QString& path);
    void offer_recovery();

protected:
    bool event(QEvent* event) override;
    void closeEvent(QCloseEvent* event) override;
    void dragEnterEvent(QDragEnterEvent* event) override;
    void dropEvent(QDropEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;
    void resizeEvent(QResizeEvent* event) override;

private:
    void build_menus();
    void build_study_menu(QMenu& menu);
    void build_edit_menu(QMenu& menu);
    void paste(PastedControls controls);
    void build_view_menu(QMenu& menu);
    void build_page();
    void connect_start();
    void keep_picture();
    void begin_walk();
    void show_page(Page page);
    void save_picture();
    void write_film();
    void set_dark(bool dark);
    void show_message(const QString& text);
    void place_message();
    // The page of what is in hand: the step the finder has, or the selected one; what there is otherwise.
    void show_reference();
    void show_shortcuts();
    void show_about();
    void begin_step();
    void restore_settings();
    void store_settings() const;

    Document document_;
    StudyFiles* files_;
    QMenuBar* menus_;
    Header* header_;
    RecoveryBanner* recovery_banner_;
    QStackedWidget* pages_;
    ComposePage* compose_;
    HandOffPage* hand_off_;
    ReferenceWindow* reference_ = nullptr;  // made when it is first looked at
    WalkCard* walk_;
    HistoryPictures* history_pictures_;
    QLabel* message_;
    QTimer message_timer_;
};

}  // namespace plume::app
