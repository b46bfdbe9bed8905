#pragma once
// The buttons of a view: what it fits, from where it is seen, perspective, the ground's grid.

#include <QWidget>
#include <functional>

class QToolButton;

namespace plume::app {

class OrbitView;

class ViewTools : public QWidget {
    Q_OBJECT

public:
    // Whether keys do the same in the window, and are told.
    enum class Keys { none, told };
    // Without `fit_selection` there is no button for it.
    ViewTools(OrbitView& view, Keys keys, std::function<void()> fit_selection, QWidget* parent);
    // One more button, behind the others.
    QToolButton* add(const char* picture, const QString& name, const QString& key,
                     std::function<void()> action);
    // Of the look and the view as they are now.
    void refresh();

private:
    OrbitView& view_;
    Keys keys_;
    std::vector<std::pair<QToolButton*, const char*>> buttons_;
    QToolButton *perspective_, *grid_;
};

}  // namespace plume::app
