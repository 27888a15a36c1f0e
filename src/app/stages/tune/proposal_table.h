// What tuning proposes: old and new value of every dimension, the change, and which of them to take.
#pragma once

#include <QTableWidget>
#include <map>
#include <memory>

#include "app/look/themed.h"
#include "core/model/design.h"
#include "core/study/tuning/tune.h"

namespace rm::app {

/// A result of tuning, and the design that it was made from.
struct Proposal {
    model::Design design;
    study::TuneResult result;
    std::vector<model::Band> bands;
};
using ProposalPtr = std::shared_ptr<const Proposal>;

class ProposalTable : public Themed<QTableWidget> {
    Q_OBJECT
  public:
    explicit ProposalTable(QWidget* parent = nullptr);

    enum Column { Name, Now, New, Change, kColumns };

    void setProposal(ProposalPtr proposal);
    /// Values rounded to steps that can be built, or as found.
    void setRounded(bool rounded);
    bool rounded() const { return rounded_; }
    /// The ticked ones.
    std::map<std::string, double> chosen() const;
    int rowOf(const std::string& dimension) const;

  Q_SIGNALS:
    void chosenChanged();

  private:
    void refresh();

    ProposalPtr proposal_;
    std::vector<std::string> names_;
    std::map<std::string, bool> left_;  ///< those not ticked
    bool rounded_ = true;
    bool updating_ = false;

  protected:
    void themeChanged() override;
};

/// "+12 mm", "−1.5°", "+0.02".
QString changeText(model::DimensionKind kind, double change);

}  // namespace rm::app
