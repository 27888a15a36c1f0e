#include "app/stages/site/site_stage.h"

#include <QFileDialog>
#include <QHBoxLayout>
#include <QLabel>
#include <QLineEdit>
#include <QMenu>
#include <QToolButton>
#include <cmath>

#include "app/look/text.h"
#include "app/look/typed_number.h"
#include "core/quantity/formula.h"

namespace rm::app {

namespace {

QToolButton* toolButton(const QString& label, const QString& tip, QHBoxLayout* line) {
    auto* button = new QToolButton;
    button->setText(label);
    button->setObjectName(label);
    button->setToolTip(tip);
    button->setFont(textFont(kSmallPt));
    line->addWidget(button);
    return button;
}

}  // namespace

SiteFrame::SiteFrame(Session& session, Editing& editing)
    : session_(session), canvas_(new SiteCanvas(session, editing)) {
    buildTools();
    addContent(canvas_, 1);
    setLine({}, {}, {});
    connect(canvas_, &SiteCanvas::readingChanged, this, [this] {
        setLine({}, {}, canvas_->reading());
        if (canvas_->tool() == SiteCanvas::Tool::Scale) showTool();
    });
    connect(canvas_, &SiteCanvas::toolChanged, this, &SiteFrame::showTool);
    showTool();
}

void SiteFrame::buildTools() {
    auto* row = new QWidget;
    auto* line = new QHBoxLayout(row);
    line->setContentsMargins(0, 2, 0, 2);
    line->setSpacing(4);
    put_ = toolButton(tr("Put up"),
                      tr("A mast, a tree, a roof edge, a wall or a peg: then click where it stands"), line);
    put_->setPopupMode(QToolButton::InstantPopup);
    auto* kinds = new QMenu(put_);
    using Kind = model::SupportKind;
    for (const Kind kind : {Kind::Mast, Kind::Tree, Kind::RoofEdge, Kind::Wall, Kind::Peg}) {
        const QString name = text(model::supportName(kind));
        kinds->addAction(name.left(1).toUpper() + name.mid(1), this,
                         [this, kind] { canvas_->setTool(SiteCanvas::Tool::Put, kind); });
    }
    put_->setMenu(kinds);
    const auto tool = [&](const QString& label, const QString& tip, SiteCanvas::Tool which) {
        auto* button = toolButton(label, tip, line);
        button->setCheckable(true);
        connect(button, &QToolButton::clicked, this, [this, which](bool on) {
            canvas_->setTool(on ? which : SiteCanvas::Tool::Look);
            canvas_->setFocus();
        });
        return button;
    };
    hang_ =
        tool(tr("Hang a wire"), tr("Click the supports in turn that it is led over"), SiteCanvas::Tool::Hang);
    measure_ =
        tool(tr("Measure"), tr("Distance and bearing from one place to another"), SiteCanvas::Tool::Measure);
    line->addSpacing(8);
    connect(toolButton(tr("Garden picture…"), tr("A picture of the site from above, under the plan"), line),
            &QToolButton::clicked, this, &SiteFrame::askPicture);
    scale_ = tool(tr("Scale it"), tr("Click two places of the picture and say how far apart they are"),
                  SiteCanvas::Tool::Scale);
    drop_ = toolButton(tr("No picture"), tr("Takes the picture away"), line);
    connect(drop_, &QToolButton::clicked, this, &SiteFrame::dropPicture);
    scaleFields_ = new QWidget;
    auto* fields = new QHBoxLayout(scaleFields_);
    fields->setContentsMargins(6, 0, 0, 0);
    const auto field = [&](const QString& label, const QString& name, int wide) {
        auto* words = new QLabel(label);
        words->setFont(textFont(kSmallPt));
        fields->addWidget(words);
        auto* edit = new QLineEdit;
        edit->setAccessibleName(name);
        edit->setFixedWidth(wide);
        fields->addWidget(edit);
        connect(edit, &QLineEdit::returnPressed, this, &SiteFrame::scale);
        return edit;
    };
    distance_ = field(tr("apart"), tr("Distance of the two places"), 70);
    bearing_ = field(tr("at"), tr("Bearing of the second from the first"), 56);
    connect(toolButton(tr("Take it"), tr("Lays the picture so"), fields), &QToolButton::clicked, this,
            &SiteFrame::scale);
    line->addWidget(scaleFields_);
    line->addStretch(1);
    addContent(row, 0);
}

void SiteFrame::showTool() {
    using Tool = SiteCanvas::Tool;
    hang_->setChecked(canvas_->tool() == Tool::Hang);
    measure_->setChecked(canvas_->tool() == Tool::Measure);
    scale_->setChecked(canvas_->tool() == Tool::Scale);
    const auto& points = canvas_->scaling();
    const bool ready = canvas_->tool() == Tool::Scale && points.size() == 2;
    if (ready && scaleFields_->isHidden()) {
        const QPointF run = points[1] - points[0];
        distance_->clear();
        distance_->setPlaceholderText("10 m");
        bearing_->setText(QString("%1 deg").arg(
            written(std::fmod(std::atan2(run.x(), run.y()) / kDegree + 360.0, 360.0), 'f', 1)));
        scaleFields_->show();
        distance_->setFocus();
    } else if (!ready) {
        scaleFields_->hide();
    }
}

void SiteFrame::refresh() {
    setTitle(tr("Plan of the site"));
    canvas_->refresh();
    const bool picture = !session_.design().site.backdrop.file.empty();
    scale_->setVisible(picture);
    drop_->setVisible(picture);
}

void SiteFrame::askPicture() {
    const QString path =
        QFileDialog::getOpenFileName(this, tr("A picture of the site from above"), {},
                                     tr("Pictures (*.png *.jpg *.jpeg *.webp);;All files (*)"));
    if (path.isEmpty()) return;
    session_.document().editDesign(tr("Lay a picture under the plan"), [&](model::Design& d) {
        d.site.backdrop = {};
        d.site.backdrop.file = path.toStdString();
    });
    if (!canvas_->problem().isEmpty()) return session_.bad(canvas_->problem());
    canvas_->setTool(SiteCanvas::Tool::Scale);
}

void SiteFrame::dropPicture() {
    session_.document().editDesign(tr("Take the picture away"),
                                   [](model::Design& d) { d.site.backdrop = model::Backdrop{}; });
}

void SiteFrame::scale() {
    using quantity::Kind;
    try {
        const double metres =
            quantity::evaluate(keptTyped(distance_->text(), Kind::Length), Kind::Length, {});
        const double bearing = quantity::evaluate(keptTyped(bearing_->text(), Kind::Angle), Kind::Angle, {});
        canvas_->scalePicture(metres, bearing);
        canvas_->setFocus();
    } catch (const Error& e) {
        session_.bad(QString::fromUtf8(e.what()));
    }
}

SiteStage::SiteStage(Session& s, Editing& editing) : Stage("site", s), frame_(new SiteFrame(s, editing)) {
    connect(frame_, &StudyFrame::closed, this, &Stage::closed);
    connect(&s, &Session::benchCleared, frame_->canvas(), &SiteCanvas::fitNext);
}

std::vector<StageAction> SiteStage::actions() {
    return {{StageAction::Menu::View, tr("Plan of the s&ite"), "Ctrl+Shift+7",
             tr("From above, to scale: masts, trees and what hangs from them"), [this] {
                 frame_->refresh();
                 Q_EMIT frontRequested();
             }}};
}

}  // namespace rm::app
