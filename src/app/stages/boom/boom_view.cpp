#include "app/stages/boom/boom_view.h"
#include "app/look/lengths.h"
#include "app/look/small_fields.h"
#include "app/look/text.h"
#include "app/look/typed_number.h"

#include <QComboBox>
#include <QHBoxLayout>
#include <QHeaderView>
#include <QLabel>
#include <QMenu>
#include <QToolButton>
#include <algorithm>
#include <cmath>

#include "core/model/movable.h"
#include "core/model/rename.h"
#include "core/quantity/format.h"

namespace rm::app {

namespace {

using namespace rm::model;

constexpr const char* kForms[] = {later("straight"), later("bent"), later("folded"), later("flat loop"),
                                  later("upright loop")};

/// Puts a length where a typed text gets it from: the text itself, or the dimension that it names. False
/// where it is a formula.
bool putLength(Design& design, std::string& typed, double metres) {
    for (auto& dimension : design.dimensions)
        if (dimension.name == typed) return putLength(design, dimension.text, metres);
    if (!quantity::isPlainNumber(typed)) return false;
    typed = quantity::lengthLike(typed, metres);
    return true;
}

}  // namespace

BoomView::BoomView(Session& session, QWidget* parent)
    : StudyFrame(parent), session_(session), document_(session.document()) {
    drawing_ = new BoomDrawing;
    addContent(drawing_, 5);
    figures_ = new QLabel;
    figures_->setFont(textFont(kTextPt, true));
    figures_->setAlignment(Qt::AlignCenter);
    figures_->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Fixed);
    figures_->setAccessibleName(tr("What the antenna does"));
    addContent(figures_, 0);
    auto* tools = new QWidget;
    auto* line = new QHBoxLayout(tools);
    line->setContentsMargins(0, 2, 0, 0);
    const auto button = [&](const QString& label, const QString& tip, auto slot) {
        auto* b = new QToolButton;
        b->setText(label);
        b->setObjectName(label);
        b->setToolTip(tip);
        b->setFont(textFont(kSmallPt));
        line->addWidget(b);
        connect(b, &QToolButton::clicked, this, slot);
    };
    button(tr("Add"), tr("Add an element after the selected one"), &BoomView::addElement);
    button(tr("Remove one"), tr("Remove the selected element"), &BoomView::removeElement);
    button(tr("Let it move"), tr("Make a dimension of the selected cell, to slide it or use it elsewhere"),
           &BoomView::letItMove);
    line->addStretch(1);
    const auto choice = [&](const QStringList& names, const QString& tip, bool ElementRow::*member) {
        auto* combo = new QComboBox;
        combo->addItems(names);
        combo->setToolTip(tip);
        combo->setObjectName(names.front());
        combo->setFont(textFont(kSmallPt));
        line->addWidget(combo);
        connect(combo, &QComboBox::activated, this, [this, member](int index) {
            const RowSizes* sizes = this->sizes();
            editRow(tr("Change how lengths are given"), [&](Design&, ElementRow& r) {
                if (r.*member == (index == 1)) return;
                r.*member = index == 1;
                // Plain numbers are converted, so that the antenna stays as it is.
                for (std::size_t i = 0;
                     sizes != nullptr && i < r.elements.size() && i < sizes->elements.size(); ++i) {
                    auto& typed = member == &ElementRow::half ? r.elements[i].length : r.elements[i].position;
                    const auto& e = sizes->elements[i];
                    const double before = i > 0 ? sizes->elements[i - 1].positionM : 0.0;
                    const double metres = member == &ElementRow::half
                                              ? e.lengthM * (r.half ? 0.5 : 1.0)
                                              : e.positionM - (r.spacings ? before : 0.0);
                    if (quantity::isPlainNumber(typed))
                        typed = quantity::lengthLike(typed, metres);
                    else if (member == &ElementRow::half)
                        typed = r.half ? "(" + typed + ")/2" : "2*(" + typed + ")";
                }
            });
        });
    };
    choice({tr("from start"), tr("spacings")}, tr("How positions are counted"), &ElementRow::spacings);
    choice({tr("whole"), tr("half")}, tr("What a length means"), &ElementRow::half);
    addContent(tools, 0);
    table_ = new QTableWidget(0, kColumns);
    table_->setTabKeyNavigation(false);
    table_->setHorizontalHeaderLabels({tr("Element"), tr("Position"), tr("Length"), tr("Diameter"),
                                       tr("Form"), tr("Second"), tr("Ends"), tr("Fed"), tr("Cut")});
    const char* const tips[] = {
        later("Its name"),
        later("Along the boom: a number with its unit, or a formula"),
        later("Along the conductor, as modelled: a number with its unit, or a formula"),
        later("8 mm; from the centre out, with exposed lengths: 25 mm x 0.6 m, 20 mm; "
              "strip 20 mm; empty: as the part"),
        later(
            "Straight; bent forward at both sides; folded dipole; loop along the boom; loop standing on it"),
        later("Second conductor of a loop: how far from the first; bent: the sweep"),
        later("Diameter of the short sides of a loop; bent: length of the straight middle"),
        later("Tick to put a feed on its middle"),
        later("What to cut: the modelled length, and what the boom asks for")};
    for (int c = 0; c < kColumns; ++c) table_->horizontalHeaderItem(c)->setToolTip(tr(tips[c]));
    table_->verticalHeader()->hide();
    table_->verticalHeader()->setDefaultSectionSize(24);
    table_->horizontalHeader()->setSectionResizeMode(QHeaderView::Interactive);
    table_->horizontalHeader()->setStretchLastSection(true);
    const int widths[] = {62, 62, 60, 60, 78, 52, 54, 34, 54};
    for (int c = 0; c < kColumns; ++c) table_->setColumnWidth(c, widths[c]);
    showWholeHeadings(*table_);
    constexpr int kArrowPx = 36;
    for (const QString& name : trAll(kForms))
        table_->setColumnWidth(Form, std::max(table_->columnWidth(Form),
                                              table_->fontMetrics().horizontalAdvance(name) + kArrowPx));
    table_->setFont(textFont(kSmallPt));
    table_->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    table_->setWordWrap(false);
    table_->horizontalHeader()->setFont(textFont(kTinyPt, true));
    table_->setSelectionMode(QAbstractItemView::SingleSelection);
    table_->setAccessibleName(tr("Elements"));
    table_->setContextMenuPolicy(Qt::CustomContextMenu);
    connect(table_, &QTableWidget::customContextMenuRequested, this, [this](const QPoint& where) {
        QMenu menu(this);
        connect(menu.addAction(tr("Let it move")), &QAction::triggered, this, &BoomView::letItMove);
        connect(menu.addAction(tr("Add element")), &QAction::triggered, this, &BoomView::addElement);
        connect(menu.addAction(tr("Remove element")), &QAction::triggered, this, &BoomView::removeElement);
        menu.exec(table_->viewport()->mapToGlobal(where));
    });
    addContent(table_, 6);
    sentence_ = new QLabel;
    sentence_->setWordWrap(true);
    sentence_->setProperty("wrong", true);
    sentence_->setFont(textFont(kSmallPt));
    sentence_->hide();
    addContent(sentence_, 0);
    connect(table_, &QTableWidget::itemChanged, this, &BoomView::cellEdited);
    connect(table_, &QTableWidget::currentCellChanged, this,
            [this](int current) { drawing_->setSelected(current); });
    connect(drawing_, &BoomDrawing::chosen, this, [this](int element) {
        table_->setCurrentCell(element, std::max(0, table_->currentColumn()));
        drawing_->setSelected(element);
    });
    connect(drawing_, &BoomDrawing::positionDragged, this, [this](int element, double metres) {
        const auto* r = row();
        if (r == nullptr) return;
        const auto* sizes = this->sizes();
        if (r->spacings && sizes != nullptr && element > 0) {
            // The others stay: the gap before it grows by what the gap behind it loses.
            const auto i = static_cast<std::size_t>(element);
            const double spacing = metres - sizes->elements.at(i - 1).positionM;
            const std::optional<double> behind =
                i + 1 < sizes->elements.size() ? std::optional(sizes->elements[i + 1].positionM - metres)
                                               : std::nullopt;
            editRow(
                tr("Move element"),
                [&](Design& d, ElementRow& own) {
                    if (!putLength(d, own.elements.at(i).position, spacing))
                        return say(tr("This position is a formula: change it in the table."));
                    if (behind) putLength(d, own.elements.at(i + 1).position, *behind);
                },
                tr("boom %1").arg(element));
            return;
        }
        drag(element, metres, &RowElement::position);
    });
    connect(drawing_, &BoomDrawing::lengthDragged, this, [this](int element, double metres) {
        const auto* r = row();
        if (r != nullptr) drag(element, r->half ? 0.5 * metres : metres, &RowElement::length);
    });
    connect(drawing_, &BoomDrawing::dragFinished, this, [this] { document_.finishMerging(); });
}

const ElementRow* BoomView::row() const {
    const Part* part = model::find(document_.design().parts, part_);
    return part != nullptr ? std::get_if<ElementRow>(&part->shape) : nullptr;
}

std::string BoomView::partName() const {
    const Part* part = model::find(document_.design().parts, part_);
    return part != nullptr ? part->name : std::string();
}

const RowSizes* BoomView::sizes() const {
    return session_.expansion()->row(partName());
}

void BoomView::editRow(const QString& label, const std::function<void(Design&, ElementRow&)>& change,
                       const QString& mergeKey) {
    if (row() == nullptr) return;
    document_.editDesign(
        label, [&](Design& d) { change(d, std::get<ElementRow>(model::at(d.parts, part_).shape)); },
        mergeKey);
}

void BoomView::drag(int element, double metres, std::string RowElement::*member) {
    editRow(
        member == &RowElement::position ? tr("Move element") : tr("Stretch element"),
        [&](Design& d, ElementRow& r) {
            if (!putLength(d, r.elements.at(static_cast<std::size_t>(element)).*member, metres))
                say(tr("This is a formula: change it in the table, or type a number there first."));
            else
                say({});
        },
        tr("boom %1").arg(element));
}

void BoomView::say(const QString& sentence) {
    sentence_->setText(sentence);
    sentence_->setVisible(!sentence.isEmpty());
}

QString BoomView::sentence() const {
    return sentence_->isHidden() ? QString() : sentence_->text();
}

QString BoomView::figures() const {
    return figures_->text();
}

void BoomView::themeChanged() {
    refresh();
}

void BoomView::choose(model::Id part) {
    part_ = part;
    say({});
    refresh();
}

void BoomView::setStale(bool stale) {
    figures_->setEnabled(!stale);
}

void BoomView::setFigures(const Results& results) {
    if (!results.analysis) return;
    const auto& f = results.analysis->figures;
    const SweepPtr& sweep = results.sweep;
    QString line =
        tr("%1 dBi   front-to-back %2 dB   width %3°   SWR %4")
            .arg(text(quantity::formatDb(f.peak.gainDbi)), text(quantity::formatDb(f.frontToBackDb, 1)))
            .arg(written(f.beamwidthDeg, 'f', 0))
            .arg(text(quantity::formatSwr(f.swr)));
    if (sweep && sweep->points.size() > 1)
        line += QString(" (%1 – %2)")
                    .arg(text(quantity::formatSwr(sweep->bestSwr())),
                         text(quantity::formatSwr(sweep->worstSwr())));
    figures_->setText(line);
    figures_->setEnabled(true);
}

void BoomView::refresh() {
    const ElementRow* r = row();
    if (r == nullptr) {
        setTitle(tr("No element row is selected"));
        table_->setRowCount(0);
        drawing_->setRow({}, false);
        return;
    }
    const std::string name = partName();
    const RowSizes* sizes = this->sizes();
    setTitle(sizes != nullptr ? tr("%1: boom %2").arg(text(name), lengthText(sizes->boomLengthM(), 3))
                              : text(name));
    drawing_->setRow(sizes != nullptr ? *sizes : RowSizes{}, r->boom.kind != BoomKind::None);
    updating_ = true;
    findChild<QComboBox*>(tr("from start"))->setCurrentIndex(r->spacings ? 1 : 0);
    findChild<QComboBox*>(tr("whole"))->setCurrentIndex(r->half ? 1 : 0);
    table_->setRowCount(static_cast<int>(r->elements.size()));
    for (std::size_t i = 0; i < r->elements.size(); ++i) {
        const RowElement& e = r->elements[i];
        const ElementSize* size =
            sizes != nullptr && i < sizes->elements.size() ? &sizes->elements[i] : nullptr;
        const bool bent = e.form == ElementForm::Bent;
        const bool loop = hasSecondConductor(e.form);
        const auto put = [&](int column, const QString& value, bool editable = true,
                             const QString& tip = {}) {
            QTableWidgetItem* item = table_->item(static_cast<int>(i), column);
            if (item == nullptr) {
                item = new QTableWidgetItem;
                table_->setItem(static_cast<int>(i), column, item);
            }
            item->setText(value);
            item->setToolTip(tip);
            item->setForeground(editable ? theme_.ink : theme_.softInk);
            item->setFlags(editable ? Qt::ItemIsEnabled | Qt::ItemIsSelectable | Qt::ItemIsEditable
                                    : Qt::ItemIsEnabled | Qt::ItemIsSelectable);
            return item;
        };
        put(Name, text(e.name));
        put(Position, shownTyped(e.position), true,
            size != nullptr ? tr("%1 from the start").arg(lengthText(size->positionM, 4)) : QString());
        put(Length, shownTyped(e.length), true,
            size != nullptr ? tr("%1 tip to tip").arg(lengthText(size->lengthM, 4)) : QString());
        put(Diameter, shownTyped(e.diameter), true,
            e.diameter.empty()
                ? tr("as the part: ") + text(model::at(document_.design().parts, part_).conductor.diameter)
                : text(e.diameter));
        put(Second, bent ? shownTyped(e.sweep) : loop ? shownTyped(e.gap) : QString(), bent || loop);
        put(EndDiameter,
            bent   ? shownTyped(e.flat)
            : loop ? shownTyped(e.endDiameter)
                   : QString(),
            bent || loop);
        auto* fed = put(Fed, {}, false);
        fed->setFlags(Qt::ItemIsEnabled | Qt::ItemIsUserCheckable | Qt::ItemIsSelectable);
        fed->setCheckState(size != nullptr && size->fed ? Qt::Checked : Qt::Unchecked);
        put(Cut,
            size == nullptr
                ? QString()
                : text(quantity::formatLength(size->cutM(), document_.project().feetAndInches
                                                                ? quantity::LengthStyle::FeetInches
                                                                : quantity::LengthStyle::Metric)),
            false,
            size != nullptr && size->addM > 0.0 ? tr("%1 modelled, %2 mm more for the boom")
                                                      .arg(lengthText(size->lengthM, 4))
                                                      .arg(written(1e3 * size->addM, 'f', 1))
                                                : tr("as modelled"));
        put(Form, {}, false);
        auto* form = qobject_cast<QComboBox*>(table_->cellWidget(static_cast<int>(i), Form));
        if (form == nullptr) {
            form = new QComboBox;
            form->addItems(trAll(kForms));
            form->setFont(textFont(kSmallPt));
            form->setFrame(false);
            form->setProperty("quiet", true);
            table_->setCellWidget(static_cast<int>(i), Form, form);
            connect(form, &QComboBox::activated, this, [this, i](int index) {
                editRow(tr("Change form"), [&](Design&, ElementRow& own) {
                    own.elements.at(i).form = static_cast<ElementForm>(index);
                });
            });
        }
        form->setCurrentIndex(static_cast<int>(e.form));
    }
    updating_ = false;
}

void BoomView::cellEdited(QTableWidgetItem* item) {
    const ElementRow* r = row();
    if (updating_ || r == nullptr || item->row() >= static_cast<int>(r->elements.size())) return;
    const auto i = static_cast<std::size_t>(item->row());
    const RowElement& e = r->elements[i];
    const std::string typed =
        item->column() == Name ? item->text().trimmed().toStdString() : keptTyped(item->text());
    const bool bent = e.form == ElementForm::Bent;
    const std::string partName = this->partName();
    if (item->column() == Fed) {
        const bool on = item->checkState() == Qt::Checked;
        document_.editDesign(on ? tr("Feed element") : tr("Remove feed"), [&](Design& d) {
            if (!on) {
                std::erase_if(d.feeds,
                              [&](const Feed& f) { return f.part == partName && f.place.element == e.name; });
                return;
            }
            Feed feed;
            feed.part = partName;
            feed.place.element = e.name;
            const auto taken = [&](const std::string& n) {
                return std::any_of(d.feeds.begin(), d.feeds.end(),
                                   [&](const auto& f) { return f.name == n; });
            };
            for (int n = 2; taken(feed.name); ++n) feed.name = rm::say("Feed {}", n);
            d.feeds.push_back(feed);
        });
        return;
    }
    if (item->column() == Name) {
        document_.editDesign(tr("Rename element"), [&](Design& d) {
            model::renameElement(d, model::indexOf(d.parts, part_), i, typed);
        });
        return;
    }
    std::string RowElement::*member = item->column() == Position   ? &RowElement::position
                                      : item->column() == Length   ? &RowElement::length
                                      : item->column() == Diameter ? &RowElement::diameter
                                      : item->column() == Second
                                          ? (bent ? &RowElement::sweep : &RowElement::gap)
                                          : (bent ? &RowElement::flat : &RowElement::endDiameter);
    const bool angle = member == &RowElement::sweep;
    const bool thin = member == &RowElement::endDiameter || member == &RowElement::diameter;
    const bool optional = thin || member == &RowElement::flat;
    const auto kind = angle  ? quantity::Kind::Angle
                      : thin ? quantity::Kind::Diameter
                             : quantity::Kind::Length;
    const std::string value = keptTyped(item->text(), kind);
    const auto scope = model::scopeOf(document_.design());
    if (member != &RowElement::diameter && !(optional && value.empty())) {
        try {
            quantity::evaluate(value, kind, scope);
        } catch (const Error& error) {
            // What was typed stays in the cell until it is mended.
            item->setForeground(theme_.clay);
            return say(text(e.name) + ": " + QString::fromUtf8(error.what()));
        }
    }
    say({});
    editRow(tr("Change element"), [&](Design&, ElementRow& own) { own.elements.at(i).*member = value; });
}

void BoomView::letItMove() {
    const ElementRow* r = row();
    const int current = table_->currentRow();
    const int column = table_->currentColumn();
    if (r == nullptr || current < 0 || (column != Position && column != Length))
        return say(tr("Select a position or a length first."));
    const auto i = static_cast<std::size_t>(current);
    const auto member = column == Position ? &RowElement::position : &RowElement::length;
    const std::string typed = r->elements[i].*member;
    const auto& d = document_.design();
    for (const auto& dimension : d.dimensions)
        if (dimension.name == typed) return say(tr("It moves already: %1 is a dimension.").arg(text(typed)));
    say({});
    document_.editDesign(tr("Let it move"), [&](Design& design) {
        Dimension dimension;
        dimension.name =
            model::dimensionName(design, r->elements[i].name, column == Position ? "at" : "length");
        dimension.text = typed;
        dimension.note =
            r->elements[i].name + (column == Position ? rm::say(", position") : rm::say(", length"));
        // A slider that does something useful: a tenth to both sides.
        try {
            const double metres = quantity::evaluate(typed, quantity::Kind::Length, model::scopeOf(design));
            const double reach = column == Position ? std::max(0.3 * std::abs(metres), 0.1) : 0.1 * metres;
            dimension.low = quantity::lengthLike(typed, metres - reach);
            dimension.high = quantity::lengthLike(typed, metres + reach);
        } catch (const Error&) {
            // The finding about the cell says what is wrong.
        }
        design.dimensions.push_back(dimension);
        std::get<ElementRow>(model::at(design.parts, part_).shape).elements.at(i).*member = dimension.name;
    });
}

void BoomView::addElement() {
    if (row() == nullptr) return;
    const int current = table_->currentRow();
    editRow(tr("Add element"), [&](Design&, ElementRow& r) {
        const std::size_t after = current < 0 || r.elements.empty()
                                      ? r.elements.size()
                                      : std::min(r.elements.size(), static_cast<std::size_t>(current) + 1);
        RowElement e;
        if (after > 0) e = r.elements[after - 1];
        e.form = ElementForm::Straight;
        const auto taken = [&](const std::string& n) {
            return std::any_of(r.elements.begin(), r.elements.end(),
                               [&](const auto& o) { return o.name == n; });
        };
        int n = 1;
        do e.name = rm::say("director {}", n++);
        while (taken(e.name));
        // Half way to the next one, or a fifth of a wavelength further out.
        const RowSizes* sizes = this->sizes();
        const double hz = session_.expansion()->designFrequencyHz;
        const double lambda = hz > 0.0 ? wavelengthM(hz) : 5.0;
        const auto at = [&](std::size_t k) {
            return sizes != nullptr && k < sizes->elements.size() ? sizes->elements[k].positionM : 0.0;
        };
        double position = after == 0 ? 0.0 : at(after - 1) + 0.2 * lambda;
        if (after < r.elements.size() && after > 0) position = 0.5 * (at(after - 1) + at(after));
        const double before = after > 0 && r.spacings ? at(after - 1) : 0.0;
        e.position = quantity::lengthLike("1 m", std::round(1e3 * (position - before)) * 1e-3);
        if (r.spacings && after < r.elements.size() && after > 0)
            r.elements[after].position =
                quantity::lengthLike("1 m", std::round(1e3 * (at(after) - position)) * 1e-3);
        if (sizes != nullptr && after > 0 && after - 1 < sizes->elements.size())
            e.length = quantity::lengthLike(
                "1 m", std::round(1e3 * sizes->elements[after - 1].lengthM * (r.half ? 0.49 : 0.98)) * 1e-3);
        r.elements.insert(r.elements.begin() + static_cast<std::ptrdiff_t>(after), e);
    });
}

void BoomView::removeElement() {
    const ElementRow* r = row();
    const int current = table_->currentRow();
    if (r == nullptr || current < 0 || current >= static_cast<int>(r->elements.size()))
        return say(tr("Select an element first."));
    if (r->elements.size() == 1) return say(tr("This is the only element: remove the part instead."));
    const std::string name = r->elements[static_cast<std::size_t>(current)].name;
    const std::string partName = this->partName();
    document_.editDesign(tr("Remove element"), [&](Design& d) {
        auto& own = std::get<ElementRow>(model::at(d.parts, part_).shape);
        own.elements.erase(own.elements.begin() + current);
        std::erase_if(d.feeds, [&](const Feed& f) { return f.part == partName && f.place.element == name; });
    });
}

}  // namespace rm::app
