// The first minutes: ways to begin, and the first walk.

#include <QApplication>
#include <QFileInfo>
#include <QLabel>
#include <QLineEdit>
#include <QMessageBox>
#include <QScrollArea>
#include <QSettings>

#include "app/files/recent_studies.hpp"
#include "app/start/samples.hpp"
#include "app/start/study_card.hpp"
#include "folders.hpp"
#include "window/fixture.hpp"

namespace plume::test {
namespace {

class Start : public WindowTest {
protected:
    QWidget* start() { return child("start"); }
    StudyCard* card(const QString& title) {
        for (StudyCard* one : start()->findChildren<StudyCard*>())
            if (one->text() == title) return one;
        return nullptr;
    }
};

TEST_F(Start, StandsInPlaceOfTheEmptyModelAndGoesWithTheFirstStep) {
    ASSERT_TRUE(start());
    EXPECT_EQ(start()->findChildren<StudyCard*>("sample").size(), 5);
    continue_with("rectangular");
    EXPECT_FALSE(start());
    driver.key("ctrl+z");
    EXPECT_TRUE(Driver::until([&] { return start() != nullptr; })) << "the page is empty again";
    driver.key("ctrl+shift+z");
    EXPECT_TRUE(Driver::until([&] { return start() == nullptr; }));
    // Asked for, and left again.
    driver.key("ctrl+b");
    EXPECT_TRUE(Driver::until([&] { return start() != nullptr; }));
    driver.key("ctrl+b");
    EXPECT_TRUE(Driver::until([&] { return start() == nullptr; }));
}

TEST_F(Start, SamplesAreOpenedAsCopies) {
    ASSERT_TRUE(start());
    const QString original = QString(demo_folder) + "/crest.plume";
    const QDateTime before = QFileInfo(original).lastModified();
    ASSERT_TRUE(card("Crest"));
    driver.click(card("Crest"));
    ASSERT_TRUE(Driver::until([&] { return study().title == "Crest"; }));
    computed();
    EXPECT_EQ(document().results().problem_count(), 0U);
    EXPECT_FALSE(start());
    EXPECT_TRUE(document().path().isEmpty()) << "saving asks where to";
    EXPECT_TRUE(document().saved());
    EXPECT_EQ(QFileInfo(original).lastModified(), before);
}

// Its picture lies beside the sample, and is found from the copy.
TEST_F(Start, CopiesFindTheFilesOfTheirSample) {
    driver.click(card("Reed screen"));
    ASSERT_TRUE(Driver::until([&] { return study().title == "Reed screen"; }));
    computed();
    EXPECT_EQ(document().results().problem_count(), 0U);
}

TEST_F(Start, AllSamplesAreShownByWhatTheyShow) {
    driver.click(start()->findChild<StudyCard*>("all-samples"));
    ASSERT_TRUE(Driver::until([&] { return start()->findChildren<StudyCard*>("sample").size() > 5; }));
    const auto cards = start()->findChildren<StudyCard*>("sample");
    EXPECT_EQ(static_cast<std::size_t>(cards.size()), read_samples(demo_folder).count());
    for (const StudyCard* one : cards)
        EXPECT_FALSE(one->accessibleDescription().isEmpty()) << one->text().toStdString();
}

TEST_F(Start, SentencesToBeginWithAreLive) {
    auto* sentence = qobject_cast<QLabel*>(child("beginning"));
    ASSERT_TRUE(sentence);
    // Its second word that is a part: 24 behind "Lay a lattice of".
    const QFontMetrics metrics(sentence->font());
    const int x = metrics.horizontalAdvance("Lay a lattice of 2") + 6;
    driver.click(sentence->mapToGlobal(QPoint(x, 12)));
    ASSERT_TRUE(Driver::until([&] { return study().step("lattice") != nullptr; }));
    ASSERT_TRUE(Driver::until([&] { return child("inline-editor") != nullptr; }));
    driver.type("12");
    driver.key("Return");
    computed();
    EXPECT_EQ(slot_text_of("lattice", "columns"), "12");
    EXPECT_FALSE(child("beginning"));
}

TEST_F(Start, NumbersOfSentencesToBeginWithAreDragged) {
    auto* sentence = qobject_cast<QLabel*>(child("beginning"));
    ASSERT_TRUE(sentence);
    const QFontMetrics metrics(sentence->font());
    const QPoint from =
        sentence->mapToGlobal(QPoint(metrics.horizontalAdvance("Lay a lattice of 2") + 6, 12));
    driver.move_to(from);
    driver.press();
    driver.move_to(from + QPoint(6, 0));
    ASSERT_TRUE(Driver::until([&] { return QWidget::mouseGrabber() == part("lattice", "columns"); }));
    driver.move_to(from + QPoint(40, 3));
    ASSERT_TRUE(Driver::until([&] { return slot_text_of("lattice", "columns") != "24"; }));
    driver.release();
    ASSERT_TRUE(Driver::until([&] { return QWidget::mouseGrabber() == nullptr; }));
    const std::string dragged = slot_text_of("lattice", "columns");
    EXPECT_GT(std::stoi(dragged), 24) << "to the right is more";
    driver.move_to(from + QPoint(90, 3));
    computed();
    EXPECT_EQ(slot_text_of("lattice", "columns"), dragged) << "the button is up";
    // The step and what was dragged are undone one after the other.
    driver.key("ctrl+z");
    ASSERT_TRUE(Driver::until([&] { return slot_text_of("lattice", "columns") == "24"; }));
    driver.key("ctrl+z");
    EXPECT_TRUE(Driver::until([&] { return study().items.empty(); }));
}

TEST_F(Start, WhatWasSavedIsListedWithItsPictureAndCanBeForgotten) {
    build_canopy();
    const QString path = file("east-gate.plume");
    remember_study(path);
    const auto listed = recent_studies();
    ASSERT_EQ(listed.size(), 1U);
    EXPECT_FALSE(listed.front().is_there) << "it was never written";
    driver.key("ctrl+b");
    ASSERT_TRUE(Driver::until([&] { return child("forget-study") != nullptr; }));
    EXPECT_FALSE(child("recent-study")->isEnabled());
    driver.click(child("forget-study"));
    EXPECT_TRUE(Driver::until([&] { return child("forget-study") == nullptr; }));
    EXPECT_TRUE(recent_studies().empty());
}

TEST_F(Start, APictureIsKeptOfWhatWasSaved) {
    const QString path = file("gate.plume");
    reopen(QString(demo_folder) + "/spiral-rail.plume");
    in_dialog([&] {
        driver.key("ctrl+a");
        driver.type(path);
        confirm(driver);
    });
    driver.key("ctrl+shift+s");
    ASSERT_TRUE(Driver::until([&] { return QFileInfo::exists(path); }));
    EXPECT_TRUE(Driver::until([&] { return !picture_of_study(path).isNull(); }));
    EXPECT_EQ(picture_of_study(path).size(), QSize(300, 200));
    reopen();
    auto* name = qobject_cast<QPushButton*>(child("recent-study"));
    ASSERT_TRUE(name);
    EXPECT_EQ(name->text(), "gate");
    driver.click(name);
    EXPECT_TRUE(Driver::until([&] { return document().path() == path; }));
}

TEST_F(Start, TenThousandRecentStudiesAreAFew) {
    QStringList many;
    for (int number = 0; number < 10'000; ++number)
        many << file("study.plume") + QString::number(number);
    QSettings().setValue("recent", many);
    EXPECT_LE(recent_studies().size(), 12U);
    QSettings().setValue("recent", 7);
    EXPECT_LE(recent_studies().size(), 1U);
    reopen();
    EXPECT_TRUE(start());
}

TEST_F(Start, ScrollsNoFartherThanWhatItShows) {
    auto* panel = qobject_cast<QScrollArea*>(start());
    ASSERT_TRUE(panel);
    const QSize whole = window->size();
    for (const QSize size : {whole, QSize(1024, 640), whole}) {
        window->resize(size);
        Driver::settle(100);
        const QRect last = child("all-samples")->geometry();
        const int shown = child("all-samples")->parentWidget()->mapTo(panel->widget(), last.bottomLeft()).y();
        EXPECT_LE(panel->widget()->height(), qMax(panel->viewport()->height(), shown + 40));
        EXPECT_GT(panel->widget()->height(), shown);
    }
}

TEST_F(Start, SettingsLieInAFolderOfTheApplication) {
    ASSERT_TRUE(window->close());
    EXPECT_EQ(QSettings().fileName(), file("config/plume-lattice/plume-lattice.ini"));
    EXPECT_TRUE(QFileInfo::exists(QSettings().fileName()));
}

TEST_F(Start, WithoutSamplesItSaysSo) {
    const Samples none = read_samples({});
    EXPECT_FALSE(none.problem.isEmpty());
    EXPECT_TRUE(none.groups.empty());
    EXPECT_TRUE(read_samples(folder.path()).problem.contains(folder.path()));
    // A folder with studies and no index lists them.
    ASSERT_TRUE(QFile::copy(QString(demo_folder) + "/crest.plume", file("crest.plume")));
    QFile odd(file("odd.plume"));
    ASSERT_TRUE(odd.open(QIODevice::WriteOnly));
    odd.write("{");
    odd.close();
    const Samples some = read_samples(folder.path());
    EXPECT_EQ(some.count(), 1U);
    EXPECT_EQ(some.first.size(), 1U);
    EXPECT_EQ(some.first.front().title, "Crest");
}

TEST(WhenText, IsSaidAsPeopleSayIt) {
    const QDateTime now(QDate(2026, 11, 25), QTime(18, 0));
    EXPECT_EQ(when_text(QDateTime(QDate(2026, 11, 25), QTime(8, 5)), now), "today 08:05");
    EXPECT_EQ(when_text(QDateTime(QDate(2026, 11, 24), QTime(18, 40)), now), "yesterday 18:40");
    EXPECT_EQ(when_text(QDateTime(QDate(2026, 11, 20), QTime(1, 0)), now), "Friday");
    EXPECT_EQ(when_text(QDateTime(QDate(2026, 3, 3), QTime(1, 0)), now), "3 March");
    EXPECT_EQ(when_text(QDateTime(QDate(2025, 3, 3), QTime(1, 0)), now), "3 March 2025");
    EXPECT_EQ(when_text(QDateTime(QDate(2026, 12, 3), QTime(1, 0)), now), "3 December")
        << "a clock that is ahead";
}

// A title bar is part of a window, too: on a screen that is no larger nothing of it may end beyond the edge.
TEST_F(Start, WindowsBeginWithinTheScreenWithTheirFrames) {
    const QSize screen = window->screen()->availableSize();
    EXPECT_LT(window->width(), screen.width());
    EXPECT_LE(window->height(), screen.height() - 40);
    driver.key("F2");
    ASSERT_TRUE(Driver::until([&] { return child("reference") != nullptr; }));
    EXPECT_LE(child("reference")->height(), screen.height() - 40);
    driver.key("Escape");
}

// Each stop is done as it says, with its keys, and the card goes on by itself.
class FirstWalk : public WindowTest {
protected:
    QString told(const char* name) {
        auto* label = qobject_cast<QLabel*>(child(name));
        return label ? label->text() : QString();
    }
    bool at_stop(int stop) {
        return Driver::until([&] { return told("walk-count") == QString("%1 of 9").arg(stop); });
    }
    void add(const char* word) {
        driver.key("ctrl+Return");
        driver.type(word);
        driver.key("Return");
        computed();
    }
    void begin() {
        driver.click(child("start-walk"));
        ASSERT_TRUE(at_stop(1));
    }
};

TEST_F(FirstWalk, NineStopsMakeTheCanopy) {
    begin();
    EXPECT_TRUE(told("walk-how").contains("lattice"));
    add("skin");
    ASSERT_TRUE(at_stop(2)) << "a lattice came with it, which is what the stop waits for; now "
                            << told("walk-count").toStdString() << " with " << study().items.size();
    driver.key("ctrl+z");
    ASSERT_TRUE(at_stop(2)) << "a stop that is behind stays behind";
    add("lattice");
    add("attractors");
    ASSERT_TRUE(at_stop(3));
    add("distance");
    ASSERT_TRUE(at_stop(4));
    add("range");
    ASSERT_TRUE(at_stop(4)) << "it waits for what it asks for, whatever else is done";
    driver.key("ctrl+z");
    driver.click(part("reach", "response"));
    ASSERT_TRUE(Driver::until([&] { return child("response-half_sine") != nullptr; }));
    driver.click(child("response-half_sine"));
    driver.key("Escape");
    ASSERT_TRUE(at_stop(5));
    add("range");
    ASSERT_TRUE(at_stop(6));
    add("push");
    ASSERT_TRUE(at_stop(7));
    add("skin");
    ASSERT_TRUE(at_stop(8));
    computed();
    EXPECT_EQ(document().results().problem_count(), 0U);
    const Vec3 perch =
        document()
            .results()
            .shown("attractors")
            ->drawable->absolute(document().results().shown("attractors")->drawable->points.front().x,
                                 document().results().shown("attractors")->drawable->points.front().y,
                                 document().results().shown("attractors")->drawable->points.front().z);
    const QPoint from = on_screen(perch);
    driver.drag(from, from + QPoint(30, 12));
    ASSERT_TRUE(at_stop(9));
    type_into("ranged", "high_length", "250 cm");
    EXPECT_TRUE(Driver::until([&] { return told("walk-count") == "The walk is done"; }));
    driver.click(child("walk-leave"));
    EXPECT_TRUE(Driver::until([&] { return child("walk") == nullptr; }));
}

TEST_F(FirstWalk, CanBeLeftAndFoundAgain) {
    begin();
    driver.click(child("walk-leave"));
    EXPECT_TRUE(Driver::until([&] { return child("walk") == nullptr; }));
    add("lattice");
    EXPECT_FALSE(child("walk"));
    // Under Help, where it begins on an empty page; what is not saved is asked about first.
    in_dialog([&] {
        driver.click(
            qobject_cast<QMessageBox*>(QApplication::activeModalWidget())->button(QMessageBox::Discard));
    });
    driver.key("alt+h");
    choose("A first walk");
    ASSERT_TRUE(at_stop(1));
    EXPECT_TRUE(study().items.empty());
}

TEST_F(FirstWalk, StaysWithinANarrowWindow) {
    begin();
    window->resize(1024, 640);
    Driver::settle(120);
    EXPECT_TRUE(window->rect().contains(child("walk")->geometry()));
}

}  // namespace
}  // namespace plume::test
