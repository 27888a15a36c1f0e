#include "app/dialogs/shortcuts_dialog.h"

#include <QAction>
#include <QDialogButtonBox>
#include <QHBoxLayout>
#include <QLabel>
#include <QMenu>
#include <QMenuBar>
#include <QScreen>
#include <QScrollArea>
#include <QScrollBar>

#include "app/dialogs/dialog_buttons.h"
#include "app/look/text.h"
#include "app/look/theme.h"

namespace rm::app {

namespace {

constexpr std::size_t kColumns = 3;
/// Of the screen, the most that the dialog takes.
constexpr double kMostOfScreen = 0.92;

QString plain(QString words) {
    return words.replace("&&", "\n").remove('&').replace('\n', '&').toHtmlEscaped();
}

}  // namespace

ShortcutsDialog::ShortcutsDialog(const QMenuBar& bar, QWidget* parent) : QDialog(parent) {
    setWindowTitle(tr("Shortcuts"));
    setObjectName("shortcuts");
    std::vector<Row> rows;
    for (const QAction* entry : bar.actions()) {
        if (!rows.empty()) rows.push_back({"<tr><td>&nbsp;</td></tr>", Row::Kind::Gap});
        rows.push_back({QString("<tr><td><b>%1</b></td></tr>").arg(plain(entry->text())), Row::Kind::Title});
        gather(*entry->menu(), rows);
    }
    auto* sheet = new QWidget;
    auto* across = new QHBoxLayout(sheet);
    across->setSpacing(32);
    // A little deeper than a share of them, for what goes to the next column early.
    const std::size_t deep = rows.size() / kColumns + 2;
    for (auto row = rows.begin(); row != rows.end();) {
        QString table;
        // A title goes with what stands under it, and no column begins with nothing.
        if (row->kind == Row::Kind::Gap) ++row;
        for (std::size_t i = 0; row != rows.end() && i < deep; ++i, ++row) {
            if (i > 0 && i + 2 >= deep && row->kind != Row::Kind::Entry) break;
            table += row->html;
        }
        auto* label = new QLabel("<table>" + table + "</table>");
        label->setTextFormat(Qt::RichText);
        label->setFont(textFont(kSmallPt));
        across->addWidget(label, 0, Qt::AlignTop);
    }
    auto* area = new QScrollArea;
    area->setFrameShape(QFrame::NoFrame);
    area->setWidgetResizable(true);
    area->setWidget(sheet);
    auto* outer = new QVBoxLayout(this);
    outer->addWidget(area, 1);
    outer->addWidget(closeButton(*this));
    const QSize most = kMostOfScreen * screen()->availableSize();
    const QSize wanted = sheet->sizeHint() + QSize(area->verticalScrollBar()->sizeHint().width() + 24, 70);
    resize(wanted.boundedTo(most));
}

void ShortcutsDialog::gather(const QMenu& menu, std::vector<Row>& rows) {
    for (const QAction* action : menu.actions()) {
        if (action->menu() != nullptr) gather(*action->menu(), rows);
        if (action->shortcut().isEmpty() || !action->isVisible()) continue;
        rows.push_back({QString("<tr><td style='padding-right:14px'>%1</td><td><b>%2</b></td></tr>")
                            .arg(plain(action->text()),
                                 action->shortcut().toString(QKeySequence::NativeText).toHtmlEscaped()),
                        Row::Kind::Entry});
    }
}

}  // namespace rm::app
