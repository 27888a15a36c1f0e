// Work in the background for one view: one function at a time, its outcome handed to the window's thread.
#pragma once

#include <QObject>
#include <deque>
#include <functional>
#include <memory>
#include <mutex>
#include <stop_token>

namespace rm::app {

/// Reaches an object of the window's thread from any other for as long as it lives.
class Mailbox {
  public:
    explicit Mailbox(QObject* owner) : letters_(std::make_shared<Letters>(owner)) {}
    /// Runs `what` on the owner's thread, in the order in which it was posted; drops it where the owner is
    /// gone.
    void post(std::function<void()> what);
    void close();

  private:
    /// What is posted waits here, under a lock of our own: the toolkit's event only says that it is there, so
    /// that a thread sanitizer sees how it passes from thread to thread.
    struct Letters {
        explicit Letters(QObject* who) : owner(who) {}
        void deliver();

        std::mutex mutex;
        QObject* owner;
        std::deque<std::function<void()>> waiting;
    };
    std::shared_ptr<Letters> letters_;
};

/// Runs one function in the background and does afterwards what it returns, on the thread of the task. The
/// function gets copies of all that it needs: it may outlive the task, which asks it to stop and lets it go
/// without waiting.
class Task : public QObject {
    Q_OBJECT
  public:
    using Progress = std::function<void(double)>;
    using After = std::function<void()>;
    using Work = std::function<After(std::stop_token, const Progress&)>;

    explicit Task(QObject* parent = nullptr);
    ~Task() override;

    /// Stops what runs, whose outcome is dropped, and starts this.
    void start(Work work);
    /// Asks what runs to end with what it has; its outcome still comes.
    void stop();
    /// Stops what runs and drops its outcome.
    void drop();
    bool running() const { return running_; }

  Q_SIGNALS:
    void progress(double share);
    void failed(QString sentence);
    void done();

  private:
    std::shared_ptr<Mailbox> mailbox_;
    std::stop_source stop_;
    bool running_ = false;
    int turn_ = 0;
};

}  // namespace rm::app
