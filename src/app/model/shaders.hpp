#pragma once
// What the graphics card runs for each vertex and each pixel of the model (GLSL 3.30).

namespace plume::app {

inline constexpr const char* background_vertex = R"(#version 330 core
out float height;
void main() {
    vec2 corner = vec2(gl_VertexID == 1 ? 3.0 : -1.0, gl_VertexID == 2 ? 3.0 : -1.0);
    height = corner.y * 0.5 + 0.5;
    gl_Position = vec4(corner, 0.0, 1.0);
})";
inline constexpr const char* background_fragment = R"(#version 330 core
in float height;
out vec4 colour;
uniform vec3 top, bottom;
void main() { colour = vec4(mix(bottom, top, height), 1.0); })";

// Of a colour coordinate of -3 and below (own_colours.hpp); every vertex shader has it.
inline constexpr const char* own_colour_code = R"(
vec3 own_colour(float c) {
    float code = max(-3.0 - c, 0.0);
    return vec3(floor(code / 16384.0), floor(mod(code, 16384.0) / 128.0), mod(code, 128.0)) / 127.0;
})";

// Of repeats (DrawRepeat); every vertex shader has it. What is no repeat has the constants of
// set_no_repeat().
inline constexpr const char* repeat_code = R"(
layout(location = 3) in vec3 repeat_x;
layout(location = 4) in vec3 repeat_y;
layout(location = 5) in vec3 repeat_z;
layout(location = 6) in vec3 repeat_to;
layout(location = 7) in float repeat_colour;
vec3 placed(vec3 p) { return repeat_x * p.x + repeat_y * p.y + repeat_z * p.z + repeat_to; }
vec3 turned(vec3 n) {
    return cross(repeat_y, repeat_z) * n.x + cross(repeat_z, repeat_x) * n.y + cross(repeat_x, repeat_y) * n.z;
}
float coloured_by(float own) { return repeat_colour > 1.5 ? own : repeat_colour; }
)";

// Of a coordinate of 0 to 1; every fragment shader has it. The ramps stand one behind the other in one
// texture.
inline constexpr const char* ramp_code = R"(
uniform sampler1D ramp;
uniform float ramp_row, ramp_reversed, ramp_steps, ramp_count;
vec3 ramp_at(float c) {
    float t = clamp(c, 0.0, 1.0);
    if (ramp_steps > 1.5) t = min(floor(t * ramp_steps), ramp_steps - 1.0) / (ramp_steps - 1.0);
    else if (ramp_steps > 0.5) t = 0.5;
    if (ramp_reversed > 0.5) t = 1.0 - t;
    return texture(ramp, (ramp_row * 256.0 + 0.5 + t * 255.0) / (ramp_count * 256.0)).rgb;
})";

inline constexpr const char* faces_vertex = R"(#version 330 core
layout(location = 0) in vec3 position;
layout(location = 1) in vec3 normal;
layout(location = 2) in float field;
uniform mat4 matrix;
out vec3 toward, own, at;
out float coordinate;
void main() {
    coordinate = coloured_by(field);
    own = own_colour(coordinate);
    toward = turned(normal);
    at = placed(position);
    gl_Position = matrix * vec4(at, 1.0);
})";
// Of three programs, by what is defined: nothing, what has no material, and is dull; SHINES, materials
// (material.hpp), that mirror a pale sky and the light; STRIPED, stripes of reflected light. One program for
// all would take software several times as long: it follows every branch for every pixel. The terms are those
// of still pictures (still.cpp).
inline constexpr const char* faces_fragment = R"(#version 330 core
in vec3 toward, own, at;
in float coordinate;
out vec4 colour;
uniform vec3 plain, odd, eye, eye_place, light;
uniform float opacity, roughness, metalness, transparency, stripes;
vec3 surroundings(float up) {
    return mix(vec3(0.58, 0.59, 0.58), mix(vec3(0.80, 0.83, 0.84), vec3(0.97, 0.98, 1.0), max(up, 0.0)),
               clamp(0.5 + 2.5 * up, 0.0, 1.0));
}
void main() {
    vec3 base = opacity < 1.0 ? plain : coordinate > -0.5 ? ramp_at(coordinate) : (coordinate > -1.5 ? plain : (coordinate > -2.5 ? odd : own));
    vec3 n = length(toward) > 0.0 ? normalize(toward) : vec3(0.0, 0.0, 1.0);
    if (dot(n, eye) < 0.0) n = -n;
    float sky = 0.5 + 0.5 * n.z;
    float sun = max(dot(n, light), 0.0);
    vec3 dull = base * (0.52 + 0.20 * sky + 0.38 * sun);
    vec3 look = normalize(eye_place - at);
#if defined(STRIPED)
    vec3 mirror = reflect(-look, n);
    float turn = atan(mirror.y, mirror.z) / 6.28318530718 * stripes;
    float tone = abs(fract(turn) - 0.5) * 2.0;
    // The seam of the angle is no edge of a stripe.
    float width = clamp(2.0 * length(vec2(dFdx(mirror.y), dFdy(mirror.y)) + vec2(dFdx(mirror.z), dFdy(mirror.z)))
                        / max(length(mirror.yz), 0.02) / 6.28318530718 * stripes, 0.02, 0.5);
    float lit = smoothstep(0.5 - width, 0.5 + width, tone);
    colour = vec4(mix(vec3(0.10, 0.11, 0.12), base, lit) * (0.8 + 0.2 * sky), opacity);
#elif defined(SHINES)
    float across = max(dot(n, look), 0.0);
    float flat_share = pow(1.0 - across, 5.0) * (1.0 - 0.8 * roughness);
    vec3 mirrors = mix(mix(vec3(0.04), base, metalness), vec3(1.0), flat_share);
    float a = max(roughness, 0.08) * max(roughness, 0.08);
    float along = max(dot(n, normalize(light + look)), 0.0);
    float spread = along * along * (a * a - 1.0) + 1.0;
    float glint = sun > 0.0 ? min(4.0, 0.25 * a * a / (spread * spread) / (a + 0.05)) : 0.0;
    vec3 mirrored = surroundings(reflect(-look, n).z * (1.0 - 0.6 * roughness)) + vec3(glint);
    vec3 shine = mirrored * mirrors;
    float cover = opacity * (1.0 - transparency * (1.0 - max(mirrors.g, min(1.0, shine.g))));
    colour = vec4(dull * (1.0 - metalness) * (1.0 - mirrors) + shine, cover);
#else
    colour = vec4(dull, opacity);
#endif
})";

inline constexpr const char* shadow_vertex = R"(#version 330 core
layout(location = 0) in vec3 position;
uniform mat4 matrix;
uniform vec3 slope;
uniform float ground;
void main() {
    vec3 place = placed(position);
    float above = place.z - ground;
    gl_Position = matrix * vec4(place.x - slope.x * above, place.y - slope.y * above, ground, 1.0);
})";
inline constexpr const char* flat_fragment = R"(#version 330 core
out vec4 colour;
uniform vec4 ink;
void main() { colour = ink; })";

inline constexpr const char* lines_vertex = R"(#version 330 core
layout(location = 0) in vec3 position;
layout(location = 2) in float field;
uniform mat4 matrix;
uniform vec3 forward;
uniform float near, far, farthest_share;
out float coordinate, left;
out vec3 own;
void main() {
    coordinate = coloured_by(field);
    own = own_colour(coordinate);
    float away = far > near ? clamp((dot(forward, position) - near) / (far - near), 0.0, 1.0) : 0.0;
    left = mix(1.0, farthest_share, away);
    gl_Position = matrix * vec4(placed(position), 1.0);
    gl_Position.z -= 0.0004 * gl_Position.w;
})";

// Curves and bars show their field; with INK defined lines are drawn in ink whatever they carry. Bars pale
// with the distance.
inline constexpr const char* lines_fragment = R"(#version 330 core
in float coordinate, left;
in vec3 own;
out vec4 colour;
uniform vec4 ink;
void main() {
    vec3 base = ink.rgb;
#if !defined(INK)
    if (coordinate > -0.5) base = ramp_at(coordinate);
    if (coordinate < -2.5) base = own;
#endif
    colour = vec4(base, ink.a * left);
})";

inline constexpr const char* points_vertex = R"(#version 330 core
layout(location = 0) in vec3 position;
layout(location = 2) in float field;
uniform mat4 matrix;
uniform float size, lift;
out float coordinate;
out vec3 own;
void main() {
    own = own_colour(field);
    coordinate = field;
    gl_PointSize = size;
    gl_Position = matrix * vec4(position, 1.0);
    gl_Position.z -= lift * gl_Position.w;
})";
inline constexpr const char* points_fragment = R"(#version 330 core
in float coordinate;
in vec3 own;
out vec4 colour;
uniform vec3 plain, odd, ring;
uniform float size, ring_share;
void main() {
    float apart = length(gl_PointCoord - vec2(0.5)) * size;
    float edge = 0.5 * size;
    float cover = clamp(edge - apart, 0.0, 1.0);
    if (cover <= 0.0) discard;
    vec3 base = coordinate > -0.5 ? ramp_at(coordinate) : (coordinate > -1.5 ? plain : (coordinate > -2.5 ? odd : own));
    float inside = clamp(edge * (1.0 - ring_share) - apart + 0.5, 0.0, 1.0);
    colour = vec4(mix(ring, base, ring_share > 0.0 ? inside : 1.0), cover);
})";

}  // namespace plume::app
