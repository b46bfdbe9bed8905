#include "app/parts/banner.hpp"

#include <QHBoxLayout>
#include <QLabel>
#include <QPushButton>

namespace plume::app {

Banner::Banner(QWidget* parent) : QFrame(parent), row_(new QHBoxLayout(this)), text_(new QLabel) {
    setObjectName("banner");
    hide();
    row_->setContentsMargins(16, 6, 12, 6);
    text_->setWordWrap(true);
    row_->addWidget(text_, 1);
}

void Banner::tell(const QString& text) {
    text_->setText(text);
    show();
}

void Banner::offer(const char* name, const QString& text, const std::function<void()>& action) {
    auto* button = new QPushButton(text);
    button->setObjectName(name);
    connect(button, &QPushButton::clicked, this, action);
    row_->addWidget(button);
}

}  // namespace plume::app
