#include "app/files/export_dialog.hpp"

#include <QCheckBox>
#include <QComboBox>
#include <QDir>
#include <QDoubleValidator>
#include <QFileInfo>
#include <QFormLayout>
#include <QLabel>
#include <QLineEdit>
#include <QListWidget>
#include <QPushButton>

#include "app/theme/look.hpp"
#include "core/base/text.hpp"
#include "core/data/building_classes.hpp"

namespace plume::app {
namespace {

constexpr LengthUnit units[] = {LengthUnit::metre, LengthUnit::centimetre, LengthUnit::millimetre,
                                LengthUnit::foot, LengthUnit::inch};

}  // namespace

ExportDialog::ExportDialog(Document& study, QWidget* parent) : WritingDialog(study, "export", parent) {
    setWindowTitle(tr("Export"));
    QFormLayout* const form = this->form();
    results_ = new QListWidget;
    results_->setObjectName("export-results");
    results_->setAccessibleName(tr("Results"));
    form->addRow(tr("Results"), results_);
    auto* shown = new QPushButton(tr("Tick what is shown in the model"));
    shown->setObjectName("export-shown");
    shown->setAutoDefault(false);
    form->addRow(QString(), shown);
    add_results();
    const auto choice = [&](const QString& label, const char* name) {
        auto* box = new QComboBox;
        box->setObjectName(name);
        box->setAccessibleName(label);
        form->addRow(label, box);
        return box;
    };
    format_ = choice(tr("Format"), "export-format");
    add_formats();
    unit_ = choice(tr("Unit"), "export-unit");
    for (const LengthUnit unit : units)
        unit_->addItem(text_of(plain_name(unit)));
    chosen_unit_ = static_cast<int>(study.study().units.length);
    connect(unit_, &QComboBox::activated, this, [this](int index) { chosen_unit_ = index; });
    layers_ = choice(tr("Layers"), "export-layers");
    class_ = choice(tr("In a building"), "export-class");
    class_->addItem(tr("what its name says"), QString());
    for (const BuildingClass& known : building_classes())
        class_->addItem(text_of(std::string(known.key)), text_of(std::string(known.key)));
    connect(class_, &QComboBox::activated, this,
            [this] { classes_[in_hand()] = text_of(class_->currentData().toString()); });
    scale_ = new QLineEdit;
    scale_->setObjectName("export-scale");
    scale_->setAccessibleName(tr("Scale 1 :"));
    scale_->setPlaceholderText(tr("that fits a sheet"));
    auto* above_zero = new QDoubleValidator(1e-6, 1e9, 6, scale_);
    above_zero->setLocale(QLocale::c());
    scale_->setValidator(above_zero);
    form->addRow(tr("Scale 1 :"), scale_);
    for_print_ = new QCheckBox(tr("Check that it can be printed"));
    for_print_->setObjectName("export-for-print");
    for_print_->setToolTip(tr("Closed, faces outwards, nothing crossing; else it is said where"));
    for_print_->setChecked(true);
    form->addRow(QString(), for_print_);
    exact_ = new QCheckBox(tr("Curved parts exactly"));
    exact_->setObjectName("export-exact");
    exact_->setToolTip(tr("As trimmed splines instead of facets; some programs show these coarsely"));
    form->addRow(QString(), exact_);
    add_file_rows();
    connect(shown, &QPushButton::clicked, this, [this] {
        tick_shown();
        offer_layers();
        propose_file();
    });
    connect(results_, &QListWidget::itemChanged, this, [this] {
        offer_layers();
        propose_file();
    });
    connect(results_, &QListWidget::currentRowChanged, this, &ExportDialog::offer_class);
    connect(format_, &QComboBox::currentIndexChanged, this, &ExportDialog::follow_format);
    connect(file(), &QLineEdit::textEdited, this, &ExportDialog::follow_file);
    follow_format();
    file()->setFocus();
    file()->selectAll();
}

void ExportDialog::add_results() {
    for (const Item& item : document().study().items) {
        const Step* step = step_of(item);
        const Shown* shown = step ? document().results().shown(step->id) : nullptr;
        if (!shown || !shown->value || page_of(*step) != Page::sheet) continue;
        auto* row = new QListWidgetItem(
            text_of(step->name) + tr("  (%1)").arg(text_of(plain_name(kind_of(*shown->value)))), results_);
        row->setData(Qt::UserRole, QVariant::fromValue<qulonglong>(step->id));
        row->setFlags(Qt::ItemIsEnabled | Qt::ItemIsSelectable | Qt::ItemIsUserCheckable);
        row->setCheckState(Qt::Unchecked);
    }
    results_->setMinimumHeight(2 * fontMetrics().lineSpacing() + 2 * results_->frameWidth() + 8);
    const ItemId selected = document().attention().selected();
    tick([&](const Step& step) { return step.id == selected; });
    if (chosen().empty()) tick_shown();
}

void ExportDialog::tick(const std::function<bool(const Step&)>& wanted) {
    const QSignalBlocker once(results_);
    QListWidgetItem* first = nullptr;
    for (int row = 0; row < results_->count(); ++row) {
        QListWidgetItem* item = results_->item(row);
        const Step* step = document().study().step(item->data(Qt::UserRole).toULongLong());
        const bool ticked = step && wanted(*step);
        item->setCheckState(ticked ? Qt::Checked : Qt::Unchecked);
        if (ticked && !first) first = item;
    }
    if (!first) return;
    results_->setCurrentItem(first);
    results_->scrollToItem(first);
}

// What is seen in the model, if it has a place there.
void ExportDialog::tick_shown() {
    tick([&](const Step& step) {
        return step.show.visible &&
               form_of(*document().results().shown(step.id)->value) != WrittenForm::nothing;
    });
}

void ExportDialog::add_formats() {
    for (const ExportFormat& format : export_formats())
        format_->addItem(text_of(format.name + ": " + format.holds), text_of(format.extension));
    // The first that has a place for what is ticked.
    const auto results = chosen();
    const auto fits = [&](const ExportFormat& format) {
        return std::ranges::all_of(results, [&](const auto& result) { return format.takes(*result.value); });
    };
    format_->setCurrentIndex(
        static_cast<int>(std::ranges::find_if(export_formats(), fits) - export_formats().begin()));
}

const ExportFormat& ExportDialog::format() const {
    return export_formats()[static_cast<std::size_t>(std::max(format_->currentIndex(), 0))];
}

std::vector<ExportedResult> ExportDialog::chosen() const {
    std::vector<ExportedResult> results;
    for (int row = 0; row < results_->count(); ++row) {
        const QListWidgetItem* item = results_->item(row);
        const Step* step = document().study().step(item->data(Qt::UserRole).toULongLong());
        const Shown* shown = step ? document().results().shown(step->id) : nullptr;
        if (item->checkState() != Qt::Checked || !shown || !shown->value) continue;
        results.push_back({shown->value, step->name, step->show});
        if (const auto told = classes_.find(step->id); told != classes_.end())
            results.back().building_class = told->second;
    }
    return results;
}

// Its own unit, if it has but one, and whether it is for printers.
void ExportDialog::show_what_it_asks() {
    const auto own = format().own_unit;
    unit_->setCurrentIndex(own ? static_cast<int>(*own) : chosen_unit_);
    unit_->setEnabled(!own);
    unit_->setToolTip(own ? tr("This format knows no other unit.") : QString());
    form()->setRowVisible(for_print_, format().prints);
    form()->setRowVisible(layers_, format().layers);
    form()->setRowVisible(scale_, format().to_scale);
    form()->setRowVisible(class_, format().classes);
    form()->setRowVisible(exact_, format().exact_if_wanted);
    offer_layers();
    offer_class();
}

void ExportDialog::follow_format() {
    show_what_it_asks();
    propose_file();
}

// An ending that is typed chooses the format, as it does when the file is written.
void ExportDialog::follow_file() {
    const ExportFormat* typed = export_format_for(file()->text().toStdString());
    if (!typed || typed == &format()) return;
    const QSignalBlocker without_another_file(format_);
    format_->setCurrentIndex(static_cast<int>(typed - export_formats().data()));
    show_what_it_asks();
    refresh_note();
}

// A layer a result, or one a value of a number that the ticked ones carry; what was chosen stays where it
// can.
void ExportDialog::offer_layers() {
    const QString before = layers_->currentData().toString();
    layers_->clear();
    layers_->addItem(tr("one a result"), QString());
    for (const ExportedResult& result : chosen())
        for (const std::string& name : field_names(*result.value))
            if (layers_->findData(text_of(name)) < 0)
                layers_->addItem(tr("by %1").arg(text_of(name)), text_of(name));
    layers_->setCurrentIndex(std::max(layers_->findData(before), 0));
}

ItemId ExportDialog::in_hand() const {
    const QListWidgetItem* item = results_->currentItem();
    return item ? item->data(Qt::UserRole).toULongLong() : 0;
}

void ExportDialog::offer_class() {
    const Step* step = document().study().step(in_hand());
    class_->setEnabled(step != nullptr);
    if (!step) return;
    if (auto* label = qobject_cast<QLabel*>(form()->labelForField(class_)))
        label->setText(tr("%1 is").arg(text_of(shortened(step->name, 16))));
    const auto told = classes_.find(step->id);
    class_->setCurrentIndex(told == classes_.end() ? 0
                                                   : std::max(class_->findData(text_of(told->second)), 0));
}

void ExportDialog::propose_file() {
    const auto results = chosen();
    const QString folder =
        document().path().isEmpty() ? QDir::homePath() : QFileInfo(document().path()).absolutePath();
    const QString study = QFileInfo(document().path()).completeBaseName();
    const QString name = results.size() == 1 ? text_of(results.front().name)
                         : study.isEmpty()   ? tr("results")
                                             : study;
    file()->setText(QDir(folder).filePath(name + format_->currentData().toString()));
    refresh_note();
}

QString ExportDialog::hindrance() const {
    if (results_->count() == 0) return tr("There is no result to write yet.");
    const auto results = chosen();
    if (results.empty()) return tr("Tick a result.");
    if (results.size() > 1 && !format().several)
        return tr("%1 holds one result in a file: tick one.").arg(text_of(format().name));
    for (const ExportedResult& result : results)
        if (!format().takes(*result.value))
            return tr("%1 has no place for %2.").arg(text_of(format().name), text_of(result.name));
    return {};
}

QString ExportDialog::remark() const {
    return format().states_unit ? QString()
                                : tr("This format has no unit of its own: tell whoever reads the file.");
}

QString ExportDialog::ending() const {
    return format_->currentData().toString();
}

WritingDialog::Work ExportDialog::work() const {
    ExportJob job{chosen(), document().study().units, units[unit_->currentIndex()]};
    job.for_print = format().prints && for_print_->isChecked();
    job.exact = format().exact_if_wanted && exact_->isChecked();
    if (format().layers) job.layers_by = layers_->currentData().toString().toStdString();
    if (format().to_scale) job.plan_scale = QLocale::c().toDouble(scale_->text());
    return [job = std::move(job)](const std::string& path, const Run& run) {
        return export_results(job, path, run);
    };
}

}  // namespace plume::app
