#pragma once
// What is shown, as a picture: how it is seen, how large or to which scale, on what ground.

#include <optional>

#include "app/files/writing_dialog.hpp"
#include "core/exchange/picture_file.hpp"

class QCheckBox;
class QComboBox;

namespace plume::app {

class PictureDialog : public WritingDialog {
    Q_OBJECT

public:
    // The camera of the model and its size in pixels, where there is a model.
    PictureDialog(Document& document, std::optional<Camera> camera, QSize size, QWidget* parent);

protected:
    QString hindrance() const override;
    QString ending() const override { return ".png"; }
    Work work() const override;

private:
    void add_views();
    void add_size(QSize size);
    void show_what_it_asks();
    bool to_scale() const;
    std::vector<ExportedResult> shown() const;

    std::optional<Camera> camera_;
    QComboBox *view_, *measure_;
    QWidget *pixels_, *scaled_;
    QLineEdit *width_, *height_, *scale_, *dots_;
    QCheckBox* transparent_;
};

}  // namespace plume::app
