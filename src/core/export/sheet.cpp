#include "core/export/sheet.h"

#include <cairo-pdf.h>
#include <dxflib/dl_dxf.h>
#include <fmt/format.h>

#include <algorithm>
#include <memory>

#include "core/common.h"
#include "core/words/words.h"

namespace rm::io {

namespace {

/// Capital height over font size of the sans fonts that are meant.
constexpr double kCapital = 0.72;
constexpr double kWidthPerHeight = 0.86;
constexpr double kPointMm = 25.4 / 72.0;

std::string escaped(const std::string& words) {
    std::string out;
    for (const char c : words) switch (c) {
            case '&':
                out += "&amp;";
                break;
            case '<':
                out += "&lt;";
                break;
            case '>':
                out += "&gt;";
                break;
            case '"':
                out += "&quot;";
                break;
            default:
                out += c;
        }
    return out;
}

/// The standard text encoding of old DXF readers has no characters beyond ASCII but those spelled out.
std::string forDxf(const std::string& words) {
    std::string out;
    for (std::size_t i = 0; i < words.size(); ++i) {
        const auto c = static_cast<unsigned char>(words[i]);
        if (c < 0x80) {
            out += words[i];
            continue;
        }
        const int more = c >= 0xF0 ? 3 : c >= 0xE0 ? 2 : 1;
        unsigned code = c & (0x3FU >> more);
        for (int k = 0; k < more && i + 1 < words.size(); ++k)
            code = (code << 6) | (static_cast<unsigned char>(words[++i]) & 0x3FU);
        out += fmt::format("\\U+{:04X}", code);
    }
    return out;
}

class PdfPage {
  public:
    explicit PdfPage(cairo_t* cairo) : c_(cairo) {}

    void draw(const Sheet& sheet) {
        for (const auto& line : sheet.lines) {
            const double dash[] = {1.6, 1.2};
            cairo_set_dash(c_, dash, line.dashed ? 2 : 0, 0.0);
            cairo_set_line_width(c_, line.width);
            cairo_set_line_cap(c_, CAIRO_LINE_CAP_ROUND);
            cairo_move_to(c_, line.from.x, line.from.y);
            cairo_line_to(c_, line.to.x, line.to.y);
            cairo_stroke(c_);
        }
        cairo_set_dash(c_, nullptr, 0, 0.0);
        for (const auto& circle : sheet.circles) {
            cairo_new_sub_path(c_);
            cairo_arc(c_, circle.centre.x, circle.centre.y, circle.radius, 0.0, 2.0 * kPi);
            cairo_set_line_width(c_, 0.3);
            circle.filled ? cairo_fill(c_) : cairo_stroke(c_);
        }
        for (const auto& text : sheet.texts) write(text);
    }

  private:
    void write(const SheetText& text) {
        cairo_select_font_face(c_, "DejaVu Sans", CAIRO_FONT_SLANT_NORMAL,
                               text.bold ? CAIRO_FONT_WEIGHT_BOLD : CAIRO_FONT_WEIGHT_NORMAL);
        cairo_set_font_size(c_, text.height / kCapital);
        cairo_text_extents_t extents;
        cairo_text_extents(c_, text.words.c_str(), &extents);
        const double back = text.align == Align::Left     ? 0.0
                            : text.align == Align::Middle ? 0.5 * extents.x_advance
                                                          : extents.x_advance;
        cairo_save(c_);
        cairo_translate(c_, text.at.x, text.at.y);
        if (text.upright) cairo_rotate(c_, -0.5 * kPi);
        cairo_move_to(c_, -back, 0.0);
        cairo_show_text(c_, text.words.c_str());
        cairo_restore(c_);
    }

    cairo_t* c_;
};

}  // namespace

Sheet sheetOf(Paper paper) {
    Sheet sheet;
    if (paper == Paper::A3) {
        sheet.width = 420.0;
        sheet.height = 297.0;
    } else if (paper == Paper::Letter) {
        sheet.width = 279.4;
        sheet.height = 215.9;
    }
    return sheet;
}

Paper paperNamed(const std::string& name) {
    if (name == "A4") return Paper::A4;
    if (name == "A3") return Paper::A3;
    if (name == "Letter") return Paper::Letter;
    throw Error(say("\"{}\" is no paper known here: use A4, A3 or Letter.", name));
}

double widthOf(const SheetText& text) {
    // Bytes that go on a character are not counted.
    const auto count = std::count_if(text.words.begin(), text.words.end(),
                                     [](char c) { return (static_cast<unsigned char>(c) & 0xC0U) != 0x80U; });
    return static_cast<double>(count) * text.height * kWidthPerHeight;
}

std::string svgOf(const Sheet& sheet) {
    std::string out = fmt::format(
        "<svg xmlns=\"http://www.w3.org/2000/svg\" width=\"{0:g}mm\" height=\"{1:g}mm\" viewBox=\"0 0 {0:g} "
        "{1:g}\" "
        "font-family=\"DejaVu Sans, sans-serif\" stroke=\"black\" stroke-linecap=\"round\">\n",
        sheet.width, sheet.height);
    out += fmt::format("<rect width=\"{:g}\" height=\"{:g}\" fill=\"white\" stroke=\"none\"/>\n", sheet.width,
                       sheet.height);
    for (const auto& line : sheet.lines)
        out += fmt::format(
            "<line class=\"{}\" x1=\"{:.3f}\" y1=\"{:.3f}\" x2=\"{:.3f}\" y2=\"{:.3f}\" "
            "stroke-width=\"{:g}\"{}/>\n",
            line.layer, line.from.x, line.from.y, line.to.x, line.to.y, line.width,
            line.dashed ? " stroke-dasharray=\"1.6 1.2\"" : "");
    for (const auto& circle : sheet.circles)
        out += fmt::format(
            "<circle class=\"{}\" cx=\"{:.3f}\" cy=\"{:.3f}\" r=\"{:g}\" stroke-width=\"0.3\" "
            "fill=\"{}\"/>\n",
            circle.layer, circle.centre.x, circle.centre.y, circle.radius, circle.filled ? "black" : "none");
    for (const auto& text : sheet.texts)
        out += fmt::format(
            "<text class=\"{}\" x=\"{:.3f}\" y=\"{:.3f}\" font-size=\"{:.3f}\" "
            "stroke=\"none\"{}{}{}>{}</text>\n",
            text.layer, text.at.x, text.at.y, text.height / kCapital,
            text.align == Align::Middle  ? " text-anchor=\"middle\""
            : text.align == Align::Right ? " text-anchor=\"end\""
                                         : "",
            text.bold ? " font-weight=\"bold\"" : "",
            text.upright ? fmt::format(" transform=\"rotate(-90 {:.3f} {:.3f})\"", text.at.x, text.at.y) : "",
            escaped(text.words));
    return out + "</svg>\n";
}

void writePdf(const std::vector<Sheet>& sheets, const std::string& path) {
    if (sheets.empty()) throw Error(say("There is nothing to write."));
    const std::unique_ptr<cairo_surface_t, void (*)(cairo_surface_t*)> surface(
        cairo_pdf_surface_create(path.c_str(), sheets.front().width / kPointMm,
                                 sheets.front().height / kPointMm),
        cairo_surface_destroy);
    const std::unique_ptr<cairo_t, void (*)(cairo_t*)> cairo(cairo_create(surface.get()), cairo_destroy);
    for (const auto& sheet : sheets) {
        cairo_pdf_surface_set_size(surface.get(), sheet.width / kPointMm, sheet.height / kPointMm);
        cairo_save(cairo.get());
        cairo_scale(cairo.get(), 1.0 / kPointMm, 1.0 / kPointMm);
        PdfPage(cairo.get()).draw(sheet);
        cairo_restore(cairo.get());
        cairo_show_page(cairo.get());
    }
    cairo_surface_finish(surface.get());
    if (cairo_surface_status(surface.get()) != CAIRO_STATUS_SUCCESS)
        throw Error(say("{} cannot be written: {}.", path,
                        cairo_status_to_string(cairo_surface_status(surface.get()))));
}

void writeDxf(const Sheet& sheet, const std::string& path) {
    DL_Dxf dxf;
    const std::unique_ptr<DL_WriterA> writer(dxf.out(path.c_str(), DL_VERSION_R12));
    if (!writer) throw Error(say("{} cannot be written.", path));
    const auto up = [&](double y) { return sheet.height - y; };
    dxf.writeHeader(*writer);
    writer->sectionEnd();
    writer->sectionTables();
    writer->tableLinetypes(2);
    dxf.writeLinetype(*writer, DL_LinetypeData("CONTINUOUS", "Continuous", 0, 0, 0.0));
    dxf.writeLinetype(*writer, DL_LinetypeData("DASHED", "Dashed", 0, 0, 0.0));
    writer->tableEnd();
    const char* const layers[] = {"0", "wires", "dimensions", "frame"};
    writer->tableLayers(4);
    int colour = 7;
    for (const char* layer : layers)
        dxf.writeLayer(*writer, DL_LayerData(layer, 0),
                       DL_Attributes("", colour--, 0, -1, "CONTINUOUS", 1.0));
    writer->tableEnd();
    writer->sectionEnd();
    writer->sectionEntities();
    for (const auto& line : sheet.lines)
        dxf.writeLine(*writer, DL_LineData(line.from.x, up(line.from.y), 0, line.to.x, up(line.to.y), 0),
                      DL_Attributes(line.layer, 256, -1, line.dashed ? "DASHED" : "CONTINUOUS", 1.0));
    for (const auto& circle : sheet.circles)
        dxf.writeCircle(*writer, DL_CircleData(circle.centre.x, up(circle.centre.y), 0, circle.radius),
                        DL_Attributes(circle.layer, 256, -1, "CONTINUOUS", 1.0));
    for (const auto& text : sheet.texts) {
        const int align = text.align == Align::Left ? 0 : text.align == Align::Middle ? 1 : 2;
        dxf.writeText(
            *writer,
            DL_TextData(text.at.x, up(text.at.y), 0, text.at.x, up(text.at.y), 0, text.height, 1.0, 0, align,
                        0, forDxf(text.words), "STANDARD", text.upright ? 0.5 * kPi : 0.0),
            DL_Attributes(text.layer, 256, -1, "CONTINUOUS", 1.0));
    }
    writer->sectionEnd();
    writer->dxfEOF();
    writer->close();
}

}  // namespace rm::io
