#pragma once
// The window: header, sheet, model, readings, and the commands of its menus.

#include <QMainWindow>

#include "app/document/document.hpp"
#include "core/study/edits/excerpt.hpp"

class QFrame;
class QLabel;
class QMenu;
class QMenuBar;
class QScrollArea;
class QSplitter;

namespace plume::app {

class Header;
class ModelPanel;
class ReadingsPanel;
class Recovery;
class SheetPage;

class MainWindow : public QMainWindow {
    Q_OBJECT

public:
    MainWindow();
    ~MainWindow() override;

    Document& document() { return document_; }
    SheetPage& sheet() { return *sheet_; }
    ModelPanel& model() { return *model_; }
    // False when it could not be read; says why in the window.
    bool open_file(const QString& path);
    void offer_recovery();

protected:
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
    void fill_recent();
    void remember(const QString& path);
    bool may_leave();
    void new_study();
    void open();
    bool save();
    bool save_as();
    bool save_to(const QString& path);
    void save_picture();
    void set_dark(bool dark);
    void show_message(const QString& text);
    void place_message();
    void show_shortcuts();
    void show_about();
    void begin_step();
    void restore_settings();
    void store_settings() const;

    Document document_;
    Recovery* recovery_;
    QMenuBar* menus_;
    QMenu* recent_ = nullptr;
    Header* header_;
    QFrame* banner_;
    QLabel* banner_text_;
    QSplitter *columns_, *rows_;
    QScrollArea* scroll_;
    SheetPage* sheet_;
    ModelPanel* model_;
    ReadingsPanel* readings_;
    QLabel* message_;
    QTimer message_timer_;
};

}  // namespace plume::app
