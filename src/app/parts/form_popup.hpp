#pragma once
// A small form that opens beside what it edits: labelled lines, words to choose, a table of rows. Accept with
// Return or the button; Escape gives up.

#include <QLineEdit>
#include <functional>
#include <vector>

#include "app/parts/popup.hpp"

class QComboBox;
class QGridLayout;
class QLabel;
class QVBoxLayout;

namespace plume::app {

class FormPopup : public Popup {
    Q_OBJECT

public:
    FormPopup(QWidget* near, const QString& title);

    QLineEdit* add_line(const QString& label, const QString& text, const QString& hint = {});
    QComboBox* add_choice(const QString& label, const std::vector<QString>& words, int chosen);
    void add_text(const QString& text);
    void add_widget(QWidget* widget);
    // A button left of the accepting one, which closes the form.
    void add_action(const QString& label, std::function<void()> action);
    // `accept` returns what is wrong, or an empty text when done.
    void open(const QString& button, std::function<QString()> accept);

protected:
    void keyPressEvent(QKeyEvent* event) override;

private:
    void try_accept();

    QVBoxLayout* column_;
    QGridLayout* grid_;
    QLabel* wrong_ = nullptr;
    std::vector<std::pair<QString, std::function<void()>>> actions_;
    std::function<QString()> accept_;
};

}  // namespace plume::app
