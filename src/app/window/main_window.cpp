#include "app/window/main_window.hpp"

#include <QApplication>
#include <QClipboard>
#include <QCloseEvent>
#include <QDir>
#include <QFileDialog>
#include <QFileInfo>
#include <QKeyEvent>
#include <QLabel>
#include <QMenuBar>
#include <QMessageBox>
#include <QMimeData>
#include <QPushButton>
#include <QScrollArea>
#include <QSettings>
#include <QSplitter>
#include <QVBoxLayout>

#include "app/files/export_dialog.hpp"
#include "app/files/file_banner.hpp"
#include "app/files/recovery.hpp"
#include "app/model/model_panel.hpp"
#include "app/parts/step_actions.hpp"
#include "app/readings/readings_panel.hpp"
#include "app/sheet/clipboard.hpp"
#include "app/sheet/sheet_page.hpp"
#include "app/theme/look.hpp"
#include "app/window/header.hpp"
#include "app/window/language_help.hpp"
#include "app/window/shortcuts.hpp"
#include "core/exchange/study_file.hpp"
#include "core/steps/catalogue.hpp"

namespace plume::app {
namespace {

constexpr int most_recent = 8;
constexpr int message_ms = 7000;

}  // namespace

MainWindow::MainWindow() : document_(standard_catalogue()) {
    setWindowIcon(QIcon(":/icons/plume-lattice.svg"));
    setAcceptDrops(true);
    resize(1280, 800);
    recovery_ = new Recovery(document_, this);
    menus_ = new QMenuBar;
    header_ = new Header(document_, menus_, this);
    build_page();
    build_menus();
    message_timer_.setSingleShot(true);
    connect(&message_timer_, &QTimer::timeout, message_, &QWidget::hide);
    connect(&document_, &Document::message, this, &MainWindow::show_message);
    connect(&document_, &Document::saved_changed, this, [this] {
        setWindowModified(!document_.saved());
        setWindowTitle(text_of(document_.study().title) + "[*] – Plume Lattice");
    });
    restore_settings();
    Q_EMIT document_.saved_changed();
}

MainWindow::~MainWindow() {
    // Widgets speak of the document until their last event, so they go first.
    delete takeCentralWidget();
}

void MainWindow::build_page() {
    auto* whole = new QWidget;
    whole->setObjectName("desk");
    auto* column = new QVBoxLayout(whole);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(0);
    column->addWidget(header_);
    banner_ = new QFrame;
    banner_->setObjectName("banner");
    banner_->hide();
    auto* banner_row = new QHBoxLayout(banner_);
    banner_row->setContentsMargins(16, 6, 12, 6);
    banner_text_ = new QLabel;
    banner_text_->setWordWrap(true);
    banner_row->addWidget(banner_text_, 1);
    column->addWidget(banner_);
    column->addWidget(new FileBanner(document_, whole));
    sheet_ = new SheetPage(document_, nullptr);
    scroll_ = new QScrollArea;
    scroll_->setObjectName("sheet");
    scroll_->setWidget(sheet_);
    scroll_->setWidgetResizable(true);
    scroll_->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    scroll_->setFocusPolicy(Qt::NoFocus);
    scroll_->setMinimumWidth(320);
    connect(sheet_, &SheetPage::show_wanted, this,
            [this](QWidget* widget) { scroll_->ensureWidgetVisible(widget, 0, 24); });
    connect(sheet_, &SheetPage::language_help_wanted, this, [this] { open_language_help(this); });
    model_ = new ModelPanel(document_, nullptr);
    readings_ = new ReadingsPanel(document_, nullptr);
    rows_ = new QSplitter(Qt::Vertical);
    rows_->addWidget(model_);
    rows_->addWidget(readings_);
    rows_->setStretchFactor(0, 1);
    rows_->setSizes({545, 210});
    rows_->setChildrenCollapsible(false);
    columns_ = new QSplitter(Qt::Horizontal);
    columns_->addWidget(scroll_);
    columns_->addWidget(rows_);
    columns_->setStretchFactor(1, 1);
    columns_->setSizes({540, 740});
    columns_->setChildrenCollapsible(false);
    for (QSplitter* splitter : {rows_, columns_})
        splitter->setHandleWidth(1);
    column->addWidget(columns_, 1);
    setCentralWidget(whole);
    message_ = new QLabel(this);
    message_->setObjectName("message");
    message_->setWordWrap(true);
    message_->setTextInteractionFlags(Qt::TextSelectableByMouse);
    message_->setMargin(12);
    message_->hide();
}

// Menus ---------------------------------------------------------------------------------------------------

void MainWindow::build_menus() {
    build_study_menu(*menus_->addMenu(tr("&Study")));
    build_edit_menu(*menus_->addMenu(tr("&Edit")));
    build_view_menu(*menus_->addMenu(tr("&View")));
    QMenu* help = menus_->addMenu(tr("&Help"));
    help->addAction(tr("&Shortcuts"), QKeySequence(Qt::Key_F1), this, &MainWindow::show_shortcuts);
    help->addAction(tr("The &formula language"), QKeySequence(Qt::SHIFT | Qt::Key_F1), this,
                    [this] { open_language_help(this); });
    help->addAction(tr("&About Plume Lattice"), this, &MainWindow::show_about);
}

void MainWindow::build_study_menu(QMenu& menu) {
    menu.addAction(tr("&New"), QKeySequence::New, this, &MainWindow::new_study);
    menu.addAction(tr("&Open…"), QKeySequence::Open, this, &MainWindow::open);
    recent_ = menu.addMenu(tr("Open &recent"));
    connect(recent_, &QMenu::aboutToShow, this, &MainWindow::fill_recent);
    menu.addSeparator();
    menu.addAction(tr("&Save"), QKeySequence::Save, this, &MainWindow::save);
    menu.addAction(tr("Save &as…"), QKeySequence(Qt::CTRL | Qt::SHIFT | Qt::Key_S), this,
                   &MainWindow::save_as);
    menu.addSeparator();
    menu.addAction(tr("&Export a result…"), QKeySequence(Qt::CTRL | Qt::SHIFT | Qt::Key_E), this, [this] {
        auto* dialog = new ExportDialog(document_, this);
        dialog->setAttribute(Qt::WA_DeleteOnClose);
        dialog->open();
    });
    menu.addAction(tr("Save &picture of the model…"), this, &MainWindow::save_picture);
    menu.addAction(tr("&Copy picture of the model"), QKeySequence(Qt::CTRL | Qt::SHIFT | Qt::Key_C), this,
                   [this] {
                       if (!model_->view())
                           return show_message(tr("There is no model to copy on this display."));
                       QApplication::clipboard()->setImage(model_->view()->picture());
                       show_message(tr("The picture of the model is on the clipboard."));
                   });
    menu.addSeparator();
    menu.addAction(tr("&Quit"), QKeySequence::Quit, this, &QWidget::close);
}

void MainWindow::build_edit_menu(QMenu& menu) {
    menu.addAction(tr("&Undo"), QKeySequence::Undo, &document_, &Document::undo);
    menu.addAction(tr("&Redo"), QKeySequence::Redo, &document_, &Document::redo);
    menu.addSeparator();
    menu.addAction(tr("Continue &with…"), QKeySequence(Qt::CTRL | Qt::Key_Return), this,
                   &MainWindow::begin_step);
    menu.addAction(tr("Add a &control…"), QKeySequence(Qt::CTRL | Qt::Key_K), this,
                   [this] { open_control_form(document_, {}, header_); });
    menu.addSeparator();
    menu.addAction(tr("Cu&t"), QKeySequence::Cut, this, [this] { cut_selection(document_, this); });
    menu.addAction(tr("&Copy"), QKeySequence::Copy, this, [this] {
        if (const auto* row = sheet_->control_in_hand()) return copy_control(document_, row->name());
        copy_selection(document_);
    });
    menu.addAction(tr("&Paste"), QKeySequence::Paste, this, [this] { paste(PastedControls::shared); });
    menu.addAction(tr("Paste with controls of its o&wn"), QKeySequence(Qt::CTRL | Qt::SHIFT | Qt::Key_V),
                   this, [this] { paste(PastedControls::own); });
    menu.addAction(tr("&Duplicate"), QKeySequence(Qt::CTRL | Qt::Key_D), this, [this] {
        duplicate_selection(document_);
        sheet_->go_to_selected();
    });
    menu.addSeparator();
    menu.addAction(tr("Compute &now"), QKeySequence(Qt::Key_F5), &document_.results(), &Results::compute);
    // Not a shortcut: Escape first belongs to what is being typed, and comes here when nobody took it.
    menu.addAction(tr("Ca&ncel the work\tEscape"), &document_.results(), &Results::cancel);
    menu.addAction(tr("&Live or on demand"), QKeySequence(Qt::CTRL | Qt::Key_L), this,
                   [this] { document_.results().set_live(!document_.results().live()); });
}

void MainWindow::paste(PastedControls controls) {
    paste_items(document_, controls);
    sheet_->go_to_selected();
}

void MainWindow::build_view_menu(QMenu& menu) {
    const auto add = [&](const QString& text, int key, auto action) {
        menu.addAction(text, QKeySequence(Qt::CTRL | static_cast<Qt::Key>(key)), this, [this, action] {
            if (model_->view()) action(*model_->view());
        });
    };
    add(tr("Frame &everything"), Qt::Key_0, [](ModelView& view) { view.fit_all(); });
    add(tr("Frame the &selected result"), Qt::Key_9, [](ModelView& view) { view.fit_selection(); });
    menu.addSeparator();
    add(tr("&At an angle"), Qt::Key_1, [](ModelView& view) { view.set_view(StandardView::above); });
    add(tr("&Plan"), Qt::Key_2, [](ModelView& view) { view.set_view(StandardView::plan); });
    add(tr("&Front"), Qt::Key_3, [](ModelView& view) { view.set_view(StandardView::front); });
    add(tr("S&ide"), Qt::Key_4, [](ModelView& view) { view.set_view(StandardView::side); });
    add(tr("Perspective or pa&rallel"), Qt::Key_5,
        [](ModelView& view) { view.set_perspective(!view.camera().perspective); });
    add(tr("Ground &grid"), Qt::Key_G, [](ModelView& view) { view.set_grid(!view.grid()); });
    menu.addSeparator();
    menu.addAction(tr("&Dark or light"), QKeySequence(Qt::CTRL | Qt::SHIFT | Qt::Key_D), this,
                   [this] { set_dark(!look().dark); });
}

void MainWindow::begin_step() {
    sheet_->continue_box().start();
}

void MainWindow::show_shortcuts() {
    open_shortcut_overview(*menus_, this);
}

void MainWindow::show_about() {
    QMessageBox::about(this, tr("About Plume Lattice"),
                       tr("<b>Plume Lattice %1</b><br>Forms that come out of rules.<br><br>GPL-3.0-or-later. "
                          "Fonts Inter, JetBrains Mono and STIX "
                          "under the SIL Open Font Licence.")
                           .arg(PLUME_VERSION));
}

// Files ---------------------------------------------------------------------------------------------------

bool MainWindow::may_leave() {
    if (document_.saved()) return true;
    QMessageBox box(QMessageBox::Question, tr("Unsaved changes"),
                    tr("‘%1’ has changes that are not saved.").arg(text_of(document_.study().title)),
                    QMessageBox::Save | QMessageBox::Discard | QMessageBox::Cancel, this);
    box.setDefaultButton(QMessageBox::Save);
    const int answer = box.exec();
    return answer == QMessageBox::Discard || (answer == QMessageBox::Save && save());
}

void MainWindow::new_study() {
    if (!may_leave()) return;
    auto study = std::make_shared<Study>();
    study->title = text_of(tr("Untitled study"));
    document_.replace(study, {});
}

void MainWindow::open() {
    if (!may_leave()) return;
    const QString folder =
        document_.path().isEmpty() ? QDir::homePath() : QFileInfo(document_.path()).absolutePath();
    const QString path = QFileDialog::getOpenFileName(this, tr("Open a study"), folder,
                                                      tr("Studies (*.plume);;All files (*)"));
    if (!path.isEmpty()) open_file(path);
}

bool MainWindow::open_file(const QString& path) {
    Result<StudyPointer> study = load_study(path.toStdString());
    if (!study) {
        show_message(text_of(sentence(study.error())));
        return false;
    }
    document_.replace(*study, QFileInfo(path).absoluteFilePath());
    remember(document_.path());
    QStringList unknown;
    for (const std::string& said : unknown_parts(**study))
        unknown << text_of(said);
    if (!unknown.isEmpty()) show_message(unknown.join(' '));
    return true;
}

bool MainWindow::save() {
    return document_.path().isEmpty() ? save_as() : save_to(document_.path());
}

bool MainWindow::save_as() {
    QString start = document_.path();
    if (start.isEmpty())
        start =
            QDir::home().filePath(text_of(document_.study().title).toLower().replace(' ', '-') + ".plume");
    QString path =
        QFileDialog::getSaveFileName(this, tr("Save the study as"), start, tr("Studies (*.plume)"));
    if (path.isEmpty()) return false;
    if (QFileInfo(path).suffix().isEmpty()) path += ".plume";
    return save_to(path);
}

bool MainWindow::save_to(const QString& path) {
    // Links are kept relative to the study: saved elsewhere they have to lead from there.
    const std::string from =
        document_.path().isEmpty() ? "" : QFileInfo(document_.path()).absolutePath().toStdString();
    document_.apply(with_links_from(document_.study(), from, QFileInfo(path).absolutePath().toStdString()),
                    tr("links"));
    const Status saved = save_study(document_.study(), path.toStdString());
    if (!saved) {
        show_message(text_of(sentence(saved.error())));
        return false;
    }
    document_.mark_saved(QFileInfo(path).absoluteFilePath());
    remember(document_.path());
    return true;
}

void MainWindow::save_picture() {
    if (!model_->view())
        return show_message(
            tr("There is no model to save on this display; use the command `plume picture`."));
    const QString path = QFileDialog::getSaveFileName(
        this, tr("Save the picture as"), QDir::home().filePath("picture.png"), tr("Pictures (*.png)"));
    if (path.isEmpty()) return;
    const bool saved = model_->view()->picture().save(path, "PNG");
    show_message(saved ? tr("The picture was saved as ‘%1’.").arg(path)
                       : tr("‘%1’ could not be written. Choose a folder you may write to.").arg(path));
}

void MainWindow::remember(const QString& path) {
    QSettings settings;
    QStringList recent = settings.value("recent").toStringList();
    recent.removeAll(path);
    recent.prepend(path);
    settings.setValue("recent", recent.mid(0, most_recent));
}

void MainWindow::fill_recent() {
    recent_->clear();
    for (const QString& path : QSettings().value("recent").toStringList())
        recent_->addAction(path, this, [this, path] {
            if (may_leave()) open_file(path);
        });
    if (recent_->isEmpty()) recent_->addAction(tr("No study was opened yet"))->setEnabled(false);
}

void MainWindow::offer_recovery() {
    const auto lost = Recovery::lost_work();
    if (lost.empty()) return;
    const LostWork& work = lost.front();
    const QString what = work.original.isEmpty() ? tr("a study that was never saved")
                                                 : "‘" + QFileInfo(work.original).fileName() + "’";
    banner_text_->setText(tr("The last session ended before its changes to %1 were saved, on %2.")
                              .arg(what, QLocale().toString(work.time, QLocale::ShortFormat)));
    auto* recover = new QPushButton(tr("&Recover them"));
    recover->setObjectName("recover");
    auto* forget = new QPushButton(tr("&Throw them away"));
    forget->setObjectName("forget");
    const auto done = [this, recover, forget] {
        banner_->hide();
        recover->deleteLater();
        forget->deleteLater();
        offer_recovery();  // there may be more than one
    };
    connect(recover, &QPushButton::clicked, this, [this, work, done] {
        if (!may_leave()) return;
        Result<StudyPointer> study = load_study(work.copy.toStdString());
        if (!study) return show_message(text_of(sentence(study.error())));
        document_.replace(*study, work.original);
        document_.mark_unsaved();
        Recovery::forget(work);
        done();
    });
    connect(forget, &QPushButton::clicked, this, [work, done] {
        Recovery::forget(work);
        done();
    });
    banner_->layout()->addWidget(recover);
    banner_->layout()->addWidget(forget);
    banner_->show();
}

void MainWindow::closeEvent(QCloseEvent* event) {
    if (!may_leave()) return event->ignore();
    store_settings();
    event->accept();
}

void MainWindow::dragEnterEvent(QDragEnterEvent* event) {
    if (event->mimeData()->hasUrls()) event->acceptProposedAction();
}

void MainWindow::dropEvent(QDropEvent* event) {
    const auto urls = event->mimeData()->urls();
    if (!urls.isEmpty() && may_leave()) open_file(urls.front().toLocalFile());
}

// The window itself ---------------------------------------------------------------------------------------

void MainWindow::set_dark(bool dark) {
    apply_look(dark);
    QSettings().setValue("dark", dark);
}

void MainWindow::show_message(const QString& text) {
    message_->setText(text);
    message_->setStyleSheet(
        QString("background: %1; color: %2; border-radius: 8px;").arg(look().ink.name(), look().page.name()));
    place_message();
    message_->show();
    message_->raise();
    message_timer_.start(message_ms);
}

void MainWindow::place_message() {
    message_->setFixedWidth(qMin(560, width() - 40));
    message_->adjustSize();
    message_->move((width() - message_->width()) / 2, height() - message_->height() - 20);
}

void MainWindow::keyPressEvent(QKeyEvent* event) {
    if (event->key() == Qt::Key_Escape) return document_.results().cancel();
    QMainWindow::keyPressEvent(event);
}

void MainWindow::resizeEvent(QResizeEvent* event) {
    QMainWindow::resizeEvent(event);
    place_message();
}

void MainWindow::restore_settings() {
    const QSettings settings;
    restoreGeometry(settings.value("geometry").toByteArray());
    columns_->restoreState(settings.value("columns").toByteArray());
    rows_->restoreState(settings.value("rows").toByteArray());
    document_.results().set_live(settings.value("live", true).toBool());
}

void MainWindow::store_settings() const {
    QSettings settings;
    settings.setValue("geometry", saveGeometry());
    settings.setValue("columns", columns_->saveState());
    settings.setValue("rows", rows_->saveState());
    settings.setValue("live", document_.results().live());
}

}  // namespace plume::app
