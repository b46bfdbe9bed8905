#pragma once
// What is under the cursor in the model, and the note that tells of it.

#include "app/document/document.hpp"

class QPainter;

namespace plume::app {

class ModelView;
class OrbitView;

// Pixels within which a place that can be dragged is taken hold of.
inline constexpr double handle_reach = 14;
// And within which a point, a curve or a thin part is pointed at.
inline constexpr double point_reach = 9;

// The part of a mesh, or the curve, in front of what a view shows; nothing (step 0) where there is none.
Hovered part_under(QPointF cursor, const OrbitView& view);
// The nearest point in reach, else the part of a mesh in front; nothing (step 0) where neither is.
Hovered hovered_under(QPointF cursor, const ModelView& view);

// Rings around the parts that are asked why they are as they are.
void paint_asked(QPainter& painter, const Document& document, const ModelView& view);
// A ring around what is hovered and its note.
void paint_hover(QPainter& painter, const Document& document, const ModelView& view);

}  // namespace plume::app
