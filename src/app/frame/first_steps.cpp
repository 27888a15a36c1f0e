#include "app/frame/first_steps.h"

#include <QHBoxLayout>
#include <QLabel>
#include <QToolButton>

#include "app/look/text.h"
#include "app/look/theme.h"
#include "core/edit/designs.h"
#include "core/study/sweep.h"

namespace rm::app {

namespace {

constexpr double kGoodSwr = 2.3;
constexpr double kRaisedM = 1.0;

const char* const kSteps[] = {
    later("This dipole for 20 m hangs low. Click its wire in the yard: that takes hold of it."),
    later("Its band strip is not green: the wire is too long. Drag one of its round grips inwards until the "
          "SWR "
          "over "
          "the 20 m band is 2.3 or less."),
    later("Now height: drag the handle beside the antenna up by a metre or more, and watch takeoff angle and "
          "SWR "
          "follow."),
    later("Keep what you have: press P. The pin stays in the ledger and over every curve while you go on."),
    later("And what to cut? Go to Build (Ctrl+Shift+5): its list says what comes off the reel.")};
constexpr int kCount = 5;

}  // namespace

FirstSteps::FirstSteps(Session& session, QWidget* parent) : QFrame(parent), session_(session) {
    setObjectName("firstSteps");
    setFrameShape(QFrame::StyledPanel);
    auto* row = new QHBoxLayout(this);
    row->setContentsMargins(10, 5, 6, 5);
    title_ = new QLabel;
    title_->setFont(textFont(kTextPt, true));
    words_ = new QLabel;
    words_->setObjectName("firstStep");
    words_->setWordWrap(true);
    row->addWidget(title_);
    row->addWidget(words_, 1);
    auto* close = new QToolButton;
    close->setText("✕");
    close->setToolTip(tr("Leave the first steps"));
    close->setAccessibleName(tr("Leave the first steps"));
    close->setProperty("quiet", true);
    connect(close, &QToolButton::clicked, this, &FirstSteps::end);
    row->addWidget(close);
    connect(&session_, &Session::selectionChanged, this, &FirstSteps::look);
    connect(&session_, &Session::resultsChanged, this, &FirstSteps::look);
    connect(&session_, &Session::projectChanged, this, &FirstSteps::look);
    hide();
}

void FirstSteps::begin() {
    const bool feet = session_.project().feetAndInches;
    model::Project project = edit::starterProject(feet);
    project.title = rm::say("First antenna");
    model::Design& design = project.designs.front();
    design.name = rm::say("My first dipole");
    design.dimensions.front().text = feet ? "36 ft" : "11 m";
    design.site.height = feet ? "26 ft" : "8 m";
    session_.document().adopt(project, {});
    session_.select({});
    active_ = true;
    step_ = 0;
    show();
    say();
}

void FirstSteps::end() {
    active_ = false;
    hide();
}

void FirstSteps::stageShown(const QString& name) {
    stage_ = name;
    look();
}

void FirstSteps::look() {
    if (!active_ || step_ >= kCount) return;
    const auto& results = session_.results();
    switch (step_) {
        case 0:
            if (session_.selectedPart() != nullptr) advance();
            break;
        case 1:
            if (session_.live() && results->sweep && results->sweep->worstSwr() <= kGoodSwr) advance();
            break;
        case 2:
            if (session_.expansion()->heightM >= heightM_ + kRaisedM) advance();
            break;
        case 3:
            if (!session_.project().pins.empty()) advance();
            break;
        default:
            if (stage_ == "build") advance();
            break;
    }
}

void FirstSteps::advance() {
    ++step_;
    heightM_ = session_.expansion()->heightM;
    say();
}

void FirstSteps::say() {
    title_->setText(step_ < kCount ? tr("Your first antenna, %1 of %2").arg(step_ + 1).arg(kCount)
                                   : tr("Your first antenna"));
    words_->setText(step_ < kCount
                        ? tr(kSteps[step_])
                        : tr("That is the way of all of it: shape, match, compare, build. Undo takes "
                             "back anything. Try another starter with Ctrl+Shift+N."));
}

QString FirstSteps::sentence() const {
    return words_->text();
}

}  // namespace rm::app
