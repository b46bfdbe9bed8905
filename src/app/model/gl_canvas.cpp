#include "app/model/gl_canvas.hpp"

#include <QOffscreenSurface>
#include <QOpenGLContext>
#include <QOpenGLFunctions>
#include <algorithm>

namespace plume::app {
namespace {

struct Found {
    QString why_not;
    GlCanvas::Drawing drawing = GlCanvas::Drawing::by_card;
};

// Software that does what a card would says so in its name.
bool is_software(const QString& renderer) {
    constexpr const char* names[] = {"llvmpipe", "softpipe", "swrast", "software", "swiftshader"};
    return std::ranges::any_of(
        names, [&](const char* name) { return renderer.contains(QLatin1String(name), Qt::CaseInsensitive); });
}

Found find_out() {
    QOpenGLContext context;
    context.setFormat(gl_format());
    QOffscreenSurface surface;
    surface.setFormat(gl_format());
    surface.create();
    if (!context.create() || !context.makeCurrent(&surface))
        return {
            GlCanvas::tr("The model cannot be drawn: this display gives no OpenGL context. Everything "
                         "else works; install a graphics driver (on Debian: libgl1-mesa-dri) or use the "
                         "command `plume picture`.")};
    const auto version = context.format().version();
    const QString renderer =
        reinterpret_cast<const char*>(context.functions()->glGetString(GL_RENDERER));  // NOLINT: OpenGL's
    context.doneCurrent();
    if (version < qMakePair(3, 3))
        return {GlCanvas::tr("The model cannot be drawn: OpenGL 3.3 is needed and this display offers %1.%2. "
                             "Everything else works; update the graphics driver or use the command `plume "
                             "picture`.")
                    .arg(version.first)
                    .arg(version.second)};
    return {{}, is_software(renderer) ? GlCanvas::Drawing::by_software : GlCanvas::Drawing::by_card};
}

// It stays so as long as the program runs, and finding it out makes a context.
const Found& found() {
    static const Found once = find_out();
    return once;
}

std::optional<GlCanvas::Drawing> said_by_environment() {
    const QByteArray said = qgetenv("PLUME_DRAW_BY");
    if (said.isEmpty()) return {};
    if (said == "card") return GlCanvas::Drawing::by_card;
    if (said == "software") return GlCanvas::Drawing::by_software;
    qWarning("PLUME_DRAW_BY is '%s'; it can be 'card' or 'software'. The model is drawn by what there is.",
             said.constData());
    return {};
}

}  // namespace

QSurfaceFormat gl_format() {
    QSurfaceFormat format;
    format.setVersion(3, 3);
    format.setProfile(QSurfaceFormat::CoreProfile);
    format.setDepthBufferSize(24);
    format.setStencilBufferSize(8);
    return format;
}

QString GlCanvas::why_not() {
    return found().why_not;
}

GlCanvas::GlCanvas(QWidget* parent) : QWidget(parent) {
    static const std::optional<Drawing> said = said_by_environment();
    const Drawing drawing = wanted ? *wanted : said.value_or(found().drawing);
    surface_ = drawing == Drawing::by_card ? card_surface(*this, *this) : software_surface(*this, *this);
}

void GlCanvas::paintEvent(QPaintEvent* /*event*/) {
    surface_->paint();
}

}  // namespace plume::app
