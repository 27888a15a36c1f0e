// The dialogs that the menus open, and what is done with their answers.
#pragma once

#include <QPoint>
#include <functional>

#include "app/session/editing.h"

class QWidget;

namespace rm::app {

class Files;

class Questions {
  public:
    Questions(Session& session, Editing& editing, Files& files, QWidget& window)
        : session_(session), editing_(editing), files_(files), window_(window) {}

    void askBands();
    void askAngles();
    void askScale();
    void askSweep();
    /// Measures the band of the bench and what lies beside it.
    void askAnalyser();
    /// A menu of what can be added under a heading of the plan, at the pointer, or the thing itself where
    /// there is one kind only.
    void askWhatToAdd(Selection::Type type);
    /// The gallery of starters; `beginning` offers the demo, files opened before and the first steps, too.
    void askStarter(bool beginning);
    /// Any action of the menus, by a word of it.
    void findAction();
    /// What the gallery offers beside starters.
    void onFirstSteps(std::function<void()> begin) { firstSteps_ = std::move(begin); }
    void showShortcuts();
    void showGuide();
    void showAbout();

  private:
    Session& session_;
    Editing& editing_;
    Files& files_;
    QWidget& window_;
    std::function<void()> firstSteps_;
};

/// Kinds of part with their place in a menu and their keys.
struct PartChoice {
    QString text;
    edit::PartKind kind;
    const char* keys;
};
const std::vector<PartChoice>& partChoices();
/// Kinds of support.
const std::vector<std::pair<QString, model::SupportKind>>& supportChoices();
/// Kinds of copies.
const std::vector<std::pair<QString, model::CopyKind>>& copyChoices();

}  // namespace rm::app
