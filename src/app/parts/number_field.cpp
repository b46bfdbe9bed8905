#include "app/parts/number_field.hpp"

#include <QDoubleValidator>
#include <QHBoxLayout>

namespace plume::app {

QLineEdit* number_field(const char* name, const QString& label, const QString& text, double least,
                        double most, int decimals) {
    auto* field = new QLineEdit(text);
    field->setObjectName(name);
    field->setAccessibleName(label);
    auto* within = new QDoubleValidator(least, most, decimals, field);
    within->setLocale(QLocale::c());
    within->setNotation(QDoubleValidator::StandardNotation);
    field->setValidator(within);
    return field;
}

QWidget* row_of(std::initializer_list<QWidget*> parts) {
    auto* row = new QWidget;
    auto* layout = new QHBoxLayout(row);
    layout->setContentsMargins(0, 0, 0, 0);
    for (QWidget* part : parts)
        layout->addWidget(part);
    return row;
}

}  // namespace plume::app
