// The processes that share a study: what it needs of them and no more, so that any way of passing messages
// will do.
#pragma once

#include <optional>
#include <string>

namespace rm::wide {

struct Message {
    int from = 0;
    std::string text;
};

/// This process among others. Rank 0 keeps the study; all calls come from one thread.
class Peers {
  public:
    virtual ~Peers() = default;
    virtual int rank() const = 0;
    virtual int count() const = 0;
    /// Returns before the message has arrived.
    virtual void send(int to, const std::string& text) = 0;
    /// The next message that has arrived; nothing where none has. Messages of one sender stay in order.
    virtual std::optional<Message> receive() = 0;
};

/// What a module that passes messages exports under this name: its Peers, made once. It outlives the call.
inline constexpr const char* kPeersSymbol = "reedMastPeers";
using PeersFunction = Peers* (*)(int* argc, char*** argv);

}  // namespace rm::wide
