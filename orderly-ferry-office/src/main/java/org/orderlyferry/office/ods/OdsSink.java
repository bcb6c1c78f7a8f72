package org.orderlyferry.office.ods;

import java.io.BufferedWriter;
import java.io.IOException;
import java.io.OutputStream;
import java.io.OutputStreamWriter;
import java.io.UncheckedIOException;
import java.io.Writer;
import java.math.BigDecimal;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.LocalTime;
import java.util.List;
import java.util.zip.CRC32;
import java.util.zip.ZipEntry;
import java.util.zip.ZipOutputStream;
import org.orderlyferry.office.sheet.Serials;
import org.orderlyferry.office.sheet.SheetSink;
import org.orderlyferry.problem.PlaceException;
import org.orderlyferry.record.text.JavaValues;
import org.slf4j.LoggerFactory;

/** Writes an OpenDocument file: its part of contents as it comes, whatever its size. */
final class OdsSink implements SheetSink {

    /** The style of a cell that makes a row of nothing a row. */
    static final String NOTHING = "nothing";

    /** Before it, programs count by another calendar. */
    private static final LocalDate FIRST = LocalDate.of(1583, 1, 1);

    private static final LocalDate LAST = LocalDate.of(9999, 12, 31);

    private final String shown;
    private final OutputStream file;
    private final ZipOutputStream zip;
    private final Writer out;
    private final OdsText text;
    /** At which place of the row the next cell stands. */
    private int at;

    private boolean finished;

    OdsSink(OutputStream out, String shown) {
        this.shown = shown;
        this.file = out;
        this.zip = new ZipOutputStream(out);
        this.out = new BufferedWriter(new OutputStreamWriter(zip, StandardCharsets.UTF_8), 64 * 1024);
        this.text = new OdsText(this.out);
        try {
            mimeType();
            zip.putNextEntry(new ZipEntry("META-INF/manifest.xml"));
            this.out.write(OdsParts.MANIFEST);
            this.out.flush();
            zip.closeEntry();
            zip.putNextEntry(new ZipEntry("content.xml"));
            this.out.write(OdsParts.begin());
        } catch (IOException e) {
            throw failed(e);
        }
    }

    /** Stands first, and as it is, so that the file's first bytes say what it is (ISO/IEC 26300-3, 3.3). */
    private void mimeType() throws IOException {
        byte[] type = OdsFormat.MIME_TYPE.getBytes(StandardCharsets.US_ASCII);
        CRC32 sum = new CRC32();
        sum.update(type);
        ZipEntry entry = new ZipEntry("mimetype");
        entry.setMethod(ZipEntry.STORED);
        entry.setSize(type.length);
        entry.setCrc(sum.getValue());
        zip.putNextEntry(entry);
        zip.write(type);
        zip.closeEntry();
    }

    /** A step of writing. */
    @FunctionalInterface
    private interface Step {
        void run() throws IOException;
    }

    private void write(Step step) {
        try {
            step.run();
        } catch (IOException e) {
            throw failed(e);
        } catch (UncheckedIOException e) {
            throw failed(e.getCause());
        }
    }

    private PlaceException failed(IOException e) {
        return new PlaceException(shown, "can't be written: " + e.getMessage(), e);
    }

    @Override
    public void begin(String name, List<String> headings, List<Integer> widths) {
        write(() -> {
            out.write("<table:table table:name=\"");
            text.attribute(name);
            out.write("\">");
            for (int width : widths) {
                out.write("<table:table-column table:style-name=\"" + OdsParts.column(width) + "\"/>");
            }
            out.write("<table:table-row>");
            for (String heading : headings) {
                out.write(
                        "<table:table-cell table:style-name=\"" + OdsParts.HEADING + "\" office:value-type=\"string\"");
                text.content(heading);
            }
            out.write("</table:table-row>");
            beginRow();
        });
    }

    private void beginRow() {
        at = 0;
    }

    /** Begins a cell, after those that aren't there. */
    private void cell(int place, String type) throws IOException {
        if (at == 0) {
            out.write("<table:table-row>");
        }
        int gap = place - at;
        if (gap > 0) {
            out.write("<table:table-cell");
            if (gap > 1) {
                out.write(" table:number-columns-repeated=\"" + gap + "\"");
            }
            out.write("/>");
        }
        at = place + 1;
        out.write("<table:table-cell office:value-type=\"");
        out.write(type);
        out.write('"');
    }

    /** Ends a cell with a value whose text is as plain as its value. */
    private void value(int place, String type, String attribute, String value, String style) {
        write(() -> {
            cell(place, type);
            if (!style.isEmpty()) {
                out.write(" table:style-name=\"" + style + "\"");
            }
            out.write(" office:" + attribute + "=\"" + value + "\"/>");
        });
    }

    @Override
    public void mustHold(String value) {
        OdsText.mustHold(value);
    }

    @Override
    public void text(int place, String value) {
        write(() -> {
            cell(place, "string");
            text.content(value);
        });
    }

    @Override
    public void number(int place, BigDecimal number, int scale) {
        value(place, "float", "value", number.toPlainString(), OdsParts.number(scale));
    }

    @Override
    public void floating(int place, double number) {
        value(place, "float", "value", JavaValues.text(number), "");
    }

    @Override
    public void truth(int place, boolean value) {
        value(place, "boolean", "boolean-value", Boolean.toString(value), "");
    }

    private static boolean holds(LocalDate day) {
        return !day.isBefore(FIRST) && !day.isAfter(LAST);
    }

    @Override
    public boolean day(int place, LocalDate day) {
        if (holds(day)) {
            value(place, "date", "date-value", day.toString(), OdsParts.DAY);
        }
        return holds(day);
    }

    @Override
    public boolean time(int place, LocalTime time) {
        if (Serials.holds(time)) {
            Duration length = Duration.ofNanos(time.toNanoOfDay());
            String value = String.format(
                    java.util.Locale.ROOT,
                    "PT%02dH%02dM%s%sS",
                    length.toHours(),
                    length.toMinutesPart(),
                    two(length.toSecondsPart()),
                    fraction(time));
            value(place, "time", "time-value", value, time.getNano() == 0 ? OdsParts.TIME : OdsParts.TIME_MILLIS);
        }
        return Serials.holds(time);
    }

    private static String two(int number) {
        return (number < 10 ? "0" : "") + number;
    }

    private static String fraction(LocalTime time) {
        String millis = Integer.toString(1_000 + time.getNano() / 1_000_000).substring(1);
        return time.getNano() == 0 ? "" : "." + millis;
    }

    @Override
    public boolean moment(int place, LocalDateTime moment) {
        boolean held = holds(moment.toLocalDate()) && Serials.holds(moment.toLocalTime());
        if (held) {
            value(
                    place,
                    "date",
                    "date-value",
                    JavaValues.text(moment),
                    moment.getNano() == 0 ? OdsParts.MOMENT : OdsParts.MOMENT_MILLIS);
        }
        return held;
    }

    @Override
    public void nothing() {
        write(() -> {
            out.write("<table:table-row><table:table-cell table:style-name=\"" + NOTHING + "\"/>");
            at = 1;
        });
    }

    @Override
    public void endRow() {
        write(() ->
                out.write(at == 0 ? "<table:table-row><table:table-cell/></table:table-row>" : "</table:table-row>"));
        beginRow();
    }

    @Override
    public void end() {
        write(() -> out.write("</table:table>"));
    }

    @Override
    public void finish() {
        write(() -> {
            out.write(OdsParts.END);
            out.flush();
            zip.closeEntry();
            zip.finish();
            finished = true;
        });
    }

    /** One that wasn't finished gets no directory, so that nobody takes it for a file. */
    @Override
    public void close() {
        try {
            file.close();
        } catch (IOException e) {
            if (finished) {
                throw failed(e);
            }
            LoggerFactory.getLogger(OdsSink.class).debug("{} was not finished", shown, e);
        }
    }
}
