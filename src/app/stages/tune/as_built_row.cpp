#include "app/stages/tune/as_built_row.h"

#include <QCheckBox>
#include <QHBoxLayout>
#include <QLabel>
#include <QLineEdit>

#include "app/look/text.h"
#include "app/look/theme.h"
#include "app/look/typed_number.h"

namespace rm::app {

using model::BuildErrorTexts;

namespace {

struct ErrorField {
    const char* label;
    const char* name;
    const char* tip;
    std::string BuildErrorTexts::*member;
    quantity::Kind kind;
};

constexpr ErrorField kErrors[] = {
    {later("lengths ±"), "asBuiltLength", later("Standard deviation of every length that is named"),
     &BuildErrorTexts::length, quantity::Kind::Length},
    {later("height ±"), "asBuiltHeight", later("And of the height it ends up at"), &BuildErrorTexts::height,
     quantity::Kind::Length},
    {later("soil ±"), "asBuiltGround", later("And of the conductivity of the ground, in percent"),
     &BuildErrorTexts::ground, quantity::Kind::Number}};

}  // namespace

AsBuiltRow::AsBuiltRow(Document& document, QWidget* parent) : QWidget(parent), document_(document) {
    auto* row = new QHBoxLayout(this);
    row->setContentsMargins(0, 0, 0, 0);
    row->setSpacing(4);
    check_ = new QCheckBox(tr("as I build:"));
    check_->setObjectName("asBuilt");
    check_->setFont(textFont(kSmallPt));
    check_->setToolTip(tr("Goals are to hold for nine of ten builds, not only for the one that is drawn"));
    row->addWidget(check_);
    connect(check_, &QCheckBox::clicked, this, [this](bool on) {
        document_.editDesign(on ? tr("Tune as I build") : tr("Tune as drawn"),
                             [&](model::Design& d) { d.tune.asBuilt = on; });
    });
    for (int i = 0; i < kFields; ++i) {
        auto* label = new QLabel(tr(kErrors[i].label));
        label->setFont(textFont(kSmallPt));
        label->setProperty("soft", true);
        row->addWidget(label);
        auto* f = fields_[i] = new QLineEdit;
        f->setObjectName(kErrors[i].name);
        f->setAccessibleName(tr(kErrors[i].label));
        f->setToolTip(tr(kErrors[i].tip));
        f->setFixedWidth(52);
        f->setFont(textFont(kSmallPt));
        row->addWidget(f);
        connect(f, &QLineEdit::editingFinished, this, [this, f, i] {
            if (!f->isModified()) return;
            f->setModified(false);
            const std::string typed = keptTyped(f->text(), kErrors[i].kind);
            const auto member = kErrors[i].member;
            if (document_.design().tune.errors.*member == typed) return;
            document_.editDesign(tr("Change how well is built"),
                                 [&](model::Design& d) { d.tune.errors.*member = typed; });
        });
    }
    row->addStretch(1);
}

void AsBuiltRow::refresh() {
    const auto& plan = document_.design().tune;
    check_->setChecked(plan.asBuilt);
    for (int i = 0; i < kFields; ++i) {
        fields_[i]->setEnabled(plan.asBuilt);
        if (!(fields_[i]->hasFocus() && fields_[i]->isModified()))
            fields_[i]->setText(shownTyped(plan.errors.*kErrors[i].member));
    }
}

}  // namespace rm::app
