// Memory is asked for before it is taken: what the machine cannot spare is refused in a sentence, not by its
// end.
#pragma once

#include <cstddef>
#include <optional>

namespace rm {

/// The share of the memory to spare that one piece of work may take.
inline constexpr double kMostOfMemory = 0.5;
/// Bytes that are taken without asking: asking takes as long as a small antenna.
inline constexpr double kAlwaysThere = 64e6;

/// Bytes that can be had without others' being moved to disk: MemAvailable of the system. Nothing where it
/// does not say.
std::optional<double> memoryToSpare();

/// Throws rm::Error where a field solution of so many unknowns takes `bytes`, and that is more than
/// kMostOfMemory of `toSpare` bytes.
void requireMemory(std::size_t unknowns, double bytes, std::optional<double> toSpare);

/// The same with what this machine has to spare.
void requireMemory(std::size_t unknowns, double bytes);

/// For the start of a program, before its first thread: all threads share kMostHeaps heaps, and what is large
/// is taken from the system and given back to it by itself. Left alone, the allocator makes eight heaps for
/// every processor, whose holes fit nothing that comes later, and an hour of work holds twice what it uses.
void keepMemoryTogether();
inline constexpr int kMostHeaps = 3;
/// Bytes from which a piece of memory is taken from the system by itself.
inline constexpr int kLargePiece = 1 << 21;

/// Gives back to the system what has been freed and is still held: threads that solve leave their memory in
/// as many heaps, and half an hour of work holds three times what it uses. Takes milliseconds; for a thread
/// that nobody waits for.
void giveBackFreeMemory();

}  // namespace rm
