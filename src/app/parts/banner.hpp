#pragma once
// A line across the window that says something and offers what to do about it. Hidden until it is told.

#include <QFrame>
#include <functional>

class QHBoxLayout;
class QLabel;

namespace plume::app {

class Banner : public QFrame {
    Q_OBJECT

public:
    explicit Banner(QWidget* parent);
    void tell(const QString& text);

protected:
    void offer(const char* name, const QString& text, const std::function<void()>& action);

private:
    QHBoxLayout* row_;
    QLabel* text_;
};

}  // namespace plume::app
