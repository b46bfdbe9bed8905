#pragma once
// "Continue with ..." or "Also hand off ...": offers the steps that fit the results at hand, found by typing.
// Stands at the end of the page, or between two items while something is inserted there.

#include <QWidget>

#include "app/document/document.hpp"
#include "core/exchange/own_steps.hpp"

class QLineEdit;
class QListWidget;

namespace plume::app {

struct ReadyStudy;

class ContinueBox : public QWidget {
    Q_OBJECT

public:
    ContinueBox(Document& document, Page page, QWidget* parent);
    // Where the next step goes; nothing means at the end.
    void set_position(std::optional<std::size_t> position) {
        position_ = position;
        refresh();
    }
    std::optional<std::size_t> position() const { return position_; }
    void refresh();
    void start();

Q_SIGNALS:
    void left();
    void list_changed();

protected:
    bool eventFilter(QObject* watched, QEvent* event) override;

private:
    struct Offer {
        const StepKind* kind;  // nullptr: a heading
        const Step* own;       // of own_, where it is one of those
        QString verb, result;
        bool fits;
    };
    std::vector<Offer> offers(const QString& typed) const;
    std::size_t place() const;
    std::string result_in_hand() const;
    void fill();
    void add_problems();
    void add_ready(const QString& typed);
    void take_ready(const ReadyStudy& ready);
    void take();

    Document& document_;
    Page page_;
    std::optional<std::size_t> position_;
    QLineEdit* line_;
    QListWidget* list_;
    OwnSteps own_;  // as they were when the list was opened
};

}  // namespace plume::app
