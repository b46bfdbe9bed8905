#pragma once
// A widget that is drawn with OpenGL, and over it by a painter.

#include <QWidget>
#include <memory>
#include <optional>

#include "app/model/gl_surface.hpp"

namespace plume::app {

class GlCanvas : public QWidget, protected DrawnByGl {
    Q_OBJECT

public:
    enum class Drawing { by_card, by_software };

    explicit GlCanvas(QWidget* parent);

    // Why nothing can be drawn here, or an empty text.
    static QString why_not();
    // How canvases are drawn that are made from now on; else by what there is, or by what the variable
    // PLUME_DRAW_BY of the environment says: card or software.
    static void set_drawing(std::optional<Drawing> drawing) { wanted = drawing; }

    // QWidget::update() does not reach what a card draws.
    void redraw() { surface_->redraw(); }
    // As it is seen; drawn for it only where it was not.
    QImage picture() { return surface_->picture(); }

Q_SIGNALS:
    void frame_shown();

protected:
    void paintEvent(QPaintEvent* event) override;
    void frame_was_shown() override { Q_EMIT frame_shown(); }
    GlSurface& surface() { return *surface_; }

private:
    inline static std::optional<Drawing> wanted;
    std::unique_ptr<GlSurface> surface_;
};

}  // namespace plume::app
