// A mouse that is moved faster than can be followed.

#include "app/parts/paced_moves.hpp"

#include "window/fixture.hpp"

namespace plume::test {
namespace {

using app::PacedMoves;

// What it was told, in order; it lies over what else is in the window.
class Told : public QWidget {
public:
    explicit Told(QWidget& window) : QWidget(&window) {
        setGeometry(100, 100, 400, 300);
        raise();
        show();
    }
    QPoint at(int x) const { return mapToGlobal(QPoint(x, 50)); }
    QStringList events;

protected:
    void mousePressEvent(QMouseEvent* event) override { tell("press", *event); }
    void mouseMoveEvent(QMouseEvent* event) override { tell("move", *event); }
    void mouseReleaseEvent(QMouseEvent* event) override { tell("release", *event); }

private:
    void tell(const char* what, const QMouseEvent& event) {
        events += QString("%1 %2").arg(what).arg(event.position().toPoint().x());
    }
};

using MovesInPace = WindowTest;

constexpr int an_hour_ms = 3'600'000;

TEST_F(MovesInPace, EachIsFollowedWhereNothingWaits) {
    Told told(*window);
    const PacedMoves paced(
        nullptr, [] { return false; }, an_hour_ms);
    driver.drag(told.at(20), told.at(60), 4);
    EXPECT_EQ(told.events,
              QStringList({"press 20", "move 30", "move 40", "move 50", "move 60", "release 60"}));
}

TEST_F(MovesInPace, OfThoseThatComeTooSoonTheNewestIsFollowed) {
    Told told(*window);
    bool waits = true;
    const PacedMoves paced(
        nullptr, [&] { return waits; }, an_hour_ms);
    driver.move_to(told.at(20));
    driver.press();
    for (const int x : {30, 40, 50})
        driver.move_to(told.at(x));
    EXPECT_EQ(told.events, QStringList({"press 20"}));
    // Once nothing waits any more, the newest is.
    waits = false;
    EXPECT_TRUE(Driver::until([&] { return told.events.size() > 1; }));
    EXPECT_EQ(told.events, QStringList({"press 20", "move 50"}));
    // Whatever else is done comes after it.
    waits = true;
    for (const int x : {60, 70})
        driver.move_to(told.at(x));
    driver.release();
    EXPECT_EQ(told.events, QStringList({"press 20", "move 50", "move 70", "release 70"}));
}

// Without a button nothing is dragged, and each move is told.
TEST_F(MovesInPace, WhatHoversIsNotHeldBack) {
    Told told(*window);
    told.setMouseTracking(true);
    const PacedMoves paced(
        nullptr, [] { return true; }, an_hour_ms);
    for (const int x : {20, 30})
        driver.move_to(told.at(x));
    EXPECT_EQ(told.events.mid(told.events.size() - 2), QStringList({"move 20", "move 30"}));
}

}  // namespace
}  // namespace plume::test
