#pragma once
// A control at the top of the sheet: name, value, slider, and whether it is keyed. The name opens its range,
// step, unit and note.

#include <QWidget>

#include "app/parts/scrubbing.hpp"
#include "app/sheet/live_part.hpp"

namespace plume::app {

class ControlKeyMark;
class ControlSlider;
class ControlValue;

class ControlRow : public QWidget {
    Q_OBJECT

public:
    ControlRow(Document& document, std::string name, QWidget* parent);
    const std::string& name() const { return name_; }
    void set_name(std::string name);
    void refresh();

private:
    Document& document_;
    std::string name_;
    class ControlName* label_;
    ControlValue* value_;
    ControlSlider* slider_;
    ControlKeyMark* key_;
};

// The form for a new control (name empty) or an existing one.
void open_control_form(Document& document, const std::string& name, QWidget* near);

}  // namespace plume::app
