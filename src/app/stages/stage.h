// One thing that the middle of the bench can show. Adding one is adding a folder and a line in
// stage_table.cpp.
#pragma once

#include <QObject>
#include <functional>
#include <vector>

#include "app/session/editing.h"
#include "app/session/session.h"

class QWidget;

namespace rm::app {

/// How a stage is reached: a place in the menus, keys, and what to do.
struct StageAction {
    enum class Menu { View, Study, Edit };
    Menu menu = Menu::Study;
    QString text;  ///< with its mnemonic
    QString keys;
    QString tip;
    std::function<void()> act;
    QString mode = {};  ///< of the button beside the title; empty: it has none
};

/// A switch of a stage in the View menu.
struct StageSwitch {
    QString text;
    QString keys;
    QString name;  ///< tests and other views know it by this
    bool on = false;
    std::function<void(bool)> act;
};

class Stage : public QObject {
    Q_OBJECT
  public:
    Stage(QString name, Session& session) : name_(std::move(name)), session_(session) {}

    /// "boom"; tests, the command line and other stages know it by this.
    const QString& name() const { return name_; }
    virtual QWidget* widget() = 0;
    /// The first one brings it to the front.
    virtual std::vector<StageAction> actions() = 0;
    /// What else it has in the menus.
    virtual std::vector<StageAction> viewActions() { return {}; }
    virtual std::vector<StageSwitch> switches() { return {}; }

    /// The newest results, while it is in front and as it comes to the front.
    virtual void show(const ResultsPtr&) {}
    /// Figures of an older model are on the screen.
    virtual void setStale(bool) {}
    /// The project or what is selected has changed, while it is in front and as it comes there.
    virtual void refresh() {}
    /// What it wants worked out beside the rest, while it is in front.
    virtual Wants wants() const { return {}; }
    /// Nothing of its own is under way.
    virtual bool settled() const { return true; }
    /// Ends what it has under way; what is there so far counts.
    virtual void stop() {}
    bool inFront() const { return inFront_; }
    void setInFront(bool front) { inFront_ = front; }

  Q_SIGNALS:
    void frontRequested();
    /// Back to the yard.
    void closed();
    /// Another stage, by its name.
    void otherRequested(QString name);
    void wantsChanged();

  protected:
    Session& session() const { return session_; }
    Document& document() const { return session_.document(); }

  private:
    QString name_;
    Session& session_;
    bool inFront_ = false;
};

}  // namespace rm::app
