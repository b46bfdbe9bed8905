#pragma once
// A window that is up, and how long it takes to show things.

#include <QElapsedTimer>
#include <functional>
#include <utility>

#include "app/model/model_panel.hpp"
#include "app/window/main_window.hpp"
#include "moved_mouse.hpp"
#include "waiting.hpp"

namespace bench {

using namespace plume;
using namespace plume::app;

// What a mouse can drag; counts how often it was.
class Grip : public QWidget {
public:
    Grip(QWidget& window, std::function<void(int)> change) : QWidget(&window), change_(std::move(change)) {
        setGeometry(0, 0, 200, 4);
        show();
    }

protected:
    void mouseMoveEvent(QMouseEvent* /*event*/) override { change_(++moves_); }

private:
    std::function<void(int)> change_;
    int moves_ = 0;
};

class Shower {
public:
    Shower() : view_(*window_.findChild<ModelView*>()) {
        window_.show();
        QObject::connect(&view_, &OrbitView::frame_shown, &window_, [this] {
            if (shown_ms_ < 0 && all_in_it()) shown_ms_ = static_cast<double>(timer_.nsecsElapsed()) * 1e-6;
        });
    }

    // Until a frame is done that shows all visible results of the study, after which the window is at rest.
    double showing_ms(const QString& file, std::size_t results) {
        expected_ = results;
        shown_ms_ = -1;
        timer_.start();
        if (!window_.open_file(file)) return -1;
        wait_until([this] { return shown_ms_ >= 0; });
        wait_for(1000);
        return shown_ms_;
    }

    // Until it is computed and the window at rest.
    bool open(const QString& file) {
        if (!window_.open_file(file)) return false;
        wait_until([this] { return !document().results().behind(); });
        wait_for(1000);
        return !document().results().behind();
    }

    // Changes something, and waits for a frame that shows another result of the step for it: how long that
    // took, in ms; below 0 when it did not come.
    double changed_ms(const std::string& result, const std::function<void()>& change) {
        const auto shown = [&] { return window_.document().results().shown(result); };
        const Hash before = shown()->key;
        double taken = -1;
        QElapsedTimer timer;
        const auto connection = QObject::connect(&view_, &OrbitView::frame_shown, &window_, [&] {
            const Shown* now = shown();
            if (taken < 0 && now && now->drawable && !(now->key == before))
                taken = static_cast<double>(timer.nsecsElapsed()) * 1e-6;
        });
        timer.start();
        change();
        wait_until([&] { return taken >= 0; }, 10'000);
        QObject::disconnect(connection);
        return taken;
    }
    // Changes something with each move of a mouse that is dragged for three seconds: how many frames a second
    // show another result of the step.
    double followed_a_second(const std::string& result, const std::function<void(int)>& change) {
        constexpr int dragged_ms = 3000;
        const auto shown = [&] { return window_.document().results().shown(result); };
        Hash before = shown()->key;
        int seen = 0;
        const auto connection = QObject::connect(&view_, &OrbitView::frame_shown, &window_, [&] {
            const Shown* now = shown();
            if (now && now->drawable && !(std::exchange(before, now->key) == now->key)) ++seen;
        });
        Grip grip(window_, change);
        QElapsedTimer timer;
        timer.start();
        const MovedMouse mouse(grip.mapToGlobal(grip.rect().topLeft()), grip.width() - 1);
        wait_for(dragged_ms);
        QObject::disconnect(connection);
        return seen * 1000.0 / static_cast<double>(timer.elapsed());
    }
    // The model turned again and again.
    double turned_a_second() {
        constexpr int frames = 30;
        int painted = 0;
        const auto turn = [&] {
            Camera camera = view_.camera();
            camera.azimuth_rad += 0.01;
            view_.set_camera(camera);
        };
        const auto connection = QObject::connect(&view_, &OrbitView::frame_shown, &window_, [&] {
            ++painted;
            turn();
        });
        QElapsedTimer timer;
        timer.start();
        turn();
        wait_until([&] { return painted >= frames; });
        QObject::disconnect(connection);
        return frames * 1000.0 / static_cast<double>(timer.elapsed());
    }
    Document& document() { return window_.document(); }

private:
    // Opening a study empties the model.
    bool all_in_it() const { return view_.scene().size() == expected_; }

    MainWindow window_;
    ModelView& view_;
    QElapsedTimer timer_;
    std::size_t expected_ = 0;
    double shown_ms_ = 0;
};

}  // namespace bench
