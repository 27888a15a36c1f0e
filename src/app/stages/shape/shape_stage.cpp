#include "app/stages/shape/shape_stage.h"

#include "app/look/text.h"
#include "app/stages/shape/feed_tool.h"
#include "app/stages/shape/grip_tool.h"
#include "app/stages/shape/pen_tool.h"
#include "app/stages/shape/support_tool.h"
#include "app/stages/shape/yard.h"
#include "core/quantity/format.h"

namespace rm::app {

namespace {

/// Wires that have moved wait so long for their currents; then they are shown without.
constexpr int kWiresAloneAfterMs = 30;

}  // namespace

ShapeStage::ShapeStage(Session& s, Editing& editing)
    : Stage("shape", s),
      yard_(new Yard),
      pen_(new PenTool(s, editing, *yard_)),
      feeds_(new FeedTool(s, *yard_)),
      supports_(new SupportTool(s, *yard_)),
      grips_(new GripTool(s, *yard_)) {
    for (YardTool* tool : {static_cast<YardTool*>(pen_), static_cast<YardTool*>(feeds_),
                           static_cast<YardTool*>(supports_), static_cast<YardTool*>(grips_)}) {
        yard_->addTool(tool);
        // A number half typed beside a grip was typed for the antenna as it was.
        connect(&document(), &Document::aboutToChange, tool, &YardTool::lookAway);
    }
    wiresAlone_.setSingleShot(true);
    wiresAlone_.setInterval(kWiresAloneAfterMs);
    connect(&wiresAlone_, &QTimer::timeout, this, [this] { yard_->setWires(session().expansion()); });
    connect(&s, &Session::projectChanged, this, [this] {
        if (yard_->expansion() != session().expansion()) wiresAlone_.start();
    });
    connect(&s, &Session::benchCleared, yard_, &Yard::fitNext);
    connect(&s, &Session::benchCleared, pen_, &PenTool::interrupted);
    connect(&s, &Session::pointed, yard_, &Yard::setRay);
    connect(yard_, &Yard::partClicked, this, [this](const QString& name, bool together) {
        Selection clicked;
        for (const auto& part : session().design().parts)
            if (QString::fromStdString(part.name) == name) clicked = {Selection::Type::Part, part.id};
        if (together && clicked.type == Selection::Type::Part) return grips_->toggle(clicked.id);
        session().select(clicked);
        if (clicked.type == Selection::Type::Part) grips_->only(clicked.id);
    });
    connect(yard_, &Yard::supportClicked, this, [this](const QString& name) {
        for (const auto& support : session().design().site.supports)
            if (QString::fromStdString(support.name) == name)
                return session().select({Selection::Type::Support, support.id});
    });
    connect(yard_, &Yard::heightDragged, this,
            [&editing](double metres) { editing.setHeight(metres, "height"); });
    connect(yard_, &Yard::dragFinished, this, [this] { document().finishMerging(); });
    connect(&field_, &MapWorker::mapped, this, [this](const FieldMapPtr& map) {
        if (showsField_) yard_->setField(map, session().nearLook());
    });
    connect(&field_, &MapWorker::failed, &s, &Session::bad);
    connect(&s, &Session::nearLookChanged, this, &ShapeStage::askField);
    connect(&s, &Session::clearChanged, this, &ShapeStage::showKeep);
    yard_->setWires(s.expansion());
}

QWidget* ShapeStage::widget() {
    return yard_;
}

std::vector<StageAction> ShapeStage::actions() {
    return {{StageAction::Menu::View, tr("&Shape"), "Ctrl+1", tr("The antenna on its site (Ctrl+1)"),
             [this] { Q_EMIT frontRequested(); }, tr("Shape")}};
}

std::vector<StageAction> ShapeStage::viewActions() {
    constexpr auto view = StageAction::Menu::View;
    return {{view, tr("Yard at an &angle"), "F2", {}, [this] { yard_->viewAtAnAngle(); }},
            {view, tr("Yard from the &front"), "F3", {}, [this] { yard_->viewFromFront(); }},
            {view, tr("Yard from the &side"), "F4", {}, [this] { yard_->viewFromSide(); }},
            {view, tr("Yard from a&bove"), "F5", {}, [this] { yard_->viewFromAbove(); }},
            {view, tr("&Fit the antenna"), "F6", {}, [this] { yard_->fitTo(false); }},
            {view, tr("Fit the site"), "Shift+F6", {}, [this] { yard_->fitTo(true); }},
            {StageAction::Menu::Edit, tr("Draw a wire with the p&en"), "W",
             tr("Click corner after corner in the yard; on the first one it closes to a loop"), [this] {
                 Q_EMIT frontRequested();
                 pen_->start();
             }}};
}

std::vector<StageSwitch> ShapeStage::switches() {
    return {{tr("&Current along the wires"), "Ctrl+I", "currents", true,
             [this](bool on) { yard_->setShowCurrents(on); }},
            {tr("Phase of the current as &colour"), "Ctrl+Shift+Q", "phase", false,
             [this](bool on) { yard_->setShowPhase(on); }},
            {tr("&Lobe in the yard"), "Ctrl+L", "lobe", false, [this](bool on) { showLobe(on); }},
            {tr("Field close by in the &yard"), "Ctrl+Alt+L", "field", false,
             [this](bool on) { showField(on); }}};
}

void ShapeStage::show(const ResultsPtr& results) {
    wiresAlone_.stop();
    yard_->setResults(results);
    askField();
    showKeep();
    yard_->setCaption(
        (results->design().site.quick ? tr("FREE SPACE FOR NOW   ") : QString()) +
        QString("%1   %2").arg(results->range ? tr("range") : QString::fromStdString(results->band.name),
                               QString::fromStdString(quantity::formatFrequency(results->frequencyHz))));
}

/// The plane of the map on the stage; coarser, as it lies far from the eye.
void ShapeStage::askField() {
    constexpr int kYardPoints = 96;
    const ResultsPtr results = session().results();
    if (!showsField_ || !results->analysis || !results->expansion) return;
    field_.ask(results->expansion, results->analysis, results->project->powerW, session().nearLook(),
               kYardPoints);
}

void ShapeStage::showField(bool show) {
    showsField_ = show;
    if (show) return askField();
    field_.stop();
    yard_->setField(nullptr, session().nearLook());
}

/// Of the working band, the public's lines.
void ShapeStage::showKeep() {
    const ClearPtr clear = session().clear();
    const study::ClearRow* found = nullptr;
    if (clear)
        for (const auto& row : clear->rows)
            if (row.person == study::Person::Public && row.band == session().band().name) found = &row;
    yard_->setKeep(found);
}

void ShapeStage::setStale(bool stale) {
    yard_->setStale(stale);
}

void ShapeStage::refresh() {
    supports_->refresh();
    grips_->refresh();
}

Wants ShapeStage::wants() const {
    Wants wants;
    wants.lobe = lobe_;
    return wants;
}

void ShapeStage::showLobe(bool show) {
    lobe_ = show;
    yard_->setShowLobe(show);
    Q_EMIT wantsChanged();
}

}  // namespace rm::app
