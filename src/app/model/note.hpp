#pragma once
// What is told beside a place of the model.

#include <QPointF>
#include <QRect>
#include <QStringList>

class QPainter;

namespace plume::app {

// Text in a rounded field of the page's colour, within the area; the first line in ink.
void draw_note(QPainter& painter, const QStringList& lines, QPointF at, const QRect& area);

}  // namespace plume::app
