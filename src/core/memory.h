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

/// Gives back to the system what has been freed and is still held: threads that solve leave their memory in
/// as many heaps, and half an hour of work holds three times what it uses. Takes milliseconds; for a thread
/// that nobody waits for.
void giveBackFreeMemory();

}  // namespace rm
