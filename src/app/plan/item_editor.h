// The editor below the outline: fields for the selected dimension, part, feed, load, the site or the design.
#pragma once

#include <QFrame>
#include <functional>
#include <memory>
#include <vector>

#include "app/look/theme.h"
#include "app/session/session.h"
#include "core/quantity/formula.h"

class QComboBox;
class QGridLayout;
class QLabel;
class QLineEdit;
class QSlider;
class QToolButton;

namespace rm::app {

class QuantityField;

class ItemEditor : public QFrame {
    Q_OBJECT
  public:
    explicit ItemEditor(Session& session, QWidget* parent = nullptr);

    /// Takes over the selection and values that changed elsewhere; rebuilds where other fields are needed.
    void refresh();
    /// The field with this label, for tests and keyboard focus.
    QLineEdit* field(const QString& label) const;
    QComboBox* choice(const QString& label) const;
    /// The sentence below the fields; empty where nothing is wrong.
    QString sentence() const;
    /// The slider of the site's height; null where something else is selected.
    QSlider* heightSlider() const { return heightSlider_; }
    void focusFirst();

  Q_SIGNALS:
    void removeRequested();
    void duplicateRequested();
    void boomRequested();
    /// For the stack with this id.
    void adviceRequested(rm::model::Id copy);
    void scanRequested(rm::model::Id copy);
    void drivesRequested();
    /// For the support with this id.
    void asWireRequested(rm::model::Id support);
    /// The impedance of a load from a file, for the load with this id.
    void tableRequested(rm::model::Id load);

  private:
    using FieldChange = std::function<void(model::Design&, const std::string&)>;
    using Read = std::function<std::string(const model::Design&)>;

    struct Row {
        QString label;
        QuantityField* quantity = nullptr;
        QLineEdit* plain = nullptr;
        QComboBox* combo = nullptr;
        Read read;
    };

    void rebuild();
    QString shapeKey() const;
    /// Puts a label at the start of a new row and returns the row.
    int addLabel(const QString& label);
    /// Hands what the field says to the sentence below and what it commits to the document.
    void watch(QuantityField* field, const QString& label, const FieldChange& change);
    void addQuantity(const QString& label, quantity::Kind kind, Read read, FieldChange change,
                     const QString& tip = {}, bool optional = false);
    void addText(const QString& label, Read read, FieldChange change, const QString& tip = {});
    void addChoice(const QString& label, const QStringList& names, const QStringList& ids, Read read,
                   FieldChange change, const QString& tip = {});
    void addPoint(const QString& label, std::function<model::PointText&(model::Design&)> point);
    /// `prefix` tells the places of one item apart.
    void addPlace(const QString& prefix, std::function<model::Place&(model::Design&)> place,
                  const Read& partOf);
    /// Which element, where the part is an element row.
    void addElementChoice(const QString& prefix, std::function<model::Place&(model::Design&)> place,
                          const std::string& part);
    void addLine(const std::function<model::LineText&(model::Design&)>& line, bool withLength);
    void buildDimension();
    void buildPart();  // part_fields.cpp
    void buildRow();   // this and the next three: array_fields.cpp
    void buildCopy();
    void buildDrive();
    void buildHarness();
    QString arrayKey() const;
    /// Two buttons that make a list longer and shorter.
    std::pair<QToolButton*, QToolButton*> addMoreAndLess(const QString& more, const QString& less,
                                                         bool removable);
    QToolButton* addButton(const QString& label, const QString& tip);
    void buildFeed();
    void addSides(model::Id feed);
    void buildLoad();  // this, lines and measurements: circuit_fields.cpp
    void buildLine();
    void buildMeasured();
    void buildBlock();  // block_fields.cpp
    void buildNetwork();
    void moveBlock(int by);
    void buildSite();  // site_fields.cpp
    void addHeightSlider();
    void refreshHeightSlider();
    void buildDesign();
    void buildSupport();  // these but those of the cable: support_fields.cpp
    void buildHung();
    void buildCable();  // this and the next: cable_fields.cpp
    QString cableKey() const;
    void refreshHungNote();
    QString supportKey() const;
    void edit(const QString& label, const DesignChange& change, const QString& mergeKey = {});
    QStringList feedNames() const;
    void apply(const QString& label, const std::string& value, const FieldChange& change);
    QStringList partNames() const;

    Session& session_;
    Document& document_;
    Selection selection_;
    model::Id designId_ = 0;  ///< the design that the fields are of
    QString key_;
    QWidget* content_ = nullptr;
    QGridLayout* grid_ = nullptr;
    QLabel* title_ = nullptr;
    QLabel* sentence_ = nullptr;
    std::vector<Row> rows_;
    QSlider* heightSlider_ = nullptr;
    QLabel* hungNote_ = nullptr;
    bool axesNamed_ = false;
    bool updating_ = false;
};

}  // namespace rm::app
