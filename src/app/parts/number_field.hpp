#pragma once
// Fields of dialogues that take a number, and rows of them.

#include <QLineEdit>
#include <initializer_list>

namespace plume::app {

// Takes numbers from `least` to `most` with a point, whatever the locale.
QLineEdit* number_field(const char* name, const QString& label, const QString& text, double least,
                        double most, int decimals);
QWidget* row_of(std::initializer_list<QWidget*> parts);

}  // namespace plume::app
