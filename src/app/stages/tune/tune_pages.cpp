#include "app/stages/tune/tune_pages.h"

#include <QHBoxLayout>
#include <QStackedWidget>
#include <QToolButton>
#include <QVBoxLayout>

#include "app/look/theme.h"

namespace rm::app {

TunePages::TunePages(QWidget* parent) : QFrame(parent) {
    setObjectName("panel");
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(10, 6, 8, 6);
    column->setSpacing(4);
    row_ = new QHBoxLayout;
    row_->setSpacing(2);
    row_->addStretch(1);
    column->addLayout(row_);
    pages_ = new QStackedWidget;
    column->addWidget(pages_, 1);
}

void TunePages::addPage(const QString& name, const QString& tip, QWidget* page) {
    auto* tab = new QToolButton;
    tab->setText(name);
    tab->setObjectName("tab " + name);
    tab->setToolTip(tip);
    tab->setCheckable(true);
    tab->setProperty("quiet", true);
    tab->setFont(textFont(kTextPt, true));
    row_->insertWidget(static_cast<int>(tabs_.size()), tab);
    tabs_.push_back(tab);
    pages_->addWidget(page);
    connect(tab, &QToolButton::clicked, this, [this, page] { showPage(page); });
    tabs_.front()->setChecked(true);
}

void TunePages::showPage(QWidget* page) {
    pages_->setCurrentWidget(page);
    for (std::size_t i = 0; i < tabs_.size(); ++i)
        tabs_[i]->setChecked(pages_->widget(static_cast<int>(i)) == page);
    Q_EMIT pageShown();
}

QWidget* TunePages::page() const {
    return pages_->currentWidget();
}

}  // namespace rm::app
