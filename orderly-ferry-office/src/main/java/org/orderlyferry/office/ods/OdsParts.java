package org.orderlyferry.office.ods;

/** What stands around the sheets of an OpenDocument file. */
final class OdsParts {

    static final String HEADING = "heading";
    static final String DAY = "day";
    static final String TIME = "time";
    static final String TIME_MILLIS = "time-millis";
    static final String MOMENT = "moment";
    static final String MOMENT_MILLIS = "moment-millis";

    private static final int MOST_SCALE = 15;
    private static final int WIDEST = 60;
    private static final double CHARACTER_CM = 0.2;

    static final String MANIFEST = "<?xml version=\"1.0\" encoding=\"UTF-8\"?>\n"
            + "<manifest:manifest xmlns:manifest=\"urn:oasis:names:tc:opendocument:xmlns:manifest:1.0\""
            + " manifest:version=\"1.2\">"
            + "<manifest:file-entry manifest:full-path=\"/\" manifest:version=\"1.2\" manifest:media-type=\""
            + OdsFormat.MIME_TYPE + "\"/>"
            + "<manifest:file-entry manifest:full-path=\"content.xml\" manifest:media-type=\"text/xml\"/>"
            + "</manifest:manifest>";

    static final String END = "</office:spreadsheet></office:body></office:document-content>";

    private static final String DATE = "<number:year number:style=\"long\"/><number:text>-</number:text>"
            + "<number:month number:style=\"long\"/><number:text>-</number:text><number:day number:style=\"long\"/>";

    private OdsParts() {}

    private static String clock(boolean millis) {
        return "<number:hours number:style=\"long\"/><number:text>:</number:text><number:minutes number:style=\"long\"/>"
                + "<number:text>:</number:text><number:seconds number:style=\"long\""
                + (millis ? " number:decimal-places=\"3\"" : "") + "/>";
    }

    private static String dated(String kind, String name, String parts) {
        return "<number:" + kind + "-style style:name=\"n-" + name + "\">" + parts + "</number:" + kind + "-style>"
                + cell(name, "n-" + name, "");
    }

    private static String cell(String name, String shownAs, String more) {
        return "<style:style style:name=\"" + name + "\" style:family=\"table-cell\""
                + (shownAs.isEmpty() ? "" : " style:data-style-name=\"" + shownAs + "\"") + ">" + more
                + "</style:style>";
    }

    /** The style of a column that is so many characters wide. */
    static String column(int width) {
        return "column-" + Math.min(width, WIDEST);
    }

    /** The style of a number with so many digits behind the point; none where that isn't said. */
    static String number(int scale) {
        return scale < 1 || scale > MOST_SCALE ? "" : "digits-" + scale;
    }

    /** What stands in front of the first sheet. */
    static String begin() {
        StringBuilder text = new StringBuilder("<?xml version=\"1.0\" encoding=\"UTF-8\"?>\n<office:document-content");
        for (String space : new String[] {"office", "table", "text", "style"}) {
            text.append(" xmlns:")
                    .append(space)
                    .append("=\"urn:oasis:names:tc:opendocument:xmlns:")
                    .append(space)
                    .append(":1.0\"");
        }
        text.append(" xmlns:number=\"urn:oasis:names:tc:opendocument:xmlns:datastyle:1.0\"")
                .append(" xmlns:fo=\"urn:oasis:names:tc:opendocument:xmlns:xsl-fo-compatible:1.0\"")
                .append(" office:version=\"1.2\"><office:automatic-styles>")
                .append(cell(HEADING, "", "<style:text-properties fo:font-weight=\"bold\"/>"))
                .append(cell(OdsSink.NOTHING, "", ""))
                .append(dated("date", DAY, DATE))
                .append(dated("time", TIME, clock(false)))
                .append(dated("time", TIME_MILLIS, clock(true)))
                .append(dated("date", MOMENT, DATE + "<number:text> </number:text>" + clock(false)))
                .append(dated("date", MOMENT_MILLIS, DATE + "<number:text> </number:text>" + clock(true)));
        for (int scale = 1; scale <= MOST_SCALE; scale++) {
            text.append(dated(
                    "number",
                    number(scale),
                    "<number:number number:decimal-places=\"" + scale + "\" number:min-integer-digits=\"1\"/>"));
        }
        for (int width = 0; width <= WIDEST; width++) {
            text.append("<style:style style:name=\"")
                    .append(column(width))
                    .append("\" style:family=\"table-column\"><style:table-column-properties style:column-width=\"")
                    .append(Math.round(width * CHARACTER_CM * 10) / 10.0)
                    .append("cm\"/></style:style>");
        }
        return text.append("</office:automatic-styles><office:body><office:spreadsheet>")
                .toString();
    }
}
