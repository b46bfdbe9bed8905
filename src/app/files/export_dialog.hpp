#pragma once
// Which results, in which format and unit, to which file.

#include "app/files/writing_dialog.hpp"
#include "core/exchange/export.hpp"

class QCheckBox;
class QComboBox;
class QListWidget;

namespace plume::app {

class ExportDialog : public WritingDialog {
    Q_OBJECT

public:
    ExportDialog(Document& document, QWidget* parent);

protected:
    QString hindrance() const override;
    QString remark() const override;
    QString ending() const override;
    Work work() const override;

private:
    void add_results();
    void tick(const std::function<bool(const Step&)>& wanted);
    void tick_shown();
    void add_formats();
    std::vector<ExportedResult> chosen() const;
    ItemId in_hand() const;
    const ExportFormat& format() const;
    void follow_format();
    void follow_file();
    void show_what_it_asks();
    void offer_layers();
    // What the result in hand is in a building.
    void offer_class();
    void propose_file();

    QListWidget* results_;
    QComboBox *format_, *unit_, *layers_, *class_;
    std::map<ItemId, std::string> classes_;  // where they are not told from names
    QLineEdit* scale_;
    int chosen_unit_ = 0;  // where the format leaves a choice
    QCheckBox *for_print_, *exact_;
};

}  // namespace plume::app
