#pragma once
// The page where a study is made: its sheet, the model above the strip of time, the readings. One of the
// window's pages; others show the same model and readings of the same document.

#include <QWidget>

#include "app/document/document.hpp"
#include "app/parts/page_columns.hpp"

class QSettings;
class QVBoxLayout;

namespace plume::app {

class ModelPanel;
class SheetPage;
class StartPanel;
class TimeStrip;

class ComposePage : public QWidget {
    Q_OBJECT

public:
    explicit ComposePage(Document& document, QWidget* parent = nullptr);

    SheetPage& sheet() { return *sheet_; }
    ModelPanel& model() { return *model_; }
    TimeStrip& time() { return *time_; }
    StartPanel& start() { return *start_; }
    // Ways to begin in place of the model: by themselves on an empty page, else when they are asked for.
    void toggle_start();
    // Ends what is only looked at: the ways to begin over a page, then what is asked; false: nothing of it.
    bool end_looking();
    // The model again, after another page showed it.
    void take_model();
    void restore(const QSettings& settings);
    void store(QSettings& settings) const;

Q_SIGNALS:
    void language_help_wanted(const QString& about);

protected:
    bool eventFilter(QObject* watched, QEvent* event) override;

private:
    void show_start(bool shown);
    void place_start();

    Document& document_;
    SheetPage* sheet_;
    ModelPanel* model_;
    TimeStrip* time_;
    PageColumns parts_;
    StartPanel* start_;
    QVBoxLayout* over_time_ = nullptr;  // of the model and the strip
};

}  // namespace plume::app
