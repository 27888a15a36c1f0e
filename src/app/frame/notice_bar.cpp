#include "app/frame/notice_bar.h"

#include <QHBoxLayout>
#include <QLabel>
#include <QToolButton>
#include <algorithm>

#include "app/look/text.h"

namespace rm::app {

Notice noticeOf(const std::vector<model::Finding>& findings, Session& session) {
    const auto worst = std::max_element(findings.begin(), findings.end(),
                                        [](const auto& a, const auto& b) { return a.severity < b.severity; });
    Notice notice;
    notice.about = Notice::About::Findings;
    notice.tone = worst->severity == model::Severity::Error ? Notice::Tone::Bad : Notice::Tone::Caution;
    notice.sentence = QString::fromStdString(worst->sentence + " " + worst->mend);
    if (findings.size() > 1) notice.sentence += tr(" (and %1 more)").arg(findings.size() - 1);
    const Selection about = edit::itemNamed(session.design(), worst->part);
    if (about.type != Selection::Type::None) {
        notice.firstAnswer = tr("Show me");
        notice.first = [&session, about] { session.select(about); };
    }
    return notice;
}

NoticeBar::NoticeBar(QWidget* parent) : Themed(parent) {
    auto* row = new QHBoxLayout(this);
    row->setContentsMargins(10, 4, 6, 4);
    mark_ = new QLabel;
    mark_->setFont(textFont(kTextPt, true));
    label_ = new QLabel;
    label_->setObjectName("notice");
    label_->setWordWrap(true);
    // Names of parts and files are in it: what they say is shown and not interpreted.
    label_->setTextFormat(Qt::PlainText);
    label_->setTextInteractionFlags(Qt::TextSelectableByMouse);
    row->addWidget(mark_);
    row->addWidget(label_, 1);
    first_ = new QToolButton;
    second_ = new QToolButton;
    first_->setObjectName("firstAnswer");
    second_->setObjectName("secondAnswer");
    auto* close = new QToolButton;
    close->setText("✕");
    close->setToolTip(tr("Close this message"));
    close->setAccessibleName(tr("Close this message"));
    close->setProperty("quiet", true);
    for (QToolButton* button : {first_, second_, close}) row->addWidget(button);
    const auto answer = [this](std::function<void()> Notice::*which) {
        const auto act = shown_.*which;
        clear();
        if (act) act();
    };
    connect(first_, &QToolButton::clicked, this, [answer] { answer(&Notice::first); });
    connect(second_, &QToolButton::clicked, this, [answer] { answer(&Notice::second); });
    connect(close, &QToolButton::clicked, this, &NoticeBar::clear);
    setAccessibleName(tr("Message"));
    hide();
}

void NoticeBar::themeChanged() {
    paint();
}

void NoticeBar::paint() {
    const Notice::Tone tone = shown_.tone;
    const QColor edge = tone == Notice::Tone::Good      ? theme_.reed
                        : tone == Notice::Tone::Caution ? theme_.sun
                                                        : theme_.clay;
    mark_->setText(tone == Notice::Tone::Good ? "✓" : tone == Notice::Tone::Caution ? "!" : "✗");
    mark_->setStyleSheet(QString("color: %1").arg(edge.name()));
    setStyleSheet(QString("rm--app--NoticeBar { background: %1; border: 1px solid %2; border-radius: 6px; }")
                      .arg(theme_.panel.name(), edge.name()));
}

void NoticeBar::show(const Notice& notice) {
    shown_ = notice;
    label_->setText(notice.sentence);
    first_->setText(notice.firstAnswer);
    first_->setVisible(!notice.firstAnswer.isEmpty());
    second_->setText(notice.secondAnswer);
    second_->setVisible(!notice.secondAnswer.isEmpty());
    paint();
    setVisible(true);
}

void NoticeBar::clear() {
    shown_ = {};
    label_->clear();
    hide();
}

void NoticeBar::retire(Notice::About about) {
    if (shows(about)) clear();
}

bool NoticeBar::shows(Notice::About about) const {
    return !isHidden() && shown_.about == about;
}

QString NoticeBar::sentence() const {
    return isHidden() ? QString() : label_->text();
}

}  // namespace rm::app
