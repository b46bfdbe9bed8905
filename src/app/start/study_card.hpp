#pragma once
// A study as a picture with its title and a line about it; opened by a click, Return or Space.

#include <QAbstractButton>
#include <QImage>

namespace plume::app {

class StudyCard : public QAbstractButton {
    Q_OBJECT

public:
    StudyCard(const QString& title, const QString& about, const QString& picture, QWidget* parent);
    // Without a picture: words in the middle.
    StudyCard(const QString& words, QWidget* parent);
    QSize sizeHint() const override;

    static constexpr int least_width = 200, height = 206;

protected:
    void paintEvent(QPaintEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;

private:
    void paint_picture(QPainter& painter, const QRect& room) const;

    QString about_;
    QImage picture_;
    bool plain_ = false;
};

}  // namespace plume::app
