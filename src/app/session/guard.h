// The last line of defence: an exception that nobody has caught does not end the program.
#pragma once

#include <QApplication>
#include <functional>

namespace rm::app {

class GuardedApplication : public QApplication {
  public:
    GuardedApplication(int& argc, char** argv) : QApplication(argc, argv) {}

    /// Called with the sentence and the place of an exception that reached the event loop or a painter, on
    /// the thread of the window.
    void onFailure(std::function<void(const QString& sentence)> act) { act_ = std::move(act); }
    bool notify(QObject* receiver, QEvent* event) override;

  private:
    void report(const char* what, const QObject* receiver, const QEvent* event);

    std::function<void(const QString&)> act_;
    bool reporting_ = false;
};

}  // namespace rm::app
