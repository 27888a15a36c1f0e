#include "app/stages/study_frame.h"

#include <QHBoxLayout>
#include <QLabel>
#include <QToolButton>
#include <QVBoxLayout>

#include "app/look/text.h"
#include "app/look/theme.h"

namespace rm::app {

StudyFrame::StudyFrame(QWidget* parent) : Themed(parent) {
    setObjectName("panel");
    layout_ = new QVBoxLayout(this);
    layout_->setContentsMargins(10, 6, 8, 4);
    layout_->setSpacing(2);
    auto* top = new QHBoxLayout;
    title_ = new QLabel;
    title_->setFont(textFont(kTitlePt, true));
    // A long name gives way; it must not push the plan aside.
    title_->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Preferred);
    again_ = new QToolButton;
    again_->setText(tr("Work it out again"));
    again_->setToolTip(tr("The design has changed since this study"));
    again_->hide();
    auto* close = new QToolButton;
    close->setText(tr("Back to the yard"));
    close->setObjectName("closeStudy");
    top->addWidget(title_, 1);
    top->addWidget(again_);
    top->addWidget(close);
    layout_->addLayout(top);
    connect(close, &QToolButton::clicked, this, &StudyFrame::closed);
    connect(again_, &QToolButton::clicked, this, &StudyFrame::againRequested);
}

void StudyFrame::setTitle(const QString& title) {
    title_->setText(title);
    title_->setToolTip(title);
}

void StudyFrame::setStale(bool stale) {
    stale_ = stale;
    again_->setVisible(stale);
}

void StudyFrame::setLine(const QString& reading, const QString& old, const QString& plain) {
    if (line_ == nullptr) {
        line_ = new QLabel;
        line_->setProperty("soft", true);
        line_->setFont(textFont(kSmallPt));
        line_->setWordWrap(true);
        layout_->insertWidget(1, line_);
    }
    line_->setText(!reading.isEmpty() ? reading : stale_ ? old : plain);
}

QString StudyFrame::line() const {
    return line_ != nullptr ? line_->text() : QString();
}

void StudyFrame::addContent(QWidget* content, int stretch) {
    layout_->addWidget(content, stretch);
}

}  // namespace rm::app
