// Every word that the window shows goes through a catalogue. A run of its own: [.bracketed].
#include <QAbstractItemView>
#include <QAccessible>
#include <QComboBox>
#include <QHeaderView>
#include <QLabel>
#include <QRegularExpression>
#include <algorithm>
#include <nlohmann/json.hpp>
#include <set>

#include "app/look/painted_words.h"
#include "bracketed.h"
#include "core/project/text_file.h"
#include "window.h"

using namespace rm;
using namespace rm::test;

namespace {

/// Texts that are a user's: names and notes of the project, the longest first.
QStringList usersOwn() {
    QStringList own;
    const std::function<void(const nlohmann::json&)> read = [&](const nlohmann::json& j) {
        if (!j.is_structured()) return;
        for (const auto& [key, value] : j.items()) {
            if (value.is_string()) {
                const QString text = QString::fromStdString(value.get<std::string>());
                // Whatever else is a sentence or a file comes from the user, too.
                if (key == "name" || key == "title" || key == "note" || text.contains(' ') ||
                    text.contains('_'))
                    own << text;
                // Long names are cut off where there is no room for them, and the longest note comes in
                // lines.
                if (key == "name" || text.startsWith("Made up"))
                    for (const QString& word : text.split(QRegularExpression("[ ,;]+")))
                        if (word.size() > 2) own << word;
            }
            read(value);
        }
    };
    read(nlohmann::json::parse(io::readTextFile(kDemo)));
    std::sort(own.begin(), own.end(), [](const auto& x, const auto& y) { return x.size() > y.size(); });
    return own;
}

/// Units, keys, what stands in formulas: the same in every language.
const QStringList kAnywhere = {
    "MHz",       "kHz",     "dBi",     "ohm",         "deg",
    "Reed Mast", "Ctrl",    "Shift",   "Alt",         "Esc",
    "Del",       "PgDown",  "PgUp",    "heron_point", "json",
    "lambda",    "sqrt",    "Space",   "Return",      "Backspace",
    "awg",       "(upper)", "(lower)", "Deutsch",     "from inverted_l_at_the_radio.s1p",
    "English"};

/// All that is said in a window at the moment: texts, tips, names, lists, and what views paint.
void readAll(QWidget& window, std::set<QString>& said) {
    const auto take = [&](const QString& text) {
        if (!text.isEmpty()) said.insert(text);
    };
    for (auto* action : window.findChildren<QAction*>()) {
        take(QString(action->text()).remove('&'));
        take(action->toolTip());
    }
    for (auto* widget : window.findChildren<QWidget*>()) {
        if (!widget->isVisible()) continue;
        take(widget->toolTip());
        take(widget->accessibleName());
        if (auto* label = qobject_cast<QLabel*>(widget)) take(label->text());
        if (auto* button = qobject_cast<QAbstractButton*>(widget)) take(button->text());
        if (auto* field = qobject_cast<QLineEdit*>(widget)) {
            take(field->placeholderText());
        }
        if (auto* combo = qobject_cast<QComboBox*>(widget))
            for (int i = 0; i < combo->count(); ++i) take(combo->itemText(i));
        if (auto* header = qobject_cast<QHeaderView*>(widget))
            for (int i = 0; i < header->count(); ++i)
                for (const int role : {Qt::DisplayRole, Qt::ToolTipRole})
                    take(header->model()->headerData(i, header->orientation(), role).toString());
        if (auto* list = qobject_cast<QAbstractItemView*>(widget);
            list && !qobject_cast<QHeaderView*>(widget))
            for (int r = 0; list->model() && r < list->model()->rowCount(); ++r)
                for (int c = 0; c < list->model()->columnCount(); ++c)
                    for (const int role : {Qt::DisplayRole, Qt::ToolTipRole})
                        take(list->model()->index(r, c).data(role).toString());
        for (const auto& row : app::paintedRows(*widget)) take(row.text);
    }
}

/// Words of three letters and more that stand outside of brackets and are no user's.
std::set<QString> withoutCatalogue(const std::set<QString>& said, const QStringList& own) {
    std::set<QString> found;
    static const QRegularExpression word("[A-Za-z][a-z]{2,}");
    static const QRegularExpression markup("<[^<>]*>");
    // The last word of a name that was cut off is none.
    static const QRegularExpression cutOff("[A-Za-z]+…");
    for (const QString& text : said) {
        QString rest = outsideBrackets(text).remove(markup).remove(cutOff);
        for (const QString& one : kAnywhere) rest.remove(one);
        for (const QString& one : own)
            rest.remove(QRegularExpression("\\b" + QRegularExpression::escape(one) + "(?![a-z])"));
        auto words = word.globalMatch(rest);
        while (words.hasNext()) found.insert(words.next().captured(0) + "  in  " + text.left(90));
    }
    return found;
}

}  // namespace

TEST_CASE("every word that the window shows goes through a catalogue", "[.bracketed]") {
    const Bracketed language;
    std::set<QString> said;
    Window w;
    using Type = app::Selection::Type;
    const auto designs = w.document().project().designs;
    for (const auto& design : designs) {
        w.session().chooseDesign(design.id);
        w.settle();
        readAll(w.bench, said);
        std::vector<app::Selection> items{w.item(Type::Site), w.item(Type::Design)};
        for (const auto type : {Type::Part, Type::Feed, Type::Load, Type::Line, Type::Block, Type::Copy,
                                Type::Drive, Type::Measured, Type::Support, Type::Dimension})
            edit::withList(w.document().design(), type, [&](const auto& list) {
                for (std::size_t i = 0; i < list.size(); ++i) items.push_back(w.item(type, i));
            });
        for (const auto& item : items) {
            w.session().select(item);
            QApplication::processEvents();
            readAll(*w.editor(), said);
        }
    }
    for (const auto& design : {designs.front(), designs.back()}) {
        w.session().chooseDesign(design.id);
        for (const auto& stage : w.bench.stages()) {
            w.bench.showStage(stage->name());
            w.settle();
            readAll(w.bench, said);
        }
    }
    CHECK(said.size() > 1500);
    const auto found = withoutCatalogue(said, usersOwn());
    for (const QString& one : found) UNSCOPED_INFO(one.toStdString());
    CHECK(found.empty());
}
