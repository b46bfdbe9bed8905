// The model: camera, hover, what is shown.

#include <QApplication>
#include <QClipboard>
#include <QElapsedTimer>
#include <QImage>
#include <QLabel>
#include <QScreen>
#include <QTableView>
#include <QToolButton>

#include "core/study/edits/edits.hpp"
#include "folders.hpp"
#include "window/fixture.hpp"

namespace plume::test {
namespace {

class Model : public WindowTest {
protected:
    Model() { reopen(QString(demo_folder) + "/wing-canopy.plume"); }
    // Of a result that has no chip of its own: there are more than fit.
    void toggle_by_menu(const QString& result) {
        driver.click(window->findChild<QToolButton*>("more-chips"));
        choose(result);
        computed();
        Driver::settle(60);
    }
    // Without what is left out while something moves, and as fine as it will be: on a busy machine that comes
    // late.
    QImage at_rest() {
        constexpr int most_looks = 20;
        QImage seen = view().picture();
        for (int look = 0; look < most_looks; ++look) {
            Driver::settle(400);
            const QImage now = view().picture();
            if (now == seen) break;
            seen = now;
        }
        return seen;
    }
    QPoint middle() { return view().mapToGlobal(view().rect().center()); }
    static int different_pixels(const QImage& a, const QImage& b) {
        int count = 0;
        for (int y = 0; y < a.height(); y += 3)
            for (int x = 0; x < a.width(); x += 3)
                count += a.pixel(x, y) != b.pixel(x, y) ? 1 : 0;
        return count;
    }
};

TEST_F(Model, DrawsTheFormInTheMiddle) {
    const QImage image = view().picture();
    ASSERT_FALSE(image.isNull());
    std::set<QRgb> colours;
    for (int x = image.width() / 4; x < 3 * image.width() / 4; x += 4)
        colours.insert(image.pixel(x, image.height() / 2));
    EXPECT_GT(colours.size(), 20U) << "a shaded, coloured form";
}

TEST_F(Model, APictureIsWhatIsSeen) {
    QImage seen;
    EXPECT_TRUE(Driver::until([&] {
        seen = view().picture();
        const QImage drawn = view().grab().toImage();
        return seen.size() == drawn.size() && different_pixels(seen, drawn) == 0;
    }));
    driver.key("ctrl+3");
    EXPECT_GT(different_pixels(view().picture(), seen), 1000);
}

TEST_F(Model, EdgesAreSmoothWhereNothingMoves) {
    const auto tones = [&] {
        std::set<QRgb> found;
        const QImage image = view().picture();
        for (int y = 0; y < image.height(); ++y)
            for (int x = 0; x < image.width(); ++x)
                found.insert(image.pixel(x, y));
        return found.size();
    };
    const std::size_t rough = tones();
    OrbitView::set_samples(4);
    reopen(QString(demo_folder) + "/wing-canopy.plume");
    const std::size_t smooth = tones();
    OrbitView::set_samples(0);
    EXPECT_GT(smooth, rough + rough / 10) << "along edges colours are mixed";
}

TEST_F(Model, TurnsMovesZoomsAndFrames) {
    const Camera start = view().camera();
    driver.drag(middle(), middle() + QPoint(80, -40));
    EXPECT_NE(view().camera().azimuth_rad, start.azimuth_rad);
    EXPECT_EQ(view().camera().target, start.target);
    const Camera turned = view().camera();
    driver.with_shift([&] { driver.drag(middle(), middle() + QPoint(60, 0)); });
    EXPECT_GT(length(view().camera().target - turned.target), 0.5) << "Shift moves";
    EXPECT_EQ(view().camera().azimuth_rad, turned.azimuth_rad);
    EXPECT_EQ(view().camera().distance, turned.distance);
    driver.move_to(middle() + QPoint(100, 40));
    driver.press(4);  // wheel up
    driver.release(4);
    EXPECT_LT(view().camera().distance, start.distance);
    driver.key("ctrl+2");
    EXPECT_NEAR(view().camera().elevation_rad, std::numbers::pi / 2, 1e-12);
    EXPECT_FALSE(view().camera().perspective);
    driver.key("ctrl+1");
    EXPECT_NEAR(view().camera().distance, start.distance, start.distance * 0.01) << "frames everything again";
    driver.click(view().mapToGlobal(QPoint(30, view().height() - 80)));
    view().setFocus();
    driver.key("Left");
    EXPECT_NE(view().camera().azimuth_rad, start.azimuth_rad);
}

TEST_F(Model, LookingFromElsewhereTakesNoTimeAndSaysNone) {
    const auto* live = window->findChild<QToolButton*>("live");
    const QString told = live->text();
    driver.drag(middle(), middle() + QPoint(80, -40));
    Driver::settle(600);
    computed();
    EXPECT_EQ(live->text(), told);
}

// The strip of time below the model takes a third of its height.
TEST_F(Model, WhatWasFittedStaysSoWhereTheViewChangesItsSize) {
    driver.key("ctrl+1");
    const auto sees_all = [&] {
        Box box;
        for (const SceneItem& item : view().scene())
            box.include(item.drawable->bounds);
        const double aspect = static_cast<double>(view().width()) / view().height();
        return view().camera().sees(box, aspect);
    };
    const Camera tall = view().camera();
    const int height = view().height();
    driver.key("ctrl+t");
    ASSERT_TRUE(Driver::until([&] { return view().height() < height - 40; }));
    EXPECT_TRUE(Driver::until([&] { return view().camera() != tall; }));
    EXPECT_TRUE(sees_all());
    driver.key("ctrl+t");
    ASSERT_TRUE(Driver::until([&] { return view().height() == height; }));
    EXPECT_TRUE(Driver::until([&] { return view().camera() == tall; }));
    driver.drag(middle(), middle() + QPoint(80, -40));
    const Camera turned = view().camera();
    driver.key("ctrl+t");
    ASSERT_TRUE(Driver::until([&] { return view().height() < height - 40; }));
    EXPECT_EQ(view().camera(), turned) << "looked at otherwise since";
}

TEST_F(Model, HoverLinksModelAndTable) {
    toggle_by_menu("ground");
    ASSERT_TRUE(study().step("ground")->show.visible);
    document().attention().select(study().step("ground")->id);
    driver.key("ctrl+2");
    Driver::settle(100);
    const auto ground = std::get<PointLattice>(*document().results().shown("ground")->value);
    const std::size_t index = ground.index({3, 2, 0});
    driver.move_to(on_screen(ground.point(index)));
    ASSERT_TRUE(Driver::until([&] {
        return document().attention().hovered().index == index &&
               document().attention().hovered().step == study().step("ground")->id;
    }));
    auto* table = window->findChild<QTableView*>("values");
    EXPECT_EQ(table->currentIndex().row(), static_cast<int>(index)) << "the row of the point is marked";
    EXPECT_EQ(table->model()->index(table->currentIndex().row(), 0).data().toString(), "3");
    const QRect row = table->visualRect(table->model()->index(table->rowAt(40), 0));
    driver.move_to(table->viewport()->mapToGlobal(row.center()));
    ASSERT_TRUE(Driver::until([&] { return document().attention().hovered().index != index; }))
        << "and a row marks its point";
}

TEST_F(Model, ChipsShowAndHide) {
    const QImage before = at_rest();
    driver.click(window->model().chip("canopy"));
    computed();
    EXPECT_FALSE(study().step("canopy")->show.visible);
    EXPECT_GT(different_pixels(before, at_rest()), 1000);
    driver.key("ctrl+z");
    computed();
    EXPECT_TRUE(study().step("canopy")->show.visible);
}

TEST_F(Model, FacesEdgesAndColourAreChosenOnTheChip) {
    const QImage before = at_rest();
    driver.click(window->model().chip("canopy"), 3);
    choose("Faces");
    computed();
    EXPECT_FALSE(study().step("canopy")->show.faces);
    EXPECT_GT(different_pixels(before, at_rest()), 1000);
    toggle_by_menu("ground");
    driver.click(window->model().chip("ground"), 3);
    choose("Labels");
    choose("addresses");
    computed();
    EXPECT_TRUE(study().step("ground")->show.labels);
    driver.click(window->model().chip("canopy"), 3);
    choose("Colour ramp");
    choose("Dusk");
    computed();
    EXPECT_EQ(study().step("canopy")->show.ramp.ramp, Ramp::dusk);
}

TEST_F(Model, MaterialsAreChosenOnTheChip) {
    const QImage before = at_rest();
    driver.click(window->model().chip("canopy"), 3);
    choose("Material");
    choose("Glass");
    computed();
    EXPECT_EQ(study().step("canopy")->show.material.key, "glass");
    EXPECT_GT(different_pixels(before, at_rest()), 1000);
    driver.click(window->model().chip("canopy"), 3);
    choose("Material");
    in_dialog([this] { driver.key("Return"); });
    choose("Paint");
    ASSERT_TRUE(Driver::until([&] { return study().step("canopy")->show.material.key == "paint"; }));
    driver.key("ctrl+z");
    driver.key("ctrl+z");
    computed();
    EXPECT_TRUE(study().step("canopy")->show.material.key.empty());
    EXPECT_LT(different_pixels(before, at_rest()), 50);
}

TEST_F(Model, PictureGoesToTheClipboard) {
    driver.key("ctrl+shift+c");
    EXPECT_FALSE(QApplication::clipboard()->image().isNull());
}

TEST_F(Model, DarkAndLight) {
    const QImage light = view().picture();
    driver.key("ctrl+shift+d");
    Driver::settle(200);
    const QImage dark = view().picture();
    EXPECT_LT(qGray(dark.pixel(5, 5)), 80);
    EXPECT_GT(qGray(light.pixel(5, 5)), 180);
    driver.key("ctrl+shift+d");
    Driver::settle(100);
}

// The same study, drawn by what there is as by a card, and as by software: the window differs in nothing.
class DrawnBothWays : public Model {
public:
    ~DrawnBothWays() override {
        window.reset();
        GlCanvas::set_drawing({});
    }

protected:
    void draw(GlCanvas::Drawing drawing) {
        GlCanvas::set_drawing(drawing);
        reopen();
        build_canopy();
    }
    // The middle of the model as it stands on the screen, and as the view says it is.
    QRect middle_of_view() { return QRect(QPoint(), view().size()).adjusted(60, 120, -60, -120); }
    QImage on_the_screen() {
        const QRect part = middle_of_view().translated(view().mapToGlobal(QPoint()));
        return window->screen()->grabWindow(0).copy(part).toImage();
    }
    QImage picture() { return view().picture().copy(middle_of_view()); }
    // At rest: drafts and rough edges are for while it moves.
    QImage seen(const char* when) {
        Driver::settle(400);
        EXPECT_TRUE(Driver::until([&] { return different_pixels(on_the_screen(), picture()) == 0; })) << when;
        return picture();
    }
};

TEST_F(DrawnBothWays, TheSameAndAsItIsOnTheScreen) {
    std::vector<QImage> first, turned, dark;
    for (const auto drawing : {GlCanvas::Drawing::by_card, GlCanvas::Drawing::by_software}) {
        draw(drawing);
        first.push_back(seen("at first"));
        driver.drag(middle(), middle() + QPoint(80, -40));
        driver.move_to(window->mapToGlobal(QPoint(20, 20)));
        turned.push_back(seen("turned"));
        driver.key("ctrl+shift+d");
        ASSERT_TRUE(Driver::until([&] { return qGray(picture().pixel(2, 2)) < 80; })) << "a dark look";
        dark.push_back(seen("in the dark look"));
        driver.key("ctrl+shift+d");
        Driver::settle(100);
    }
    EXPECT_GT(different_pixels(first[0], turned[0]), 1000);
    for (const auto& both : {first, turned, dark}) {
        ASSERT_EQ(both[0].size(), both[1].size());
        EXPECT_EQ(different_pixels(both[0], both[1]), 0);
    }
}

TEST_F(DrawnBothWays, WhatIsPointedAtIsToldOverTheModel) {
    for (const auto drawing : {GlCanvas::Drawing::by_card, GlCanvas::Drawing::by_software}) {
        draw(drawing);
        const QImage before = seen("at first");
        driver.move_to(middle());
        EXPECT_TRUE(Driver::until([&] { return document().attention().hovered().step != 0; }));
        EXPECT_TRUE(Driver::until([&] { return different_pixels(picture(), before) > 0; }));
        seen("pointed at");
        driver.move_to(window->mapToGlobal(QPoint(20, 20)));
        EXPECT_TRUE(Driver::until([&] { return different_pixels(picture(), before) == 0; }));
    }
}

TEST_F(Model, WhatTookLongIsSeenBeforeItIsTold) {
    const Results& results = document().results();
    std::string order;
    QObject::connect(&results, &Results::pictures_changed, window.get(), [&] { order += 'p'; });
    QObject::connect(&results, &Results::evaluation_changed, window.get(), [&] { order += 't'; });
    QObject::connect(&view(), &GlCanvas::frame_shown, window.get(), [&] { order += 's'; });
    // Longer than what is waited for, and not so many that pictures are made before figures.
    document().apply(set_slot(study(), study().step("ground")->id, "columns", NumberText{"400"}), "c", "c");
    document().apply(set_slot(study(), study().step("ground")->id, "rows", NumberText{"400"}), "r", "r");
    order.clear();
    computed();
    const std::size_t told = order.rfind('t');
    ASSERT_NE(told, std::string::npos) << order;
    const std::size_t pictured = order.rfind('p', told), seen = order.find('s', pictured);
    ASSERT_NE(pictured, std::string::npos) << order;
    EXPECT_LT(seen, told) << order;
}

// Text is not laid out for each of many results a second, and says what the last one is.
TEST_F(Model, WhatIsToldOfResultsThatFollowEachOtherIsOfTheLast) {
    const Results& results = document().results();
    driver.drag(middle(), middle() + QPoint(80, -40));
    ASSERT_TRUE(Driver::until([&] { return document().attention().wishes().view.has_value(); }));
    int told = 0, seen = 0;
    QObject::connect(&results, &Results::evaluation_changed, window.get(), [&] { ++told; });
    QObject::connect(&view(), &GlCanvas::frame_shown, window.get(), [&] { ++seen; });
    QElapsedTimer timer;
    timer.start();
    constexpr int changes = 60;
    for (int change = 1; change <= changes; ++change) {
        document().apply(set_slot(study(), study().step("ground")->id, "width",
                                  NumberText{std::to_string(30 + change * 0.1) + " m"}),
                         "width", "drag");
        ASSERT_TRUE(Driver::until([&] { return !results.behind(); }));
    }
    computed();
    EXPECT_FALSE(results.untold());
    EXPECT_LE(told, timer.elapsed() / 100 + 2);
    EXPECT_GT(seen, 0);
    EXPECT_TRUE(Driver::until([&] { return document().attention().wishes().view.has_value(); }))
        << "at rest it is drawn as finely as it is seen, again";
    document().attention().select(study().step("ground")->id);
    EXPECT_TRUE(Driver::until([&] {
        return window->findChild<QLabel*>("readings-details")->text().contains("from -18 to 18 m");
    })) << window->findChild<QLabel*>("readings-details")->text().toStdString();
}

}  // namespace
}  // namespace plume::test
