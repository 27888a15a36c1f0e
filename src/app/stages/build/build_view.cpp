#include "app/stages/build/build_view.h"

#include <QHBoxLayout>
#include <QHeaderView>
#include <QLabel>
#include <QScrollArea>
#include <QSignalBlocker>
#include <QVBoxLayout>

#include <algorithm>
#include <set>
#include <utility>

#include "app/look/lengths.h"
#include "app/look/small_fields.h"
#include "app/look/text.h"
#include "core/model/expand.h"
#include "core/stopped.h"

namespace rm::app {

namespace {

constexpr int kWidestPart = 190;
constexpr int kRowPx = 22;
constexpr double kInchM = 0.0254;
/// What is cut into pieces as long as this is measured in metres, all else in millimetres.
constexpr double kInMetresFromM = 10.0;

}  // namespace

BuildView::BuildView(Session& session, QWidget* parent) : StudyFrame(parent), session_(session) {
    setTitle(tr("Build"));
    using Texts = model::BuildTexts;
    wireFields_ =
        fieldRow({{"folded end", tr("free ends"), tr("Wire folded back through the insulator at a free end"),
                   &Texts::foldedEnd},
                  {"joint", tr("joints"), tr("Wire at a feed, a load, a trap or other wires"), &Texts::joint},
                  {"reel", tr("reels"), tr("The length that wire is sold on"), &Texts::reel}});
    addContent(wireFields_, 0);
    tubeFields_ = new QWidget;
    auto* rows = new QVBoxLayout(tubeFields_);
    rows->setContentsMargins(0, 0, 0, 0);
    rows->setSpacing(2);
    rows->addWidget(fieldRow(
        {{"stock", tr("stock"), tr("The length that rods and tubes are sold in"), &Texts::stock},
         {"kerf", tr("saw"), tr("What the saw takes with every cut"), &Texts::kerf},
         {"gap", tr("gap"), tr("Between the halves of a rod or tube that is fed in between"), &Texts::gap}}));
    rows->addWidget(fieldRow(
        {{"overlap", tr("overlap"), tr("How far a tube goes into the next thicker one"), &Texts::overlap},
         {"wall", tr("walls"), tr("Thickness of the walls of tubes and of the boom"), &Texts::wall},
         {"boom end", tr("boom beyond"), tr("How far the boom goes beyond its first and its last element"),
          &Texts::boomEnd}}));
    addContent(tubeFields_, 0);
    tabs_ = new QTabBar;
    tabs_->setAccessibleName(tr("What the build sheet shows"));
    tabs_->setExpanding(false);
    tabs_->setDrawBase(false);
    tabs_->setUsesScrollButtons(true);
    tabs_->setFont(textFont(kSmallPt));
    connect(tabs_, &QTabBar::currentChanged, this, &BuildView::showTab);
    addContent(tabs_, 0);
    buildCutPage();
    others_ = new QTableWidget;
    others_->setTabKeyNavigation(false);
    others_->verticalHeader()->hide();
    others_->verticalHeader()->setDefaultSectionSize(22);
    others_->setFont(textFont(kSmallPt));
    others_->setEditTriggers(QAbstractItemView::NoEditTriggers);
    others_->setSelectionBehavior(QAbstractItemView::SelectRows);
    others_->setWordWrap(false);
    others_->setSelectionMode(QAbstractItemView::SingleSelection);
    others_->hide();
    connect(others_, &QTableWidget::currentCellChanged, this, [this](int row) {
        const int tab = tabs_->currentIndex();
        if (filling_ || row < 0 || tab <= 0) return;
        const auto& about = tables_.at(static_cast<std::size_t>(tab - 1)).about;
        if (static_cast<std::size_t>(row) < about.size()) lead(about[static_cast<std::size_t>(row)]);
    });
    addContent(others_, 5);
    connect(&task_, &Task::failed, this, [this](const QString& sentence) { showCare({}, sentence); });
}

QWidget* BuildView::fieldRow(const std::vector<Typed>& all) {
    auto* fields = new QWidget;
    auto* line = new QHBoxLayout(fields);
    line->setContentsMargins(0, 0, 0, 2);
    line->setSpacing(6);
    for (const auto& one : all) {
        auto* label = new QLabel(one.label);
        label->setProperty("soft", true);
        label->setFont(textFont(kSmallPt));
        label->setToolTip(one.tip);
        // A bare number is millimetres, but of what is bought.
        const bool bought = one.text == &model::BuildTexts::stock || one.text == &model::BuildTexts::reel;
        auto* field = new QuantityField(bought ? quantity::Kind::Length : quantity::Kind::Diameter);
        field->setObjectName(one.name);
        field->setAccessibleName(one.tip);
        field->setToolTip(one.tip);
        field->setFont(textFont(kSmallPt));
        line->addWidget(label);
        line->addWidget(field, 1);
        typed_.push_back({field, one.text});
        connect(field, &QuantityField::committed, this, [this, member = one.text](const QString& typed) {
            session_.document().editDesign(tr("Change what is cut"),
                                           [&](model::Design& d) { d.build.*member = typed.toStdString(); });
        });
    }
    return fields;
}

void BuildView::buildCutPage() {
    cutPage_ = new QWidget;
    auto* column = new QVBoxLayout(cutPage_);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(2);
    addContent(cutPage_, 5);
    table_ = new QTableWidget(0, kColumns);
    table_->setTabKeyNavigation(false);
    table_->setHorizontalHeaderLabels(
        {tr("Part"), tr("Pieces"), tr("Modelled"), tr("Cut"), tr("Keep to"), tr("Added")});
    const char* const tips[] = {
        later("The part it belongs to; click a row to select it"),
        later("How many of this length"),
        later("Length of each as modelled, along its bends"),
        later("What to cut"),
        later("How far off it may be until, at the working frequency, the SWR changes by 0.05, the "
              "gain by 0.1 dB or front-to-rear by 1 dB"),
        later("What makes the difference")};
    for (int c = 0; c < kColumns; ++c) table_->horizontalHeaderItem(c)->setToolTip(tr(tips[c]));
    table_->verticalHeader()->hide();
    table_->verticalHeader()->setMinimumSectionSize(kRowPx);
    table_->horizontalHeader()->setStretchLastSection(true);
    const int widths[] = {136, 46, 70, 70, 76, 110};
    for (int c = 0; c < kColumns; ++c) table_->setColumnWidth(c, widths[c]);
    showWholeHeadings(*table_);
    table_->setFont(textFont(kSmallPt));
    table_->setEditTriggers(QAbstractItemView::NoEditTriggers);
    table_->setSelectionBehavior(QAbstractItemView::SelectRows);
    table_->setSelectionMode(QAbstractItemView::SingleSelection);
    table_->setAccessibleName(tr("Cut list"));
    connect(table_->horizontalHeader(), &QHeaderView::sectionResized, this, &BuildView::fitRows);
    connect(table_, &QTableWidget::currentCellChanged, this, [this](int row) {
        if (!filling_) choose(row);
    });
    column->addWidget(table_, 3);
    totals_ = new QLabel;
    totals_->setProperty("soft", true);
    totals_->setFont(textFont(kSmallPt));
    totals_->setWordWrap(true);
    totals_->setTextFormat(Qt::PlainText);
    column->addWidget(totals_);
    auto* scroll = new QScrollArea;
    scroll->setFocusPolicy(Qt::NoFocus);  // what is in it has it
    scroll->setWidgetResizable(true);
    scroll->setFrameShape(QFrame::NoFrame);
    drawing_ = new StockDrawing;
    scroll->setWidget(drawing_);
    column->addWidget(scroll, 2);
    connect(drawing_, &StockDrawing::pieceClicked, this,
            [this](int piece) { table_->setCurrentCell(piece, Part); });
}

QuantityField* BuildView::field(const QString& name) const {
    for (const auto& one : typed_)
        if (one.field->objectName() == name) return one.field;
    return nullptr;
}

QString BuildView::totals() const {
    return totals_->text();
}

void BuildView::refresh() {
    const model::Design& design = session_.design();
    setTitle(tr("Build: %1").arg(text(design.name)));
    const auto scope = model::scopeOf(design);
    for (const auto& one : typed_) {
        one.field->setScope(scope, session_.project().feetAndInches);
        one.field->setCommitted(text(design.build.*one.text));
    }
    QString problem;
    try {
        sheet_ = build::buildSheet(design);
    } catch (const Error& e) {
        sheet_ = {};
        problem = QString::fromUtf8(e.what());
    }
    QStringList findings;
    for (const auto& f : sheet_.findings) findings << text(f.sentence + " " + f.mend);
    setLine(!problem.isEmpty() ? problem : findings.join(" "), {},
            tr("Lengths as modelled, and what to cut for them."));
    fill();
}

void BuildView::fill() {
    filling_ = true;
    const auto style =
        session_.project().feetAndInches ? quantity::LengthStyle::FeetInches : quantity::LengthStyle::Metric;
    // One unit for all that is cut from the same.
    std::set<std::string> inMetres;
    for (const auto& piece : sheet_.list.pieces)
        if (piece.cutM >= kInMetresFromM) inMetres.insert(piece.conductor);
    const auto length = [&](const std::string& conductor, double metres) {
        if (style != quantity::LengthStyle::Metric) return text(quantity::formatLength(metres, style));
        return inMetres.contains(conductor) ? QString("%1 m").arg(written(metres, 'f', 3))
                                            : QString("%1 mm").arg(written(1e3 * metres, 'f', 0));
    };
    table_->setRowCount(static_cast<int>(sheet_.list.pieces.size()));
    for (int r = 0; r < table_->rowCount(); ++r) {
        const auto& piece = sheet_.list.pieces[static_cast<std::size_t>(r)];
        const QString cells[] = {text(piece.part),
                                 QString::number(piece.count),
                                 length(piece.conductor, piece.modelledM),
                                 length(piece.conductor, piece.cutM),
                                 QString(QChar(0x2026)),
                                 text(piece.added)};
        for (int c = 0; c < kColumns; ++c) {
            auto* item = new QTableWidgetItem(cells[c]);
            item->setToolTip(cells[c]);
            if (c == Count || c == Modelled || c == Cut || c == KeepTo)
                item->setTextAlignment(Qt::AlignRight | Qt::AlignVCenter);
            if (c == Cut) item->setFont(textFont(kSmallPt, true));
            table_->setItem(r, c, item);
        }
    }
    for (const int c : {Part, Count, Modelled, Cut}) table_->resizeColumnToContents(c);
    table_->setColumnWidth(Part, std::min(table_->columnWidth(Part), kWidestPart));
    fitRows();
    QStringList totals;
    for (const auto& t : sheet_.list.totals)
        totals << trn("%1: %2 in one piece", "%1: %2 in %n pieces", t.pieces)
                      .arg(text(t.conductor), length(t.conductor, t.cutM));
    totals_->setText(totals.join(";  "));
    // What no piece asks for is not asked.
    const auto& pieces = sheet_.list.pieces;
    const auto some = [&](bool wire) {
        return std::any_of(pieces.begin(), pieces.end(),
                           [&](const auto& piece) { return piece.wire == wire; });
    };
    wireFields_->setVisible(pieces.empty() || some(true));
    tubeFields_->setVisible(pieces.empty() ? !tubeFields_->isHidden() : some(false));
    drawing_->setSheet(sheet_);
    drawing_->setMarked(-1);
    filling_ = false;
    fillTabs();
    weigh();
}

/// As tall as its rows, so that the stock follows; it scrolls where there are more than fit.
void BuildView::fitRows() {
    table_->resizeRowsToContents();
    table_->setMaximumHeight(table_->horizontalHeader()->height() +
                             std::max(kRowPx, table_->verticalHeader()->length()) + 6);
}

/// As many tabs as there are tables; the one in front stays there.
void BuildView::fillTabs() {
    tables_ = io::otherTables(sheet_, session_.project().feetAndInches);
    const QString before = tabs_->currentIndex() > 0 ? tabs_->tabText(tabs_->currentIndex()) : QString();
    const QSignalBlocker quiet(tabs_);
    while (tabs_->count() > 0) tabs_->removeTab(0);
    tabs_->addTab(tr("What to cut"));
    int now = 0;
    for (const auto& table : tables_) {
        const int tab = tabs_->addTab(text(table.heading));
        if (text(table.heading) == before) now = tab;
    }
    tabs_->setCurrentIndex(now);
    showTab(now);
}

void BuildView::showTab(int tab) {
    cutPage_->setVisible(tab <= 0);
    others_->setVisible(tab > 0);
    if (tab <= 0) return;
    const auto& table = tables_.at(static_cast<std::size_t>(tab - 1));
    const bool filled = std::exchange(filling_, true);
    others_->clear();
    others_->setColumnCount(static_cast<int>(table.columns.size()));
    others_->setRowCount(static_cast<int>(table.rows.size()));
    others_->setAccessibleName(text(table.heading));
    QStringList heads;
    for (const auto& column : table.columns) heads << text(column.head);
    others_->setHorizontalHeaderLabels(heads);
    for (int r = 0; r < others_->rowCount(); ++r)
        for (int c = 0; c < others_->columnCount(); ++c) {
            const auto& words = table.rows[static_cast<std::size_t>(r)].at(static_cast<std::size_t>(c));
            auto* item = new QTableWidgetItem(text(words));
            item->setToolTip(text(words));
            if (table.columns[static_cast<std::size_t>(c)].align == io::Align::Right)
                item->setTextAlignment(Qt::AlignRight | Qt::AlignVCenter);
            others_->setItem(r, c, item);
        }
    others_->resizeColumnsToContents();
    others_->horizontalHeader()->setStretchLastSection(true);
    filling_ = filled;
}

/// To what a rule of that unit shows.
QString BuildView::keepWords(double keepM) {
    if (inFeet()) return written(keepM / kInchM, 'f', keepM < 4.0 * kInchM ? 2 : 0) + " in";
    if (keepM < 0.0995) return written(1e3 * keepM, 'f', keepM < 0.00095 ? 1 : 0) + " mm";
    return written(1e2 * keepM, 'f', 0) + " cm";
}

/// In the background: which lengths are critical.
void BuildView::weigh() {
    if (sheet_.list.pieces.empty()) return task_.drop();
    task_.start([this, design = session_.design(), hz = session_.frequencyHz()](
                    std::stop_token stop, const Task::Progress&) -> Task::After {
        std::vector<build::Care> care;
        unlessStopped(stop, [&] { care = build::careOf(design, hz, stop); });
        return [this, care] { showCare(care, tr("Stopped before it was worked out")); };
    });
}

void BuildView::showCare(const std::vector<build::Care>& care, const QString& why) {
    constexpr double kCriticalM = 0.005;
    for (int r = 0; r < table_->rowCount(); ++r) {
        auto* item = table_->item(r, KeepTo);
        const auto piece = static_cast<std::size_t>(r);
        if (item == nullptr) continue;
        if (piece >= care.size() || !care[piece].known) {
            item->setText("–");
            item->setToolTip(piece >= care.size() ? why
                                                  : tr("No number of the design changes this length by "
                                                       "itself: what a millimetre does is not known"));
            continue;
        }
        const double keep = care[piece].keepToM;
        item->setText(keep >= build::kFreeM ? tr("forgives") : "± " + keepWords(keep));
        item->setFont(textFont(kSmallPt, keep < kCriticalM));
        if (keep < kCriticalM) item->setForeground(theme_.clay);
        item->setToolTip(tr("%1A millimetre moves the resonance by %2 kHz, the SWR by %3, the gain by %4 dB "
                            "and front-to-rear by %5 dB")
                             .arg(keep < kCriticalM ? tr("Critical. ") : "")
                             .arg(written(care[piece].hzPerMm / 1e3, 'f', 1))
                             .arg(written(care[piece].swrPerMm, 'f', 4))
                             .arg(written(care[piece].gainDbPerMm, 'f', 4))
                             .arg(written(care[piece].rearDbPerMm, 'f', 3)));
    }
}

void BuildView::choose(int piece) {
    drawing_->setMarked(piece);
    if (piece < 0 || piece >= static_cast<int>(sheet_.list.pieces.size())) return;
    lead(sheet_.list.pieces[static_cast<std::size_t>(piece)].origin);
}

/// To the part, load or block of the feed path that a row belongs to.
void BuildView::lead(const std::string& name) {
    const model::Design& design = session_.design();
    const auto select = [&](const auto& all, Selection::Type type) {
        for (const auto& one : all)
            if (one.name == name) {
                session_.select({type, one.id});
                return true;
            }
        return false;
    };
    if (name.empty() || select(design.parts, Selection::Type::Part)) return;
    if (select(design.loads, Selection::Type::Load)) return;
    if (select(design.feedPath, Selection::Type::Block)) return;
    select(design.lines, Selection::Type::Line);
}

}  // namespace rm::app
