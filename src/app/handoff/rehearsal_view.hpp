#pragma once
// A board or sheets while they are worked on, and the tool over them.

#include "app/handoff/rehearser.hpp"
#include "app/model/orbit_view.hpp"

namespace plume::app {

class RehearsalView : public OrbitView {
    Q_OBJECT

public:
    explicit RehearsalView(QWidget* parent);

    // As it is now; `another` is seen whole.
    void show_now(const RehearsedWork& work, bool another);
    // What is seen, in finer parts.
    void show_finely(const RehearsedDrawing& drawing);
    // How much of that is made; 1: nothing is being made.
    void tell_fineness(double fraction);
    void clear();

protected:
    Units units() const override { return {}; }
    void paint_over(QPainter& painter) override;
    void hover_at(QPointF /*cursor*/) override {}
    void clicked() override {}

private:
    void take(const RehearsedDrawing& drawing);

    std::vector<ColourMeaning> colours_;
    QString note_;
};

}  // namespace plume::app
