#pragma once
// Draws drawables with OpenGL 3.3: shaded faces, edges, round points, a soft shadow on the ground, the ground
// grid. All calls need the view's context to be current.

#include <QOpenGLFunctions_3_3_Core>
#include <QOpenGLShaderProgram>
#include <QVector3D>
#include <QVector4D>
#include <map>
#include <memory>

#include "core/data/camera.hpp"
#include "core/picture/drawable.hpp"
#include "core/study/study.hpp"

namespace plume {
struct DepthFade;
}

namespace plume::app {

struct SceneItem {
    ItemId step = 0;
    std::shared_ptr<const Drawable> drawable;
    Show show;
    bool selected = false;
    bool operator==(const SceneItem&) const = default;
};

// Of more points every n-th stands for all while the camera moves, or while there is another result many
// times a second.
inline constexpr std::size_t most_points_in_draft = 12'000;

struct FrameOptions {
    Camera camera;
    QSize pixels;
    double pixel_ratio = 1;
    bool quick = false;  // while something moves: not what is hardly seen then
    bool draft = false;  // while something moves and frames are slow: faces, lines, and some of the points
    bool grid = true;
    double grid_step = 1;  // study lengths
    Box bounds;            // of everything drawn
};

class GlScene : protected QOpenGLFunctions_3_3_Core {
public:
    // False when the context cannot do it.
    bool initialize();
    void release();
    // `ghosts` are laid over the items, translucent and in one colour; lines may have their own.
    void draw(const std::vector<SceneItem>& items, const std::vector<SceneItem>& ghosts,
              const FrameOptions& options);

private:
    struct Buffers {
        std::shared_ptr<const Drawable> drawable;  // keeps the key alive
        GLuint faces_vao = 0, points_vao = 0;
        std::array<GLuint, 6> buffers{};  // vertices, triangles, edges, points, coarse triangles, repeats
        bool coloured = false;            // with anything but the plain colour
        bool used = false;
    };
    Buffers& buffers_of(const std::shared_ptr<const Drawable>& drawable);
    void drop_unused();
    void destroy(Buffers& buffers);
    bool build(QOpenGLShaderProgram& program, const char* vertex, const char* fragment,
               const char* defined = "");
    QOpenGLShaderProgram& program_for(const Material& material);
    static void set_ramp(QOpenGLShaderProgram& program, const RampStyle& style);
    void draw_background();
    void draw_ghost(const SceneItem& item, const FrameOptions& options);
    static void set_no_repeat();
    void draw_at_repeats(GLenum mode, std::size_t first_index, std::size_t index_count,
                         const DrawShape& shape, const Buffers& buffers);
    void draw_triangles(const SceneItem& item, const FrameOptions& options);
    void draw_faces(const SceneItem& item, const FrameOptions& options);
    void draw_faces(const SceneItem& item, const FrameOptions& options, QVector3D plain, float opacity,
                    const Material& material);
    static void set_fade(QOpenGLShaderProgram& program, const DepthFade& fade, Vec3 origin);
    void draw_lines(const SceneItem& item, const FrameOptions& options, QVector4D ink, float width);
    void draw_heavier_lines(const SceneItem& item, const FrameOptions& options, QVector4D ink);
    void set_up_lines(const SceneItem& item, const FrameOptions& options, QVector4D ink, float width);
    void draw_shadow(const SceneItem& item, const FrameOptions& options);
    void draw_edges(const SceneItem& item, const FrameOptions& options);
    void draw_points(const SceneItem& item, const FrameOptions& options);
    void draw_grid(const FrameOptions& options);
    QMatrix4x4 matrix(const FrameOptions& options, Vec3 origin) const;

    QOpenGLShaderProgram background_, faces_, shining_faces_, striped_faces_, shadow_, lines_, ink_lines_,
        points_;
    GLuint ramp_ = 0, empty_vao_ = 0, grid_vao_ = 0, grid_buffer_ = 0;
    std::map<const Drawable*, Buffers> buffers_;
};

}  // namespace plume::app
