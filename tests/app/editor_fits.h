// Fields of the editor within its panel, in any language.
#pragma once

#include <QLabel>
#include <QScrollArea>

#include "window.h"

namespace rm::test {

/// Whatever is selected, its fields end where the panel does.
inline void checkThatEditorsFit(Window& w) {
    w.bench.resize(1280, 800);
    using Type = app::Selection::Type;
    const auto designs = w.document().project().designs.size();
    for (std::size_t n = 0; n < designs; ++n) {
        w.session().chooseDesign(w.document().project().designs[n].id);
        w.settle();
        const auto& design = w.document().design();
        std::vector<app::Selection> items{w.item(Type::Site), w.item(Type::Design)};
        for (const auto type : {Type::Part, Type::Feed, Type::Load, Type::Line, Type::Block, Type::Copy,
                                Type::Drive, Type::Measured, Type::Support})
            edit::withList(design, type, [&](const auto& list) {
                for (std::size_t i = 0; i < list.size(); ++i) items.push_back(w.item(type, i));
            });
        for (const auto& item : items) {
            w.session().select(item);
            QApplication::processEvents();
            auto* area = w.editor()->findChild<QScrollArea*>("editorScroll");
            REQUIRE(area != nullptr);
            INFO(design.name << ", item of type " << static_cast<int>(item.type) << " " << item.id);
            QString widest;
            for (auto* child : area->widget()->findChildren<QWidget*>())
                if (child->isVisible() && child->geometry().right() >= area->viewport()->width())
                    widest += child->objectName() + " " + child->accessibleName() + "; ";
            INFO("wide: " << widest.toStdString());
            CHECK(area->widget()->minimumSizeHint().width() <= area->viewport()->width());
            for (auto* label : area->widget()->findChildren<QLabel*>())
                for (const QString& word : label->text().split(' ')) {
                    INFO(word.toStdString());
                    CHECK((!label->isVisible() ||
                           label->fontMetrics().horizontalAdvance(word) <= label->width()));
                }
        }
    }
}

}  // namespace rm::test
