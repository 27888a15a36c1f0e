#include "app/plan/quantity_field.h"
#include "app/look/text.h"
#include "app/look/typed_number.h"

#include <QPainter>
#include <QRegularExpression>
#include <QStyle>
#include <QStyleOptionFrame>

namespace rm::app {

QString equivalent(const QString& text, quantity::Kind kind, const quantity::Scope& scope,
                   bool feetAndInches) {
    const double value = quantity::evaluate(text.toStdString(), kind, scope);
    const bool formula = !quantity::isPlainNumber(text.toStdString());
    const auto q = [](const std::string& s) { return QString::fromStdString(s); };
    switch (kind) {
        case quantity::Kind::Length: {
            const QString metric = q(quantity::formatLength(value));
            const QString tape = q(quantity::formatLength(value, quantity::LengthStyle::FeetInches));
            if (formula) return "= " + (feetAndInches ? tape : metric);
            const bool typedTape =
                text.contains('\'') || text.contains('"') || text.contains("ft") || text.contains("in");
            return "= " + (typedTape ? metric : tape);
        }
        case quantity::Kind::Diameter:
            return QString("= %1").arg(q(quantity::formatDiameter(value)));
        case quantity::Kind::Angle:
            return formula ? QString("= %1°").arg(written(value, 'f', 2)) : tr("degrees");
        case quantity::Kind::Frequency:
            return QString("λ = %1").arg(q(quantity::formatLength(wavelengthM(value))));
        default:
            return formula ? QString("= %1").arg(written(value, 'g', 6)) : QString();
    }
}

QuantityField::QuantityField(quantity::Kind kind, QWidget* parent) : QLineEdit(parent), kind_(kind) {
    connect(this, &QLineEdit::textEdited, this, &QuantityField::assess);
    connect(this, &QLineEdit::editingFinished, this, &QuantityField::commit);
}

void QuantityField::setScope(const quantity::Scope& scope, bool feetAndInches) {
    scope_ = scope;
    feetAndInches_ = feetAndInches;
    assess();
}

void QuantityField::setCommitted(const QString& text) {
    const bool typing = hasFocus() && isModified();
    committed_ = text;
    const QString shown = shownTyped(text.toStdString());
    if (typing || this->text() == shown) return;
    setText(shown);
    if (!hasFocus()) setCursorPosition(0);
    assess();
}

void QuantityField::focusInEvent(QFocusEvent* event) {
    QLineEdit::focusInEvent(event);
    assess();
}

void QuantityField::focusOutEvent(QFocusEvent* event) {
    QLineEdit::focusOutEvent(event);
    // What does not fit is shown from its beginning.
    setCursorPosition(0);
}

QString QuantityField::kept() const {
    // What came from the project is what it says, in whatever unit a number alone has there.
    return app::text(keptTyped(text())) == committed_ ? committed_ : app::text(keptTyped(text(), kind_));
}

QRect QuantityField::textArea() const {
    QStyleOptionFrame option;
    initStyleOption(&option);
    constexpr int kInset = 2;  // as QLineEdit paints its text
    return style()
        ->subElementRect(QStyle::SE_LineEditContents, &option, this)
        .adjusted(kInset, 0, -kInset, 0);
}

QRect QuantityField::widestArea() const {
    constexpr int kFrame = 4;
    return rect().adjusted(kFrame, 0, -kFrame, 0);
}

QString QuantityField::shown() const {
    const auto fitsIn = [&](const QRect& area, const QString& s) {
        return fontMetrics().horizontalAdvance(s) <= area.width();
    };
    if (hasFocus() || fitsIn(textArea(), text())) return text();
    // A number that does not fit must not be read by its tail.
    const QString whole = value_.isEmpty() ? text() : value_;
    // To the millimetre where there is room, to the decimetre where there is not.
    static const QRegularExpression decimals("^([-\u2212]?\\d+)[.,](\\d+)( .+)$");
    const auto parts = decimals.match(whole);
    if (!parts.hasMatch()) return whole;
    QString number = parts.captured(1) + "." + parts.captured(2);
    const double value = number.replace(QChar(0x2212), '-').toDouble();
    QString shorter = whole;
    for (auto digits = parts.captured(2).size() - 1; !fitsIn(widestArea(), shorter) && digits >= 1; --digits)
        shorter = written(value, 'f', static_cast<int>(digits)) + parts.captured(3);
    return shorter;
}

void QuantityField::paintEvent(QPaintEvent* event) {
    const QString instead = shown();
    if (instead == text()) return QLineEdit::paintEvent(event);
    QStyleOptionFrame option;
    initStyleOption(&option);
    QPainter painter(this);
    style()->drawPrimitive(QStyle::PE_PanelLineEdit, &option, &painter, this);
    const int wide = fontMetrics().horizontalAdvance(instead);
    const QRect area = wide <= textArea().width() ? textArea() : widestArea();
    painter.setPen(palette().color(isEnabled() ? QPalette::Active : QPalette::Disabled, QPalette::Text));
    painter.drawText(area, static_cast<int>(alignment()) | Qt::AlignVCenter,
                     fontMetrics().elidedText(instead, Qt::ElideRight, area.width()));
}

void QuantityField::assess() {
    bool wrong = false;
    QString said;
    value_.clear();
    if (!(optional_ && text().trimmed().isEmpty())) {
        try {
            said = equivalent(kept(), kind_, scope_, feetAndInches_);
            if (!quantity::isPlainNumber(kept().toStdString()) && said.startsWith("= ")) value_ = said.mid(2);
        } catch (const Error& e) {
            said = QString::fromUtf8(e.what());
            wrong = true;
        }
    }
    if (property("wrong").toBool() != wrong) {
        setProperty("wrong", wrong);
        style()->unpolish(this);
        style()->polish(this);
    }
    update();
    Q_EMIT assessed(said, wrong);
}

void QuantityField::commit() {
    const QString value = kept();
    setModified(false);
    if (value == committed_) return;
    const QString shown = shownTyped(value.toStdString());
    if (shown != text()) setText(shown);
    committed_ = value;
    assess();
    Q_EMIT committed(value);
}

}  // namespace rm::app
