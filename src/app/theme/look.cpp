#include "app/theme/look.hpp"

#include <QApplication>
#include <QFile>
#include <QFontDatabase>
#include <QPainter>
#include <QPalette>
#include <QPixmapCache>
#include <QStyleFactory>
#include <QSvgRenderer>
#include <memory>

// A static library's resources have to be asked for by name, from outside any namespace.
static void init_resources() {
    Q_INIT_RESOURCE(resources);
    Q_INIT_RESOURCE(examples);
}

namespace plume::app {
namespace {

Look light_look() {
    return {false,     "#EFEBE2", "#FBFAF6",
            "#1F2328", "#5E646C", "#DED8CB",
            "#0F766E", "#DCEDE9", "#B8430F",
            "#F3F4F1", "#DEE4E2", {"#C9A45C", "#B56576", "#0F766E", "#4C6A92", "#6F8F4E", "#7A5C8E"}};
}

Look dark_look() {
    return {true,      "#14171A", "#1C2024",
            "#E9E7E1", "#A3A9B0", "#31373D",
            "#55B9AB", "#1E3A38", "#F08A4E",
            "#20262A", "#15191C", {"#D4B36F", "#CB8090", "#55B9AB", "#7F9CC4", "#93B272", "#A387B8"}};
}

Look& current_look() {
    static Look current = light_look();
    return current;
}

QPalette palette_of(const Look& l) {
    QPalette palette;
    palette.setColor(QPalette::Window, l.page);
    palette.setColor(QPalette::Base, l.page);
    palette.setColor(QPalette::AlternateBase, l.desk);
    palette.setColor(QPalette::Button, l.page);
    for (const auto role :
         {QPalette::WindowText, QPalette::Text, QPalette::ButtonText, QPalette::ToolTipText})
        palette.setColor(role, l.ink);
    palette.setColor(QPalette::PlaceholderText, l.second_ink);
    palette.setColor(QPalette::ToolTipBase, l.page);
    palette.setColor(QPalette::Highlight, l.accent);
    palette.setColor(QPalette::HighlightedText, l.page);
    palette.setColor(QPalette::Link, l.accent);
    for (const auto role : {QPalette::WindowText, QPalette::Text, QPalette::ButtonText})
        palette.setColor(QPalette::Disabled, role, l.second_ink);
    return palette;
}

QString style_of(const Look& l) {
    QFile file(":/theme/application.qss");
    if (!file.open(QIODevice::ReadOnly)) return {};
    QString sheet = QString::fromUtf8(file.readAll());
    const std::pair<const char*, QColor> names[] = {{"@desk", l.desk},         {"@page", l.page},
                                                    {"@ink", l.ink},           {"@second", l.second_ink},
                                                    {"@hairline", l.hairline}, {"@accentsoft", l.accent_soft},
                                                    {"@accent", l.accent},     {"@attention", l.attention}};
    for (const auto& [name, colour] : names)
        sheet.replace(name, colour.name());
    return sheet;
}

}  // namespace

const Look& look() {
    return current_look();
}

void apply_look(bool dark) {
    current_look() = dark ? dark_look() : light_look();
    QApplication::setStyle(QStyleFactory::create("Fusion"));
    QApplication::setPalette(palette_of(look()));
    QApplication::setFont(text_font(13));
    qApp->setStyleSheet(style_of(look()));
}

void load_fonts() {
    init_resources();
    for (const char* file :
         {"Inter-Regular.otf", "Inter-Medium.otf", "Inter-SemiBold.otf", "Inter-Bold.otf",
          "JetBrainsMono-Regular.ttf", "STIXGeneral-Italic.otf", "STIXGeneral-BoldItalic.otf"})
        QFontDatabase::addApplicationFont(QString(":/fonts/") + file);
}

QFont text_font(int pixels, QFont::Weight weight) {
    QFont font("Inter");
    font.setPixelSize(pixels);
    font.setWeight(weight);
    font.setHintingPreference(QFont::PreferNoHinting);
    return font;
}

QFont result_font(int pixels) {
    QFont font("STIXGeneral");
    font.setPixelSize(pixels);
    font.setItalic(true);
    font.setWeight(QFont::Bold);
    return font;
}

QFont code_font(int pixels) {
    QFont font("JetBrains Mono");
    font.setPixelSize(pixels);
    return font;
}

namespace {

QByteArray coloured_svg(const char* name, const QColor& colour) {
    QFile file(QString(":/icons/%1.svg").arg(name));
    if (!file.open(QIODevice::ReadOnly)) return {};
    return file.readAll().replace("currentColor", colour.name().toUtf8());
}

QPixmap drawn(QSvgRenderer& renderer, int scale) {
    QPixmap pixmap(20 * scale, 20 * scale);
    pixmap.fill(Qt::transparent);
    QPainter painter(&pixmap);
    renderer.render(&painter);
    painter.end();
    pixmap.setDevicePixelRatio(scale);
    return pixmap;
}

}  // namespace

QIcon icon(const char* name) {
    return icon(name, look().ink);
}

QIcon icon(const char* name, const QColor& colour) {
    QIcon result;
    std::unique_ptr<QSvgRenderer> renderer;
    for (const int scale : {1, 2, 3}) {
        const QString key = QString("%1 %2 %3").arg(name, colour.name()).arg(scale);
        QPixmap pixmap;
        if (!QPixmapCache::find(key, &pixmap)) {
            if (!renderer) renderer = std::make_unique<QSvgRenderer>(coloured_svg(name, colour));
            pixmap = drawn(*renderer, scale);
            QPixmapCache::insert(key, pixmap);
        }
        result.addPixmap(pixmap);
    }
    return result;
}

}  // namespace plume::app
