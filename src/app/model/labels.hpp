#pragma once
// Addresses, numbers and names written beside the points of the model.

class QPainter;

namespace plume::app {

class Document;
class ModelView;

// Of every step that shows labels, as many as stand clear of each other.
void paint_labels(QPainter& painter, const Document& document, const ModelView& view);

}  // namespace plume::app
