#pragma once
// "Continue with ..." or "Also hand off ...": the line that steps are found by. Stands at the end of the
// page, or between two items while something is inserted there.

#include <QPointer>
#include <QWidget>

#include "app/document/document.hpp"
#include "app/finder/finder_panel.hpp"

class QLineEdit;

namespace plume::app {

class ContinueBox : public QWidget {
    Q_OBJECT

public:
    ContinueBox(Document& document, Page page, QWidget* parent);
    ~ContinueBox() override;
    // Where the next step goes; nothing means at the end.
    void set_position(std::optional<std::size_t> position) {
        position_ = position;
        refresh();
    }
    std::optional<std::size_t> position() const { return position_; }
    void refresh();
    void start();
    // The keyboard, without opening the list.
    void take_keyboard();
    // Of the step that is chosen in the open list; empty elsewhere.
    std::string kind_in_hand() const;

Q_SIGNALS:
    void left();
    void opened();
    void up_wanted();  // to what stands above it

protected:
    bool eventFilter(QObject* watched, QEvent* event) override;

private:
    FinderPlace place() const;
    std::string result_in_hand(std::size_t position) const;
    FinderPanel& panel();
    void find();
    void close();
    void take();
    bool take_key(int key);

    Document& document_;
    Page page_;
    std::optional<std::size_t> position_;
    QLineEdit* line_;
    std::string told_for_;         // what the words in the empty line were found for
    QPointer<FinderPanel> panel_;  // of the window, made when it is first opened
};

}  // namespace plume::app
