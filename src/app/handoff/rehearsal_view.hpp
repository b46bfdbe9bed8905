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
    void clear();

protected:
    Units units() const override { return {}; }
    void paint_over(QPainter& painter) override;
    void hover_at(QPointF /*cursor*/) override {}
    void clicked() override {}

private:
    void take(const RehearsedDrawing& drawing);

    std::vector<ColourMeaning> colours_;
};

}  // namespace plume::app
