#pragma once
// Text of several lines that can be selected, in a colour of its own.

#include <QLabel>

namespace plume::app {

QLabel* wrapped_label(const char* name, const QFont& font);
void set_ink(QLabel& label, const QColor& ink);

}  // namespace plume::app
