// A sweep read from an analyser: over TCP, or from a serial device or pseudo-terminal.
#pragma once

#include <QObject>
#include <QTcpSocket>
#include <QTimer>
#include <memory>

#include "core/project/analyser_lines.h"

class QSocketNotifier;

namespace rm::app {

class AnalyserLink : public QObject {
    Q_OBJECT
  public:
    explicit AnalyserLink(QObject* parent = nullptr);
    ~AnalyserLink() override;

    /// `address` is "host:port" or the path of a device. Ends a sweep that is under way.
    void start(const QString& address, const io::AnalyserSweep& sweep);
    void stop();
    bool running() const { return reader_ != nullptr; }

    /// How long an analyser may be silent, ms.
    static constexpr int kPatienceMs = 8000;

  Q_SIGNALS:
    void progressed(int points);
    void finished(const rm::model::MeasuredData& data);
    /// One sentence.
    void failed(const QString& sentence);

  private:
    void openDevice(const QString& path);
    void readDevice();
    void take(const QByteArray& bytes);
    void fail(const QString& sentence);

    QString address_;
    std::string request_;
    std::unique_ptr<io::AnalyserReader> reader_;
    QTcpSocket socket_;
    std::unique_ptr<QSocketNotifier> notifier_;
    int device_ = -1;
    QTimer patience_;
};

}  // namespace rm::app
