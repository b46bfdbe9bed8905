// Takes the pictures of docs/screenshots: screenshots DEMO_FOLDER OUTPUT_FOLDER

#include <QApplication>
#include <QElapsedTimer>
#include <QFile>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>
#include <QScreen>
#include <QSlider>
#include <QTemporaryDir>
#include <QTest>
#include <QToolButton>
#include <QTreeWidget>
#include <cstdio>

#include "app/model/model_panel.hpp"
#include "app/sheet/sheet_page.hpp"
#include "app/theme/look.hpp"
#include "app/window/application.hpp"
#include "app/window/main_window.hpp"
#include "core/handoff/drawn_sheet.hpp"

namespace {

using namespace plume;
using namespace plume::app;

void settle(int milliseconds) {
    QElapsedTimer timer;
    timer.start();
    while (timer.elapsed() < milliseconds)
        QCoreApplication::processEvents(QEventLoop::AllEvents, 20);
}

// What is on the screen once it is that of the present study, pop-ups included.
void shoot(MainWindow& window, const QString& file) {
    const Results& results = window.document().results();
    for (int round = 0; round < 300 && (results.behind() || results.progress().busy); ++round)
        settle(100);
    settle(700);
    const QPixmap picture = window.screen()->grabWindow(0).copy(window.geometry());
    std::printf("%s %s\n", picture.save(file, "PNG") ? "wrote" : "could not write",
                file.toUtf8().constData());
}

void change(MainWindow& window, const char* result, const char* slot, const char* text) {
    Document& document = window.document();
    document.apply(set_slot(document.study(), document.study().step(result)->id, slot, NumberText{text}),
                   "change");
}

// The live part of a slot in the sheet.
SlotPart* part(MainWindow& window, const char* result, const char* slot) {
    StepBlock* block = window.sheet().step_block(window.document().study().step(result)->id);
    return block ? block->sentence().part(slot) : nullptr;
}

// With the list of what the plan has open.
void shoot_site(MainWindow& window, const QString& demo, const QString& out) {
    window.open_file(demo + "/site-and-hide.plume");
    settle(2500);
    window.document().attention().select(window.document().study().step("plan")->id);
    if (SlotPart* layers = part(window, "plan", "layers")) layers->open();
    settle(1500);
    shoot(window, out + "/site-and-hide.png");
    for (QWidget* list : window.findChildren<QWidget*>("popup"))
        list->close();
    window.document().mark_saved(window.document().path());
}

// What was written first has been taken in; a foot is in hand.
void shoot_what_arrived(MainWindow& window, const QString& out) {
    window.findChild<QToolButton*>("hand-off-arrived")->click();
    auto* take_in = window.findChild<QPushButton*>("received-take-in");
    for (int round = 0; round < 300 && !take_in->isVisible(); ++round)
        settle(100);
    take_in->click();
    settle(3000);
    auto* tree = window.findChild<QTreeWidget*>("received-parts");
    QTreeWidgetItem* row = tree->topLevelItem(0);
    while (row && row->childCount() > 0) {
        row->setExpanded(true);
        row = row->child(0);
    }
    tree->setCurrentItem(row);
    shoot(window, out + "/what-arrived.png");
    window.findChild<QToolButton*>("hand-off-leaves")->click();
}

// Written once, then changed: the roof is as before, its feet are longer.
void shoot_hand_off(MainWindow& window, const QString& demo, const QString& out) {
    const QTemporaryDir folder;
    const QString study = folder.filePath("wing-canopy.plume");
    QFile::copy(demo + "/wing-canopy.plume", study);
    window.open_file(study);
    settle(1000);
    window.findChild<QToolButton*>("page-hand-off")->click();
    settle(1500);
    auto* write = window.findChild<QPushButton*>("hand-off-write");
    write->click();
    for (int round = 0; round < 300 && write->text() != "Nothing to write"; ++round)
        settle(100);
    Document& document = window.document();
    document.apply(set_control_value(document.study(), "clearance", 3), "change");
    document.attention().select(document.study().step("canopy_parts")->id);
    settle(8000);
    shoot(window, out + "/hand-off.png");
    shoot_what_arrived(window, out);
    window.findChild<QToolButton*>("page-compose")->click();
    document.mark_saved(document.path());
}

// A view stands where it was moved; the roof in clay, in the sun of a late afternoon.
void shoot_the_sheet_and_the_picture(MainWindow& window, const QString& demo, const QString& out) {
    const QTemporaryDir folder;
    const QString study = folder.filePath("ridge-roof.plume");
    QFile::copy(demo + "/ridge-roof.plume", study);
    window.open_file(study);
    settle(1500);
    window.findChild<QToolButton*>("page-hand-off")->click();
    window.findChild<QToolButton*>("hand-off-the-sheet")->click();
    Document& document = window.document();
    const ItemId sheet = document.study().step("roof_sheet")->id;
    document.attention().select(sheet);
    document.apply(with_place_on_sheet(document.study(), sheet, {"in plan", 40, 250}), "change");
    settle(4000);
    shoot(window, out + "/the-sheet.png");
    window.findChild<QToolButton*>("hand-off-the-picture")->click();
    document.attention().select(document.study().step("roof_picture")->id);
    const auto* about = window.findChild<QLabel*>("picture-about");
    for (int round = 0; round < 300 && !about->text().contains("· drawn"); ++round)
        settle(100);
    shoot(window, out + "/the-picture.png");
    window.findChild<QToolButton*>("hand-off-leaves")->click();
    window.findChild<QToolButton*>("page-compose")->click();
    document.mark_saved(document.path());
}

// Half an hour before its end.
void shoot_rehearsal(MainWindow& window, const QString& demo, const QString& out) {
    window.open_file(demo + "/reed-screen.plume");
    settle(1000);
    window.findChild<QToolButton*>("page-hand-off")->click();
    window.findChild<QToolButton*>("hand-off-rehearsal")->click();
    auto* slider = window.findChild<QSlider*>("rehearsal-slider");
    for (int round = 0; round < 300 && !slider->isVisible(); ++round)
        settle(100);
    slider->setValue(slider->maximum() * 7 / 10);
    settle(4000);  // until it is drawn finely
    shoot(window, out + "/rehearsal.png");
    window.findChild<QToolButton*>("hand-off-leaves")->click();
    window.findChild<QToolButton*>("page-compose")->click();
}

void shoot_perch_field(MainWindow& window, const QString& demo, const QString& out) {
    window.open_file(demo + "/perch-field.plume");
    Document& document = window.document();
    document.attention().select(document.study().step("wildness")->id);
    if (SlotPart* response = part(window, "wildness", "response")) response->open();
    shoot(window, out + "/response.png");
    for (QWidget* editor : window.findChildren<QWidget*>("popup"))
        editor->close();
    document.attention().ask_to_draw(document.study().step("mud")->id, "corners");
    settle(400);
    if (ModelView* view = window.model().view(); view && view->tool()) {
        for (const Vec3 corner : {Vec3{-12, -7, 0}, Vec3{6, -9, 0}, Vec3{13, 1, 0}})
            view->tool()->press(*view->position_of(corner), {});
        view->tool()->hover(*view->position_of({4, 8, 0}), {});
        shoot(window, out + "/drawing.png");
        view->end_tool();
    }
    document.mark_saved(document.path());
}

// The script that chooses the way stands open.
void shoot_stair_hide(MainWindow& window, const QString& demo, const QString& out) {
    window.open_file(demo + "/stair-hide.plume");
    Document& document = window.document();
    document.attention().select(document.study().step("bend")->id);
    settle(400);
    if (SlotPart* script = part(window, "bend", "script")) script->open();
    settle(400);
    shoot(window, out + "/stair-hide.png");
    document.mark_saved(document.path());
}

// Lowered at one post, on its way.
void shoot_the_awning(MainWindow& window, const QString& demo, const QString& out) {
    Document& document = window.document();
    window.open_file(demo + "/ferry-awning.plume");
    settle(400);
    document.attention().select(document.study().step("awning")->id);
    constexpr std::size_t there = 100;
    while (document.playing().frame() < there) {
        document.playing().step(1);
        do
            settle(20);
        while (document.results().behind());
    }
    settle(600);
    shoot(window, out + "/ferry-awning.png");
}

void shoot_all(const QString& demo, const QString& out) {
    MainWindow window;
    window.setGeometry(0, 0, 1280, 800);
    window.show();
    // The ways to begin, with the finder over them.
    window.sheet().continue_box().start();
    QTest::keyClicks(window.findChild<QLineEdit*>("continue"), "thicken 200 mm");
    shoot(window, out + "/start.png");
    QTest::keyClick(window.findChild<QLineEdit*>("continue"), Qt::Key_Escape);
    window.open_file(demo + "/wing-canopy.plume");
    Document& document = window.document();
    document.attention().select(document.study().step("rise")->id);
    shoot(window, out + "/compose.png");
    apply_look(true);
    shoot(window, out + "/compose-dark.png");
    apply_look(false);
    change(window, "ground", "rows", "16.5");
    document.attention().select(document.study().step("ground")->id);
    shoot(window, out + "/error.png");
    document.undo();
    document.mark_saved(document.path());
    window.open_file(demo + "/crest.plume");
    shoot(window, out + "/crest.png");
    const ItemId plumage = document.study().step("plumage")->id;
    document.attention().select(plumage);
    GraphWish wish;
    wish.direction = 1;
    document.attention().set_graph_wish(plumage, wish);
    for (const char* line : {"ripple", "notch", "barb"})
        document.attention().toggle_graphed(plumage, line);
    document.attention().look_at_line(plumage, document.formula(plumage).text.find("lobe ="));
    shoot(window, out + "/graphs.png");
    document.mark_saved(document.path());
    shoot_the_awning(window, demo, out);
    shoot_site(window, demo, out);
    window.open_file(demo + "/tide-relief.plume");
    settle(400);
    shoot(window, out + "/tide-relief.png");
    document.mark_saved(document.path());
    window.open_file(demo + "/flight-tower.plume");
    settle(400);
    document.attention().select(document.study().step("family")->id);
    settle(400);
    shoot(window, out + "/flight-tower.png");
    document.mark_saved(document.path());
    window.open_file(demo + "/reed-dome.plume");
    settle(400);
    document.attention().select(document.study().step("boards")->id);
    settle(400);
    shoot(window, out + "/reed-dome.png");
    document.mark_saved(document.path());
    shoot_hand_off(window, demo, out);
    shoot_the_sheet_and_the_picture(window, demo, out);
    shoot_rehearsal(window, demo, out);
    shoot_perch_field(window, demo, out);
    shoot_stair_hide(window, demo, out);
}

}  // namespace

int main(int argc, char** argv) {
    if (argc != 3) return 2;
    const QTemporaryDir own;
    qputenv("XDG_CONFIG_HOME", own.filePath("config").toUtf8());
    qputenv("XDG_DATA_HOME", own.filePath("data").toUtf8());
    QApplication application(argc, argv);
    prepare_application();
    apply_look(false);
    shoot_all(argv[1], argv[2]);
    return 0;
}
