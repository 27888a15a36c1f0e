#include "app/look/painted_words.h"

#include <QAccessible>
#include <QAccessibleWidget>
#include <QElapsedTimer>
#include <QPaintDevice>
#include <QPaintEngine>
#include <QWidget>
#include <algorithm>

#include "app/look/themed.h"

namespace rm::app {

namespace {

/// Words as they were drawn, in px of the widget.
struct DrawnWords {
    QString text;
    QRectF place;
};

/// Draws nothing and keeps the words.
class WordEngine : public QPaintEngine {
  public:
    explicit WordEngine(std::vector<DrawnWords>& words) : QPaintEngine(AllFeatures), words_(words) {}

    bool begin(QPaintDevice*) override { return true; }
    bool end() override { return true; }
    Type type() const override { return User; }
    void updateState(const QPaintEngineState& now) override {
        if (now.state() & DirtyTransform) transform_ = now.transform();
    }
    void drawTextItem(const QPointF& at, const QTextItem& item) override {
        const QRectF own(at.x(), at.y() - item.ascent(), item.width(), item.ascent() + item.descent());
        words_.push_back({item.text(), transform_.mapRect(own)});
    }
    void drawPixmap(const QRectF&, const QPixmap&, const QRectF&) override {}
    void drawImage(const QRectF&, const QImage&, const QRectF&, Qt::ImageConversionFlags) override {}
    void drawPath(const QPainterPath&) override {}
    void drawPolygon(const QPointF*, int, PolygonDrawMode) override {}

  private:
    std::vector<DrawnWords>& words_;
    QTransform transform_;
};

class WordDevice : public QPaintDevice {
  public:
    explicit WordDevice(const QWidget& like) : like_(like), engine_(words) {}

    QPaintEngine* paintEngine() const override { return &engine_; }

    std::vector<DrawnWords> words;

  protected:
    int metric(PaintDeviceMetric metric) const override {
        switch (metric) {
            case PdmWidth:
                return like_.width();
            case PdmHeight:
                return like_.height();
            case PdmWidthMM:
                return like_.widthMM();
            case PdmHeightMM:
                return like_.heightMM();
            case PdmNumColors:
                return 1 << 24;
            case PdmDepth:
                return 24;
            case PdmDpiX:
                return like_.logicalDpiX();
            case PdmDpiY:
                return like_.logicalDpiY();
            case PdmPhysicalDpiX:
                return like_.physicalDpiX();
            case PdmPhysicalDpiY:
                return like_.physicalDpiY();
            case PdmDevicePixelRatio:
                return 1;
            case PdmDevicePixelRatioScaled:
                return static_cast<int>(devicePixelRatioFScale());
            default:
                return QPaintDevice::metric(metric);
        }
    }

  private:
    const QWidget& like_;
    mutable WordEngine engine_;
};

/// Words that stand closer than this share of their height are one word, and one phrase.
constexpr double kOneWord = 0.12;
constexpr double kOnePhrase = 0.8;
/// Rows are told apart by this share of a height.
constexpr double kOneRow = 0.5;

/// What has fields in it is a group of them.
QAccessible::Role roleOf(const QWidget& view) {
    const auto inside = view.findChildren<QWidget*>();
    return std::any_of(inside.begin(), inside.end(),
                       [](auto* one) { return one->focusPolicy() != Qt::NoFocus; })
               ? QAccessible::Grouping
               : QAccessible::Canvas;
}

/// A view that paints itself: its own rows, then its children.
class PaintedView : public QAccessibleWidget {
  public:
    explicit PaintedView(QWidget* widget) : QAccessibleWidget(widget, roleOf(*widget)) {}
    ~PaintedView() override;

    int childCount() const override {
        look();
        return static_cast<int>(shown_) + QAccessibleWidget::childCount();
    }
    QAccessibleInterface* child(int index) const override;
    int indexOfChild(const QAccessibleInterface* child) const override;
    QAccessibleInterface* childAt(int x, int y) const override;
    QString text(QAccessible::Text what) const override;

    /// The row of this number; nullptr where there are fewer now.
    const PaintedRow* row(std::size_t index) const { return index < shown_ ? &rows_[index] : nullptr; }
    QWidget* view() const { return widget(); }

  private:
    void look() const;

    /// A view is painted for reading no more often.
    static constexpr qint64 kFreshMs = 100;

    mutable QElapsedTimer looked_;
    mutable std::vector<PaintedRow> rows_;
    mutable std::size_t shown_ = 0;
    /// Of the rows, and of former ones beyond. The toolkit's list of interfaces owns them.
    mutable std::vector<QAccessibleInterface*> texts_;
};

class PaintedText : public QAccessibleInterface {
  public:
    PaintedText(const PaintedView& view, std::size_t index) : view_(view), index_(index) {}

    bool isValid() const override { return view_.isValid() && view_.row(index_) != nullptr; }
    QObject* object() const override { return nullptr; }
    QWindow* window() const override { return view_.window(); }
    QAccessibleInterface* parent() const override {
        return QAccessible::queryAccessibleInterface(view_.view());
    }
    QAccessibleInterface* child(int) const override { return nullptr; }
    QAccessibleInterface* childAt(int, int) const override { return nullptr; }
    int childCount() const override { return 0; }
    int indexOfChild(const QAccessibleInterface*) const override { return -1; }
    QString text(QAccessible::Text what) const override {
        const PaintedRow* row = view_.row(index_);
        return what == QAccessible::Name && row != nullptr ? row->text : QString();
    }
    void setText(QAccessible::Text, const QString&) override {}
    QRect rect() const override {
        const PaintedRow* row = view_.row(index_);
        return row == nullptr ? QRect()
                              : QRect(view_.view()->mapToGlobal(row->place.topLeft()), row->place.size());
    }
    QAccessible::Role role() const override { return QAccessible::StaticText; }
    QAccessible::State state() const override {
        QAccessible::State state;
        state.readOnly = true;
        state.invisible = !isValid() || !view_.view()->isVisible();
        return state;
    }

  private:
    const PaintedView& view_;
    std::size_t index_;
};

PaintedView::~PaintedView() {
    for (auto* text : texts_) QAccessible::deleteAccessibleInterface(QAccessible::uniqueId(text));
}

void PaintedView::look() const {
    if (widget() == nullptr || (looked_.isValid() && looked_.elapsed() < kFreshMs)) return;
    looked_.start();
    rows_ = widget()->isVisible() ? paintedRows(*widget()) : std::vector<PaintedRow>();
    shown_ = rows_.size();
}

QAccessibleInterface* PaintedView::child(int index) const {
    if (index < 0) return nullptr;
    const auto at = static_cast<std::size_t>(index);
    if (at >= shown_) return QAccessibleWidget::child(index - static_cast<int>(shown_));
    while (texts_.size() <= at) {
        texts_.push_back(new PaintedText(*this, texts_.size()));
        QAccessible::registerAccessibleInterface(texts_.back());
    }
    return texts_[at];
}

int PaintedView::indexOfChild(const QAccessibleInterface* child) const {
    for (std::size_t i = 0; i < std::min(shown_, texts_.size()); ++i)
        if (texts_[i] == child) return static_cast<int>(i);
    const int own = QAccessibleWidget::indexOfChild(child);
    return own < 0 ? own : own + static_cast<int>(shown_);
}

QAccessibleInterface* PaintedView::childAt(int x, int y) const {
    if (auto* other = QAccessibleWidget::childAt(x, y); other != nullptr && other != this) return other;
    look();
    const QPoint at = widget()->mapFromGlobal(QPoint(x, y));
    for (std::size_t i = 0; i < shown_; ++i)
        if (rows_[i].place.contains(at)) return child(static_cast<int>(i));
    return nullptr;
}

QString PaintedView::text(QAccessible::Text what) const {
    if (what != QAccessible::Value) return QAccessibleWidget::text(what);
    look();
    QStringList all;
    for (const auto& row : rows_) all << row.text;
    return all.join('\n');
}

QAccessibleInterface* interfaceOf(const QString&, QObject* object) {
    auto* view = dynamic_cast<Themed<QWidget>*>(object);
    return view != nullptr ? new PaintedView(view) : nullptr;
}

}  // namespace

std::vector<PaintedRow> paintedRows(QWidget& widget) {
    WordDevice device(widget);
    widget.render(&device, QPoint(), QRegion(), {});
    auto& words = device.words;
    std::erase_if(words, [](const DrawnWords& w) { return w.text.trimmed().isEmpty(); });
    std::stable_sort(words.begin(), words.end(), [](const DrawnWords& a, const DrawnWords& b) {
        return a.place.center().y() < b.place.center().y();
    });
    std::vector<PaintedRow> rows;
    for (std::size_t first = 0; first < words.size();) {
        std::size_t last = first + 1;
        const double middle = words[first].place.center().y();
        while (last < words.size() &&
               words[last].place.center().y() - middle < kOneRow * words[first].place.height())
            ++last;
        std::stable_sort(words.begin() + static_cast<std::ptrdiff_t>(first),
                         words.begin() + static_cast<std::ptrdiff_t>(last),
                         [](const DrawnWords& a, const DrawnWords& b) { return a.place.x() < b.place.x(); });
        PaintedRow row{words[first].text.trimmed(), words[first].place.toAlignedRect()};
        for (std::size_t i = first + 1; i < last; ++i) {
            const double gap = (words[i].place.left() - words[i - 1].place.right()) / words[i].place.height();
            const bool spaced = words[i - 1].text.back().isSpace() || words[i].text.front().isSpace();
            row.text += gap < kOneWord ? (spaced ? " " : "") : gap < kOnePhrase ? " " : ", ";
            row.text += words[i].text.trimmed();
            row.place |= words[i].place.toAlignedRect();
        }
        rows.push_back(std::move(row));
        first = last;
    }
    return rows;
}

void readPaintedViews() {
    QAccessible::installFactory(interfaceOf);
}

}  // namespace rm::app
