// Colours and type sizes of the bench, light and dark. docs/design.md says why they are as they are.
#pragma once

#include <QColor>
#include <QFont>
#include <QString>
#include <array>

namespace rm::app {

/// The hues of a salt marsh: reed for what is good or selected, copper for the live antenna, water for fields
/// and patterns, sun for feedpoints and caution, clay for what is bad, heather for cursors.
struct Theme {
    bool dark = false;
    QColor paper;    ///< behind everything
    QColor panel;    ///< panels and fields
    QColor sunken;   ///< editor and tracks
    QColor yard;     ///< behind the yard
    QColor line;     ///< borders and rings
    QColor ink;      ///< text
    QColor softInk;  ///< secondary text
    QColor reed;
    QColor reedTint;  ///< behind selected things
    QColor water;
    QColor copper;
    QColor heather;
    QColor sun;
    QColor clay;
    QColor sunInk;                   ///< words of caution: sun, dark enough to be read
    std::array<QColor, 5> overlays;  ///< things laid over each other, told apart by any eye

    static Theme light();
    static Theme night();
    /// The one whose palette the application has.
    static Theme current();

    /// Colour for an SWR by the designer's limits; text says the same, so that colour never stands alone.
    QColor forSwr(double swr, const std::array<double, 3>& limits) const;
    /// Colours of things laid over each other, in the order in which they come. With copper, the live
    /// antenna, they differ by lightness as well as by hue, so that those who take red for green tell them
    /// apart.
    QColor overlay(std::size_t index) const;
    /// A hue as words in it have to be on a panel: drawn towards ink until they are read (4.5 : 1).
    QColor words(const QColor& hue) const;
    /// Colours of measurements.
    QColor measured(std::size_t index) const;

    QString styleSheet() const;
    void apply() const;
};

/// Sizes in points of the four kinds of text.
inline constexpr double kTitlePt = 10.5;
inline constexpr double kTextPt = 9.0;
inline constexpr double kSmallPt = 8.0;
inline constexpr double kTinyPt = 7.2;

/// Contrast of two colours after WCAG 2.1, 1 to 21.
double contrast(const QColor& a, const QColor& b);

QFont textFont(double points, bool bold = false);

}  // namespace rm::app
