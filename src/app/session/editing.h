// What hands do to the project: each a change of core/edit as one step to undo, with what is new selected.
#pragma once

#include <QPointF>
#include <optional>

#include "app/session/session.h"
#include "core/edit/items.h"
#include "core/project/measured_file.h"

namespace rm::app {

class Editing : public QObject {
    Q_OBJECT
  public:
    explicit Editing(Session& session, QObject* parent = nullptr);

    void addPart(edit::PartKind kind);
    /// Beside those that are there, or at this place: metres to the east and to the north. An edge runs to
    /// `otherM`.
    void addSupport(model::SupportKind kind, const std::optional<QPointF>& eastNorthM = {},
                    const std::optional<QPointF>& otherM = {});
    /// A wire from support to support, by their names.
    void addHung(const std::vector<std::string>& supports);
    /// The support as a conductor.
    void addAsWire(model::Id support);
    /// A wire through these points of the site.
    void addDrawn(const std::vector<Vec3>& pointsM, bool closed);
    /// Dimensions for the lengths of the selected wire.
    void nameLengths();
    /// Crossed lines between the elements of the selected row, fed at the shortest: a log-periodic row.
    void crossElements();
    void addDimension();
    void addFeed();
    void addLoad(bool trap);
    void addLine();
    /// Into the feed path at this place, or at its end where there is none.
    void addBlock(const model::FeedBlock& block, int place = -1);
    void addCopy(model::CopyKind kind);
    void addDriveSets(const std::vector<model::DriveSet>& sets);
    /// All of the files or none: a file that cannot be read changes nothing.
    void importMeasured(const QStringList& paths);
    /// The impedance of a load from a file; nothing where the path is empty.
    void readTable(model::Id load, const QString& path);
    /// What an analyser has just sent.
    void addMeasured(const model::MeasuredData& data, bool atAntenna, const QString& from);
    void removeSelected();
    void duplicateSelected();
    void loosen();
    void setQuickFreeSpace(bool on);
    void setFeetAndInches(bool feet);
    void setHeight(double metres, const QString& mergeKey = {});
    void chooseDriveSet(int set);

    void newDesign();
    /// A design that was made elsewhere for these bands, on the bench and looked at on the first of them; in
    /// place of the one there, where that is not wanted.
    void addDesign(const model::Design& design, const std::vector<model::Band>& bands, bool inPlace = false);
    void copyDesign();
    void removeDesign();

    void pin();
    void pinDesign(const QString& name, const model::Design& design);
    void pinWithAndWithout();
    /// One of core/edit/pins.h, for the pin with this id. What tuning lays over the design is no pin yet:
    /// that is said instead.
    void editPin(const QString& label, model::Id pin,
                 const std::function<model::Project(model::Project, model::Id)>& change);

    /// In the background: multiplies these dimensions until the antenna is resonant there.
    void scaleTo(const std::vector<std::string>& dimensions, double targetHz);
    void findResonance();
    /// The half-power rule for a stack, said with an offer to use it or to scan.
    void adviseStacking(model::Id copy);

  Q_SIGNALS:
    /// Something new was made by hand: the first field of its editor is where typing goes on.
    void madeByHand(rm::app::Selection item);
    void scanRequested(rm::model::Id copy);
    void scaleRequested();
    /// Drive sets were added: they are looked at side by side.
    void drivesAdded();

  private:
    /// The working band where it holds this frequency, else the first of the project that does.
    std::optional<std::size_t> bandAt(double hz) const;
    /// Takes over what was made and selects it.
    bool take(const QString& label, const std::function<edit::Added(model::Project)>& make,
              bool byHand = true);
    bool change(const QString& label, const std::function<model::Project(model::Project)>& make);
    void removePart(model::Id part);
    void removeSupport(model::Id support);

    /// A measured file and every way it can be read.
    struct MeasuredFile {
        QString file;
        std::vector<io::MeasuredTable> readings;
    };
    /// Shows two ways to read a table and asks which.
    void askHowToRead(const std::vector<MeasuredFile>& read, std::size_t which);
    void takeMeasured(const std::vector<MeasuredFile>& read);

    Session& session_;
    Document& document_;
};

}  // namespace rm::app
