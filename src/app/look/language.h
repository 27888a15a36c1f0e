// The language of the window: the first of the desktop's for which there is a catalogue, unless one is asked
// for. Catalogues are po files, one for each language, compiled into the program; English is what the code
// says itself.
#pragma once

#include <QLocale>
#include <QString>

namespace rm::app {

/// A language that the window speaks.
struct Speech {
    QString code;  ///< "en", "de"
    QString name;  ///< in itself: "Deutsch"
};

/// All of them, English first.
QList<Speech> speeches();

/// The code of the first language in `wanted` ("de-AT", "en-GB", as desktops order them) that the window
/// speaks; English where it speaks none of them.
QString speechFor(const QStringList& wanted);

/// What the user chose once in the window, or nothing: as the desktop.
QString chosenSpeech();
/// Keeps such a choice for the next start; empty: as the desktop.
void chooseSpeech(const QString& code);

/// Everything is said in the language `code` from now on, with its decimal mark, and the buttons of Qt too;
/// "en" ends that. Before the first window is made, as nothing that is shown already changes. False: there is
/// no such catalogue, and nothing has changed.
bool speakAs(const QString& code);

}  // namespace rm::app
