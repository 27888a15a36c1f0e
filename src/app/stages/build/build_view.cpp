#include "app/stages/build/build_view.h"

#include <QHBoxLayout>
#include <QHeaderView>
#include <QLabel>
#include <QScrollArea>

#include <algorithm>

#include "app/look/text.h"
#include "core/model/expand.h"

namespace rm::app {

BuildView::BuildView(Session& session, QWidget* parent) : StudyFrame(parent), session_(session) {
    setTitle("Build");
    auto* fields = new QWidget;
    auto* line = new QHBoxLayout(fields);
    line->setContentsMargins(0, 0, 0, 2);
    line->setSpacing(6);
    const struct {
        const char* name;
        const char* label;
        const char* tip;
        std::string model::BuildTexts::*text;
    } all[] = {
        {"folded end", "free ends", "Wire folded back through the insulator at a free end",
         &model::BuildTexts::foldedEnd},
        {"joint", "joints", "Wire at a feed, a load, a trap or other wires", &model::BuildTexts::joint},
        {"stock", "stock", "The length that rods and tubes are sold in", &model::BuildTexts::stock},
        {"kerf", "saw", "What the saw takes with every cut", &model::BuildTexts::kerf}};
    for (const auto& one : all) {
        auto* label = new QLabel(one.label);
        label->setProperty("soft", true);
        label->setFont(textFont(kSmallPt));
        label->setToolTip(one.tip);
        // A bare number is millimetres, but of stock.
        auto* field = new QuantityField(one.text == &model::BuildTexts::stock ? quantity::Kind::Length
                                                                              : quantity::Kind::Diameter);
        field->setObjectName(one.name);
        field->setAccessibleName(one.tip);
        field->setToolTip(one.tip);
        field->setFont(textFont(kSmallPt));
        line->addWidget(label);
        line->addWidget(field, 1);
        typed_.push_back({field, one.text});
        connect(field, &QuantityField::committed, this, [this, member = one.text](const QString& typed) {
            session_.document().editDesign("Change what is cut",
                                           [&](model::Design& d) { d.build.*member = typed.toStdString(); });
        });
    }
    addContent(fields, 0);
    table_ = new QTableWidget(0, kColumns);
    table_->setHorizontalHeaderLabels({"Part", "Pieces", "Modelled", "Cut", "Added"});
    const char* const tips[] = {"The part it belongs to; click a row to select it", "How many of this length",
                                "Length of each as modelled, along its bends", "What to cut",
                                "What makes the difference"};
    for (int c = 0; c < kColumns; ++c) table_->horizontalHeaderItem(c)->setToolTip(tips[c]);
    table_->verticalHeader()->hide();
    table_->verticalHeader()->setDefaultSectionSize(22);
    table_->horizontalHeader()->setStretchLastSection(true);
    const int widths[] = {150, 50, 74, 74, 120};
    for (int c = 0; c < kColumns; ++c) table_->setColumnWidth(c, widths[c]);
    table_->setFont(textFont(kSmallPt));
    table_->setEditTriggers(QAbstractItemView::NoEditTriggers);
    table_->setSelectionBehavior(QAbstractItemView::SelectRows);
    table_->setSelectionMode(QAbstractItemView::SingleSelection);
    table_->setWordWrap(false);
    table_->setAccessibleName("Cut list");
    connect(table_, &QTableWidget::currentCellChanged, this, [this](int row) {
        if (!filling_) choose(row);
    });
    addContent(table_, 3);
    totals_ = new QLabel;
    totals_->setProperty("soft", true);
    totals_->setFont(textFont(kSmallPt));
    totals_->setWordWrap(true);
    totals_->setTextFormat(Qt::PlainText);
    addContent(totals_, 0);
    auto* scroll = new QScrollArea;
    scroll->setWidgetResizable(true);
    scroll->setFrameShape(QFrame::NoFrame);
    drawing_ = new StockDrawing;
    scroll->setWidget(drawing_);
    addContent(scroll, 2);
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
    setTitle(QString("Build: %1").arg(text(design.name)));
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
            "Lengths as modelled, and what to cut for them.");
    fill();
}

void BuildView::fill() {
    filling_ = true;
    const auto style =
        session_.project().feetAndInches ? quantity::LengthStyle::FeetInches : quantity::LengthStyle::Metric;
    const auto length = [&](double metres) {
        return style == quantity::LengthStyle::Metric
                   ? (metres < 10.0 ? QString("%1 mm").arg(1e3 * metres, 0, 'f', 0)
                                    : QString("%1 m").arg(metres, 0, 'f', 2))
                   : text(quantity::formatLength(metres, style));
    };
    table_->setRowCount(static_cast<int>(sheet_.list.pieces.size()));
    for (int r = 0; r < table_->rowCount(); ++r) {
        const auto& piece = sheet_.list.pieces[static_cast<std::size_t>(r)];
        const QString cells[] = {text(piece.part), QString::number(piece.count), length(piece.modelledM),
                                 length(piece.cutM), text(piece.added)};
        for (int c = 0; c < kColumns; ++c) {
            auto* item = new QTableWidgetItem(cells[c]);
            item->setToolTip(cells[c]);
            if (c == Count || c == Modelled || c == Cut)
                item->setTextAlignment(Qt::AlignRight | Qt::AlignVCenter);
            if (c == Cut) item->setFont(textFont(kSmallPt, true));
            table_->setItem(r, c, item);
        }
    }
    // As tall as its rows, so that the stock follows; it scrolls where there are more than fit.
    table_->setMaximumHeight(table_->horizontalHeader()->height() + 22 * std::max(1, table_->rowCount()) + 6);
    QStringList totals;
    for (const auto& t : sheet_.list.totals)
        totals << QString("%1: %2 in %3 %4")
                      .arg(text(t.conductor), length(t.cutM))
                      .arg(t.pieces)
                      .arg(t.pieces == 1 ? "piece" : "pieces");
    QString words = totals.join(";  ");
    for (const auto& boom : sheet_.booms) {
        QStringList holes;
        for (const auto& hole : boom.holes)
            holes << QString("%1 %2").arg(text(hole.element),
                                          style == quantity::LengthStyle::Metric
                                              ? QString("%1").arg(1e3 * hole.atM, 0, 'f', 0)
                                              : text(quantity::formatTape(hole.atM, 16)));
        words +=
            QString("\nHoles on the boom of %1, %2from the first: %3")
                .arg(text(boom.part), style == quantity::LengthStyle::Metric ? "mm " : "", holes.join(",  "));
    }
    totals_->setText(words);
    drawing_->setSheet(sheet_);
    drawing_->setMarked(-1);
    filling_ = false;
}

void BuildView::choose(int piece) {
    drawing_->setMarked(piece);
    if (piece < 0 || piece >= static_cast<int>(sheet_.list.pieces.size())) return;
    const auto& origin = sheet_.list.pieces[static_cast<std::size_t>(piece)].origin;
    for (const auto& part : session_.design().parts)
        if (part.name == origin) session_.select({Selection::Type::Part, part.id});
}

}  // namespace rm::app
