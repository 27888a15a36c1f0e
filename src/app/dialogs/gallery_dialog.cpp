#include "app/dialogs/gallery_dialog.h"

#include <QCheckBox>
#include <QCloseEvent>
#include <QComboBox>
#include <QHBoxLayout>
#include <QLabel>
#include <QLineEdit>
#include <QListWidget>
#include <QProgressBar>
#include <QPushButton>
#include <QTimer>
#include <QVBoxLayout>
#include <algorithm>

#include "app/look/lengths.h"
#include "app/look/text.h"
#include "app/look/theme.h"
#include "app/look/typed_number.h"
#include "app/stages/shape/design_picture.h"
#include "core/edit/designs.h"
#include "core/model/soils.h"
#include "core/stopped.h"

namespace rm::app {

namespace {

constexpr QSize kPicture(168, 104);
constexpr int kKindRole = Qt::UserRole;
constexpr double kLowestM = 1.0;
constexpr double kHighestM = 200.0;
constexpr int kAllBands = -1;

QString megahertz(double hz) {
    return QString("%1 MHz").arg(written(hz / 1e6, 'g', 3));
}

}  // namespace

GalleryDialog::GalleryDialog(const Choices& choices, QWidget* parent) : QDialog(parent), choices_(choices) {
    setWindowTitle(tr("Start from something good"));
    setObjectName("gallery");
    resize(1060, 660);
    auto* outer = new QHBoxLayout(this);
    auto* column = new QVBoxLayout;
    outer->addLayout(column, 1);

    auto* what = new QHBoxLayout;
    auto* where = new QHBoxLayout;
    const auto labelled = [](QHBoxLayout* row, const QString& name, auto* field, const QString& tip) {
        auto* label = new QLabel(name);
        label->setBuddy(field);
        field->setToolTip(tip);
        field->setAccessibleName(name);
        row->addWidget(label);
        row->addWidget(field);
    };
    group_ = new QComboBox;
    group_->addItem(tr("All kinds"));
    for (const auto& kind : starters::kinds())
        if (group_->findText(text(kind.group)) < 0) group_->addItem(text(kind.group));
    labelled(what, tr("Show"), group_, tr("Which kinds of antenna are shown"));
    offerBands();
    labelled(what, tr("Band"), band_,
             tr("The band that it is made resonant on; the project gets it with the design"));
    labelled(what, tr("and"), second_, tr("A further band, for kinds that serve several"));
    what->addStretch(1);
    column->addLayout(what);
    ground_ = new QComboBox;
    for (const auto& soil : model::soils()) ground_->addItem(text(soil.name), text(soil.id));
    ground_->addItem(tr("Perfect ground"), "perfect");
    ground_->addItem(tr("Free space"), "free");
    const QString ground = choices_.site.ground == model::GroundKind::FreeSpace ? "free"
                           : choices_.site.ground == model::GroundKind::Perfect ? "perfect"
                                                                                : text(choices_.site.soil);
    ground_->setCurrentIndex(std::max(0, ground_->findData(ground)));
    labelled(where, tr("over"), ground_, tr("The ground that it is worked out over"));
    height_ = new QLineEdit(inFeet() ? "33 ft" : "10 m");
    height_->setFixedWidth(70);
    height_->setObjectName("height");
    labelled(where, tr("supports reach"), height_, tr("How high the mast, tree or roof is that holds it"));
    hung_ = new QCheckBox(tr("hang it from what stands there"));
    hung_->setObjectName("hung");
    hung_->setToolTip(
        tr("A straight wire hangs between two supports of the site, where any two hold its length"));
    const auto holds = [](const model::Support& s) { return s.kind != model::SupportKind::Peg; };
    hung_->setVisible(std::count_if(choices_.site.supports.begin(), choices_.site.supports.end(), holds) > 1);
    where->addWidget(hung_);
    diameter_ = new QLineEdit(shownTyped(choices_.wire.diameter));
    diameter_->setFixedWidth(70);
    diameter_->setObjectName("wire");
    labelled(where, tr("wire"), diameter_, tr("Diameter of what is made of wire"));
    where->addStretch(1);
    column->addLayout(where);

    list_ = new QListWidget;
    list_->setObjectName("kinds");
    list_->setAccessibleName(tr("Kinds of antenna"));
    list_->setViewMode(QListView::IconMode);
    list_->setIconSize(kPicture);
    list_->setGridSize(QSize(kPicture.width() + 26, kPicture.height() + 40));
    list_->setResizeMode(QListView::Adjust);
    list_->setMovement(QListView::Static);
    list_->setWordWrap(true);
    list_->setSpacing(4);
    column->addWidget(list_, 1);

    auto* bottom = new QHBoxLayout;
    good_ = new QLabel;
    good_->setObjectName("good");
    good_->setWordWrap(true);
    good_->setTextFormat(Qt::PlainText);
    good_->setMinimumHeight(34);
    bottom->addWidget(good_, 1);
    busy_ = new QProgressBar;
    busy_->setRange(0, 0);  // how long it takes is not known
    busy_->setFixedWidth(110);
    busy_->hide();
    bottom->addWidget(busy_);
    take_ = new QPushButton(tr("Put it on the bench"));
    take_->setObjectName("take");
    take_->setDefault(true);
    auto* close = new QPushButton(tr("Close"));
    bottom->addWidget(take_);
    bottom->addWidget(close);
    column->addLayout(bottom);

    connect(close, &QPushButton::clicked, this, &QDialog::reject);
    connect(take_, &QPushButton::clicked, this, &GalleryDialog::make);
    connect(list_, &QListWidget::itemActivated, this, &GalleryDialog::make);
    connect(list_, &QListWidget::currentItemChanged, this, &GalleryDialog::describe);
    for (auto* box : {group_, band_, second_, ground_})
        connect(box, &QComboBox::currentIndexChanged, this, &GalleryDialog::fill);
    for (auto* field : {height_, diameter_})
        connect(field, &QLineEdit::editingFinished, this, &GalleryDialog::fill);
    connect(hung_, &QCheckBox::toggled, this, &GalleryDialog::fill);
    connect(&task_, &Task::failed, this, [this](const QString& sentence) {
        setWorking(false);
        say(sentence, true);
    });
    fill();
}

void GalleryDialog::offer(const QString& name, const QString& tip, const QString& id,
                          const std::function<void()>& act) {
    if (beside_ == nullptr) {
        beside_ = new QWidget;
        auto* column = new QVBoxLayout(beside_);
        column->setContentsMargins(0, 0, 8, 0);
        auto* title = new QLabel(tr("Or"));
        title->setFont(textFont(kTitlePt, true));
        column->addWidget(title);
        column->addStretch(1);
        beside_->setFixedWidth(190);
        static_cast<QHBoxLayout*>(layout())->insertWidget(0, beside_);
    }
    auto* button = new QPushButton(name);
    button->setToolTip(tip);
    button->setObjectName(id);
    button->setAutoDefault(false);
    auto* column = static_cast<QVBoxLayout*>(beside_->layout());
    column->insertWidget(column->count() - 1, button);
    connect(button, &QPushButton::clicked, this, [this, act] {
        if (working_) return;
        accept();
        act();
    });
}

/// The bands of the project in front, and below a line those that it can get with the design.
void GalleryDialog::offerBands() {
    band_ = new QComboBox;
    band_->setObjectName("band");
    second_ = new QComboBox;
    second_->setObjectName("second");
    second_->addItem(tr("no other band"));
    const auto add = [this](const model::Band& band) {
        const int place = static_cast<int>(offered_.size());
        offered_.push_back(band);
        band_->addItem(text(band.name), place);
        second_->addItem(text(band.name), place);
    };
    for (const auto& band : choices_.bands) add(band);
    second_->addItem(tr("all bands of the project"), kAllBands);
    for (QComboBox* box : {band_, second_}) box->insertSeparator(box->count());
    const auto isOwn = [this](const model::Band& band) {
        return std::any_of(choices_.bands.begin(), choices_.bands.end(),
                           [&](const model::Band& own) { return own.name == band.name; });
    };
    for (const auto& band : model::allocatedBands())
        if (!isOwn(band)) add(band);
    band_->setCurrentIndex(std::max(0, band_->findText(text(choices_.workingBand))));
    for (QComboBox* box : {band_, second_}) box->setMaxVisibleItems(box->count());
}

const model::Band& GalleryDialog::band() const {
    return offered_[static_cast<std::size_t>(band_->currentData().toInt())];
}

/// In metres, for the band that is chosen. Throws rm::Error naming the field.
double GalleryDialog::typed(const QLineEdit* field, quantity::Kind kind) const {
    try {
        return quantity::evaluate(keptTyped(field->text(), kind), kind, {{}, wavelengthM(band().centreHz())});
    } catch (const Error& e) {
        throw Error(field->accessibleName().toStdString() + ": " + e.what());
    }
}

starters::Order GalleryDialog::order() const {
    starters::Order order;
    order.bands.push_back(band());
    const auto addOther = [&](const model::Band& other) {
        if (other.name != band().name) order.bands.push_back(other);
    };
    const QVariant second = second_->currentData();
    if (second == kAllBands)
        for (const auto& own : choices_.bands) addOther(own);
    else if (second.isValid())
        addOther(offered_[static_cast<std::size_t>(second.toInt())]);
    order.site = choices_.site;
    order.site.quick = false;
    const QString ground = ground_->currentData().toString();
    order.site.ground = ground == "free"      ? model::GroundKind::FreeSpace
                        : ground == "perfect" ? model::GroundKind::Perfect
                                              : model::GroundKind::Real;
    if (order.site.ground == model::GroundKind::Real) order.site.soil = ground.toStdString();
    order.wire = choices_.wire;
    order.wire.diameter = keptTyped(diameter_->text(), quantity::Kind::Diameter);
    if (!(typed(diameter_, quantity::Kind::Diameter) > 0.0))
        throw Error(rm::say("The wire has no diameter: type one, as 2 mm."));
    order.heightM = typed(height_, quantity::Kind::Length);
    order.onSupports = hung_->isChecked();
    if (!(order.heightM >= kLowestM && order.heightM <= kHighestM))
        throw Error(rm::say("Supports reach from 1 m to 200 m."));
    return order;
}

void GalleryDialog::fill() {
    const QString kept =
        list_->currentItem() != nullptr ? list_->currentItem()->data(kKindRole).toString() : QString();
    list_->clear();
    painted_ = 0;
    const double hz = band().centreHz();
    QPixmap empty(kPicture);
    empty.fill(Theme::current().yard);
    for (const auto& kind : starters::kinds()) {
        if (group_->currentIndex() > 0 && text(kind.group) != group_->currentText()) continue;
        auto* item = new QListWidgetItem(QIcon(empty), text(kind.name));
        item->setData(kKindRole, text(kind.id));
        const bool suits = hz >= kind.lowestHz && hz <= kind.highestHz;
        item->setToolTip(
            suits ? text(kind.goodAt)
                  : tr("Built from %1 to %2.").arg(megahertz(kind.lowestHz), megahertz(kind.highestHz)));
        if (!suits) item->setFlags(item->flags() & ~Qt::ItemIsEnabled);
        list_->addItem(item);
        if (text(kind.id) == kept) list_->setCurrentItem(item);
    }
    if (list_->currentItem() == nullptr)
        for (int i = 0; i < list_->count() && list_->currentItem() == nullptr; ++i)
            if (list_->item(i)->flags() & Qt::ItemIsEnabled) list_->setCurrentRow(i);
    describe();
    QTimer::singleShot(0, this, &GalleryDialog::paintNext);
}

/// One picture after the other, so that the dialog is there at once.
void GalleryDialog::paintNext() {
    if (painted_ >= list_->count()) return;
    QListWidgetItem* item = list_->item(painted_++);
    try {
        auto sketched = starters::sketch(item->data(kKindRole).toString().toStdString(), order());
        const auto expansion = std::make_shared<const model::Expansion>(model::expand(sketched));
        // Drawn at twice the size: sharp where the screen is.
        QImage image = designPicture(expansion, kPicture * 2, Theme::current());
        if (!image.isNull()) {
            QPixmap picture = QPixmap::fromImage(image);
            picture.setDevicePixelRatio(2.0);
            QIcon icon;
            icon.addPixmap(picture, QIcon::Normal);
            icon.addPixmap(picture, QIcon::Selected);
            item->setIcon(icon);
        }
    } catch (const Error&) {
        // What was typed is no height: the picture waits, and describe() says why.
    }
    QTimer::singleShot(0, this, &GalleryDialog::paintNext);
}

void GalleryDialog::describe() {
    if (working_) return;
    const auto* item = list_->currentItem();
    const auto* kind =
        item != nullptr ? starters::findKind(item->data(kKindRole).toString().toStdString()) : nullptr;
    take_->setEnabled(kind != nullptr);
    second_->setEnabled(kind != nullptr && kind->bands > 1);
    try {
        order();
        if (kind != nullptr) say(text(kind->name) + ": " + text(kind->goodAt));
    } catch (const Error& e) {
        say(text(e.what()), true);
    }
}

void GalleryDialog::say(const QString& sentence, bool bad) {
    good_->setText(sentence);
    good_->setProperty("wrong", bad);
    good_->style()->unpolish(good_);
    good_->style()->polish(good_);
}

void GalleryDialog::setWorking(bool working) {
    working_ = working;
    busy_->setVisible(working);
    take_->setEnabled(!working);
}

QString GalleryDialog::sentence() const {
    return good_->text();
}

void GalleryDialog::choose(const QString& id) {
    group_->setCurrentIndex(0);
    for (int i = 0; i < list_->count(); ++i)
        if (list_->item(i)->data(kKindRole).toString() == id) list_->setCurrentRow(i);
}

/// Works it out beside the window and closes with it.
void GalleryDialog::make() {
    const auto* item = list_->currentItem();
    if (working_ || item == nullptr) return;
    const std::string kind = item->data(kKindRole).toString().toStdString();
    starters::Order asked;
    try {
        asked = order();
    } catch (const Error& e) {
        return say(text(e.what()), true);
    }
    setWorking(true);
    say(tr("Working it out for ") + band_->currentText() + tr(" over this ground…"));
    task_.start([this, kind, asked](std::stop_token stop, const Task::Progress&) -> Task::After {
        const model::Design design = starters::make(kind, asked, stop);
        return [this, design, bands = asked.bands] {
            setWorking(false);
            made_ = design;
            // Of a kind that serves one band, the other one asked for is none of its.
            for (const auto& band : bands)
                if (edit::isFor(design, band.name)) bands_.push_back(band);
            accept();
        };
    });
}

void GalleryDialog::closeEvent(QCloseEvent* event) {
    task_.drop();
    setWorking(false);
    QDialog::closeEvent(event);
}

/// Escape takes back what is being worked out before it closes.
void GalleryDialog::reject() {
    if (working_) {
        task_.drop();
        setWorking(false);
        describe();
        return;
    }
    QDialog::reject();
}

}  // namespace rm::app
