#pragma once
// The reference beside the window: all kinds of step by what one wants to do, found by typing, and the page
// of the one that is chosen.

#include <QDialog>

#include "core/study/step_kind.hpp"

class QLineEdit;
class QListWidget;
class QTextBrowser;
class QUrl;

namespace plume::app {

class ReferenceWindow : public QDialog {
    Q_OBJECT

public:
    ReferenceWindow(const Catalogue& catalogue, QWidget* parent);
    // The page of a kind; empty: what there is; ‘words’: the words of the trade.
    void show_page(const std::string& kind);
    // The words of the trade, at this one.
    void show_word(const QString& word);
    const std::string& page() const { return kind_; }

Q_SIGNALS:
    // A copy of the example of that kind.
    void example_wanted(const std::string& kind);

protected:
    bool eventFilter(QObject* watched, QEvent* event) override;
    void changeEvent(QEvent* event) override;

private:
    void fill();
    void add_caption(const QString& text);
    void add_row(const QString& text, const std::string& key);
    void add_kind(const StepKind& kind);
    void follow(const QUrl& link);
    void choose_row_of_page();
    void write_page();
    std::string text_of_page() const;
    QString title_of_page() const;

    const Catalogue& catalogue_;
    std::string kind_;
    QLineEdit* line_;
    QListWidget* list_;
    QTextBrowser* browser_;
};

}  // namespace plume::app
