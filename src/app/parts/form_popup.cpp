#include "app/parts/form_popup.hpp"

#include <QComboBox>
#include <QGridLayout>
#include <QKeyEvent>
#include <QLabel>
#include <QPushButton>

#include "app/theme/look.hpp"

namespace plume::app {

FormPopup::FormPopup(QWidget* near, const QString& title) : Popup(near, title) {
    column_ = new QVBoxLayout(this);
    column_->setContentsMargins(16, 12, 16, 14);
    column_->setSpacing(10);
    auto* heading = new QLabel(title);
    heading->setFont(text_font(13, QFont::DemiBold));
    column_->addWidget(heading);
    grid_ = new QGridLayout;
    grid_->setHorizontalSpacing(12);
    grid_->setVerticalSpacing(6);
    column_->addLayout(grid_);
}

QLineEdit* FormPopup::add_line(const QString& label, const QString& text, const QString& hint) {
    auto* line = new QLineEdit(text);
    line->setAccessibleName(label);
    line->setPlaceholderText(hint);
    line->setMinimumWidth(200);
    auto* caption = new QLabel(label);
    caption->setProperty("second", true);
    caption->setBuddy(line);
    const int row = grid_->rowCount();
    grid_->addWidget(caption, row, 0);
    grid_->addWidget(line, row, 1);
    return line;
}

QComboBox* FormPopup::add_choice(const QString& label, const std::vector<QString>& words, int chosen) {
    auto* box = new QComboBox;
    for (const QString& word : words)
        box->addItem(word);
    box->setCurrentIndex(chosen);
    box->setAccessibleName(label);
    auto* caption = new QLabel(label);
    caption->setProperty("second", true);
    const int row = grid_->rowCount();
    grid_->addWidget(caption, row, 0);
    grid_->addWidget(box, row, 1);
    return box;
}

void FormPopup::add_text(const QString& text) {
    auto* label = new QLabel(text);
    label->setProperty("second", true);
    label->setWordWrap(true);
    column_->addWidget(label);
}

void FormPopup::add_widget(QWidget* widget) {
    column_->addWidget(widget);
}

void FormPopup::add_action(const QString& label, std::function<void()> action) {
    actions_.emplace_back(label, std::move(action));
}

void FormPopup::open(const QString& button, std::function<QString()> accept) {
    accept_ = std::move(accept);
    wrong_ = new QLabel;
    wrong_->setWordWrap(true);
    wrong_->setMaximumWidth(420);
    QPalette palette = wrong_->palette();
    palette.setColor(QPalette::WindowText, look().attention);
    wrong_->setPalette(palette);
    wrong_->hide();
    column_->addWidget(wrong_);
    auto* row = new QHBoxLayout;
    for (auto& [label, action] : actions_) {
        auto* extra = new QPushButton(label);
        connect(extra, &QPushButton::clicked, this, [this, action = action] {
            close();
            action();
        });
        row->addWidget(extra);
    }
    row->addStretch();
    auto* cancel = new QPushButton(tr("Cancel"));
    connect(cancel, &QPushButton::clicked, this, &QWidget::close);
    row->addWidget(cancel);
    auto* done = new QPushButton(button);
    done->setDefault(true);
    connect(done, &QPushButton::clicked, this, &FormPopup::try_accept);
    row->addWidget(done);
    column_->addLayout(row);
    place();
    const auto lines = findChildren<QLineEdit*>();
    if (!lines.isEmpty()) {
        lines.front()->setFocus(Qt::PopupFocusReason);
        lines.front()->selectAll();
    } else {
        done->setFocus(Qt::PopupFocusReason);
    }
}

void FormPopup::try_accept() {
    const QString wrong = accept_();
    if (wrong.isEmpty()) {
        close();
        return;
    }
    wrong_->setText(wrong);
    wrong_->show();
    adjustSize();
}

void FormPopup::keyPressEvent(QKeyEvent* event) {
    if (event->key() == Qt::Key_Return || event->key() == Qt::Key_Enter) return try_accept();
    Popup::keyPressEvent(event);
}

}  // namespace plume::app
