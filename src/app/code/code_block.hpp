#pragma once
// What stands open below a step's sentence to edit a text of it.

#include <QWidget>

#include "app/code/code_editor.hpp"

namespace plume::app {

class CodeBlock : public QWidget {
    Q_OBJECT

public:
    using QWidget::QWidget;
    virtual void refresh() = 0;
    virtual CodeEditor& editor() = 0;

Q_SIGNALS:
    void leave_wanted();
    void help_wanted();
};

}  // namespace plume::app
