#pragma once
// The model with what is laid over it: a chip for each result, the legend of the colours, the buttons of the
// view.

#include <QWidget>

#include "app/model/camera_menu.hpp"
#include "app/model/model_view.hpp"
#include "app/model/view_tools.hpp"

class QHBoxLayout;
class QLabel;
class QToolButton;

namespace plume::app {

class ModelPanel : public QWidget {
    Q_OBJECT

public:
    ModelPanel(Document& document, QWidget* parent);
    ModelView* view() { return view_; }  // nullptr when no model can be drawn
    QToolButton* chip(const std::string& result) const;
    // The menu of the cameras that the study keeps.
    void open_cameras();

protected:
    void resizeEvent(QResizeEvent* event) override;
    void changeEvent(QEvent* event) override;

private:
    void refresh();
    std::vector<const Step*> steps_with_chips() const;
    void refresh_chips();
    void refresh_state();
    void place();
    void choose_chips(int room);
    void open_more_chips();
    void chip_menu(ItemId step, const QPoint& at);

    Document& document_;
    ModelView* view_ = nullptr;
    QLabel* instead_ = nullptr;
    QWidget* chips_;
    QToolButton* more_chips_ = nullptr;
    std::vector<QToolButton*> chip_buttons_;
    class Legend* legend_;
    ViewTools* tools_ = nullptr;
    std::unique_ptr<CameraMenu> cameras_;
    QLabel* state_;
};

}  // namespace plume::app
