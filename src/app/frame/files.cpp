#include "app/frame/files.h"

#include <QFileDialog>
#include <QMessageBox>
#include <algorithm>

#include "app/look/picture.h"
#include "core/export/pattern_files.h"
#include "core/export/sweep_text.h"
#include "core/project/project_file.h"
#include "core/project/text_file.h"
#include "core/study/lobe_grid.h"

namespace rm::app {

namespace {

const char* const kFileFilter = "Reed Mast projects (*.json);;All files (*)";
constexpr double kLobeStepDeg = 5.0;

}  // namespace

Files::Files(Session& session, Editing& editing, QWidget& window)
    : session_(session), editing_(editing), window_(window) {}

bool Files::open(const QString& path) {
    try {
        session_.document().openFile(path);
    } catch (const Error& e) {
        session_.bad(QString::fromUtf8(e.what()));
        return false;
    }
    session_.select(edit::itemAt(session_.design(), Selection::Type::Part, 0));
    offerRecovery();
    return true;
}

bool Files::save(const QString& path) {
    try {
        session_.document().saveFile(path);
    } catch (const Error& e) {
        session_.bad(QString::fromUtf8(e.what()));
        return false;
    }
    return true;
}

void Files::offerRecovery() {
    Document& document = session_.document();
    const auto found = document.recovery();
    if (!found) return;
    session_.say({Notice::Tone::Caution,
                  QString("Unsaved work on this project from %1 was found.").arg(found->when), "Restore it",
                  [this, found] {
                      try {
                          session_.document().restore(*found);
                      } catch (const Error& e) {
                          session_.bad(QString::fromUtf8(e.what()));
                      }
                  },
                  "Discard it", [this, found] { session_.document().discard(*found); }});
}

bool Files::mayDiscard() {
    Document& document = session_.document();
    if (!document.modified()) return true;
    QMessageBox box(
        QMessageBox::NoIcon, "Unsaved changes",
        QString("%1 has changes that are not saved.").arg(QString::fromStdString(document.project().title)),
        QMessageBox::Save | QMessageBox::Discard | QMessageBox::Cancel, &window_);
    box.setTextFormat(Qt::PlainText);
    const int answer = box.exec();
    if (answer == QMessageBox::Save) {
        askSave(false);
        return !document.modified();
    }
    if (answer != QMessageBox::Discard) return false;
    if (const auto left = document.recovery()) document.discard(*left);
    return true;
}

void Files::newProject() {
    if (!mayDiscard()) return;
    session_.document().startNew();
    session_.select({});
}

void Files::askOpen() {
    if (!mayDiscard()) return;
    const QString path =
        QFileDialog::getOpenFileName(&window_, "Open project", session_.document().path(), kFileFilter);
    if (!path.isEmpty()) open(path);
}

void Files::askSave(bool always) {
    QString path = session_.document().path();
    if (always || path.isEmpty())
        path = QFileDialog::getSaveFileName(&window_, "Save project",
                                            path.isEmpty() ? QString("antenna.json") : path, kFileFilter);
    if (!path.isEmpty()) save(path);
}

void Files::askMeasured() {
    editing_.importMeasured(QFileDialog::getOpenFileNames(&window_, "Import what an analyser measured", {},
                                                          "Measurements (*.s1p *.csv *.txt);;All files (*)"));
}

void Files::exportSweep() {
    if (!session_.results()->sweep)
        return session_.caution("There is no sweep to export: the design has no figures.");
    const QString filter = "Comma-separated values (*.csv);;Touchstone, one port (*.s1p)";
    QString chosen;
    QString path = QFileDialog::getSaveFileName(&window_, "Export the sweep", "sweep.csv", filter, &chosen);
    if (path.isEmpty()) return;
    if (chosen.contains("s1p") && path == "sweep.csv") path = "sweep.s1p";
    exportSweepTo(path);
}

void Files::exportSweepTo(const QString& path) {
    const ResultsPtr results = session_.results();
    if (!results->sweep) return session_.caution("There is no sweep to export: the design has no figures.");
    const auto plane = session_.plane();
    try {
        io::writeTextAtomically(path.toStdString(),
                                path.endsWith(".s1p", Qt::CaseInsensitive)
                                    ? io::sweepTouchstone(results->design().name, *results->sweep, plane)
                                    : io::sweepCsv(*results->expansion, *results->sweep, plane));
        session_.good(QString("The sweep, seen from the %1, is in %2.")
                          .arg(plane == study::Plane::Radio ? "radio" : "antenna", path.section('/', -1)));
    } catch (const Error& e) {
        session_.bad(QString::fromUtf8(e.what()));
    }
}

void Files::exportPattern() {
    if (!session_.results()->analysis)
        return session_.caution("There is no pattern to export: the design has no figures.");
    const QString path =
        QFileDialog::getSaveFileName(&window_, "Export the patterns", "pattern.csv",
                                     "Both cuts (*.csv);;The lobe with the wires as a mesh (*.obj)");
    if (!path.isEmpty()) exportPatternTo(path);
}

void Files::exportPatternTo(const QString& path) {
    const ResultsPtr results = session_.results();
    if (!results->analysis)
        return session_.caution("There is no pattern to export: the design has no figures.");
    const auto& analysis = *results->analysis;
    try {
        std::string text;
        if (path.endsWith(".obj", Qt::CaseInsensitive)) {
            const auto grid =
                study::lobeGrid(*analysis.mesh, analysis.reading, kLobeStepDeg, results->component);
            double reach = 0.0;
            for (const auto& wire : results->expansion->model.wires) reach = std::max(reach, wire.lengthM());
            text = io::lobeObj(*results->expansion, grid, reach);
        } else {
            text = io::cutsCsv(analysis, results->expansion->headingDeg);
        }
        io::writeTextAtomically(path.toStdString(), text);
        session_.good(QString("The pattern is in %1.").arg(path.section('/', -1)));
    } catch (const Error& e) {
        session_.bad(QString::fromUtf8(e.what()));
    }
}

void Files::exportPicture(QWidget* view) {
    const QString path = QFileDialog::getSaveFileName(&window_, "Export a picture", "picture.svg",
                                                      "Pictures (*.svg *.pdf *.png)");
    if (path.isEmpty()) return;
    try {
        writePicture(*view, path);
        session_.good(QString("The picture is in %1.").arg(path.section('/', -1)));
    } catch (const Error& e) {
        session_.bad(QString::fromUtf8(e.what()));
    }
}

}  // namespace rm::app
