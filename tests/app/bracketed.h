// A language for tests: English in brackets. What the window shows without brackets never went through a
// catalogue.
#pragma once

#include <QCoreApplication>
#include <QTranslator>
#include <memory>

#include "core/words/words.h"

namespace rm::test {

inline const QString kOpen = "⟦";
inline const QString kClose = "⟧";

inline QString bracketed(const QString& english) {
    return kOpen + english + kClose;
}

class BracketedCore : public Catalogue {
  public:
    std::string find(std::string_view english) const override {
        return bracketed(QString::fromUtf8(english.data(), static_cast<qsizetype>(english.size())))
            .toStdString();
    }
    std::string find(std::string_view english, long) const override { return find(english); }
    char decimalMark() const override { return ','; }
};

class BracketedWindow : public QTranslator {
  public:
    QString translate(const char* context, const char* english, const char*, int) const override {
        // Qt's own words are another matter.
        const QByteArray where(context);
        if (where.startsWith('Q') || english == nullptr || *english == '\0') return {};
        return bracketed(QString::fromUtf8(english));
    }
    bool isEmpty() const override { return false; }
};

/// Speaks so as long as it lives. Tables of words stay in the language in which they were read first: one
/// such language in a run of tests.
class Bracketed {
  public:
    Bracketed() {
        speak(std::make_shared<BracketedCore>());
        QCoreApplication::installTranslator(&window_);
    }
    ~Bracketed() {
        QCoreApplication::removeTranslator(&window_);
        speak(nullptr);
    }
    Bracketed(const Bracketed&) = delete;
    Bracketed& operator=(const Bracketed&) = delete;

  private:
    BracketedWindow window_;
};

/// What of a text stands outside of all brackets. A text that was cut off, or broken into lines, is inside up
/// to the bracket that is missing.
inline QString outsideBrackets(const QString& text) {
    QString outside;
    int depth = 0;
    for (const QChar c : text) {
        if (c == kOpen[0]) ++depth;
        if (depth == 0) outside += c;
        if (c != kClose[0]) continue;
        if (depth > 0)
            --depth;
        else
            outside.clear();
    }
    return outside;
}

}  // namespace rm::test
