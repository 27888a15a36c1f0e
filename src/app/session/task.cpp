#include "app/session/task.h"

#include <QMetaObject>
#include <thread>

#include "core/stopped.h"

namespace rm::app {

void Mailbox::post(std::function<void()> what) {
    const std::scoped_lock lock(letters_->mutex);
    if (letters_->owner == nullptr) return;
    letters_->waiting.push_back(std::move(what));
    QMetaObject::invokeMethod(
        letters_->owner, [letters = letters_] { letters->deliver(); }, Qt::QueuedConnection);
}

void Mailbox::Letters::deliver() {
    std::function<void()> first;
    {
        const std::scoped_lock lock(mutex);
        if (waiting.empty()) return;
        first = std::move(waiting.front());
        waiting.pop_front();
    }
    first();
}

void Mailbox::close() {
    const std::scoped_lock lock(letters_->mutex);
    letters_->owner = nullptr;
    letters_->waiting.clear();
}

Task::Task(QObject* parent) : QObject(parent), mailbox_(std::make_shared<Mailbox>(this)) {}

Task::~Task() {
    stop_.request_stop();
    mailbox_->close();
}

void Task::stop() {
    stop_.request_stop();
}

void Task::drop() {
    stop_.request_stop();
    ++turn_;
    if (!running_) return;
    running_ = false;
    Q_EMIT done();
}

void Task::start(Work work) {
    stop_.request_stop();
    stop_ = std::stop_source();
    running_ = true;
    // What an earlier work still has to say comes too late.
    const int turn = ++turn_;
    // The posted functions touch the task, which lives as long as its mailbox is open.
    const auto end = [this, turn](const After& after) {
        if (turn != turn_) return;
        running_ = false;
        if (after) after();
        Q_EMIT done();
    };
    std::thread([this, turn, end, box = mailbox_, stop = stop_.get_token(), work = std::move(work)] {
        const Progress say = [this, turn, box](double share) {
            box->post([this, turn, share] {
                if (turn == turn_ && running_) Q_EMIT progress(share);
            });
        };
        After after;
        try {
            after = work(stop, say);
        } catch (const Stopped&) {
            // Nothing came of it.
        } catch (const std::exception& e) {
            after = [this, sentence = QString::fromUtf8(e.what())] { Q_EMIT failed(sentence); };
        }
        box->post([end, after] { end(after); });
    }).detach();
}

}  // namespace rm::app
