#include <QOffscreenSurface>
#include <QOpenGLContext>
#include <QOpenGLFunctions>
#include <utility>

#include "app/model/gl_surface.hpp"

namespace plume::app {
namespace {

class SoftwareSurface : public GlSurface {
public:
    SoftwareSurface(QWidget& canvas, DrawnByGl& drawn) : canvas_(canvas), drawn_(drawn) {
        canvas.setAttribute(Qt::WA_OpaquePaintEvent);
    }
    void redraw() override { canvas_.update(); }
    void paint() override {
        bring_up_to_date();
        QPainter painter(&canvas_);
        painter.drawImage(QPointF(), image_);
        drawn_.paint_on(painter);
        // The window takes over what was painted once all of it was.
        QMetaObject::invokeMethod(
            &canvas_, [this] { drawn_.frame_was_shown(); }, Qt::QueuedConnection);
    }
    QImage picture() override {
        bring_up_to_date();
        QImage seen = image_;
        QPainter painter(&seen);
        drawn_.paint_on(painter);
        return seen;
    }
    void release(const std::function<void()>& give_back) override {
        if (!target_ || !context_.makeCurrent(&surface_)) return;
        give_back();
        target_.reset();
        context_.doneCurrent();
    }

private:
    QSize pixels() const { return canvas_.size() * canvas_.devicePixelRatioF(); }

    void bring_up_to_date() {
        if (drawn_.is_drawn() || !begin()) return;
        drawn_.draw_gl(target_.get());
        read();
        context_.doneCurrent();
    }

    bool begin() {
        const bool first = !context_.isValid();
        if (first) {
            context_.setFormat(gl_format());
            surface_.setFormat(gl_format());
            surface_.create();
            if (!context_.create()) return false;
        }
        if (!context_.makeCurrent(&surface_)) return false;
        if (first) drawn_.prepare_gl();
        if (!target_ || target_->size() != pixels())
            target_ = std::make_unique<QOpenGLFramebufferObject>(
                pixels(), QOpenGLFramebufferObject::CombinedDepthStencil);
        return target_->bind();
    }

    // In the order of bytes that the window has, from the lowest row to the highest.
    void read() {
        constexpr GLenum blue_first = 0x80E1, in_words = 0x8367;  // GL_BGRA, GL_UNSIGNED_INT_8_8_8_8_REV
        if (image_.size() != pixels()) image_ = QImage(pixels(), QImage::Format_RGB32);
        context_.functions()->glReadPixels(0, 0, image_.width(), image_.height(), blue_first, in_words,
                                           image_.bits());
        image_ = std::exchange(image_, {}).mirrored();
        image_.setDevicePixelRatio(canvas_.devicePixelRatioF());
    }

    QWidget& canvas_;
    DrawnByGl& drawn_;
    QOpenGLContext context_;
    QOffscreenSurface surface_;
    std::unique_ptr<QOpenGLFramebufferObject> target_;
    QImage image_;
};

}  // namespace

std::unique_ptr<GlSurface> software_surface(QWidget& canvas, DrawnByGl& drawn) {
    return std::make_unique<SoftwareSurface>(canvas, drawn);
}

}  // namespace plume::app
