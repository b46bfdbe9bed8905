#pragma once
// Cards in as many columns as there is room for.

#include <QWidget>
#include <vector>

namespace plume::app {

class CardGrid : public QWidget {
    Q_OBJECT

public:
    explicit CardGrid(QWidget* parent);
    void add(QWidget* card);
    bool hasHeightForWidth() const override { return true; }
    int heightForWidth(int width) const override;
    QSize sizeHint() const override;
    QSize minimumSizeHint() const override;

protected:
    void resizeEvent(QResizeEvent* event) override;

private:
    int columns(int width) const;

    std::vector<QWidget*> cards_;
};

}  // namespace plume::app
