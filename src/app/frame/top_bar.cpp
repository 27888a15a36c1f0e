#include "app/frame/top_bar.h"

#include <QApplication>
#include <QComboBox>
#include <QHBoxLayout>
#include <QLabel>
#include <QMenuBar>
#include <QProgressBar>
#include <QResizeEvent>
#include <QSignalBlocker>
#include <QToolButton>
#include <algorithm>

#include "app/look/text.h"
#include "app/look/theme.h"

namespace rm::app {

namespace {

/// Narrower windows do without the title, which the window itself carries.
constexpr int kTitleFrom = 1440;
/// Between the menus and the modes, pixels.
constexpr int kBesideMenus = 12;
constexpr int kStatusWidth = 100;
/// Of the name of the design, as many as there is room for; enough of it.
constexpr int kEnoughLetters = 14;
constexpr int kDesignLetters[] = {26, 20, 14, 10, 6};

}  // namespace

TopBar::TopBar(Session& session, QWidget* parent) : QWidget(parent), session_(session) {
    auto* row = new QHBoxLayout(this);
    row->setContentsMargins(0, 3, 12, 0);
    row->setSpacing(8);
    modes_ = new QWidget;
    auto* modeRow = new QHBoxLayout(modes_);
    modeRow->setContentsMargins(0, 0, 6, 0);
    modeRow->setSpacing(4);
    title_ = new QLabel;
    title_->setFont(textFont(kTitlePt, true));
    title_->setTextFormat(Qt::PlainText);
    designs_ = new QComboBox;
    designs_->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
    designs_->setMinimumWidth(96);
    designs_->setToolTip(tr("The design on the bench"));
    designs_->setAccessibleName(tr("Design"));
    designs_->setObjectName("designs");
    progress_ = new QProgressBar;
    progress_->setFixedWidth(48);
    progress_->setTextVisible(false);
    stop_ = new QToolButton;
    stop_->setText(tr("Stop"));
    stop_->setObjectName("stopWork");
    stop_->setToolTip(tr("Stop what is being computed (Escape)"));
    running_ = new QWidget;
    auto* runningRow = new QHBoxLayout(running_);
    runningRow->setContentsMargins(0, 0, 0, 0);
    runningRow->setSpacing(row->spacing());
    runningRow->addWidget(progress_);
    runningRow->addWidget(stop_);
    running_->hide();
    status_ = new QLabel;
    status_->setProperty("soft", true);
    status_->setObjectName("status");
    status_->setFont(textFont(kSmallPt));
    status_->setMinimumWidth(kStatusWidth);
    status_->setAlignment(Qt::AlignRight | Qt::AlignVCenter);
    for (QWidget* w : std::initializer_list<QWidget*>{running_, modes_, title_, designs_, status_})
        row->addWidget(w);
    connect(stop_, &QToolButton::clicked, this, &TopBar::stopRequested);
    connect(designs_, &QComboBox::activated, this, [this](int index) {
        const auto& designs = session_.project().designs;
        if (index >= 0 && index < static_cast<int>(designs.size()))
            session_.chooseDesign(designs[static_cast<std::size_t>(index)].id);
    });
    connect(&session_, &Session::projectChanged, this, &TopBar::refresh);
    connect(&session_, &Session::resultsChanged, this, &TopBar::showStatus);
    connect(&session_, &Session::staleChanged, this, &TopBar::showStatus);
    connect(&session_, &Session::doing, this, [this](const QString& what) {
        doing_ = what;
        showStatus();
    });
    connect(&session_, &Session::progress, this, [this](double share) {
        progress_->setValue(static_cast<int>(100.0 * share));
        const bool works = share < 1.0;
        if (works == !running_->isHidden()) return;
        running_->setVisible(works);
        makeRoom();
    });
    refresh();
}

void TopBar::addMode(const QString& stage, const StageAction& action) {
    auto* mode = new QToolButton;
    mode->setText(action.mode);
    mode->setToolTip(action.tip);
    mode->setObjectName("mode" + action.mode);
    mode->setCheckable(true);
    mode->setProperty("quiet", true);
    mode->setFont(textFont(kTitlePt, true));
    modes_->layout()->addWidget(mode);
    buttons_.emplace_back(stage, mode);
    connect(mode, &QToolButton::clicked, this, action.act);
}

void TopBar::setFront(const QString& stage) {
    // What is no mode of its own is looked at in the first one.
    const bool own =
        std::any_of(buttons_.begin(), buttons_.end(), [&](const auto& b) { return b.first == stage; });
    for (std::size_t i = 0; i < buttons_.size(); ++i)
        buttons_[i].second->setChecked(own ? buttons_[i].first == stage : i == 0);
}

void TopBar::setRoom(int width) {
    width_ = width;
    makeRoom();
}

/// The title gives way first, then the name of the design, then what is said beside it: no menu does.
void TopBar::makeRoom() {
    title_->setVisible(width_ >= kTitleFrom);
    const auto* bar = qobject_cast<const QMenuBar*>(parentWidget());
    if (bar == nullptr) return;
    layout()->activate();
    const int menus = bar->sizeHint().width() - sizeHint().width();
    const bool works = !running_->isHidden();
    const int stopWidth = running_->sizeHint().width() + layout()->spacing();
    const auto fits = [&](int more) {
        layout()->activate();
        return menus + sizeHint().width() + more + kBesideMenus <= width_;
    };
    // No mode moves away from under the pointer when something begins: where there is room, what stops it
    // comes and goes at the left end, and has its room there all the time.
    place(0);
    status_->setMinimumWidth(kStatusWidth);
    status_->show();
    for (const int letters : kDesignLetters) {
        if (letters < kEnoughLetters) break;
        designs_->setMinimumContentsLength(letters);
        if (fits(works ? 0 : stopWidth)) return;
    }
    // Where there is not, it takes the place of the status, as wide as it or, with less room, nearly so.
    place(1);
    const auto somehow = [&] {
        return std::any_of(std::begin(kDesignLetters), std::end(kDesignLetters), [&](int letters) {
            designs_->setMinimumContentsLength(letters);
            return fits(0);
        });
    };
    for (const int wide : {running_->sizeHint().width(), kStatusWidth}) {
        status_->setMinimumWidth(wide);
        status_->setVisible(!works);
        if (somehow()) return;
    }
    status_->hide();
    somehow();
}

/// Puts what stops the work at the left end (0) or beside the status (1).
void TopBar::place(int end) {
    auto* row = static_cast<QHBoxLayout*>(layout());
    const int wanted = end == 0 ? 0 : row->count() - 2;
    if (row->indexOf(running_) == wanted) return;
    row->removeWidget(running_);
    row->insertWidget(end == 0 ? 0 : row->count() - 1, running_);
}

/// The bar of menus asks nobody how wide they have become since it was laid out.
bool TopBar::event(QEvent* event) {
    const bool known = QWidget::event(event);
    auto* bar = qobject_cast<QMenuBar*>(parentWidget());
    if (event->type() != QEvent::LayoutRequest || bar == nullptr || width() == sizeHint().width())
        return known;
    QResizeEvent asItIs(bar->size(), bar->size());
    QApplication::sendEvent(bar, &asItIs);
    return known;
}

void TopBar::refresh() {
    const auto& p = session_.project();
    const QSignalBlocker quiet(designs_);
    QStringList names;
    for (const auto& design : p.designs) names << QString::fromStdString(design.name);
    QStringList shown;
    for (int i = 0; i < designs_->count(); ++i) shown << designs_->itemText(i);
    if (names != shown) {
        designs_->clear();
        designs_->addItems(names);
    }
    designs_->setCurrentIndex(static_cast<int>(p.activeDesign));
    const QString title =
        title_->fontMetrics().elidedText(QString::fromStdString(p.title), Qt::ElideRight, 150);
    if (title != title_->text()) {
        title_->setText(title);
        makeRoom();
    }
    showStatus();
}

void TopBar::showStatus() {
    const ResultsPtr results = session_.results();
    if (!doing_.isEmpty())
        status_->setText(doing_);
    else if (session_.live())
        status_->setText(tr("%1 ms   live").arg(written(results->analysis->seconds * 1e3, 'f', 1)));
    else if (session_.settled() || model::hasError(session_.expansion()->findings))
        status_->setText(tr("no figures"));
    else if (session_.stale())
        status_->setText(tr("working…"));
}

void TopBar::setLatency(double milliseconds) {
    const ResultsPtr results = session_.results();
    QString tip = tr("%1 ms from the last edit to its picture").arg(written(milliseconds, 'f', 1));
    if (results && results->analysis)
        tip += tr("; the field was solved with %1 unknowns").arg(results->analysis->figures.unknowns);
    status_->setToolTip(tip);
}

QString TopBar::status() const {
    return status_->text();
}

}  // namespace rm::app
