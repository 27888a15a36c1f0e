#include "app/frame/files.h"

#include <QDate>
#include <QDir>
#include <QFile>
#include <QFileDialog>
#include <QFileInfo>
#include <QMessageBox>
#include <QSaveFile>
#include <algorithm>

#include "app/dialogs/left_work_dialog.h"
#include "app/look/picture.h"
#include "app/look/text.h"
#include "core/export/boom_template.h"
#include "core/export/build_drawing.h"
#include "core/export/pattern_files.h"
#include "core/export/report.h"
#include "core/export/sweep_text.h"
#include "core/project/project_file.h"
#include "core/project/text_file.h"
#include "core/stopped.h"
#include "core/study/lobe_grid.h"

namespace rm::app {

namespace {

const char* const kFileFilter = later("Reed Mast projects (*.reedmast.json *.json);;All files (*)");
constexpr double kLobeStepDeg = 5.0;

}  // namespace

Files::Files(Session& session, Editing& editing, QWidget& window)
    : session_(session), editing_(editing), window_(window) {
    connect(&report_, &Task::failed, this, [this](const QString& sentence) {
        session_.setDoing({});
        session_.bad(sentence);
    });
}

bool Files::open(const QString& path) {
    try {
        session_.document().openFile(path);
    } catch (const Error& e) {
        session_.bad(QString::fromUtf8(e.what()));
        return false;
    }
    session_.select(edit::itemAt(session_.design(), Selection::Type::Part, 0));
    remember(path);
    offerLeftWork();
    return true;
}

void Files::openDemo() {
    if (!mayDiscard()) return;
    QFile file(":/demo/heron_point.json");
    if (!file.open(QIODevice::ReadOnly)) return session_.bad(tr("The demo is missing from this program."));
    session_.document().adopt(io::parseProject(file.readAll().toStdString(), say("The demo")), {});
    session_.select(edit::itemAt(session_.design(), Selection::Type::Part, 0));
}

namespace {

constexpr qsizetype kMostRecent = 6;

QString recentList() {
    return Document::recoveryFolder() + "/recent";
}

}  // namespace

QStringList Files::recentFiles() {
    QFile file(recentList());
    if (!file.open(QIODevice::ReadOnly)) return {};
    QStringList there;
    for (const QString& path : QString::fromUtf8(file.read(100000)).split('\n', Qt::SkipEmptyParts))
        if (QFileInfo::exists(path) && !there.contains(path)) there << path;
    return there.mid(0, kMostRecent);
}

/// A list that cannot be written is no reason to stop anybody.
void Files::remember(const QString& path) {
    QStringList files = recentFiles();
    const QString absolute = QFileInfo(path).absoluteFilePath();
    files.removeAll(absolute);
    files.prepend(absolute);
    QDir().mkpath(Document::recoveryFolder());
    QSaveFile file(recentList());
    if (!file.open(QIODevice::WriteOnly)) return;
    file.write(files.mid(0, kMostRecent).join('\n').toUtf8());
    file.commit();
}

bool Files::save(const QString& path) {
    Document& document = session_.document();
    const bool same = QFileInfo(path).absoluteFilePath() == document.path();
    if (same && !mayReplace()) return false;
    const bool gone = same && document.onDisk() == Document::OnDisk::Gone;
    QString unkept;
    try {
        io::keepVersion(path.toStdString(), versionsFolder().toStdString());
    } catch (const Error& e) {
        unkept = QString::fromUtf8(e.what());
    }
    try {
        document.saveFile(path);
    } catch (const Error& e) {
        session_.alarm(QString::fromUtf8(e.what()));
        return false;
    }
    remember(path);
    if (!unkept.isEmpty()) session_.caution(tr("Saved. ") + unkept);
    if (gone) session_.caution(tr("%1 had been removed; it is there again.").arg(path.section('/', -1)));
    return true;
}

QString Files::versionsFolder() const {
    return Document::recoveryFolder() + "/versions";
}

bool Files::mayReplace() {
    Document& document = session_.document();
    if (document.onDisk() != Document::OnDisk::Changed) return true;
    QMessageBox box(
        QMessageBox::NoIcon, tr("Changed by another program"),
        tr("%1 has been changed by another program since it was read here. Saving puts this version "
           "in its place; the other one is kept among the versions before.")
            .arg(document.path().section('/', -1)),
        QMessageBox::Cancel, &window_);
    box.setTextFormat(Qt::PlainText);
    const auto* over = box.addButton(tr("Save over it"), QMessageBox::AcceptRole);
    const auto* other = box.addButton(tr("Save under another name…"), QMessageBox::ActionRole);
    box.exec();
    if (box.clickedButton() == other) askSave(true);
    return box.clickedButton() == over;
}

void Files::fileChangedOutside() {
    const QString path = session_.document().path();
    const QString name = path.section('/', -1);
    if (session_.document().onDisk() == Document::OnDisk::Gone)
        return session_.caution(
            tr("%1 has been removed. What is here is still here; saving writes it again.").arg(name));
    session_.say({Notice::Tone::Caution,
                  tr("%1 has been changed by another program. What is here is as it was.").arg(name),
                  tr("Read it again"),
                  [this, path] {
                      if (path == session_.document().path() && mayDiscard()) open(path);
                  },
                  tr("Keep this"), [] {}});
}

std::vector<io::Version> Files::versions() const {
    const QString path = session_.document().path();
    if (path.isEmpty()) return {};
    return io::versionsOf(path.toStdString(), versionsFolder().toStdString());
}

void Files::goBackTo(const io::Version& version) {
    const QString when = QString::fromStdString(version.when);
    try {
        const auto before = io::readProject(version.file);
        session_.document().edit(tr("Go back to ") + when, [&](model::Project& p) {
            const model::Id last = p.lastId;
            p = before;
            p.lastId = last;
        });
        session_.done(tr("This is the version that was saved over at %1.").arg(when));
    } catch (const Error& e) {
        session_.bad(QString::fromUtf8(e.what()));
    }
}

void Files::restore(const io::LeftWork& work) {
    if (!mayDiscard()) return;
    try {
        session_.document().restore(work);
        session_.select(edit::itemAt(session_.design(), Selection::Type::Part, 0));
        session_.good(tr("This is the work that was not saved. Save it to keep it."));
    } catch (const Error& e) {
        session_.bad(QString::fromUtf8(e.what()));
    }
}

void Files::showLeftWork() {
    if (leftWork_ == nullptr) {
        leftWork_ = new LeftWorkDialog(&window_);
        connect(leftWork_, &LeftWorkDialog::openRequested, this, [this](const io::LeftWork& work) {
            leftWork_->hide();
            restore(work);
        });
        connect(leftWork_, &LeftWorkDialog::discardRequested, this, [this](const io::LeftWork& work) {
            io::discardLeft(work);
            leftWork_->setWork(Document::leftWork());
        });
    }
    leftWork_->setWork(Document::leftWork());
    leftWork_->show();
}

void Files::offerLeftWork() {
    const auto left = Document::leftWork();
    if (left.empty()) return;
    const auto& newest = left.front();
    const QString about =
        tr("%1, %2, last: %3")
            .arg(QString::fromStdString(newest.title), QString::fromStdString(newest.when).trimmed(),
                 QString::fromStdString(newest.lastDone));
    if (left.size() > 1)
        return session_.say(
            {Notice::Tone::Caution,
             tr("Unsaved work of %1 windows was found, the newest: %2.").arg(left.size()).arg(about),
             tr("Show all"), [this] { showLeftWork(); }});
    session_.say({Notice::Tone::Caution, tr("Unsaved work was found: %1.").arg(about), tr("Open it"),
                  [this, newest] { restore(newest); }, tr("Discard it"),
                  [newest] { io::discardLeft(newest); }});
}

bool Files::mayDiscard() {
    Document& document = session_.document();
    document.settleHand();
    if (!document.modified()) return true;
    QMessageBox box(
        QMessageBox::NoIcon, tr("Unsaved changes"),
        tr("%1 has changes that are not saved.").arg(QString::fromStdString(document.project().title)),
        QMessageBox::Save | QMessageBox::Discard | QMessageBox::Cancel, &window_);
    box.setTextFormat(Qt::PlainText);
    const int answer = box.exec();
    if (answer == QMessageBox::Save) {
        askSave(false);
        return !document.modified();
    }
    return answer == QMessageBox::Discard;
}

void Files::newProject() {
    if (!mayDiscard()) return;
    session_.document().startNew();
    session_.select({});
}

void Files::askOpen() {
    if (!mayDiscard()) return;
    const QString path = QFileDialog::getOpenFileName(&window_, tr("Open project"),
                                                      session_.document().path(), tr(kFileFilter));
    if (!path.isEmpty()) open(path);
}

void Files::askSave(bool always) {
    QString path = session_.document().path();
    if (always || path.isEmpty())
        path = QFileDialog::getSaveFileName(&window_, tr("Save project"),
                                            path.isEmpty() ? QString("antenna.reedmast.json") : path,
                                            tr(kFileFilter));
    if (!path.isEmpty()) save(path);
}

void Files::askMeasured() {
    editing_.importMeasured(
        QFileDialog::getOpenFileNames(&window_, tr("Import what an analyser measured"), {},
                                      tr("Measurements (*.s1p *.csv *.txt);;All files (*)")));
}

void Files::exportSweep() {
    if (!session_.results()->sweep)
        return session_.caution(tr("There is no sweep to export: the design has no figures."));
    const QString filter = tr("Comma-separated values (*.csv);;Touchstone, one port (*.s1p)");
    QString chosen;
    QString path =
        QFileDialog::getSaveFileName(&window_, tr("Export the sweep"), "sweep.csv", filter, &chosen);
    if (path.isEmpty()) return;
    if (chosen.contains("s1p") && path == "sweep.csv") path = "sweep.s1p";
    exportSweepTo(path);
}

void Files::exportSweepTo(const QString& path) {
    const ResultsPtr results = session_.results();
    if (!results->sweep)
        return session_.caution(tr("There is no sweep to export: the design has no figures."));
    const auto plane = session_.plane();
    try {
        io::writeTextAtomically(path.toStdString(),
                                path.endsWith(".s1p", Qt::CaseInsensitive)
                                    ? io::sweepTouchstone(results->design().name, *results->sweep, plane)
                                    : io::sweepCsv(*results->expansion, *results->sweep, plane));
        session_.good(
            tr("The sweep, seen from the %1, is in %2.")
                .arg(plane == study::Plane::Radio ? tr("radio") : tr("antenna"), path.section('/', -1)));
    } catch (const Error& e) {
        session_.bad(QString::fromUtf8(e.what()));
    }
}

void Files::exportPattern() {
    if (!session_.results()->analysis)
        return session_.caution(tr("There is no pattern to export: the design has no figures."));
    const QString path =
        QFileDialog::getSaveFileName(&window_, tr("Export the patterns"), "pattern.csv",
                                     tr("Both cuts (*.csv);;The lobe with the wires as a mesh (*.obj)"));
    if (!path.isEmpty()) exportPatternTo(path);
}

void Files::exportPatternTo(const QString& path) {
    const ResultsPtr results = session_.results();
    if (!results->analysis)
        return session_.caution(tr("There is no pattern to export: the design has no figures."));
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
        session_.good(tr("The pattern is in %1.").arg(path.section('/', -1)));
    } catch (const Error& e) {
        session_.bad(QString::fromUtf8(e.what()));
    }
}

void Files::exportDrawing() {
    const QString path = QFileDialog::getSaveFileName(&window_, tr("Export the drawing"),
                                                      QString::fromStdString(session_.design().name) + ".pdf",
                                                      tr("PDF (*.pdf);;SVG (*.svg);;DXF (*.dxf)"));
    if (!path.isEmpty()) exportDrawingTo(path);
}

io::DrawingOptions Files::drawingOptions() {
    session_.document().settleHand();
    io::DrawingOptions options;
    options.feetAndInches = session_.project().feetAndInches;
    options.project = session_.project().title;
    options.date = QDate::currentDate().toString(Qt::ISODate).toStdString();
    if (options.feetAndInches) options.paper = io::Paper::Letter;
    return options;
}

void Files::exportTemplate() {
    const QString path = QFileDialog::getSaveFileName(
        &window_, tr("Export the boom at true size"),
        QString::fromStdString(session_.design().name) + tr(", boom.pdf"), tr("PDF (*.pdf)"));
    if (!path.isEmpty()) exportTemplateTo(path);
}

void Files::exportTemplateTo(const QString& path) {
    try {
        const auto sheets = io::boomTemplate(session_.design(), drawingOptions());
        io::writePdf(sheets, path.toStdString());
        session_.good(tr("At true size: %1, %2 to print at 100 %.")
                          .arg(path.section('/', -1))
                          .arg(trn("one sheet", "%n sheets", static_cast<int>(sheets.size()))));
    } catch (const Error& e) {
        session_.bad(QString::fromUtf8(e.what()));
    }
}

void Files::exportDrawingTo(const QString& path) {
    try {
        const auto options = drawingOptions();
        const auto sheets = io::buildDrawing(session_.design(), options);
        const std::string file = path.toStdString();
        if (path.endsWith(".svg", Qt::CaseInsensitive))
            io::writeTextAtomically(file, io::svgOf(sheets.front()));
        else if (path.endsWith(".dxf", Qt::CaseInsensitive))
            io::writeDxf(sheets.front(), file);
        else
            io::writePdf(sheets, file);
        session_.good(tr("Drawn: %1, %2.")
                          .arg(path.section('/', -1))
                          .arg(trn("one sheet", "%n sheets", static_cast<int>(sheets.size()))));
    } catch (const Error& e) {
        session_.bad(QString::fromUtf8(e.what()));
    }
}

void Files::exportReport() {
    const QString path = QFileDialog::getSaveFileName(
        &window_, tr("Export the report"),
        QString::fromStdString(session_.design().name) + tr(", report.pdf"), tr("PDF (*.pdf)"));
    if (!path.isEmpty()) exportReportTo(path);
}

void Files::exportReportTo(const QString& path) {
    session_.document().settleHand();
    io::ReportOptions options;
    options.feetAndInches = session_.project().feetAndInches;
    options.date = QDate::currentDate().toString(Qt::ISODate).toStdString();
    if (options.feetAndInches) options.paper = io::Paper::Letter;
    session_.setDoing(tr("writing the report…"));
    report_.start([this, project = session_.document().share(), options, path](
                      std::stop_token stop, const Task::Progress& progress) -> Task::After {
        std::vector<io::Sheet> sheets;
        try {
            sheets = io::report(*project, project->active(), options, stop, progress);
            io::writePdf(sheets, path.toStdString());
        } catch (const Stopped&) {
            return [this] {
                session_.setDoing({});
                session_.caution(tr("The report was stopped: nothing is written."));
            };
        }
        return [this, path, count = sheets.size()] {
            session_.setDoing({});
            session_.good(tr("The report is in %1: %2 sheets.").arg(path.section('/', -1)).arg(count));
        };
    });
}

void Files::exportPicture(QWidget* view) {
    const QString path = QFileDialog::getSaveFileName(&window_, tr("Export a picture"), "picture.svg",
                                                      tr("Pictures (*.svg *.pdf *.png)"));
    if (path.isEmpty()) return;
    try {
        writePicture(*view, path);
        session_.good(tr("The picture is in %1.").arg(path.section('/', -1)));
    } catch (const Error& e) {
        session_.bad(QString::fromUtf8(e.what()));
    }
}

}  // namespace rm::app
