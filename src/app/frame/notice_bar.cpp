#include "app/frame/notice_bar.h"

#include <QHBoxLayout>
#include <QLabel>
#include <QToolButton>

namespace rm::app {

NoticeBar::NoticeBar(QWidget* parent) : QFrame(parent) {
    auto* row = new QHBoxLayout(this);
    row->setContentsMargins(10, 4, 6, 4);
    mark_ = new QLabel;
    mark_->setFont(textFont(kTextPt, true));
    label_ = new QLabel;
    label_->setObjectName("notice");
    label_->setWordWrap(true);
    label_->setTextInteractionFlags(Qt::TextSelectableByMouse);
    row->addWidget(mark_);
    row->addWidget(label_, 1);
    first_ = new QToolButton;
    second_ = new QToolButton;
    auto* close = new QToolButton;
    close->setText("✕");
    close->setToolTip("Close this message");
    close->setAccessibleName("Close this message");
    close->setProperty("quiet", true);
    for (QToolButton* button : {first_, second_, close}) row->addWidget(button);
    connect(first_, &QToolButton::clicked, this, [this] {
        const auto act = onFirst_;
        clear();
        if (act) act();
    });
    connect(second_, &QToolButton::clicked, this, [this] {
        const auto act = onSecond_;
        clear();
        if (act) act();
    });
    connect(close, &QToolButton::clicked, this, &NoticeBar::clear);
    setAccessibleName("Message");
    hide();
}

void NoticeBar::setTheme(const Theme& theme) {
    theme_ = theme;
    paint();
}

void NoticeBar::paint() {
    const QColor edge = tone_ == Tone::Good ? theme_.reed : tone_ == Tone::Caution ? theme_.sun : theme_.clay;
    mark_->setText(tone_ == Tone::Good ? "✓" : tone_ == Tone::Caution ? "!" : "✗");
    mark_->setStyleSheet(QString("color: %1").arg(edge.name()));
    setStyleSheet(QString("rm--app--NoticeBar { background: %1; border: 1px solid %2; border-radius: 6px; }")
                      .arg(theme_.panel.name(), edge.name()));
}

void NoticeBar::show(Tone tone, const QString& sentence, const QString& firstAnswer,
                     std::function<void()> first, const QString& secondAnswer, std::function<void()> second) {
    tone_ = tone;
    label_->setText(sentence);
    first_->setText(firstAnswer);
    first_->setVisible(!firstAnswer.isEmpty());
    second_->setText(secondAnswer);
    second_->setVisible(!secondAnswer.isEmpty());
    onFirst_ = std::move(first);
    onSecond_ = std::move(second);
    paint();
    setVisible(true);
}

void NoticeBar::clear() {
    label_->clear();
    hide();
}

QString NoticeBar::sentence() const {
    return isHidden() ? QString() : label_->text();
}

}  // namespace rm::app
