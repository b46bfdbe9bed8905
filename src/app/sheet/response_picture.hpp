#pragma once
// Responses as small pictures.

#include <QPainter>
#include <QPainterPath>

#include "core/geometry/numbers/response.hpp"

namespace plume::app {

// The curve over a field whose lower left is t = 0 and an answer of 0.
QPainterPath response_path(const Shaping& shaping, const QRectF& field, std::size_t pieces);
// A framed picture of it.
void paint_response(QPainter& painter, const QRectF& room, const Shaping& shaping);

}  // namespace plume::app
