// A monkey at the bench: drives the real window with random valid and invalid input from a seed, and checks
// after each step that what is shown belongs to one model, and now and then that undo to the start gives the
// project back bit by bit.
#pragma once

#include <QTemporaryDir>
#include <QTimer>
#include <functional>
#include <random>
#include <string>
#include <vector>

#include "app/frame/bench.h"

class QAction;
class QLineEdit;

namespace rm::test {

class Monkey {
  public:
    /// `demo` is the project that it starts from and comes back to.
    Monkey(unsigned seed, const QString& demo);
    ~Monkey();

    /// One random step and the checks after it. Throws std::runtime_error that says what does not hold.
    void step();
    /// What was done last, oldest first.
    const std::vector<std::string>& steps() const { return steps_; }
    int count() const { return count_; }
    /// The demo, as it opens, with nothing under way: what is in use now is not of what was open before.
    void rest();
    /// An exception reached the event loop.
    void failed(const QString& sentence) { failure_ = sentence.toStdString(); }

  private:
    struct Trick {
        const char* name;
        int weight;
        void (Monkey::*act)();
    };
    static const std::vector<Trick>& tricks();

    int pick(int n) { return static_cast<int>(random_() % static_cast<unsigned>(std::max(1, n))); }
    bool chance(int percent) { return pick(100) < percent; }
    template <typename List>
    auto& oneOf(List& list) {
        return list[static_cast<std::size_t>(pick(static_cast<int>(list.size())))];
    }
    void note(const QString& what);
    void let(int milliseconds);
    QString nonsense();
    QWidget* anyWidget(QPoint& at);
    std::vector<QLineEdit*> fields();

    void triggerAction();
    void openStage();
    void clickSomewhere();
    void clickRight();
    void dragSomewhere();
    void wheelSomewhere();
    void typeInField();
    void halfType();
    void pressKeys();
    void chooseFromList();
    void slide();
    void undoSome();
    void switchDesign();
    void switchBand();
    void selectItem();
    void growOrShrinkStack();
    void openOrSave();
    void work();
    void stop();
    void pause();
    void resize();
    void dragPin();
    void useHands();
    void cutElsewhere();
    void undoToTheStart();

    /// Answers whatever has opened in front of the window.
    void answer();
    void check();
    void checkSettled();
    void require(bool holds, const std::string& what) const;
    std::string written(const model::Project& project) const;
    void begin();
    void openDemo();

    std::mt19937 random_;
    QTemporaryDir folder_;
    QString demo_;
    QString kept_;
    app::Bench bench_;
    QTimer answering_;
    std::vector<std::string> steps_;
    std::string failure_;
    std::string begun_;  ///< the project as it was when its history began
    int count_ = 0;
    int sinceStart_ = 0;
};

}  // namespace rm::test
