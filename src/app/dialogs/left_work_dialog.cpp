#include "app/dialogs/left_work_dialog.h"

#include <QHBoxLayout>
#include <QLabel>
#include <QScrollArea>
#include <QToolButton>
#include <QVBoxLayout>

#include "app/dialogs/dialog_buttons.h"
#include "app/look/text.h"
#include "app/look/theme.h"

namespace rm::app {

namespace {

QLabel* plain(const QString& text, bool bold) {
    auto* label = new QLabel(text);
    // Titles and names are shown as they are.
    label->setTextFormat(Qt::PlainText);
    label->setFont(textFont(bold ? kTextPt : kSmallPt, bold));
    label->setWordWrap(true);
    label->setProperty("soft", !bold);
    return label;
}

}  // namespace

LeftWorkDialog::LeftWorkDialog(QWidget* parent) : QDialog(parent) {
    setWindowTitle(tr("Unsaved work"));
    resize(560, 320);
    auto* all = new QVBoxLayout(this);
    all->addWidget(
        plain(tr("These windows ended before their work was saved. What is not answered is offered again."),
              false));
    auto* scroll = new QScrollArea;
    scroll->setWidgetResizable(true);
    scroll->setFrameShape(QFrame::NoFrame);
    auto* content = new QWidget;
    layout_ = new QVBoxLayout(content);
    layout_->setContentsMargins(0, 6, 0, 6);
    none_ = plain(tr("There is none."), false);
    layout_->addWidget(none_);
    layout_->addStretch(1);
    scroll->setWidget(content);
    all->addWidget(scroll, 1);
    all->addWidget(closeButton(*this));
}

void LeftWorkDialog::setWork(const std::vector<io::LeftWork>& works) {
    // A button of it may be what asked for this.
    if (list_ != nullptr) {
        list_->hide();
        list_->deleteLater();
    }
    rows_.clear();
    list_ = new QWidget;
    auto* rows = new QVBoxLayout(list_);
    rows->setContentsMargins(0, 0, 0, 0);
    rows->setSpacing(10);
    layout_->insertWidget(0, list_);
    for (const auto& work : works) addRow(work);
    none_->setVisible(works.empty());
}

void LeftWorkDialog::addRow(const io::LeftWork& work) {
    auto* row = new QWidget;
    auto* layout = new QHBoxLayout(row);
    layout->setContentsMargins(0, 0, 0, 0);
    auto* words = new QVBoxLayout;
    words->setSpacing(1);
    Row made{
        plain(work.title.empty() ? tr("Without a title") : text(work.title), true),
        plain(tr("%1, %2; last: %3\n%4")
                  .arg(text(work.when).trimmed(), trn("one state", "%n states", static_cast<int>(work.edits)),
                       work.lastDone.empty() ? tr("unknown") : text(work.lastDone),
                       work.path.empty() ? tr("never saved to a file") : text(work.path)),
              false),
        new QToolButton, new QToolButton};
    made.open->setText(tr("Open it"));
    made.open->setToolTip(tr("Brings it to the bench as it was last, unsaved"));
    made.discard->setText(tr("Discard it"));
    made.discard->setToolTip(tr("Takes it away for good"));
    words->addWidget(made.title);
    words->addWidget(made.about);
    layout->addLayout(words, 1);
    layout->addWidget(made.open);
    layout->addWidget(made.discard);
    connect(made.open, &QToolButton::clicked, this, [this, work] { Q_EMIT openRequested(work); });
    connect(made.discard, &QToolButton::clicked, this, [this, work] { Q_EMIT discardRequested(work); });
    list_->layout()->addWidget(row);
    rows_.push_back(made);
}

QString LeftWorkDialog::textOf(std::size_t i) const {
    return rows_.at(i).title->text() + "\n" + rows_.at(i).about->text();
}

}  // namespace rm::app
