#pragma once
// In place of the empty model: the samples by their pictures, what was opened lately, and other ways to
// begin. Says what is wanted, and does none of it.

#include <QScrollArea>

#include "app/start/samples.hpp"

class QVBoxLayout;

namespace plume::app {

class StartPanel : public QScrollArea {
    Q_OBJECT

public:
    explicit StartPanel(QWidget* parent);

Q_SIGNALS:
    void copy_wanted(const QString& path);   // of a sample
    void study_wanted(const QString& path);  // one of those that were opened lately
    void open_wanted();
    void empty_wanted();
    void walk_wanted();

protected:
    void showEvent(QShowEvent* event) override;

private:
    void fill();
    void add_caption(const QString& bold, const QString& rest);
    void add_samples();
    void add_all_samples();
    void add_cards(const std::vector<Sample>& samples, bool and_all);
    void add_recent();
    void add_ways();

    Samples samples_;
    bool all_ = false;  // of the samples are shown
    QVBoxLayout* column_ = nullptr;
};

}  // namespace plume::app
