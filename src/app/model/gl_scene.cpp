#include "app/model/gl_scene.hpp"

#include <QOpenGLContext>
#include <QOpenGLFunctions>
#include <QVector3D>
#include <algorithm>
#include <cmath>

#include "app/model/shaders.hpp"
#include "app/theme/look.hpp"
#include "core/picture/depth_fade.hpp"
#include "core/picture/ramp.hpp"

namespace plume::app {
namespace {

constexpr GLuint first_repeat_attribute = 3, repeat_colour_attribute = 7;
constexpr float bar_width = 2.5F;  // pixels

QVector3D vector_of(Vec3 v) {
    return {static_cast<float>(v.x), static_cast<float>(v.y), static_cast<float>(v.z)};
}
QVector3D vector_of(const QColor& c) {
    return {c.redF(), c.greenF(), c.blueF()};
}
QVector3D vector_of(Rgb c) {
    return {c.red, c.green, c.blue};
}

// Seen through: what lies behind it is drawn first.
bool is_clear(const SceneItem& item) {
    const auto material = material_of(item.show.material);
    return material && material->transparency > 0;
}

// Half of the triangles of a body need not be drawn then.
bool is_seen_from_outside(const SceneItem& item, const Camera& camera) {
    const auto& [low, high] = item.drawable->bounds;
    const Vec3 eye = camera.eye();
    const bool among =
        low.x < eye.x && eye.x < high.x && low.y < eye.y && eye.y < high.y && low.z < eye.z && eye.z < high.z;
    return item.drawable->closed && !(camera.perspective && among);
}

// A place in the ramp, or one of its own.
template <class Coloured>
bool has_colour(const Coloured& of) {
    return of.colour > plain_coordinate / 2 || of.colour < not_finite_coordinate - 0.5F;
}

const void* byte_offset(std::size_t offset) {
    return reinterpret_cast<const void*>(offset);  // NOLINT: how OpenGL takes offsets into a buffer
}

}  // namespace

bool GlScene::build(QOpenGLShaderProgram& program, const char* vertex, const char* fragment,
                    const char* defined) {
    QByteArray with_common_code(vertex);
    with_common_code.insert(with_common_code.indexOf('\n'), own_colour_code);  // below the version
    with_common_code.insert(with_common_code.indexOf('\n'), repeat_code);
    QByteArray with_ramp(fragment);
    with_ramp.insert(with_ramp.indexOf('\n'), ramp_code);
    with_ramp.insert(with_ramp.indexOf('\n'), defined);
    return program.addShaderFromSourceCode(QOpenGLShader::Vertex, with_common_code) &&
           program.addShaderFromSourceCode(QOpenGLShader::Fragment, with_ramp) && program.link();
}

void GlScene::set_ramp(QOpenGLShaderProgram& program, const RampStyle& style) {
    program.setUniformValue("ramp_row", static_cast<float>(style.ramp));
    program.setUniformValue("ramp_reversed", style.reversed ? 1.0F : 0.0F);
    program.setUniformValue("ramp_steps", static_cast<float>(style.steps));
    program.setUniformValue("ramp_count", static_cast<float>(ramp_count));
}

bool GlScene::initialize() {
    if (!initializeOpenGLFunctions()) return false;
    if (!build(background_, background_vertex, background_fragment) ||
        !build(faces_, faces_vertex, faces_fragment) ||
        !build(shining_faces_, faces_vertex, faces_fragment, "\n#define SHINES") ||
        !build(striped_faces_, faces_vertex, faces_fragment, "\n#define STRIPED") ||
        !build(shadow_, shadow_vertex, flat_fragment) || !build(lines_, lines_vertex, lines_fragment) ||
        !build(ink_lines_, lines_vertex, lines_fragment, "\n#define INK") ||
        !build(points_, points_vertex, points_fragment))
        return false;
    std::vector<float> texels;
    for (int ramp = 0; ramp < ramp_count; ++ramp)
        for (int index = 0; index < 256; ++index) {
            const Rgb colour = ramp_colour(static_cast<Ramp>(ramp), index / 255.0);
            texels.insert(texels.end(), {colour.red, colour.green, colour.blue});
        }
    glGenTextures(1, &ramp_);
    glBindTexture(GL_TEXTURE_1D, ramp_);
    glTexImage1D(GL_TEXTURE_1D, 0, GL_RGB8, 256 * ramp_count, 0, GL_RGB, GL_FLOAT, texels.data());
    glTexParameteri(GL_TEXTURE_1D, GL_TEXTURE_MIN_FILTER, GL_LINEAR);
    glTexParameteri(GL_TEXTURE_1D, GL_TEXTURE_MAG_FILTER, GL_LINEAR);
    glTexParameteri(GL_TEXTURE_1D, GL_TEXTURE_WRAP_S, GL_CLAMP_TO_EDGE);
    glGenVertexArrays(1, &empty_vao_);
    glGenVertexArrays(1, &grid_vao_);
    glGenBuffers(1, &grid_buffer_);
    return true;
}

void GlScene::release() {
    for (auto& [key, buffers] : buffers_)
        destroy(buffers);
    buffers_.clear();
    glDeleteTextures(1, &ramp_);
    glDeleteVertexArrays(1, &empty_vao_);
    glDeleteVertexArrays(1, &grid_vao_);
    glDeleteBuffers(1, &grid_buffer_);
}

GlScene::Buffers& GlScene::buffers_of(const std::shared_ptr<const Drawable>& drawable) {
    Buffers& made = buffers_[drawable.get()];
    made.used = true;
    if (made.drawable) return made;
    made.drawable = drawable;
    made.coloured = std::ranges::any_of(drawable->vertices, has_colour<DrawVertex>) ||
                    std::ranges::any_of(drawable->repeats, has_colour<DrawRepeat>);
    glGenVertexArrays(1, &made.faces_vao);
    glGenVertexArrays(1, &made.points_vao);
    glGenBuffers(static_cast<GLsizei>(made.buffers.size()), made.buffers.data());
    const auto fill = [&](GLenum target, GLuint buffer, const auto& data) {
        glBindBuffer(target, buffer);
        glBufferData(target, static_cast<GLsizeiptr>(data.size() * sizeof(data[0])), data.data(),
                     GL_STATIC_DRAW);
    };
    const auto attribute = [&](GLuint index, GLint parts, std::size_t stride, std::size_t offset) {
        glEnableVertexAttribArray(index);
        glVertexAttribPointer(index, parts, GL_FLOAT, GL_FALSE, static_cast<GLsizei>(stride),
                              byte_offset(offset));
    };
    glBindVertexArray(made.faces_vao);
    fill(GL_ARRAY_BUFFER, made.buffers[0], drawable->vertices);
    attribute(0, 3, sizeof(DrawVertex), 0);
    attribute(1, 3, sizeof(DrawVertex), 3 * sizeof(float));
    attribute(2, 1, sizeof(DrawVertex), 6 * sizeof(float));
    fill(GL_ARRAY_BUFFER, made.buffers[5], drawable->repeats);
    for (GLuint index = first_repeat_attribute; index <= repeat_colour_attribute; ++index)
        glVertexAttribDivisor(index, 1);
    fill(GL_ELEMENT_ARRAY_BUFFER, made.buffers[2], drawable->edges);
    fill(GL_ELEMENT_ARRAY_BUFFER, made.buffers[1], drawable->triangles);
    fill(GL_ELEMENT_ARRAY_BUFFER, made.buffers[4], drawable->coarse);
    glBindVertexArray(made.points_vao);
    fill(GL_ARRAY_BUFFER, made.buffers[3], drawable->points);
    attribute(0, 3, sizeof(DrawPoint), 0);
    attribute(2, 1, sizeof(DrawPoint), 3 * sizeof(float));
    glBindVertexArray(0);
    return made;
}

void GlScene::destroy(Buffers& buffers) {
    glDeleteVertexArrays(1, &buffers.faces_vao);
    glDeleteVertexArrays(1, &buffers.points_vao);
    glDeleteBuffers(static_cast<GLsizei>(buffers.buffers.size()), buffers.buffers.data());
}

void GlScene::drop_unused() {
    for (auto entry = buffers_.begin(); entry != buffers_.end();) {
        if (entry->second.used) {
            entry->second.used = false;
            ++entry;
        } else {
            destroy(entry->second);
            entry = buffers_.erase(entry);
        }
    }
}

QMatrix4x4 GlScene::matrix(const FrameOptions& options, Vec3 origin) const {
    const double aspect = static_cast<double>(options.pixels.width()) / std::max(1, options.pixels.height());
    const Matrix4 m = options.camera.view_projection(aspect, origin, options.bounds);
    QMatrix4x4 result;
    for (std::size_t entry = 0; entry < m.size(); ++entry)
        result(static_cast<int>(entry % 4), static_cast<int>(entry / 4)) = static_cast<float>(m[entry]);
    return result;
}

void GlScene::draw(const std::vector<SceneItem>& items, const std::vector<SceneItem>& ghosts,
                   const FrameOptions& options) {
    glClear(GL_COLOR_BUFFER_BIT | GL_DEPTH_BUFFER_BIT | GL_STENCIL_BUFFER_BIT);
    glBindTexture(GL_TEXTURE_1D, ramp_);
    glEnable(GL_BLEND);
    glBlendFuncSeparate(GL_SRC_ALPHA, GL_ONE_MINUS_SRC_ALPHA, GL_ONE, GL_ONE_MINUS_SRC_ALPHA);
    glEnable(GL_PROGRAM_POINT_SIZE);
    set_no_repeat();
    draw_background();
    glEnable(GL_DEPTH_TEST);
    if (options.grid) draw_grid(options);
    if (!options.draft) {
        // The stencil lets every spot darken once, however many faces throw their shadow there.
        glEnable(GL_STENCIL_TEST);
        glStencilFunc(GL_EQUAL, 0, 0xFF);
        glStencilOp(GL_KEEP, GL_KEEP, GL_INCR);
        for (const SceneItem& item : items)
            if (item.show.faces && !is_clear(item)) draw_shadow(item, options);
        glDisable(GL_STENCIL_TEST);
    }
    for (const SceneItem& item : items)
        if (item.show.faces && !is_clear(item)) draw_faces(item, options);
    // Edges leave no depth: where they run towards the eye they would cut into the points they join.
    glDepthMask(GL_FALSE);
    for (const SceneItem& item : items)
        if (item.show.edges && !(options.draft && item.drawable->lines_are == LineRole::edges))
            draw_edges(item, options);
    for (const SceneItem& item : items)
        if (item.show.faces && is_clear(item)) draw_faces(item, options);
    for (const SceneItem& item : ghosts)
        draw_ghost(item, options);
    glDepthMask(GL_TRUE);
    for (const SceneItem& item : items)
        if (item.show.points && item.drawable->points_are != PointRole::handles) draw_points(item, options);
    // Handles are never hidden behind what they shape.
    glDisable(GL_DEPTH_TEST);
    for (const SceneItem& item : items)
        if (item.show.points && item.drawable->points_are == PointRole::handles) draw_points(item, options);
    glBindVertexArray(0);
    glDisable(GL_PROGRAM_POINT_SIZE);
    drop_unused();
}

void GlScene::draw_background() {
    glDisable(GL_DEPTH_TEST);
    background_.bind();
    background_.setUniformValue("top", vector_of(look().model_top));
    background_.setUniformValue("bottom", vector_of(look().model_bottom));
    glBindVertexArray(empty_vao_);
    glDrawArrays(GL_TRIANGLES, 0, 3);
}

void GlScene::set_no_repeat() {
    QOpenGLFunctions& gl = *QOpenGLContext::currentContext()->functions();
    for (GLuint axis = 0; axis < 3; ++axis)
        gl.glVertexAttrib3f(first_repeat_attribute + axis, axis == 0 ? 1 : 0, axis == 1 ? 1 : 0,
                            axis == 2 ? 1 : 0);
    gl.glVertexAttrib3f(first_repeat_attribute + 3, 0, 0, 0);
    gl.glVertexAttrib1f(repeat_colour_attribute, 2);  // no coordinate: the vertices have their own
}

// The indices bound, once for each repeat of a shape.
void GlScene::draw_at_repeats(GLenum mode, std::size_t first_index, std::size_t index_count,
                              const DrawShape& shape, const Buffers& buffers) {
    constexpr GLuint count = repeat_colour_attribute - first_repeat_attribute + 1;
    glBindBuffer(GL_ARRAY_BUFFER, buffers.buffers[5]);
    for (GLuint index = 0; index < count; ++index) {
        const GLint parts = index + 1 < count ? 3 : 1;
        const std::size_t offset = shape.first_repeat * sizeof(DrawRepeat) + 3 * sizeof(float) * index;
        glEnableVertexAttribArray(first_repeat_attribute + index);
        glVertexAttribPointer(first_repeat_attribute + index, parts, GL_FLOAT, GL_FALSE, sizeof(DrawRepeat),
                              byte_offset(offset));
    }
    glDrawElementsInstanced(mode, static_cast<GLsizei>(index_count), GL_UNSIGNED_INT,
                            byte_offset(first_index * sizeof(std::uint32_t)),
                            static_cast<GLsizei>(shape.repeat_count));
    for (GLuint index = 0; index < count; ++index)
        glDisableVertexAttribArray(first_repeat_attribute + index);
    set_no_repeat();
}

void GlScene::draw_triangles(const SceneItem& item, const FrameOptions& options) {
    const Buffers& buffers = buffers_of(item.drawable);
    const bool coarse = options.draft && !item.drawable->coarse.empty();
    const auto& triangles = coarse ? item.drawable->coarse : item.drawable->triangles;
    glBindVertexArray(buffers.faces_vao);
    glBindBuffer(GL_ELEMENT_ARRAY_BUFFER, buffers.buffers[coarse ? 4 : 1]);
    if (coarse || item.drawable->shapes.empty())
        glDrawElements(GL_TRIANGLES, static_cast<GLsizei>(triangles.size()), GL_UNSIGNED_INT, nullptr);
    else
        for (const DrawShape& shape : item.drawable->shapes)
            draw_at_repeats(GL_TRIANGLES, shape.first_triangle_index, shape.triangle_index_count, shape,
                            buffers);
}

void GlScene::draw_faces(const SceneItem& item, const FrameOptions& options) {
    const auto material = material_of(item.show.material);
    draw_faces(item, options, vector_of(plain_colour_of(material)), 1, material.value_or(Material{}));
}

QOpenGLShaderProgram& GlScene::program_for(const Material& material) {
    if (material.stripes > 0) return striped_faces_;
    const bool dull = material.roughness >= 1 && material.metalness <= 0 && material.transparency <= 0;
    return dull ? faces_ : shining_faces_;
}

void GlScene::draw_faces(const SceneItem& item, const FrameOptions& options, QVector3D plain, float opacity,
                         const Material& material) {
    if (item.drawable->triangles.empty()) return;
    QOpenGLShaderProgram& program = program_for(material);
    program.bind();
    set_ramp(program, item.show.ramp);
    program.setUniformValue("matrix", matrix(options, item.drawable->origin));
    program.setUniformValue("plain", plain);
    program.setUniformValue("odd", vector_of(not_a_number_colour));
    program.setUniformValue("eye", vector_of(options.camera.forward() * -1));
    program.setUniformValue("light", vector_of(options.camera.light()));
    program.setUniformValue("eye_place", vector_of(options.camera.eye() - item.drawable->origin));
    program.setUniformValue("opacity", opacity);
    program.setUniformValue("roughness", material.roughness);
    program.setUniformValue("metalness", material.metalness);
    program.setUniformValue("transparency", material.transparency);
    program.setUniformValue("stripes", material.stripes);
    glEnable(GL_POLYGON_OFFSET_FILL);
    // What is laid over is seen where it lies on what it is of.
    const float behind = opacity < 1 ? -1 : 1;
    glPolygonOffset(behind, behind);
    const bool opaque = opacity >= 1 && material.transparency <= 0;
    if (opaque && is_seen_from_outside(item, options.camera)) glEnable(GL_CULL_FACE);
    draw_triangles(item, options);
    glDisable(GL_CULL_FACE);
    glDisable(GL_POLYGON_OFFSET_FILL);
}

void GlScene::draw_ghost(const SceneItem& item, const FrameOptions& options) {
    draw_faces(item, options, vector_of(look().attention), 0.3F, {});
    if (item.drawable->triangles.empty())
        draw_lines(item, options, QVector4D(vector_of(look().attention), 0.6F), 1.5F);
}

void GlScene::draw_shadow(const SceneItem& item, const FrameOptions& options) {
    if (item.drawable->triangles.empty() || options.camera.forward().z > -0.02) return;
    const double ground = std::min(0.0, options.bounds.low.z);
    shadow_.bind();
    shadow_.setUniformValue("matrix", matrix(options, item.drawable->origin));
    shadow_.setUniformValue("slope", QVector3D(0.12F, -0.18F, 0));
    shadow_.setUniformValue("ground", static_cast<float>(ground - item.drawable->origin.z));
    shadow_.setUniformValue("ink", QVector4D(0, 0, 0, look().dark ? 0.35F : 0.10F));
    glDepthMask(GL_FALSE);
    // What is closed throws the same shadow by its upper side alone.
    if (item.drawable->closed) glEnable(GL_CULL_FACE);
    draw_triangles(item, options);
    glDisable(GL_CULL_FACE);
    glDepthMask(GL_TRUE);
}

void GlScene::draw_edges(const SceneItem& item, const FrameOptions& options) {
    const bool lattice = item.drawable->triangles.empty();
    const LineRole role = item.drawable->lines_are;
    if (role == LineRole::handles)
        return draw_lines(item, options, QVector4D(vector_of(attractor_colour), 1.0F), 3);
    if (role == LineRole::bars)
        return draw_lines(item, options, QVector4D(vector_of(look().ink), 0.95F), bar_width);
    if (role != LineRole::edges) {
        const QVector4D ink(vector_of(look().ink), 0.95F);
        const bool heavier = item.show.heavier_each > 0 && role == LineRole::lines;
        draw_lines(item, options, ink, role == LineRole::arrows || heavier ? 1.5F : 2);
        if (heavier) draw_heavier_lines(item, options, ink);
        return;
    }
    const QColor ink = !lattice && look().dark ? QColor(10, 12, 14) : look().ink;
    // Edges closer than a few pixels would only blacken what they should explain.
    constexpr double gone_px = 3, full_px = 9;
    const double apart_px =
        item.drawable->edge_length *
        options.camera.pixels_per_length(item.drawable->bounds.centre(), options.pixels.height());
    const double share =
        std::clamp((apart_px / options.pixel_ratio - gone_px) / (full_px - gone_px), 0.0, 1.0);
    if (share <= 0) return;
    draw_lines(item, options,
               QVector4D(vector_of(ink), static_cast<float>(share) * (lattice ? 0.22F : 0.35F)), 1);
}

void GlScene::draw_heavier_lines(const SceneItem& item, const FrameOptions& options, QVector4D ink) {
    if (item.drawable->edges.empty()) return;
    set_up_lines(item, options, ink, 3.5F);
    for (const DrawLine& line : item.drawable->lines)
        if (line.rank % item.show.heavier_each == 0)
            glDrawElements(GL_LINES, static_cast<GLsizei>(line.edge_index_count), GL_UNSIGNED_INT,
                           byte_offset(line.first_edge_index * sizeof(std::uint32_t)));
    glLineWidth(1);
}

// Wide lines take the colours of what they join; thin ones, and those without, are ink alone.
void GlScene::set_up_lines(const SceneItem& item, const FrameOptions& options, QVector4D ink, float width) {
    const Buffers& buffers = buffers_of(item.drawable);
    QOpenGLShaderProgram& program = width > 1 && buffers.coloured ? lines_ : ink_lines_;
    program.bind();
    set_ramp(program, item.show.ramp);
    program.setUniformValue("matrix", matrix(options, item.drawable->origin));
    program.setUniformValue("ink", ink);
    const bool bars = item.drawable->lines_are == LineRole::bars;
    set_fade(program, DepthFade(options.camera, bars ? item.drawable->bounds : Box()), item.drawable->origin);
    glLineWidth(static_cast<float>(options.pixel_ratio) * width);
    glBindVertexArray(buffers.faces_vao);
    glBindBuffer(GL_ELEMENT_ARRAY_BUFFER, buffers.buffers[2]);
}

// How lines pale with their distance from here.
void GlScene::set_fade(QOpenGLShaderProgram& program, const DepthFade& fade, Vec3 origin) {
    const double there = dot(fade.forward, origin);
    program.setUniformValue("forward", vector_of(fade.forward));
    program.setUniformValue("near", static_cast<float>(fade.near - there));
    program.setUniformValue("far", static_cast<float>(fade.far - there));
    program.setUniformValue("farthest_share", static_cast<float>(DepthFade::farthest_share));
}

void GlScene::draw_lines(const SceneItem& item, const FrameOptions& options, QVector4D ink, float width) {
    if (item.drawable->edges.empty()) return;
    set_up_lines(item, options, ink, width);
    const bool few = options.draft && item.drawable->triangles.empty() && !item.drawable->coarse.empty();
    if (few) glBindBuffer(GL_ELEMENT_ARRAY_BUFFER, buffers_of(item.drawable).buffers[4]);
    const auto& edges = few ? item.drawable->coarse : item.drawable->edges;
    if (item.drawable->shapes.empty())
        glDrawElements(GL_LINES, static_cast<GLsizei>(edges.size()), GL_UNSIGNED_INT, nullptr);
    for (const DrawShape& shape : item.drawable->shapes)
        draw_at_repeats(GL_LINES, shape.first_edge_index, shape.edge_index_count, shape,
                        buffers_of(item.drawable));
    glLineWidth(1);
}

void GlScene::draw_points(const SceneItem& item, const FrameOptions& options) {
    if (item.drawable->points.empty()) return;
    const bool where_lines_meet =
        item.drawable->points_are == PointRole::feet && item.show.edges && !item.drawable->edges.empty();
    if (options.quick && where_lines_meet) return;
    const Buffers& buffers = buffers_of(item.drawable);
    const bool handles = item.drawable->points_are == PointRole::handles;
    const auto ratio = static_cast<float>(options.pixel_ratio);
    // Dense lattices get smaller discs, so that they do not run together.
    const float usual =
        item.drawable->points.size() > 20'000 ? 3.0F : (item.drawable->points.size() > 2'000 ? 4.5F : 6.5F);
    const bool small = item.drawable->points_are == PointRole::feet;
    const float size = (handles ? 18.0F : (small ? 3.0F : usual)) * ratio;
    points_.bind();
    set_ramp(points_, item.show.ramp);
    points_.setUniformValue("matrix", matrix(options, item.drawable->origin));
    points_.setUniformValue("size", size);
    points_.setUniformValue("lift", 0.0008F);
    points_.setUniformValue("ring_share", handles ? 0.22F : 0.0F);
    points_.setUniformValue("ring", QVector3D(1, 1, 1));
    points_.setUniformValue("plain", handles
                                         ? vector_of(attractor_colour)
                                         : vector_of(look().dark ? look().second_ink : QColor("#4A5157")));
    points_.setUniformValue("odd", vector_of(look().attention));
    const std::size_t every = options.draft ? item.drawable->points.size() / most_points_in_draft + 1 : 1;
    const auto stride = static_cast<GLsizei>(every * sizeof(DrawPoint));
    glBindVertexArray(buffers.points_vao);
    glBindBuffer(GL_ARRAY_BUFFER, buffers.buffers[3]);
    glVertexAttribPointer(0, 3, GL_FLOAT, GL_FALSE, stride, nullptr);
    glVertexAttribPointer(2, 1, GL_FLOAT, GL_FALSE, stride, byte_offset(3 * sizeof(float)));
    glDrawArrays(GL_POINTS, 0, static_cast<GLsizei>((item.drawable->points.size() + every - 1) / every));
}

// Lines every grid_step around what is drawn, on the ground.
void GlScene::draw_grid(const FrameOptions& options) {
    if (options.bounds.empty()) return;
    const double step = options.grid_step, ground = std::min(0.0, options.bounds.low.z);
    const Vec3 origin{options.bounds.centre().x, options.bounds.centre().y, ground};
    const auto first = [&](double low) { return std::floor(low / step - 1) * step; };
    const auto last = [&](double high) { return std::ceil(high / step + 1) * step; };
    const double x0 = first(options.bounds.low.x), x1 = last(options.bounds.high.x);
    const double y0 = first(options.bounds.low.y), y1 = last(options.bounds.high.y);
    std::vector<float> lines;
    const auto add = [&](double x, double y) {
        lines.insert(lines.end(), {static_cast<float>(x - origin.x), static_cast<float>(y - origin.y), 0.0F});
    };
    const auto count = [&](double from, double to) {
        return std::min(400, static_cast<int>(std::lround((to - from) / step)));
    };
    for (int index = 0; index <= count(x0, x1); ++index) {
        add(x0 + index * step, y0);
        add(x0 + index * step, y1);
    }
    for (int index = 0; index <= count(y0, y1); ++index) {
        add(x0, y0 + index * step);
        add(x1, y0 + index * step);
    }
    glBindVertexArray(grid_vao_);
    glBindBuffer(GL_ARRAY_BUFFER, grid_buffer_);
    glBufferData(GL_ARRAY_BUFFER, static_cast<GLsizeiptr>(lines.size() * sizeof(float)), lines.data(),
                 GL_STREAM_DRAW);
    glEnableVertexAttribArray(0);
    glVertexAttribPointer(0, 3, GL_FLOAT, GL_FALSE, 3 * sizeof(float), nullptr);
    ink_lines_.bind();
    ink_lines_.setUniformValue("matrix", matrix(options, origin));
    set_fade(ink_lines_, DepthFade(options.camera, Box()), origin);
    ink_lines_.setUniformValue("ink", QVector4D(vector_of(look().ink), look().dark ? 0.14F : 0.10F));
    glDepthMask(GL_FALSE);
    glDrawArrays(GL_LINES, 0, static_cast<GLsizei>(lines.size() / 3));
    glDepthMask(GL_TRUE);
}

}  // namespace plume::app
