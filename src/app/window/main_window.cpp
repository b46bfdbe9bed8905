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
#include <QSettings>
#include <QStackedWidget>
#include <QVBoxLayout>

#include "app/compose/compose_page.hpp"
#include "app/files/example_copy.hpp"
#include "app/files/export_dialog.hpp"
#include "app/files/file_banner.hpp"
#include "app/files/film_dialog.hpp"
#include "app/files/picture_dialog.hpp"
#include "app/files/recent_studies.hpp"
#include "app/files/recovery.hpp"
#include "app/files/recovery_banner.hpp"
#include "app/files/study_files.hpp"
#include "app/handoff/hand_off_page.hpp"
#include "app/model/model_panel.hpp"
#include "app/parts/paced_moves.hpp"
#include "app/parts/popup.hpp"
#include "app/parts/step_actions.hpp"
#include "app/parts/window_size.hpp"
#include "app/reference/reference_window.hpp"
#include "app/sheet/clipboard.hpp"
#include "app/sheet/group_popup.hpp"
#include "app/sheet/sheet_page.hpp"
#include "app/start/start_panel.hpp"
#include "app/start/walk_card.hpp"
#include "app/theme/look.hpp"
#include "app/time/time_strip.hpp"
#include "app/window/header.hpp"
#include "app/window/history_popup.hpp"
#include "app/window/language_help.hpp"
#include "app/window/shortcuts.hpp"
#include "core/steps/catalogue.hpp"

namespace plume::app {
namespace {

constexpr int message_ms = 7000;

}  // namespace

MainWindow::MainWindow() : document_(standard_catalogue()) {
    setWindowIcon(QIcon(":/icons/plume-lattice.svg"));
    setAcceptDrops(true);
    begin_in_size(*this, {1280, 800});
    files_ = new StudyFiles(document_, this);
    new Recovery(document_, this);
    new PacedMoves(this, [this] { return document_.results().progress().waiting; });
    menus_ = new QMenuBar;
    header_ = new Header(document_, menus_, this);
    build_page();
    walk_ = new WalkCard(document_, this);
    history_pictures_ = new HistoryPictures(
        document_, [this] { return model().view() ? model().view()->picture() : QImage(); }, this);
    build_menus();
    message_timer_.setSingleShot(true);
    connect(&message_timer_, &QTimer::timeout, message_, &QWidget::hide);
    connect(&document_, &Document::message, this, &MainWindow::show_message);
    connect(&document_, &Document::saved_changed, this, [this] {
        setWindowModified(!document_.saved());
        const QString title = text_of(document_.study().title);
        setWindowTitle((title.isEmpty() ? QFileInfo(document_.path()).completeBaseName() : title) +
                       "[*] – Plume Lattice");
    });
    restore_settings();
    Q_EMIT document_.saved_changed();
    // Else the first button would have the keyboard before anybody asked for it.
    setFocus(Qt::OtherFocusReason);
}

SheetPage& MainWindow::sheet() {
    return pages_->currentWidget() == hand_off_ ? hand_off_->sheet() : compose_->sheet();
}

ModelPanel& MainWindow::model() {
    return compose_->model();
}

bool MainWindow::open_file(const QString& path) {
    return files_->open_file(path);
}

void MainWindow::offer_recovery() {
    recovery_banner_->look();
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
    recovery_banner_ = new RecoveryBanner(document_, *files_, whole);
    column->addWidget(recovery_banner_);
    column->addWidget(new FileBanner(document_, whole));
    pages_ = new QStackedWidget;
    compose_ = new ComposePage(document_);
    connect(compose_, &ComposePage::language_help_wanted, this,
            [this](const QString& about) { open_language_help(this, about); });
    pages_->addWidget(compose_);
    connect_start();
    hand_off_ = new HandOffPage(document_);
    pages_->addWidget(hand_off_);
    connect(header_, &Header::page_wanted, this, &MainWindow::show_page);
    column->addWidget(pages_, 1);
    setCentralWidget(whole);
    message_ = new QLabel(this);
    message_->setObjectName("message");
    message_->setWordWrap(true);
    message_->setTextInteractionFlags(Qt::TextSelectableByMouse);
    message_->setMargin(12);
    message_->hide();
}

void MainWindow::connect_start() {
    StartPanel& start = compose_->start();
    connect(&start, &StartPanel::copy_wanted, files_, &StudyFiles::open_copy_of);
    connect(&start, &StartPanel::study_wanted, this, [this](const QString& path) {
        if (files_->may_leave()) files_->open_file(path);
    });
    connect(&start, &StartPanel::open_wanted, files_, &StudyFiles::open);
    connect(&start, &StartPanel::empty_wanted, this, [this] {
        files_->begin_new();
        if (document_.study().items.empty()) begin_step();
    });
    connect(&start, &StartPanel::walk_wanted, this, &MainWindow::begin_walk);
    connect(files_, &StudyFiles::put_away, this, &MainWindow::keep_picture);
}

// On an empty page.
void MainWindow::begin_walk() {
    if (!document_.study().items.empty()) files_->begin_new();
    if (!document_.study().items.empty()) return;
    show_page(Page::sheet);
    walk_->begin();
    sheet().continue_box().setFocus();
}

// As it was last seen, for the list of those that were opened lately.
void MainWindow::keep_picture() {
    if (model().view() && !document_.study().items.empty())
        keep_picture_of_study(document_.path(), model().view()->picture());
}

void MainWindow::show_page(Page page) {
    Popup::close_all_of(this);
    header_->set_page(page);
    const bool leaves = page == Page::hand_off;
    if (leaves == (pages_->currentWidget() == hand_off_)) return;
    if (leaves) {
        // What leaves is of the first moment, as of the command line, whichever was looked at last.
        document_.playing().pause();
        document_.playing().go_to(0);
        hand_off_->open(&compose_->model());
        pages_->setCurrentWidget(hand_off_);
    } else {
        hand_off_->close_page();
        compose_->take_model();
        pages_->setCurrentWidget(compose_);
    }
}

// Menus ---------------------------------------------------------------------------------------------------

void MainWindow::build_menus() {
    build_study_menu(*menus_->addMenu(tr("&Study")));
    build_edit_menu(*menus_->addMenu(tr("&Edit")));
    build_view_menu(*menus_->addMenu(tr("&View")));
    QMenu* help = menus_->addMenu(tr("&Help"));
    help->addAction(tr("A first &walk"), this, &MainWindow::begin_walk);
    help->addAction(tr("&Steps"), QKeySequence(Qt::Key_F2), this, &MainWindow::show_reference);
    help->addAction(tr("&Shortcuts"), QKeySequence(Qt::Key_F1), this, &MainWindow::show_shortcuts);
    help->addAction(tr("The &formula language"), QKeySequence(Qt::SHIFT | Qt::Key_F1), this,
                    [this] { open_language_help(this, {}); });
    help->addAction(tr("&About Plume Lattice"), this, &MainWindow::show_about);
}

void MainWindow::build_study_menu(QMenu& menu) {
    menu.addAction(tr("&New"), QKeySequence::New, files_, &StudyFiles::begin_new);
    menu.addAction(tr("&Open…"), QKeySequence::Open, files_, &StudyFiles::open);
    QMenu* recent = menu.addMenu(tr("Open &recent"));
    connect(recent, &QMenu::aboutToShow, this, [this, recent] { files_->fill_recent(*recent); });
    menu.addSeparator();
    menu.addAction(tr("&Save"), QKeySequence::Save, files_, &StudyFiles::save);
    menu.addAction(tr("Save &as…"), QKeySequence(Qt::CTRL | Qt::SHIFT | Qt::Key_S), files_,
                   &StudyFiles::save_as);
    menu.addSeparator();
    menu.addAction(tr("&Export a result…"), QKeySequence(Qt::CTRL | Qt::SHIFT | Qt::Key_E), this, [this] {
        auto* dialog = new ExportDialog(document_, this);
        dialog->setAttribute(Qt::WA_DeleteOnClose);
        dialog->open();
    });
    menu.addAction(tr("Save &picture of the model…"), this, &MainWindow::save_picture);
    menu.addAction(tr("Write a &film of the model…"), this, &MainWindow::write_film);
    menu.addAction(tr("&Copy picture of the model"), QKeySequence(Qt::CTRL | Qt::SHIFT | Qt::Key_C), this,
                   [this] {
                       if (!model().view())
                           return show_message(tr("There is no model to copy on this display."));
                       QApplication::clipboard()->setImage(model().view()->picture());
                       show_message(tr("The picture of the model is on the clipboard."));
                   });
    menu.addSeparator();
    menu.addAction(tr("&Quit"), QKeySequence::Quit, this, &QWidget::close);
}

void MainWindow::build_edit_menu(QMenu& menu) {
    menu.addAction(tr("&Undo"), QKeySequence::Undo, &document_, &Document::undo);
    menu.addAction(tr("&Redo"), QKeySequence::Redo, &document_, &Document::redo);
    menu.addAction(tr("What was do&ne …"), QKeySequence(Qt::CTRL | Qt::Key_H), this, [this] {
        Popup::close_all_of(this);
        new HistoryPopup(document_, *history_pictures_, header_);
    });
    menu.addSeparator();
    menu.addAction(tr("Continue &with…"), QKeySequence(Qt::CTRL | Qt::Key_Return), this,
                   &MainWindow::begin_step);
    menu.addAction(tr("Add a &control…"), QKeySequence(Qt::CTRL | Qt::Key_K), this,
                   [this] { open_control_form(document_, {}, header_); });
    menu.addSeparator();
    menu.addAction(tr("Cu&t"), QKeySequence::Cut, this, [this] { cut_selection(document_, this); });
    menu.addAction(tr("&Copy"), QKeySequence::Copy, this, [this] {
        if (const auto* row = sheet().control_in_hand()) return copy_control(document_, row->name());
        copy_selection(document_);
    });
    menu.addAction(tr("&Paste"), QKeySequence::Paste, this, [this] { paste(PastedControls::shared); });
    menu.addAction(tr("Paste with controls of its o&wn"), QKeySequence(Qt::CTRL | Qt::SHIFT | Qt::Key_V),
                   this, [this] { paste(PastedControls::own); });
    menu.addAction(tr("&Duplicate"), QKeySequence(Qt::CTRL | Qt::Key_D), this, [this] {
        duplicate_selection(document_);
        sheet().go_to_selected();
    });
    menu.addSeparator();
    menu.addAction(tr("Make &one step of what is selected…"), QKeySequence(Qt::CTRL | Qt::Key_J), this,
                   [this] {
                       QWidget* block = sheet().step_block(document_.attention().selected());
                       open_group_form(document_, block ? block : &sheet());
                   });
    menu.addAction(tr("&Take apart"), QKeySequence(Qt::CTRL | Qt::SHIFT | Qt::Key_J), this,
                   [this] { take_apart(document_, document_.attention().selected()); });
    menu.addSeparator();
    menu.addAction(tr("Compute &now"), QKeySequence(Qt::Key_F5), &document_.results(), &Results::compute);
    // Not a shortcut: Escape first belongs to what is being typed, and comes here when nobody took it.
    menu.addAction(tr("Ca&ncel the work\tEscape"), &document_.results(), &Results::cancel);
    menu.addAction(tr("&Live or on demand"), QKeySequence(Qt::CTRL | Qt::Key_L), this,
                   [this] { document_.results().set_live(!document_.results().live()); });
}

void MainWindow::paste(PastedControls controls) {
    paste_items(document_, controls);
    sheet().go_to_selected();
}

void MainWindow::build_view_menu(QMenu& menu) {
    const auto add = [&](const QString& text, int key, auto action) {
        menu.addAction(text, QKeySequence(Qt::CTRL | static_cast<Qt::Key>(key)), this, [this, action] {
            if (model().view()) action(*model().view());
        });
    };
    add(tr("Fit &everything into view"), Qt::Key_0, [](ModelView& view) { view.fit_all(); });
    add(tr("Fit the &selected result into view"), Qt::Key_9, [](ModelView& view) { view.fit_selection(); });
    menu.addSeparator();
    add(tr("&At an angle"), Qt::Key_1, [](ModelView& view) { view.set_view(StandardView::above); });
    add(tr("&Plan"), Qt::Key_2, [](ModelView& view) { view.set_view(StandardView::plan); });
    add(tr("&Front"), Qt::Key_3, [](ModelView& view) { view.set_view(StandardView::front); });
    add(tr("S&ide"), Qt::Key_4, [](ModelView& view) { view.set_view(StandardView::side); });
    add(tr("Perspective or pa&rallel"), Qt::Key_5,
        [](ModelView& view) { view.set_perspective(!view.camera().perspective); });
    add(tr("Ground &grid"), Qt::Key_G, [](ModelView& view) { view.set_grid(!view.grid()); });
    menu.addAction(tr("Ca&meras of the study …"), QKeySequence(Qt::CTRL | Qt::Key_6), this,
                   [this] { model().open_cameras(); });
    menu.addAction(tr("&Time"), QKeySequence(Qt::CTRL | Qt::Key_T), this,
                   [this] { compose_->time().toggle(); });
    menu.addAction(tr("Ways to be&gin"), QKeySequence(Qt::CTRL | Qt::Key_B), this, [this] {
        show_page(Page::sheet);
        compose_->toggle_start();
    });
    menu.addAction(tr("&Why is it so?"), QKeySequence(Qt::Key_F3), this, [this] {
        if (!document_.attention().ask_why())
            show_message(
                tr("Point at a point, a bar, a face, a surface or a row of the table first, then press F3."));
    });
    menu.addAction(tr("Go to a &heading …"), QKeySequence(Qt::CTRL | Qt::SHIFT | Qt::Key_G), this,
                   [this] { sheet().open_headings(); });
    menu.addSeparator();
    menu.addAction(tr("Page &Compose"), QKeySequence(Qt::CTRL | Qt::SHIFT | Qt::Key_1), this,
                   [this] { show_page(Page::sheet); });
    menu.addAction(tr("Page &Hand off"), QKeySequence(Qt::CTRL | Qt::SHIFT | Qt::Key_2), this,
                   [this] { show_page(Page::hand_off); });
    menu.addSeparator();
    menu.addAction(tr("&Dark or light"), QKeySequence(Qt::CTRL | Qt::SHIFT | Qt::Key_D), this,
                   [this] { set_dark(!look().dark); });
}

void MainWindow::begin_step() {
    sheet().continue_box().start();
}

void MainWindow::show_reference() {
    if (!reference_) {
        reference_ = new ReferenceWindow(document_.catalogue(), this);
        connect(reference_, &ReferenceWindow::example_wanted, this, [this](const std::string& kind) {
            const Result<StudyPointer> example = copy_of_example(kind);
            if (!example) return show_message(text_of(sentence(example.error())));
            files_->open_copy(*example);
            activateWindow();
        });
    }
    std::string kind = sheet().continue_box().kind_in_hand();
    const Step* selected = document_.study().step(document_.attention().selected());
    if (kind.empty() && selected) kind = selected->kind;
    reference_->show_page(kind);
    reference_->show();
    reference_->raise();
    reference_->activateWindow();
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

void MainWindow::save_picture() {
    constexpr QSize without_a_model(1280, 800);
    const ModelView* const seen = model().view();
    auto* dialog = seen ? new PictureDialog(document_, seen->camera(), seen->size(), this)
                        : new PictureDialog(document_, {}, without_a_model, this);
    dialog->setAttribute(Qt::WA_DeleteOnClose);
    dialog->open();
}

void MainWindow::write_film() {
    constexpr QSize without_a_model(1280, 800);
    document_.playing().pause();
    const ModelView* const seen = model().view();
    auto* dialog = seen ? new FilmDialog(document_, seen->camera(), seen->size(), this)
                        : new FilmDialog(document_, {}, without_a_model, this);
    dialog->setAttribute(Qt::WA_DeleteOnClose);
    dialog->open();
}

// What is painted was laid out: else it would be seen for a moment as it is not, and be painted twice.
bool MainWindow::event(QEvent* event) {
    if (event->type() == QEvent::UpdateRequest)
        QCoreApplication::sendPostedEvents(nullptr, QEvent::LayoutRequest);
    return QMainWindow::event(event);
}

void MainWindow::closeEvent(QCloseEvent* event) {
    // What is being typed belongs to the study that is asked about.
    if (QWidget* typing = focusWidget()) typing->clearFocus();
    if (!files_->may_leave()) return event->ignore();
    keep_picture();
    store_settings();
    event->accept();
}

void MainWindow::dragEnterEvent(QDragEnterEvent* event) {
    if (event->mimeData()->hasUrls()) event->acceptProposedAction();
}

void MainWindow::dropEvent(QDropEvent* event) {
    QStringList paths;
    for (const QUrl& url : event->mimeData()->urls())
        if (url.isLocalFile()) paths << url.toLocalFile();
    files_->take_dropped(paths);
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
    if (event->key() != Qt::Key_Escape) return QMainWindow::keyPressEvent(event);
    // Whatever has the focus, or nothing.
    if (!compose_->isVisible() || !compose_->end_looking()) document_.results().cancel();
}

void MainWindow::resizeEvent(QResizeEvent* event) {
    QMainWindow::resizeEvent(event);
    place_message();
}

void MainWindow::restore_settings() {
    const QSettings settings;
    restoreGeometry(settings.value("geometry").toByteArray());
    compose_->restore(settings);
    hand_off_->restore(settings);
    document_.results().set_live(settings.value("live", true).toBool());
}

void MainWindow::store_settings() const {
    QSettings settings;
    settings.setValue("geometry", saveGeometry());
    compose_->store(settings);
    hand_off_->store(settings);
    settings.setValue("live", document_.results().live());
}

}  // namespace plume::app
