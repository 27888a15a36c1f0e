// The outline of the design: dimensions with their sliders, parts, feeds, loads, site. One row each.
#pragma once

#include <QFrame>
#include <QScrollArea>
#include <vector>

#include "app/look/text.h"
#include "app/look/themed.h"
#include "app/session/session.h"

class QLabel;
class QLineEdit;
class QSlider;
class QVBoxLayout;

namespace rm::app {

/// A row of the outline: click or Enter selects it.
class OutlineRow : public Themed<QWidget> {
    Q_OBJECT
  public:
    OutlineRow(Selection selection, QWidget* parent = nullptr);
    void setTexts(const QString& name, const QString& detail, const QString& second = {});
    void setSelected(bool selected);
    void setDot(bool visible, bool on);
    void setWrong(bool wrong);
    /// What stands in place of the detail where the dot is empty.
    void setOffText(const QString& text);
    Selection selection() const { return selection_; }
    QString name() const { return name_; }
    QString second() const { return second_; }

  Q_SIGNALS:
    void chosen(rm::app::Selection selection);
    void dotClicked(rm::app::Selection selection);

  protected:
    void paintEvent(QPaintEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;
    void focusInEvent(QFocusEvent* event) override;
    QSize sizeHint() const override;

  private:
    Selection selection_;
    QString name_;
    QString detail_;
    QString second_;
    bool selected_ = false;
    bool dot_ = false;
    bool on_ = true;
    bool wrong_ = false;
    QString offText_ = tr("off");
};

/// A dimension: its name, a slider where it is a plain number, and its value as typed.
class DimensionRow : public OutlineRow {
    Q_OBJECT
  public:
    explicit DimensionRow(model::Id id, QWidget* parent = nullptr);
    void setDimension(const model::Dimension& dimension, const quantity::Scope& scope, bool feetAndInches);
    QSlider* slider() { return slider_; }
    QLineEdit* field() { return field_; }

  Q_SIGNALS:
    void slid(QString text);
    void slideEnded();
    void typed(QString text);

  protected:
    void resizeEvent(QResizeEvent* event) override;

  private:
    QSlider* slider_;
    QLineEdit* field_;
    model::Dimension dimension_;
    double low_ = 0.0;
    double high_ = 1.0;
    bool updating_ = false;
};

class Outline : public Themed<QScrollArea> {
    Q_OBJECT
  public:
    explicit Outline(Session& session, QWidget* parent = nullptr);

    /// Takes over the design on the bench and what is selected.
    void refresh();
    /// What is known of the feed path: impedance, SWR and loss after every block.
    void setResults(const ResultsPtr& results);
    DimensionRow* dimensionRow(const QString& name);
    OutlineRow* row(Selection selection);

  Q_SIGNALS:
    void addRequested(rm::app::Selection::Type type);

  private:
    void rebuild();
    QWidget* heading(const QString& text, Selection::Type type, const QString& addTip);
    QString shapeOf() const;
    bool isArray() const;

    void showRow(OutlineRow* row, const quantity::Scope& scope);
    QString joinedTo(const model::Part& part) const;
    QString jointText(std::size_t block) const;

    Session& session_;
    Document& document_;
    ResultsPtr results_;
    Selection seen_;  ///< what was brought into view
    QWidget* content_ = nullptr;
    QVBoxLayout* layout_ = nullptr;
    std::vector<OutlineRow*> rows_;
    std::vector<QLabel*> headings_;
    QString shape_;
};

}  // namespace rm::app
