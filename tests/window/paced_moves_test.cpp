// A mouse that is moved faster than can be followed.

#include "app/parts/paced_moves.hpp"

#include <gtest/gtest.h>

#include <QWidget>

#include "window/driver.hpp"

namespace plume::test {
namespace {

using app::PacedMoves;

// What it was told, in order.
class Told : public QWidget {
public:
    Told() {
        setGeometry(100, 100, 400, 300);
        show();
        Driver::until([this] { return isVisible() && windowHandle() && windowHandle()->isExposed(); });
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

constexpr int an_hour_ms = 3'600'000;

TEST(PacedMoves, EachIsFollowedWhereNothingWaits) {
    Driver driver;
    Told told;
    const PacedMoves paced(
        nullptr, [] { return false; }, an_hour_ms);
    driver.drag(told.at(20), told.at(60), 4);
    EXPECT_EQ(told.events,
              QStringList({"press 20", "move 30", "move 40", "move 50", "move 60", "release 60"}));
}

TEST(PacedMoves, OfThoseThatComeTooSoonTheNewestIsFollowed) {
    Driver driver;
    Told told;
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

}  // namespace
}  // namespace plume::test
