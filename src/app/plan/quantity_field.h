// A field for a value with its unit, or a formula: shows what it comes to while it is typed, or says in a
// sentence what is wrong with it.
#pragma once

#include <QLineEdit>

#include "core/model/design.h"
#include "core/quantity/format.h"
#include "core/quantity/formula.h"

namespace rm::app {

class QuantityField : public QLineEdit {
    Q_OBJECT
  public:
    QuantityField(quantity::Kind kind, QWidget* parent = nullptr);

    void setScope(const quantity::Scope& scope, bool feetAndInches);
    /// Shows `text` as the value in the design, unless the user is busy typing here.
    void setCommitted(const QString& text);
    /// A field that may stay empty.
    void setOptional(bool optional) { optional_ = optional; }
    /// What stands in the field: the text, or what a formula that does not fit comes to. While it is edited
    /// it is always the text.
    QString shown() const;

  Q_SIGNALS:
    /// What the text comes to ("= 50' 4 3/8\""), or the sentence that says what is wrong.
    void assessed(QString text, bool wrong);
    void committed(QString text);

  protected:
    void focusInEvent(QFocusEvent* event) override;
    void focusOutEvent(QFocusEvent* event) override;
    void paintEvent(QPaintEvent* event) override;

  private:
    void assess();
    void commit();
    /// What stands in it, as a project keeps it.
    QString kept() const;
    QRect textArea() const;
    /// Up to the frame: for a value that is shown in place of its formula.
    QRect widestArea() const;

    quantity::Kind kind_;
    quantity::Scope scope_;
    bool feetAndInches_ = false;
    bool optional_ = false;
    QString committed_;
    QString value_;  ///< what the text comes to; empty where it says nothing new or is wrong
};

/// What a typed value comes to in the other unit system or in plain numbers; empty where that says nothing
/// new.
QString equivalent(const QString& text, quantity::Kind kind, const quantity::Scope& scope,
                   bool feetAndInches);

}  // namespace rm::app
