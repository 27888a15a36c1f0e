// A result as a table: every column by its title, numbers and words alike, and conditions over them.
#pragma once

#include <string>
#include <vector>

#include "core/wide/result_file.h"

namespace rm::wide {

class Table {
  public:
    /// Throws rm::Stopped where it is asked to.
    explicit Table(Result result, const std::stop_token& stop = {});

    const Result& result() const { return result_; }
    std::size_t rows() const { return result_.rows.size(); }
    std::size_t columns() const { return titles_.size(); }
    const std::vector<std::string>& titles() const { return titles_; }
    /// "gain, dBi": a title for people.
    std::string heading(std::size_t column) const;
    /// Columns that say which case it is: what was varied, and the repetition.
    bool varied(std::size_t column) const { return column > 0 && column < firstValue_; }
    /// Its cells are words: soils, bands.
    bool named(std::size_t column) const;
    /// The words that a column of words can have, in the order of the study; empty for numbers.
    std::vector<std::string> words(std::size_t column) const;
    /// One for each row; not a number where there is none. Words count from 0 in the order of the study.
    const std::vector<double>& numbers(std::size_t column) const { return numbers_.at(column); }
    double number(std::size_t row, std::size_t column) const { return numbers_.at(column).at(row); }
    /// The least distance of two different values that were varied; 0 where there is one only.
    double step(std::size_t column) const;
    /// For people: to the digits that matter.
    std::string text(std::size_t row, std::size_t column) const;

  private:
    Result result_;
    std::vector<std::string> titles_;
    std::vector<std::vector<double>> numbers_;  ///< of each column
    std::size_t firstValue_ = 0;
};

/// Conditions that a row has to meet, all of them: "worst_SWR < 1.5 and gain_dBi >= 7, soil = marsh".
class Filter {
  public:
    /// An empty text lets every row through. Throws rm::Error naming the column, the number or the word that
    /// is none.
    Filter(const std::string& text, const Table& table);

    bool lets(const Table& table, std::size_t row) const;

  private:
    enum class Is { Below, AtMost, Above, AtLeast, Equal, Other };
    struct Condition {
        std::size_t column = 0;
        Is is = Is::Below;
        double number = 0.0;  ///< of a word its place
    };
    std::vector<Condition> conditions_;
};

}  // namespace rm::wide
