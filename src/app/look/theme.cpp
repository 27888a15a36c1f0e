#include "app/look/theme.h"

#include <QApplication>
#include <QPalette>
#include <algorithm>
#include <cmath>

#include "app/look/text.h"

/// The arrows of the style sheet; a resource in a static library has to be asked for, outside any namespace.
static void loadMarks() {
    Q_INIT_RESOURCE(marks);
}

namespace rm::app {

Theme Theme::light() {
    Theme t;
    t.paper = "#F4F1EA";
    t.panel = "#FBFAF6";
    t.sunken = "#EFEBE0";
    t.yard = "#E9EFF0";
    t.line = "#D8D2C4";
    t.ink = "#1F2A2E";
    t.softInk = "#5C676A";
    t.reed = "#4F7030";
    t.reedTint = "#E3EBD8";
    t.water = "#1F6F80";
    t.copper = "#9F521B";
    t.heather = "#7B4F8C";
    t.sun = "#C98F12";
    t.clay = "#981F1C";
    t.sunInk = "#8A6100";
    t.overlays = {"#278EA5", "#303F05", "#CC5A66", "#AA8300", "#623CA5"};
    return t;
}

Theme Theme::night() {
    Theme t;
    t.dark = true;
    t.paper = "#161C1E";
    t.panel = "#1E2629";
    t.sunken = "#273134";
    t.yard = "#19262A";
    t.line = "#3A4649";
    t.ink = "#E8E4D9";
    t.softInk = "#A3ADAB";
    t.reed = "#9CC077";
    t.reedTint = "#2E3B27";
    t.water = "#63B7C8";
    t.copper = "#E09A63";
    t.heather = "#C19BD0";
    t.sun = "#EDBB4E";
    t.clay = "#EC8074";
    t.sunInk = t.sun;
    t.overlays = {"#2786AC", "#AEF2BD", "#C14059", "#F7DC41", "#8E8BFB"};
    return t;
}

Theme Theme::current() {
    return QApplication::palette().color(QPalette::Window).lightness() < 128 ? night() : light();
}

QColor Theme::forSwr(double swr, const std::array<double, 3>& limits) const {
    if (swr <= limits[0]) return reed;
    if (swr <= limits[1]) return sunInk;
    if (swr <= limits[2]) return copper;
    return clay;
}

QColor Theme::overlay(std::size_t index) const {
    return overlays[index % overlays.size()];
}

double contrast(const QColor& a, const QColor& b) {
    const auto luminance = [](const QColor& c) {
        const auto part = [](double v) {
            return v <= 0.04045 ? v / 12.92 : std::pow((v + 0.055) / 1.055, 2.4);
        };
        return 0.2126 * part(c.redF()) + 0.7152 * part(c.greenF()) + 0.0722 * part(c.blueF());
    };
    const double x = luminance(a) + 0.05;
    const double y = luminance(b) + 0.05;
    return std::max(x, y) / std::min(x, y);
}

QColor Theme::words(const QColor& hue) const {
    constexpr double kReadable = 4.5;
    constexpr int kSteps = 20;
    for (int i = 0; i < kSteps; ++i) {
        const double t = static_cast<double>(i) / kSteps;
        const auto mixed = [&](float from, float to) {
            return static_cast<float>((1.0 - t) * from + t * to);
        };
        const QColor colour =
            QColor::fromRgbF(mixed(hue.redF(), ink.redF()), mixed(hue.greenF(), ink.greenF()),
                             mixed(hue.blueF(), ink.blueF()));
        if (contrast(colour, panel) >= kReadable) return colour;
    }
    return ink;
}

QColor Theme::measured(std::size_t index) const {
    const QColor hues[] = {sun, clay, softInk};
    return hues[index % std::size(hues)];
}

QString Theme::styleSheet() const {
    const auto c = [](const QColor& color) { return color.name(); };
    QString s = R"(
QMainWindow, QDialog { background: %paper; }
QWidget { color: %ink; }
QToolTip { background: %panel; color: %ink; border: 1px solid %line; padding: 3px; }
QMenuBar { background: %paper; spacing: 2px; }
QMenuBar::item { padding: 8px 9px; border-radius: 5px; background: transparent; }
QMenuBar::item:selected { background: %tint; }
QMenu { background: %panel; border: 1px solid %line; padding: 4px; }
QMenu::item { padding: 4px 22px 4px 20px; border-radius: 4px; }
QMenu::item:selected { background: %tint; color: %ink; }
QMenu::item:disabled { color: %soft; }
QMenu::separator { height: 1px; background: %line; margin: 4px 8px; }
QFrame#panel { background: %panel; border: 1px solid %line; border-radius: 8px; }
QFrame#editor { background: %sunken; border: 1px solid %line; border-radius: 6px; }
QLineEdit, QComboBox, QSpinBox { background: %panel; border: 1px solid %line; border-radius: 4px; padding: 2px 6px;
  min-height: 18px; selection-background-color: %reed; selection-color: %panel; }
QLineEdit:focus, QComboBox:focus, QSpinBox:focus { border: 1px solid %reed; }
QLineEdit[wrong="true"] { border: 1px solid %clay; }
QComboBox::drop-down { border: none; width: 18px; }
QComboBox::down-arrow { image: url(:/marks/%arrow.svg); width: 9px; height: 6px; }
QComboBox QAbstractItemView { background: %panel; border: 1px solid %line; selection-background-color: %tint;
  selection-color: %ink; outline: none; }
QPushButton, QToolButton { background: %panel; border: 1px solid %line; border-radius: 5px; padding: 3px 9px; }
QPushButton:hover, QToolButton:hover { border-color: %reed; }
QPushButton:pressed, QToolButton:pressed, QToolButton:checked, QPushButton:checked { background: %tint; border-color: %reed; color: %reed; }
QPushButton:disabled, QToolButton:disabled { color: %soft; }
QPushButton[quiet="true"], QToolButton[quiet="true"] { background: transparent; border: 1px solid transparent; color: %soft; padding: 2px 6px; }
QPushButton[quiet="true"]:hover, QToolButton[quiet="true"]:hover { color: %reed; border-color: %line; }
QToolButton[quiet="true"]:checked { color: %reed; background: %tint; border-color: transparent; }
QPushButton[main="true"] { background: %reed; color: %panel; border-color: %reed; }
QPushButton[main="true"]:disabled { background: %sunken; color: %soft; border-color: %line; }
QPushButton[quiet="true"]:disabled, QToolButton[quiet="true"]:disabled { color: %line; }
QDialogButtonBox { dialogbuttonbox-buttons-have-icons: 0; }
QSpinBox::up-button, QSpinBox::down-button { width: 0; border: none; }
QPushButton:focus, QToolButton:focus { border: 2px solid %heather; padding: 2px 8px; }
QPushButton[quiet="true"]:focus, QToolButton[quiet="true"]:focus { border: 2px solid %heather; padding: 1px 5px; }
QCheckBox:focus, QRadioButton:focus { color: %heather; }
QCheckBox { spacing: 6px; }
QCheckBox::indicator, QTableView::indicator {
  width: 12px; height: 12px; border: 1px solid %soft; border-radius: 3px; background: %panel; }
QCheckBox::indicator:checked, QTableView::indicator:checked { background: %sun; border: 1px solid %ink; }
QScrollArea, QScrollArea > QWidget > QWidget { background: transparent; border: none; }
QScrollBar:vertical { background: transparent; width: 9px; margin: 0; }
QScrollBar::handle:vertical { background: %line; border-radius: 4px; min-height: 24px; }
QScrollBar::handle:vertical:hover { background: %soft; }
QScrollBar::add-line, QScrollBar::sub-line { height: 0; width: 0; }
QScrollBar::add-page, QScrollBar::sub-page { background: transparent; }
QAbstractScrollArea::corner { background: transparent; border: none; }
QScrollBar:horizontal { background: transparent; height: 7px; margin: 0; }
QScrollBar::handle:horizontal { background: %line; border-radius: 3px; min-width: 24px; }
QScrollBar::handle:horizontal:hover { background: %soft; }
QHeaderView { background: transparent; border: none; }
QSlider::groove:horizontal { height: 4px; background: %line; border-radius: 2px; }
QSlider::sub-page:horizontal { background: %reed; border-radius: 2px; }
QSlider::handle:horizontal { background: %reed; width: 11px; height: 11px; margin: -4px 0; border-radius: 5px; }
QSlider::handle:horizontal:focus { background: %copper; }
QSplitter::handle { background: transparent; }
QProgressBar { background: %sunken; border: 1px solid %line; border-radius: 4px; text-align: center; max-height: 12px; }
QProgressBar::chunk { background: %reed; border-radius: 3px; }
QLabel:disabled { color: %line; }
QLabel[soft="true"] { color: %soft; }
QLabel[wrong="true"] { color: %clay; }
QTableView { background: transparent; border: 1px solid transparent; gridline-color: transparent; selection-background-color: %tint;
  selection-color: %ink; outline: none; }
QHeaderView::section { background: transparent; border: none; color: %soft; padding: 2px 4px; }
QHeaderView { font-size: %smallpt; }
QListWidget { background: %panel; border: 1px solid %line; border-radius: 5px; outline: none; }
QTableView:focus, QListWidget:focus { border: 1px solid %heather; }
QListWidget::item:selected { background: %tint; color: %ink; }
)";
    s.replace("%paper", c(paper))
        .replace("%panel", c(panel))
        .replace("%sunken", c(sunken))
        .replace("%line", c(line));
    s.replace("%ink", c(ink))
        .replace("%soft", c(softInk))
        .replace("%reed", c(reed))
        .replace("%tint", c(reedTint));
    s.replace("%smallpt", QString("%1pt").arg(kSmallPt));
    s.replace("%arrow", dark ? "arrow-night" : "arrow");
    s.replace("%clay", c(clay)).replace("%copper", c(copper)).replace("%sun", c(sun));
    s.replace("%heather", c(heather));
    return s;
}

void Theme::apply() const {
    loadMarks();
    QPalette p;
    p.setColor(QPalette::Window, paper);
    p.setColor(QPalette::WindowText, ink);
    p.setColor(QPalette::Base, panel);
    p.setColor(QPalette::AlternateBase, sunken);
    p.setColor(QPalette::Text, ink);
    p.setColor(QPalette::Button, panel);
    p.setColor(QPalette::ButtonText, ink);
    p.setColor(QPalette::Highlight, reed);
    p.setColor(QPalette::HighlightedText, panel);
    p.setColor(QPalette::ToolTipBase, panel);
    p.setColor(QPalette::ToolTipText, ink);
    p.setColor(QPalette::PlaceholderText, softInk);
    p.setColor(QPalette::Disabled, QPalette::Text, softInk);
    p.setColor(QPalette::Disabled, QPalette::ButtonText, softInk);
    p.setColor(QPalette::Disabled, QPalette::WindowText, softInk);
    QApplication::setPalette(p);
    qApp->setStyleSheet(styleSheet());
    QApplication::setFont(textFont(kTextPt));
}

QFont textFont(double points, bool bold) {
    QFont font("DejaVu Sans");
    font.setPointSizeF(points);
    font.setBold(bold);
    return font;
}

}  // namespace rm::app
