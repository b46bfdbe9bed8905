#include "app/model/view_tools.hpp"

#include <QHBoxLayout>
#include <QToolButton>

#include "app/model/orbit_view.hpp"
#include "app/parts/button_icon.hpp"
#include "app/parts/kept_button.hpp"
#include "app/theme/look.hpp"

namespace plume::app {

ViewTools::ViewTools(OrbitView& view, Keys keys, std::function<void()> fit_selection, QWidget* parent)
    : QWidget(parent), view_(view), keys_(keys) {
    auto* row = new QHBoxLayout(this);
    row->setContentsMargins(0, 0, 0, 0);
    row->setSpacing(2);
    add("fit", tr("Fit everything into view"), "Ctrl+0", [this] { view_.fit_all(); });
    if (fit_selection)
        add("fit-selection", tr("Fit the selected result into view"), "Ctrl+9", std::move(fit_selection));
    row->addSpacing(8);
    const auto add_view = [&](const char* picture, const QString& name, const QString& key,
                              StandardView from) {
        add(picture, name, key, [this, from] { view_.set_view(from); });
    };
    add_view("above", tr("At an angle"), "Ctrl+1", StandardView::above);
    add_view("plan", tr("Plan"), "Ctrl+2", StandardView::plan);
    add_view("front", tr("Front elevation"), "Ctrl+3", StandardView::front);
    add_view("side", tr("Side elevation"), "Ctrl+4", StandardView::side);
    row->addSpacing(8);
    perspective_ = add("perspective", tr("Perspective"), "Ctrl+5",
                       [this] { view_.set_perspective(!view_.camera().perspective); });
    perspective_->setCheckable(true);
    grid_ = add("grid", tr("Ground grid"), "", [this] { view_.set_grid(!view_.grid()); });
    grid_->setCheckable(true);
    refresh();
}

QToolButton* ViewTools::add(const char* picture, const QString& name, const QString& key,
                            std::function<void()> action) {
    auto* button = new KeptButton(this);
    button->setProperty("chip", true);
    button->setProperty("tool", true);
    button->setFixedSize(30, 30);
    button->setIconSize({18, 18});
    button->setToolTip(key.isEmpty() || keys_ == Keys::none ? name : name + "  (" + key + ")");
    button->setAccessibleName(name);
    connect(button, &QToolButton::clicked, this, std::move(action));
    layout()->addWidget(button);
    buttons_.emplace_back(button, picture);
    return button;
}

void ViewTools::refresh() {
    for (const auto& [button, picture] : buttons_)
        set_icon(*button, picture, look().ink);
    perspective_->setChecked(view_.camera().perspective);
    grid_->setChecked(view_.grid());
}

}  // namespace plume::app
