#include <QOpenGLContext>
#include <QOpenGLFunctions>
#include <QOpenGLWidget>
#include <QVBoxLayout>

#include "app/model/gl_surface.hpp"

namespace plume::app {
namespace {

// Covers the canvas; mouse and keys stay the canvas's.
class Sheet : public QOpenGLWidget {
public:
    Sheet(QWidget& canvas, DrawnByGl& drawn) : QOpenGLWidget(&canvas), drawn_(drawn) {
        setFormat(gl_format());
        setAttribute(Qt::WA_TransparentForMouseEvents);
        connect(this, &QOpenGLWidget::frameSwapped, this, [this] { drawn_.frame_was_shown(); });
    }
    QImage read() {
        makeCurrent();
        const double ratio = devicePixelRatioF();
        QImage image(size() * ratio, QImage::Format_RGBX8888);
        context()->functions()->glReadPixels(0, 0, image.width(), image.height(), GL_RGBA, GL_UNSIGNED_BYTE,
                                             image.bits());
        doneCurrent();
        image.setDevicePixelRatio(ratio);
        return image.mirrored();
    }

protected:
    void initializeGL() override { drawn_.prepare_gl(); }
    void paintGL() override {
        drawn_.draw_gl(nullptr);
        QPainter painter(this);
        drawn_.paint_on(painter);
    }

private:
    DrawnByGl& drawn_;
};

class CardSurface : public GlSurface {
public:
    CardSurface(QWidget& canvas, DrawnByGl& drawn) : drawn_(drawn), sheet_(new Sheet(canvas, drawn)) {
        auto* whole = new QVBoxLayout(&canvas);
        whole->setContentsMargins(0, 0, 0, 0);
        whole->addWidget(sheet_);
    }
    void redraw() override { sheet_->update(); }
    QImage picture() override { return drawn_.is_drawn() ? sheet_->read() : sheet_->grabFramebuffer(); }
    void release(const std::function<void()>& give_back) override {
        if (!sheet_->isValid()) return;
        sheet_->makeCurrent();
        give_back();
        sheet_->doneCurrent();
    }

private:
    DrawnByGl& drawn_;
    Sheet* sheet_;  // the canvas's
};

}  // namespace

std::unique_ptr<GlSurface> card_surface(QWidget& canvas, DrawnByGl& drawn) {
    return std::make_unique<CardSurface>(canvas, drawn);
}

}  // namespace plume::app
