#include "app/look/text.h"

#include "core/quantity/format.h"

namespace rm::app {

QString lengthWords(double metres, bool feet) {
    return text(quantity::formatLength(
        metres, feet ? quantity::LengthStyle::FeetInches : quantity::LengthStyle::Metric));
}

}  // namespace rm::app
