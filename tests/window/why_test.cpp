// Why it is so: a part is asked in the model and in the table, two stand side by side, and it ends.

#include <QLabel>
#include <QTableView>

#include "app/sheet/heading_block.hpp"
#include "app/sheet/why_lines.hpp"
#include "core/tracing/part_places.hpp"
#include "window/fixture.hpp"

namespace plume::test {
namespace {

class Why : public WindowTest {
protected:
    // What is told under the sentence of a result; empty where nothing is.
    QString told(const std::string& result, const char* letter = "A") {
        auto* lines = window->sheet().step_block(study().step(result)->id)->findChild<WhyLines*>("why-lines");
        if (!lines || !lines->isVisible()) return {};
        auto* column = lines->findChild<QLabel*>(QString("why-") + letter);
        return column && column->isVisible() ? column->text() : QString();
    }
    void point_at(const std::string& result, Address address) {
        const auto lattice = *lattice_of(*document().results().shown(result)->value);
        driver.move_to(on_screen(lattice.point(lattice.index(address))));
        ASSERT_TRUE(Driver::until([&] {
            return document().attention().hovered() ==
                   Hovered{study().step(result)->id, lattice.index(address)};
        }));
    }
    // Only one result is seen, so that it is what is pointed at.
    void show_alone(const std::string& result) {
        for (const Item& item : std::vector<Item>(study().items)) {
            const Step* step = step_of(item);
            if (!step) continue;
            Show show = step->show;
            show.visible = step->name == result;
            document().apply(set_show(study(), step->id, show), "seen");
        }
        driver.key("ctrl+0");
        driver.key("ctrl+2");
        computed();
    }
};

TEST_F(Why, APointTellsUnderEverySentenceWhatItWasThere) {
    build_canopy();
    show_alone("pushed");
    driver.key("F3");
    EXPECT_EQ(child("why-bar"), nullptr) << "nothing is pointed at";
    point_at("pushed", {14, 8, 0});
    driver.key("F3");
    ASSERT_TRUE(Driver::until([&] { return !told("pushed").isEmpty(); }));
    ASSERT_NE(child("why-bar"), nullptr);
    EXPECT_TRUE(dynamic_cast<QLabel*>(child("why-asked"))->text().contains("i 14  j 8"));
    EXPECT_TRUE(told("lattice").contains("at 3, 0, 0 m")) << told("lattice").toStdString();
    EXPECT_TRUE(told("reach").contains("the nearest is ")) << told("reach").toStdString();
    EXPECT_TRUE(told("ranged").contains("is a share of ")) << told("ranged").toStdString();
    EXPECT_TRUE(told("pushed").contains("moved by 0, 0, ")) << told("pushed").toStdString();
    EXPECT_TRUE(told("surface").isEmpty());
    // Another one beside it.
    point_at("pushed", {2, 3, 0});
    driver.key("F3");
    ASSERT_TRUE(Driver::until([&] { return !told("pushed", "B").isEmpty(); }));
    EXPECT_TRUE(told("lattice", "A").contains("i 14  j 8") && told("lattice", "B").contains("i 2  j 3"));
    // It follows what is changed.
    const QString before = told("pushed", "A");
    type_into("ranged", "high_length", "5 m");
    ASSERT_TRUE(Driver::until([&] { return told("pushed", "A") != before; }));
    EXPECT_TRUE(told("ranged", "A").contains("0 m … 5 m")) << told("ranged").toStdString();
    // The second again is one less; Escape ends it.
    point_at("pushed", {2, 3, 0});
    driver.key("F3");
    ASSERT_TRUE(Driver::until([&] { return told("pushed", "B").isEmpty(); }));
    EXPECT_FALSE(told("pushed", "A").isEmpty());
    driver.click(child("why-end"));
    ASSERT_TRUE(Driver::until([&] { return told("pushed").isEmpty(); }));
    EXPECT_EQ(child("why-bar"), nullptr);
}

TEST_F(Why, ARowOfTheTableIsAskedAndEscapeEndsIt) {
    build_canopy();
    const ItemId skin = study().step("surface")->id;
    document().apply(set_slot(study(), skin, "surface", WordKey{"flat"}), "flat");
    document().attention().select(skin);
    computed();
    auto* table = dynamic_cast<QTableView*>(child("values"));
    ASSERT_TRUE(table);
    const QRect row = table->visualRect(table->model()->index(3, 0));
    driver.click(table->viewport()->mapToGlobal(row.center()));
    driver.key("F3");
    ASSERT_TRUE(Driver::until([&] { return !told("surface").isEmpty(); }));
    EXPECT_TRUE(told("pushed").contains("i 3  j 0")) << told("pushed").toStdString();
    driver.key("Escape");
    ASSERT_TRUE(Driver::until([&] { return told("surface").isEmpty(); }));
}

TEST_F(Why, WhatIsUnderTheCursorOfASkinIsAsked) {
    build_canopy();
    const ItemId skin = study().step("surface")->id;
    document().apply(set_slot(study(), skin, "surface", WordKey{"flat"}), "flat");
    show_alone("surface");
    const auto point_at_middle = [&](PartRef part) {
        const std::vector<Vec3> places = places_of(*document().results().shown("surface")->value, part);
        Vec3 middle;
        for (const Vec3 place : places)
            middle = middle + place * (1 / static_cast<double>(places.size()));
        driver.move_to(on_screen(middle));
        return Driver::until([&] { return document().attention().hovered() == Hovered{skin, 0, part}; });
    };
    // Face 30 of 24 a row is at column 6 of row 1.
    ASSERT_TRUE(point_at_middle({PartSort::face, 30}));
    driver.key("F3");
    ASSERT_TRUE(Driver::until([&] { return !told("surface").isEmpty(); }));
    EXPECT_TRUE(told("pushed").contains("i 6  j 1") && told("pushed").contains("i 7  j 2"))
        << told("pushed").toStdString();
    driver.key("Escape");
    ASSERT_TRUE(Driver::until([&] { return child("why-bar") == nullptr; }));
    // Of a smooth one the nearest of the points it was made through; a click selects its step.
    document().apply(set_slot(study(), skin, "surface", WordKey{"smooth"}), "smooth");
    document().attention().select(study().step("lattice")->id);
    computed();
    ASSERT_TRUE(point_at_middle({PartSort::vertex, 14 + 8 * 25}));
    driver.key("F3");
    ASSERT_TRUE(Driver::until([&] { return told("surface").contains("point 14,8"); }));
    EXPECT_TRUE(told("pushed").contains("i 14  j 8")) << told("pushed").toStdString();
    EXPECT_TRUE(told("ranged").contains("is a share of ")) << told("ranged").toStdString();
    driver.click(QCursor::pos());
    EXPECT_TRUE(Driver::until([&] { return document().attention().is_selected(skin); }));
}

}  // namespace
}  // namespace plume::test
