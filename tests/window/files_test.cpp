// Files: save, reopen, export, recovery after a kill, files that cannot be read.

#include <signal.h>

#include <QApplication>
#include <QCloseEvent>
#include <QComboBox>
#include <QDir>
#include <QDropEvent>
#include <QFile>
#include <QFileDialog>
#include <QLabel>
#include <QLineEdit>
#include <QMenu>
#include <QMessageBox>
#include <QMimeData>
#include <QPointer>
#include <QProcess>
#include <QProcessEnvironment>
#include <QProgressBar>
#include <QPushButton>
#include <QTimer>
#include <QTreeWidget>

#include "app/files/recovery.hpp"
#include "core/exchange/study_file.hpp"
#include "folders.hpp"
#include "window/fixture.hpp"

namespace plume::test {
namespace {

class Files : public WindowTest {
protected:
    // Types into a process that may still be starting: a heading at the end of its page, until its recovery
    // copy is there.
    bool type_a_heading_into_the_other_process() {
        const QDir recovery(file("data") + "/plume-lattice/recovery");
        const auto copied = [&] { return !recovery.entryList({"*.plume"}).isEmpty(); };
        for (int round = 0; round < 6 && !copied(); ++round) {
            Driver::settle(2000);
            driver.key("ctrl+Return");
            driver.type("heading");
            driver.key("Return");
            Driver::settle(2 * Recovery::delay_ms);
        }
        return copied();
    }
    QString message() {
        const auto* label = window->findChild<QLabel*>("message");
        return label->isVisible() ? label->text() : QString();
    }
};

TEST_F(Files, WhatStandsOpenGoesWithItsStudy) {
    reopen(QString(demo_folder) + "/wing-canopy.plume");
    driver.click(part("nearness", "response"));
    ASSERT_TRUE(Driver::until([&] { return child("response-graph") != nullptr; }));
    driver.key("ctrl+n");
    EXPECT_TRUE(Driver::until([&] { return study().items.empty(); }));
    EXPECT_EQ(child("response-graph"), nullptr) << "it would edit whatever bears the same number there";
}

TEST_F(Files, SavedAndReopenedTheSame) {
    build_canopy();
    type_into("ranged", "high_length", "2.75 m");
    const QString path = file("roof.plume");
    in_dialog([&] {
        Driver hand;
        hand.key("ctrl+a");
        hand.type(path);
        confirm(hand);
    });
    driver.key("ctrl+s");
    ASSERT_TRUE(Driver::until([&] { return document().saved(); })) << message().toStdString();
    EXPECT_EQ(document().path(), path);
    const StudyPointer before = document().snapshot();
    const double top = top_of("surface");
    reopen(path);
    EXPECT_EQ(study_to_text(study()), study_to_text(*before));
    EXPECT_EQ(top_of("surface"), top);
    EXPECT_TRUE(document().saved());
    type_into("lattice", "rows", "5");
    EXPECT_FALSE(document().saved());
    EXPECT_TRUE(window->isWindowModified());
    driver.key("ctrl+s");
    EXPECT_TRUE(document().saved()) << "the second time without asking";
}

TEST_F(Files, ClosingWithUnsavedWorkAsks) {
    continue_with("rectangular");
    bool asked = false;
    in_dialog([&] {
        asked = qobject_cast<QMessageBox*>(QApplication::activeModalWidget()) != nullptr;
        Driver().key("Escape");
    });
    EXPECT_FALSE(window->close());
    EXPECT_TRUE(asked);
    EXPECT_TRUE(window->isVisible());
}

TEST_F(Files, ExportsAFileInTheChosenUnit) {
    build_canopy();
    const QString path = file("roof.obj");
    in_dialog([&] {
        auto* unit = qobject_cast<QComboBox*>(child("export-unit"));
        auto* line = qobject_cast<QLineEdit*>(child("export-file"));
        if (!unit || !line) return;
        Driver hand;
        unit->setFocus();
        hand.key("Down");
        hand.key("Down");  // metres, centimetres, millimetres
        hand.click(line);
        hand.key("ctrl+a");
        hand.type(path);
        EXPECT_EQ(qobject_cast<QComboBox*>(child("export-format"))->currentData().toString(), ".obj")
            << "the ending chooses the format";
        confirm(hand);
    });
    driver.key("ctrl+shift+e");
    ASSERT_TRUE(Driver::until([&] { return QFile::exists(path); })) << message().toStdString();
    QFile written(path);
    ASSERT_TRUE(written.open(QIODevice::ReadOnly));
    const QString text = QString::fromUtf8(written.readAll());
    EXPECT_TRUE(text.contains("Unit: millimetres"));
    EXPECT_TRUE(text.contains("v -18000 -12000"));
    EXPECT_TRUE(Driver::until([&] { return message().contains("millimetres"); })) << message().toStdString();
}

TEST_F(Files, WhatIsShownGoesIntoOneFileAndOpenFormsAreNotForPrinters) {
    build_canopy();
    const QString path = file("site.glb");
    QString note;
    bool unit_is_fixed = false;
    in_dialog([&] {
        auto* format = qobject_cast<QComboBox*>(child("export-format"));
        auto* line = qobject_cast<QLineEdit*>(child("export-file"));
        if (!format || !line) return;
        Driver hand;
        hand.click(child("export-shown"));
        format->setFocus();
        hand.type("STL");
        hand.click(line);
        hand.key("ctrl+a");
        hand.type(file("site.stl"));
        auto* said = qobject_cast<QLabel*>(child("export-note"));
        Driver::until([&] { return said->text().contains("no place for"); });
        note = said->text();
        format->setFocus();
        hand.type("glTF");
        unit_is_fixed = Driver::until([&] { return !child("export-unit")->isEnabled(); });
        hand.click(line);
        hand.key("ctrl+a");
        hand.type(path);
        confirm(hand);
    });
    driver.key("ctrl+shift+e");
    ASSERT_TRUE(Driver::until([&] { return QFile::exists(path); })) << message().toStdString();
    EXPECT_TRUE(unit_is_fixed);
    EXPECT_TRUE(note.contains("STL has no place for")) << note.toStdString();
    EXPECT_TRUE(Driver::until([&] { return message().contains("in metres"); })) << message().toStdString();
    // The roof alone is a surface, which nobody can print.
    QString refused;
    in_dialog([&] {
        auto* format = qobject_cast<QComboBox*>(child("export-format"));
        if (!format) return;
        Driver hand;
        format->setFocus();
        hand.type("STL");
        hand.key("Return");
        auto* said = qobject_cast<QLabel*>(child("export-note"));
        Driver::until([&] { return said->text().contains("cannot be printed"); });
        refused = said->text();
        hand.key("Escape");
    });
    driver.key("ctrl+shift+e");
    ASSERT_TRUE(Driver::until([&] { return !refused.isEmpty() && !QApplication::activeModalWidget(); }));
    EXPECT_TRUE(refused.contains("open edges, the first at")) << refused.toStdString();
}

TEST_F(Files, WhatAResultIsInABuildingIsChosen) {
    build_canopy();
    const QString path = file("site.ifc");
    in_dialog([&] {
        auto* line = qobject_cast<QLineEdit*>(child("export-file"));
        if (!line) return;
        Driver hand;
        EXPECT_EQ(child("export-class"), nullptr) << "OBJ knows no buildings";
        hand.click(line);
        hand.key("ctrl+a");
        hand.type(path);
        EXPECT_TRUE(Driver::until([&] { return child("export-class") != nullptr; }));
        child("export-class")->setFocus();
        hand.type("slab");
        hand.click(line);
        confirm(hand);
    });
    driver.key("ctrl+shift+e");
    ASSERT_TRUE(Driver::until([&] { return QFile::exists(path); })) << message().toStdString();
    QFile written(path);
    ASSERT_TRUE(written.open(QIODevice::ReadOnly));
    EXPECT_TRUE(QString::fromUtf8(written.readAll()).contains("IFCSLAB("));
}

TEST_F(Files, ExportsCurvedPartsExactlyWhereThatIsAskedFor) {
    build_canopy();
    const QString path = file("roof.ifc");
    in_dialog([&] {
        auto* line = qobject_cast<QLineEdit*>(child("export-file"));
        if (!line) return;
        Driver hand;
        EXPECT_EQ(child("export-exact"), nullptr) << "the first format has all exact as it is";
        hand.click(line);
        hand.key("ctrl+a");
        hand.type(path);
        EXPECT_TRUE(Driver::until([&] { return child("export-exact") != nullptr; }));
        child("export-exact")->setFocus();
        hand.key("space");
        confirm(hand);
    });
    driver.key("ctrl+shift+e");
    ASSERT_TRUE(Driver::until([&] { return QFile::exists(path); })) << message().toStdString();
    QFile written(path);
    ASSERT_TRUE(written.open(QIODevice::ReadOnly));
    EXPECT_TRUE(written.readAll().contains("=IFCADVANCEDFACE("));
}

TEST_F(Files, PicturesAreSavedToAScaleWithNothingBehind) {
    build_canopy();
    const QString path = file("roof.png");
    QString hindrance;
    in_dialog([&] {
        auto* line = qobject_cast<QLineEdit*>(child("picture-file"));
        if (!line) return;
        Driver hand;
        child("picture-view")->setFocus();
        hand.type("in");
        child("picture-measure")->setFocus();
        hand.type("to");
        EXPECT_TRUE(Driver::until([&] { return child("picture-scale") != nullptr; }));
        hand.click(child("picture-scale"));
        hand.key("ctrl+a");
        hand.key("BackSpace");
        hindrance = qobject_cast<QLabel*>(child("picture-note"))->text();
        hand.type("200");
        hand.click(child("picture-dots"));
        hand.key("ctrl+a");
        hand.type("127");
        child("picture-transparent")->setFocus();
        hand.key("space");
        hand.click(line);
        hand.key("ctrl+a");
        hand.type(path);
        confirm(hand);
    });
    driver.key("alt+s");
    driver.key("p");
    ASSERT_TRUE(Driver::until([&] { return message().contains("pixels"); })) << message().toStdString();
    EXPECT_TRUE(hindrance.contains("Type a scale above 0")) << hindrance.toStdString();
    const QImage picture(path);
    ASSERT_FALSE(picture.isNull());
    // 36 m at 1 : 200 and 127 pixels an inch are 900 pixels, 24 m are 600; a margin is around them.
    EXPECT_GE(picture.width(), 900);
    EXPECT_LE(picture.width(), 1'000);
    EXPECT_GE(picture.height(), 600);
    EXPECT_LE(picture.height(), 700);
    EXPECT_EQ(picture.dotsPerMeterX(), 5'000);
    EXPECT_LT(picture.pixelColor(2, 2).alpha(), 30) << "a shadow at most";
    EXPECT_EQ(picture.pixelColor(picture.width() / 2, picture.height() / 2).alpha(), 255);
}

TEST_F(Files, AnExportThatFailsSaysWhyInTheDialogue) {
    continue_with("rectangular");
    QString note;
    in_dialog([&] {
        auto* line = qobject_cast<QLineEdit*>(child("export-file"));
        if (!line) return;
        Driver hand;
        hand.click(line);
        hand.key("ctrl+a");
        hand.type("/proc/points.obj");
        hand.key("Return");
        auto* said = qobject_cast<QLabel*>(child("export-note"));
        Driver::until([&] { return said->text().contains("could not"); });
        note = said->text();
        hand.key("Escape");
    });
    driver.key("ctrl+shift+e");
    ASSERT_TRUE(Driver::until([&] { return !note.isEmpty() && !QApplication::activeModalWidget(); }));
    EXPECT_TRUE(note.contains("could not be written")) << note.toStdString();
}

TEST_F(Files, FilesThatCannotBeOpenedLeaveTheStudyAlone) {
    continue_with("rectangular");
    const StudyPointer before = document().snapshot();
    const std::pair<QByteArray, const char*> cases[] = {{"", "is empty"},
                                                        {"{\"plume\": 1,", "ends too early"},
                                                        {"{\"plume\": 9}", "newer version"},
                                                        {QByteArray(100'000, '['), "nested too deeply"}};
    for (const auto& [bytes, says] : cases) {
        QFile bad(file("bad.plume"));
        ASSERT_TRUE(bad.open(QIODevice::WriteOnly));
        bad.write(bytes);
        bad.close();
        EXPECT_FALSE(window->open_file(file("bad.plume")));
        EXPECT_TRUE(message().contains(says, Qt::CaseInsensitive)) << message().toStdString();
        EXPECT_EQ(document().snapshot(), before);
    }
    EXPECT_FALSE(window->open_file(file("none.plume")));
}

TEST_F(Files, AReadOnlyFolderIsExplainedAndNothingIsLost) {
    continue_with("rectangular");
    document().mark_saved("/proc/study.plume");
    type_into("lattice", "rows", "3");
    driver.key("ctrl+s");
    EXPECT_TRUE(message().contains("could not be written")) << message().toStdString();
    EXPECT_FALSE(document().saved());
    EXPECT_EQ(slot_text_of("lattice", "rows"), "3");
}

// As a file manager does.
void drop(QWidget& window, const QStringList& paths) {
    QMimeData data;
    QList<QUrl> urls;
    for (const QString& path : paths)
        urls << QUrl::fromLocalFile(path);
    data.setUrls(urls);
    QDragEnterEvent enter(QPoint(50, 50), Qt::CopyAction, &data, Qt::LeftButton, Qt::NoModifier);
    QApplication::sendEvent(&window, &enter);
    EXPECT_TRUE(enter.isAccepted());
    QDropEvent event(QPointF(50, 50), Qt::CopyAction, &data, Qt::LeftButton, Qt::NoModifier);
    QApplication::sendEvent(&window, &event);
}

TEST_F(Files, AFileDroppedOnTheWindowOpens) {
    drop(*window, {QString(demo_folder) + "/wing-canopy.plume"});
    computed();
    EXPECT_EQ(study().title, "Wing canopy");
}

TEST_F(Files, OtherFilesDroppedOnTheWindowAreLinkedByAStepEach) {
    const QString files = QString(examples_folder) + "/files/";
    drop(*window, {files + "shed.obj", files + "plan.dxf"});
    computed();
    ASSERT_TRUE(study().step("mesh") && study().step("drawing")) << message().toStdString();
    EXPECT_EQ(document().results().problem_count(), 0U);
    // What it is read onto comes with it, and what the file does not say is asked for.
    for (const auto& [sort, asked] :
         {std::pair("ripples.png", ""), {"soundings.csv", ""}, {"mud.asc", "Unit"}}) {
        reopen();
        drop(*window, {files + sort});
        computed();
        ASSERT_FALSE(study().items.empty()) << sort;
        const Step& last = *step_of(study().items.back());
        const auto& error = document().results().shown(last.id)->error;
        EXPECT_EQ(error ? error->where.substr(0, 4) : "", asked) << sort;
    }
    drop(*window, {"/tmp/letter.docx"});
    EXPECT_TRUE(message().contains("letter.docx")) << message().toStdString();
}

// Parts are ticked with mouse and keys, and the study follows each tick; a unit is chosen by what it would
// come to.
TEST_F(Files, PartsAndUnitsOfALinkedFileAreChosenFromWhatItHas) {
    drop(*window, {QString(examples_folder) + "/files/plan.dxf"});
    computed();
    const auto curves = [&] {
        return std::get<CurveSet>(*document().results().shown("drawing")->value).curves.size();
    };
    const std::size_t all = curves();
    driver.click(part("drawing", "layers"));
    ASSERT_TRUE(child("picks"));
    auto* list = static_cast<QTreeWidget*>(child("picks"));
    ASSERT_TRUE(Driver::until([&] { return list->topLevelItemCount() == 2; }));
    EXPECT_TRUE(list->topLevelItem(0)->text(1).contains("4 × 4 × 0 m"))
        << list->topLevelItem(0)->text(1).toStdString();
    const QRect first = list->visualItemRect(list->topLevelItem(0));
    driver.click(list->viewport()->mapToGlobal(QPoint(12, first.center().y())));
    computed();
    EXPECT_EQ(slot_text_of("drawing", "layers"), "pond");
    EXPECT_LT(curves(), all);
    driver.key("Down");
    driver.key("space");
    computed();
    EXPECT_EQ(curves(), all);
    driver.key("Escape");
    EXPECT_EQ(child("picks"), nullptr);
    driver.click(part("drawing", "unit"));
    ASSERT_TRUE(Driver::until([] { return QApplication::activePopupWidget() != nullptr; }));
    auto* menu = static_cast<QMenu*>(QApplication::activePopupWidget());
    ASSERT_TRUE(Driver::until([&] { return menu->actions().at(0)->text().contains("metres: 9"); }))
        << menu->actions().at(0)->text().toStdString();
    driver.key("Escape");
}

TEST_F(Files, WithoutOpenGLEverythingElseWorks) {
    window.reset();
    QProcess process;
    QProcessEnvironment environment = QProcessEnvironment::systemEnvironment();
    environment.insert("QT_XCB_GL_INTEGRATION", "none");
    process.setProcessEnvironment(environment);
    process.start(PLUME_WINDOW_PROGRAM, {QString(demo_folder) + "/wing-canopy.plume"});
    ASSERT_TRUE(process.waitForStarted());
    EXPECT_TRUE(type_a_heading_into_the_other_process()) << "editing works";
    EXPECT_EQ(process.state(), QProcess::Running);
    process.kill();
    process.waitForFinished();
}

TEST_F(Files, WorkSurvivesAKill) {
    window.reset();
    const QString copy_of_demo = file("canopy.plume");
    QFile::copy(QString(demo_folder) + "/wing-canopy.plume", copy_of_demo);
    QProcess victim;
    victim.setProcessEnvironment(QProcessEnvironment::systemEnvironment());
    victim.start(PLUME_WINDOW_PROGRAM, {copy_of_demo});
    ASSERT_TRUE(victim.waitForStarted());
    ASSERT_TRUE(type_a_heading_into_the_other_process()) << "no copy was written";
    ::kill(static_cast<pid_t>(victim.processId()), SIGKILL);
    victim.waitForFinished();
    EXPECT_TRUE(same(**load_study(copy_of_demo.toStdString()),
                     **load_study(std::string(demo_folder) + "/wing-canopy.plume")))
        << "the file itself is untouched";

    reopen();
    QWidget* recover = child("recover");
    ASSERT_NE(recover, nullptr) << "nothing is offered";
    driver.click(recover);
    computed();
    EXPECT_EQ(study().title, "Wing canopy");
    const Heading* last = heading_of(study().items[study().page_end(Page::sheet) - 1]);
    EXPECT_EQ(last ? last->title : "", "New heading");
    EXPECT_FALSE(document().saved());
    EXPECT_EQ(document().path(), copy_of_demo);
    EXPECT_EQ(child("recover"), nullptr);
}

}  // namespace
}  // namespace plume::test
