#include "app/dialogs/action_finder.h"

#include <QAction>
#include <QKeyEvent>
#include <QLineEdit>
#include <QListWidget>
#include <QMenu>
#include <QVBoxLayout>
#include <algorithm>

#include "app/look/text.h"

namespace rm::app {

namespace {

/// "Study, Radials: how many and how long".
QString pathOf(const QAction* action) {
    QString path = QString(action->text()).remove('&');
    for (const auto* object : action->associatedObjects())
        if (const auto* menu = qobject_cast<const QMenu*>(object);
            menu != nullptr && !menu->title().isEmpty())
            return QString(menu->title()).remove('&') + ":  " + path;
    return path;
}

}  // namespace

ActionFinder::ActionFinder(const std::vector<QAction*>& actions, QWidget* parent) : QDialog(parent) {
    setWindowTitle(tr("Find an action"));
    setObjectName("finder");
    resize(460, 420);
    auto* column = new QVBoxLayout(this);
    field_ = new QLineEdit;
    field_->setPlaceholderText(tr("A word of what you want to do"));
    field_->setAccessibleName(tr("Action"));
    list_ = new QListWidget;
    list_->setAccessibleName(tr("Actions found"));
    column->addWidget(field_);
    column->addWidget(list_, 1);
    for (auto* action : actions)
        if (!action->text().isEmpty() && action->menu() == nullptr && !action->isSeparator())
            entries_.push_back({action, pathOf(action)});
    std::stable_sort(entries_.begin(), entries_.end(),
                     [](const Entry& a, const Entry& b) { return a.name.localeAwareCompare(b.name) < 0; });
    connect(field_, &QLineEdit::textChanged, this, &ActionFinder::fill);
    connect(field_, &QLineEdit::returnPressed, this, &ActionFinder::take);
    connect(list_, &QListWidget::itemActivated, this, &ActionFinder::take);
    field_->installEventFilter(this);
    fill();
    field_->setFocus();
}

void ActionFinder::fill() {
    list_->clear();
    const QStringList words = field_->text().split(' ', Qt::SkipEmptyParts);
    for (std::size_t i = 0; i < entries_.size(); ++i) {
        const auto& entry = entries_[i];
        const bool all = std::all_of(words.begin(), words.end(), [&](const QString& word) {
            return entry.name.contains(word, Qt::CaseInsensitive) ||
                   entry.action->toolTip().contains(word, Qt::CaseInsensitive);
        });
        if (!all) continue;
        const QString keys = entry.action->shortcut().toString(QKeySequence::NativeText);
        auto* item = new QListWidgetItem(keys.isEmpty() ? entry.name : entry.name + "      " + keys);
        item->setData(Qt::UserRole, static_cast<int>(i));
        item->setToolTip(entry.action->toolTip().toHtmlEscaped());
        if (!entry.action->isEnabled()) item->setFlags(item->flags() & ~Qt::ItemIsEnabled);
        list_->addItem(item);
    }
    list_->setCurrentRow(0);
}

bool ActionFinder::eventFilter(QObject* watched, QEvent* event) {
    if (watched == field_ && event->type() == QEvent::KeyPress) {
        const int key = static_cast<QKeyEvent*>(event)->key();
        if (key == Qt::Key_Down || key == Qt::Key_Up) {
            const int row = list_->currentRow() + (key == Qt::Key_Down ? 1 : -1);
            if (row >= 0 && row < list_->count()) list_->setCurrentRow(row);
            return true;
        }
    }
    return QDialog::eventFilter(watched, event);
}

void ActionFinder::take() {
    const auto* item = list_->currentItem();
    if (item == nullptr || !(item->flags() & Qt::ItemIsEnabled)) return;
    chosen_ = entries_[static_cast<std::size_t>(item->data(Qt::UserRole).toInt())].action;
    accept();
}

}  // namespace rm::app
