#pragma once
// What a canvas is drawn onto. A graphics card draws into the window, which it puts together. Software draws
// beside the window, and what it drew is copied and kept: putting the window together would take it longer
// than drawing the model, each time that anything changes in it.

#include <QOpenGLFramebufferObject>
#include <QPainter>
#include <QSurfaceFormat>
#include <QWidget>
#include <functional>
#include <memory>

namespace plume::app {

// Who draws. Of what is done by OpenGL the context is current.
class DrawnByGl {
public:
    virtual ~DrawnByGl() = default;
    // Once, before the first frame.
    virtual void prepare_gl() = 0;
    // Into this, or into what the context has of its own.
    virtual void draw_gl(QOpenGLFramebufferObject* target) = 0;
    // Whether what was drawn last shows all there is.
    virtual bool is_drawn() const = 0;
    // What lies over it.
    virtual void paint_on(QPainter& painter) = 0;
    virtual void frame_was_shown() = 0;
};

class GlSurface {
public:
    virtual ~GlSurface() = default;
    // With the next repaint of the window.
    virtual void redraw() = 0;
    // For the canvas's own paint event.
    virtual void paint() {}
    // As it is seen; drawn for it only where it was not.
    virtual QImage picture() = 0;
    // Before the canvas goes: calls this with the context current, to give back what was made in it; not
    // where there was no frame.
    virtual void release(const std::function<void()>& give_back) = 0;
};

QSurfaceFormat gl_format();
std::unique_ptr<GlSurface> card_surface(QWidget& canvas, DrawnByGl& drawn);
std::unique_ptr<GlSurface> software_surface(QWidget& canvas, DrawnByGl& drawn);

}  // namespace plume::app
