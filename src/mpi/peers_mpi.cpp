// Messages between the processes that mpirun has started. A module of its own, loaded only where there are
// such: nobody else needs the library it stands on.
#include <boost/mpi/communicator.hpp>
#include <boost/mpi/environment.hpp>
#include <list>

#include "core/wide/peers.h"

namespace rm::mpi {

namespace {

constexpr int kTag = 1;

class MpiPeers : public wide::Peers {
  public:
    MpiPeers(int& argc, char**& argv) : environment_(argc, argv, boost::mpi::threading::funneled) {}
    ~MpiPeers() override {
        for (auto& one : underway_) one.request.wait();
    }

    int rank() const override { return world_.rank(); }
    int count() const override { return world_.size(); }

    void send(int to, const std::string& text) override {
        underway_.remove_if([](Underway& one) { return one.request.test().has_value(); });
        Underway& one = underway_.emplace_back(Underway{text, {}});
        one.request = world_.isend(to, kTag, one.text.data(), static_cast<int>(one.text.size()));
    }

    std::optional<wide::Message> receive() override {
        const auto waiting = world_.iprobe(boost::mpi::any_source, kTag);
        if (!waiting) return std::nullopt;
        wide::Message message{waiting->source(),
                              std::string(static_cast<std::size_t>(waiting->count<char>().get()), '\0')};
        world_.recv(message.from, kTag, message.text.data(), static_cast<int>(message.text.size()));
        return message;
    }

  private:
    /// A message whose bytes have to stay until they have been taken.
    struct Underway {
        std::string text;
        boost::mpi::request request;
    };

    boost::mpi::environment environment_;
    boost::mpi::communicator world_;
    std::list<Underway> underway_;
};

}  // namespace

}  // namespace rm::mpi

extern "C" rm::wide::Peers* reedMastPeers(int* argc, char*** argv) {
    static rm::mpi::MpiPeers peers(*argc, *argv);
    return &peers;
}
