#include "app/session/analyser_link.h"

#include <fcntl.h>
#include <termios.h>
#include <unistd.h>

#include <QSocketNotifier>

#include "app/look/text.h"

namespace rm::app {

AnalyserLink::AnalyserLink(QObject* parent) : QObject(parent) {
    patience_.setSingleShot(true);
    patience_.setInterval(kPatienceMs);
    connect(&patience_, &QTimer::timeout, this, [this] {
        fail(tr("Nothing comes from %1: is the analyser on, and is this where it is?").arg(address_));
    });
    connect(&socket_, &QTcpSocket::connected, this, [this] { socket_.write(request_.c_str()); });
    connect(&socket_, &QTcpSocket::readyRead, this, [this] { take(socket_.readAll()); });
    connect(&socket_, &QTcpSocket::errorOccurred, this,
            [this] { fail(tr("%1 does not answer: %2.").arg(address_, socket_.errorString())); });
}

AnalyserLink::~AnalyserLink() {
    // Nothing that the socket says while it goes is for anybody.
    socket_.disconnect(this);
    stop();
}

void AnalyserLink::start(const QString& address, const io::AnalyserSweep& sweep) {
    stop();
    address_ = address.trimmed();
    request_ = io::sweepLine(sweep);
    reader_ = std::make_unique<io::AnalyserReader>(sweep);
    patience_.start();
    if (address_.startsWith('/')) return openDevice(address_);
    bool known = false;
    const int port = address_.section(':', -1).toInt(&known);
    const QString host = address_.section(':', 0, -2);
    if (!known || host.isEmpty() || port < 1 || port > 65535)
        return fail(
            tr("\"%1\" is no place of an analyser: say localhost:7373, or /dev/ttyUSB0.").arg(address_));
    socket_.connectToHost(host, static_cast<quint16>(port));
}

void AnalyserLink::openDevice(const QString& path) {
    device_ = ::open(path.toLocal8Bit().constData(), O_RDWR | O_NOCTTY | O_NONBLOCK | O_CLOEXEC);
    termios plain{};
    if (device_ < 0 || ::tcgetattr(device_, &plain) != 0)
        return fail(tr("%1 is no serial device that can be opened.").arg(path));
    ::cfmakeraw(&plain);
    ::cfsetspeed(&plain, B115200);
    ::tcsetattr(device_, TCSANOW, &plain);
    // What an earlier sweep left behind is not the answer to this one.
    ::tcflush(device_, TCIFLUSH);
    notifier_ = std::make_unique<QSocketNotifier>(device_, QSocketNotifier::Read);
    connect(notifier_.get(), &QSocketNotifier::activated, this, &AnalyserLink::readDevice);
    const auto length = static_cast<ssize_t>(request_.size());
    if (::write(device_, request_.data(), request_.size()) != length)
        fail(tr("%1 takes no question.").arg(path));
}

void AnalyserLink::readDevice() {
    char bytes[4096];
    const ssize_t count = ::read(device_, bytes, sizeof bytes);
    if (count > 0) return take(QByteArray(bytes, static_cast<int>(count)));
    if (count == 0 || errno != EAGAIN) fail(tr("%1 has gone.").arg(address_));
}

void AnalyserLink::take(const QByteArray& bytes) {
    if (!reader_) return;
    try {
        reader_->take({bytes.constData(), static_cast<std::size_t>(bytes.size())});
    } catch (const Error& e) {
        return fail(QString::fromUtf8(e.what()));
    }
    patience_.start();
    if (!reader_->done()) {
        Q_EMIT progressed(reader_->points());
        return;
    }
    const model::MeasuredData data = reader_->data();
    stop();
    Q_EMIT finished(data);
}

void AnalyserLink::fail(const QString& sentence) {
    if (!running()) return;
    stop();
    Q_EMIT failed(sentence);
}

void AnalyserLink::stop() {
    reader_.reset();
    patience_.stop();
    // The notifier may be the one that is calling.
    if (notifier_) {
        notifier_->setEnabled(false);
        notifier_.release()->deleteLater();
    }
    if (device_ >= 0) ::close(device_);
    device_ = -1;
    socket_.abort();
}

}  // namespace rm::app
