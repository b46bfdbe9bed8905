#pragma once
// The pages about the languages of formulas and of rules, beside the window.

class QWidget;

namespace plume::app {

void open_language_help(QWidget* parent);

}  // namespace plume::app
