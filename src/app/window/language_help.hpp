#pragma once
// The pages about the languages of formulas, rules and scripts, beside the window.

#include <QString>

class QWidget;

namespace plume::app {

// about: the chapter to begin at; the first one where there is none of that title.
void open_language_help(QWidget* parent, const QString& about);

}  // namespace plume::app
