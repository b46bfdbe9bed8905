#pragma once
// What moves, frame by frame: from when to when, how it is seen, how large, into what.

#include <optional>

#include "app/files/writing_dialog.hpp"
#include "core/exchange/film.hpp"

class QCheckBox;
class QComboBox;

namespace plume::app {

class FilmDialog : public WritingDialog {
    Q_OBJECT

public:
    // The camera of the model and its size in pixels, where there is a model.
    FilmDialog(Document& document, std::optional<Camera> camera, QSize size, QWidget* parent);

protected:
    QString hindrance() const override;
    QString remark() const override;
    QString ending() const override;
    Work work() const override;

private:
    void add_forms();
    void add_views();
    void follow_form();
    std::optional<double> number_in(const QLineEdit* field) const;
    std::size_t first_frame() const;
    std::size_t frame_count() const;
    void follow_moments();

    std::optional<Camera> camera_;
    QComboBox *into_, *view_;
    QCheckBox* many_;  // asked only where there are
    QLineEdit *from_, *to_, *turn_, *width_, *height_;
};

}  // namespace plume::app
