#include "app/look/language.h"

#include <QCoreApplication>
#include <QDir>
#include <QLibraryInfo>
#include <QSettings>
#include <QTranslator>
#include <memory>

#include "core/words/words.h"

/// What a library keeps as files is taken up by hand, outside of every namespace.
static void takeUpCatalogues() {
    Q_INIT_RESOURCE(words);
}

namespace rm::app {

namespace {

/// The decimal mark of a language as it is written where it is spoken.
char markOf(const QString& code) {
    return QLocale(code).decimalPoint() == "," ? ',' : '.';
}

std::string utf8(const QString& text) {
    return text.toStdString();
}

/// What the core says.
class CoreCatalogue : public Catalogue {
  public:
    CoreCatalogue(std::shared_ptr<const QTranslator> words, char mark)
        : words_(std::move(words)), mark_(mark) {}

    std::string find(std::string_view english) const override {
        return utf8(words_->translate("", std::string(english).c_str()));
    }
    std::string find(std::string_view english, long n) const override {
        return utf8(words_->translate("", std::string(english).c_str(), nullptr, static_cast<int>(n)));
    }
    char decimalMark() const override { return mark_; }

  private:
    std::shared_ptr<const QTranslator> words_;
    char mark_;
};

/// What the window says. Catalogues know no classes: one text has one translation, wherever it stands.
class WindowTranslator : public QTranslator {
  public:
    explicit WindowTranslator(std::shared_ptr<const QTranslator> words) : words_(std::move(words)) {}

    QString translate(const char*, const char* english, const char*, int n) const override {
        return english == nullptr || *english == '\0' ? QString()
                                                      : words_->translate("", english, nullptr, n);
    }
    bool isEmpty() const override { return false; }

  private:
    std::shared_ptr<const QTranslator> words_;
};

/// The translators in use; gone with the application.
struct InUse {
    std::unique_ptr<QTranslator> window;
    std::unique_ptr<QTranslator> buttons;
};

InUse& inUse() {
    static InUse use;
    return use;
}

QString fileOf(const QString& code) {
    return ":/words/" + code + ".qm";
}

constexpr const char* kChoice = "language";

/// What is the user's and no project's, in the desktop's folder for that.
std::unique_ptr<QSettings> settings() {
    return std::make_unique<QSettings>(QSettings::IniFormat, QSettings::UserScope, "reed-mast", "reed-mast");
}

}  // namespace

QList<Speech> speeches() {
    takeUpCatalogues();
    QList<Speech> all{{"en", "English"}};
    for (const QString& file : QDir(":/words").entryList({"*.qm"}, QDir::Files, QDir::Name)) {
        const QString code = file.chopped(3);
        all << Speech{code, QLocale(code).nativeLanguageName()};
    }
    return all;
}

QString speechFor(const QStringList& wanted) {
    const QList<Speech> all = speeches();
    for (const QString& one : wanted)
        for (const Speech& speech : all)
            if (one.section('-', 0, 0).section('_', 0, 0).compare(speech.code, Qt::CaseInsensitive) == 0)
                return speech.code;
    return "en";
}

QString chosenSpeech() {
    return settings()->value(kChoice).toString();
}

void chooseSpeech(const QString& code) {
    const auto kept = settings();
    if (code.isEmpty())
        kept->remove(kChoice);
    else
        kept->setValue(kChoice, code);
}

bool speakAs(const QString& code) {
    takeUpCatalogues();
    InUse& use = inUse();
    auto words = std::make_shared<QTranslator>();
    if (code != "en" && !words->load(fileOf(code))) return false;
    if (use.window) QCoreApplication::removeTranslator(use.window.get());
    if (use.buttons) QCoreApplication::removeTranslator(use.buttons.get());
    use = {};
    // Fields of Qt's own that show numbers follow it.
    QLocale locale(code);
    locale.setNumberOptions(QLocale::OmitGroupSeparator);
    QLocale::setDefault(locale);
    if (code == "en") {
        speak(nullptr);
        return true;
    }
    speak(std::make_shared<CoreCatalogue>(words, markOf(code)));
    // The words of Qt's own dialogs, where they are installed; ours come first.
    use.buttons = std::make_unique<QTranslator>();
    if (use.buttons->load("qtbase_" + code, QLibraryInfo::path(QLibraryInfo::TranslationsPath)))
        QCoreApplication::installTranslator(use.buttons.get());
    use.window = std::make_unique<WindowTranslator>(std::move(words));
    QCoreApplication::installTranslator(use.window.get());
    return true;
}

}  // namespace rm::app
