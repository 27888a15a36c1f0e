// What the bench reads and writes: projects, measurements, sweeps, patterns, pictures; and the project's
// bands.
#include <QCloseEvent>
#include <QFileDialog>
#include <QMessageBox>
#include <algorithm>

#include "app/frame/bench.h"
#include "app/dialogs/bands_dialog.h"
#include "app/instruments/band_view.h"
#include "app/frame/notice_bar.h"
#include "app/look/picture.h"
#include "app/stages/shape/yard.h"
#include "core/project/measured_file.h"
#include "core/export/pattern_files.h"
#include "core/project/project_file.h"
#include "core/export/sweep_text.h"

namespace rm::app {

namespace {

const char* const kFileFilter = "Reed Mast projects (*.json);;All files (*)";

}  // namespace

bool Bench::mayDiscard() {
    if (!document_.modified()) return true;
    QMessageBox box(
        QMessageBox::NoIcon, "Unsaved changes",
        QString("%1 has changes that are not saved.").arg(QString::fromStdString(document_.project().title)),
        QMessageBox::Save | QMessageBox::Discard | QMessageBox::Cancel, this);
    const int answer = box.exec();
    if (answer == QMessageBox::Save) {
        askSave(false);
        return !document_.modified();
    }
    if (answer == QMessageBox::Discard) {
        if (const auto left = document_.recovery()) document_.discard(*left);
        return true;
    }
    return false;
}

void Bench::newProject() {
    if (!mayDiscard()) return;
    forgetTuning();
    document_.startNew();
    frequencyChosen_ = false;
    range_.reset();
    yard_->fitNext();
    selectEverywhere({});
    refreshAll();
}

void Bench::askOpen() {
    if (!mayDiscard()) return;
    const QString path = QFileDialog::getOpenFileName(this, "Open project", document_.path(), kFileFilter);
    if (!path.isEmpty()) open(path);
}

void Bench::askSave(bool always) {
    QString path = document_.path();
    if (always || path.isEmpty())
        path = QFileDialog::getSaveFileName(this, "Save project",
                                            path.isEmpty() ? QString("antenna.json") : path, kFileFilter);
    if (!path.isEmpty()) save(path);
}

void Bench::exportSweep() {
    if (!sweep_ || !expansion_) return;
    const QString filter = "Comma-separated values (*.csv);;Touchstone, one port (*.s1p)";
    QString chosen;
    QString path = QFileDialog::getSaveFileName(this, "Export the sweep", "sweep.csv", filter, &chosen);
    if (path.isEmpty()) return;
    if (chosen.contains("s1p") && path == "sweep.csv") path = "sweep.s1p";
    exportSweepTo(path);
}

void Bench::exportSweepTo(const QString& path) {
    const auto plane = band_->plane();
    try {
        io::writeTextAtomically(path.toStdString(),
                                path.endsWith(".s1p", Qt::CaseInsensitive)
                                    ? io::sweepTouchstone(document_.design().name, *sweep_, plane)
                                    : io::sweepCsv(*expansion_, *sweep_, plane));
        notice_->show(NoticeBar::Tone::Good,
                      QString("The sweep, seen from the %1, is in %2.")
                          .arg(plane == study::Plane::Radio ? "radio" : "antenna", path.section('/', -1)));
    } catch (const Error& e) {
        fail(QString::fromUtf8(e.what()));
    }
}

void Bench::exportPattern() {
    if (!analysis_) return;
    const QString path =
        QFileDialog::getSaveFileName(this, "Export the patterns", "pattern.csv",
                                     "Both cuts (*.csv);;The lobe with the wires as a mesh (*.obj)");
    if (!path.isEmpty()) exportPatternTo(path);
}

void Bench::exportPatternTo(const QString& path) {
    try {
        std::string text;
        if (path.endsWith(".obj", Qt::CaseInsensitive)) {
            const auto grid = study::lobeGrid(*analysis_->mesh, analysis_->reading, 5.0, component_);
            double reach = 0.0;
            for (const auto& wire : expansion_->model.wires) reach = std::max(reach, wire.lengthM());
            text = io::lobeObj(*expansion_, grid, reach);
        } else {
            text = io::cutsCsv(*analysis_, expansion_->headingDeg);
        }
        io::writeTextAtomically(path.toStdString(), text);
        notice_->show(NoticeBar::Tone::Good, QString("The pattern is in %1.").arg(path.section('/', -1)));
    } catch (const Error& e) {
        fail(QString::fromUtf8(e.what()));
    }
}

void Bench::exportPicture(QWidget* view) {
    const QString path =
        QFileDialog::getSaveFileName(this, "Export a picture", "picture.svg", "Pictures (*.svg *.pdf *.png)");
    if (path.isEmpty()) return;
    try {
        writePicture(*view, path);
        notice_->show(NoticeBar::Tone::Good, QString("The picture is in %1.").arg(path.section('/', -1)));
    } catch (const Error& e) {
        fail(QString::fromUtf8(e.what()));
    }
}

void Bench::askMeasured() {
    importMeasured(QFileDialog::getOpenFileNames(this, "Import what an analyser measured", {},
                                                 "Measurements (*.s1p *.csv *.txt);;All files (*)"));
}

/// All of the files or none: a file that cannot be read changes nothing.
void Bench::importMeasured(const QStringList& paths) {
    if (paths.isEmpty()) return;
    std::vector<model::Measured> read;
    try {
        for (const QString& path : paths) {
            model::Measured measured;
            measured.file = path.section('/', -1).toStdString();
            measured.name = path.section('/', -1).section('.', 0, -2).toStdString();
            measured.data = io::readMeasured(path.toStdString());
            read.push_back(std::move(measured));
        }
    } catch (const Error& e) {
        return fail(QString::fromUtf8(e.what()));
    }
    document_.finishMerging();
    document_.editDesign("Import measurements", [&](model::Design& d) {
        for (auto& measured : read) d.measured.push_back(std::move(measured));
    });
    selectEverywhere({Selection::Type::Measured, document_.design().measured.size() - 1});
}

void Bench::askBands() {
    BandsDialog dialog(document_.project().bands, document_.project().swrLimits, this);
    if (dialog.exec() != QDialog::Accepted) return;
    const auto bands = dialog.bands();
    const auto limits = dialog.limits();
    document_.edit("Change bands", [&](model::Project& p) {
        const std::string working =
            p.bands.empty() ? std::string() : p.bands[std::min(p.workingBand, p.bands.size() - 1)].name;
        p.bands = bands;
        p.swrLimits = limits;
        p.workingBand = 0;
        for (std::size_t i = 0; i < p.bands.size(); ++i)
            if (p.bands[i].name == working) p.workingBand = i;
    });
}

void Bench::closeEvent(QCloseEvent* event) {
    if (!mayDiscard()) return event->ignore();
    event->accept();
}

}  // namespace rm::app
