#pragma once
// The page about the formula language, beside the window.

class QWidget;

namespace plume::app {

void open_language_help(QWidget* parent);

}  // namespace plume::app
