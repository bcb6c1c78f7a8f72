package org.orderlyferry.office.ods;

import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.NoSuchElementException;
import java.util.function.Function;
import javax.xml.stream.XMLStreamConstants;
import javax.xml.stream.XMLStreamException;
import javax.xml.stream.XMLStreamReader;
import org.jspecify.annotations.Nullable;
import org.orderlyferry.office.sheet.SheetMarks;
import org.orderlyferry.office.sheet.SheetRow;
import org.orderlyferry.office.sheet.SheetRows;

/** The rows of a sheet, as their XML is read. Rows and cells of the same content may stand there once, with how often they are meant. */
final class OdsRows implements SheetRows {

    /** Columns that spreadsheet programs have. */
    private static final int MOST_COLUMNS = 16_384;

    private final XMLStreamReader xml;
    private final Runnable closing;
    private final Function<Exception, RuntimeException> failed;
    private final SheetMarks marks;
    private long columns;
    private long number;
    private List<OdsCell> cells = List.of();
    private long left;
    private boolean ended;

    /** Rows of the sheet whose element the reader has just begun. */
    OdsRows(XMLStreamReader xml, Runnable closing, Function<Exception, RuntimeException> failed, SheetMarks marks) {
        this.xml = xml;
        this.closing = closing;
        this.failed = failed;
        this.marks = marks;
    }

    @Override
    public boolean hasNext() {
        try {
            while (left == 0 && !ended) {
                advance();
            }
            return left > 0;
        } catch (XMLStreamException | IllegalArgumentException e) {
            throw failed.apply(e);
        }
    }

    @Override
    public SheetRow next() {
        if (!hasNext()) {
            throw new NoSuchElementException();
        }
        left--;
        return new OdsRow((int) ++number, cells);
    }

    /** Goes to the next row; what rows are grouped in, and other tables inside of cells, is looked through or passed over. */
    private void advance() throws XMLStreamException {
        switch (xml.next()) {
            case XMLStreamConstants.START_ELEMENT -> {
                boolean table = OdsContent.TABLE.equals(xml.getNamespaceURI());
                String name = xml.getLocalName();
                if (table && name.equals("table-row")) {
                    row();
                } else if (table && name.equals("table-column")) {
                    column();
                } else if (!table
                        || !name.startsWith("table-row")
                                && !name.startsWith("table-header-rows")
                                && !name.startsWith("table-column")
                                && !name.equals("table-header-columns")) {
                    skip(xml);
                }
            }
            case XMLStreamConstants.END_ELEMENT -> ended = xml.getLocalName().equals("table");
            case XMLStreamConstants.END_DOCUMENT -> ended = true;
            default -> {
                // white space
            }
        }
    }

    private void column() throws XMLStreamException {
        long times = times("number-columns-repeated", Integer.MAX_VALUE);
        if (isUnseen()) {
            marks.hiddenColumns(columns + 1, columns + times);
        }
        columns += times;
        skip(xml);
    }

    private boolean isUnseen() {
        String visibility = xml.getAttributeValue(OdsContent.TABLE, "visibility");
        return "collapse".equals(visibility) || "filter".equals(visibility);
    }

    private void row() throws XMLStreamException {
        long times = times("number-rows-repeated", Integer.MAX_VALUE);
        boolean unseen = isUnseen();
        List<OdsCell> read = new ArrayList<>();
        int empty = 0;
        boolean marked = false;
        while (xml.next() != XMLStreamConstants.END_ELEMENT) {
            if (!xml.isStartElement()) {
                continue;
            }
            boolean covered = xml.getLocalName().equals("covered-table-cell");
            if (!covered && !xml.getLocalName().equals("table-cell")) {
                skip(xml);
                continue;
            }
            marked |= OdsSink.NOTHING.equals(xml.getAttributeValue(OdsContent.TABLE, "style-name"));
            if (!covered) {
                long high = times("number-rows-spanned", Integer.MAX_VALUE);
                marks.merged(number + 1, number + high, times("number-columns-spanned", Integer.MAX_VALUE));
            }
            int cellTimes = (int) times("number-columns-repeated", Integer.MAX_VALUE);
            OdsCell cell = cell();
            if (cell == OdsCell.NOTHING) {
                empty = Math.min(empty, Integer.MAX_VALUE - cellTimes) + cellTimes;
            } else {
                if ((long) read.size() + empty + cellTimes > MOST_COLUMNS) {
                    throw new XMLStreamException("row " + (number + 1) + " has more than " + MOST_COLUMNS + " columns");
                }
                read.addAll(Collections.nCopies(empty, OdsCell.NOTHING));
                read.addAll(Collections.nCopies(cellTimes, cell));
                empty = 0;
            }
        }
        if (read.isEmpty() && !marked) {
            number += times;
        } else {
            if (number + times > OdsFormat.MOST_ROWS) {
                throw new XMLStreamException("it has more than " + OdsFormat.MOST_ROWS + " rows");
            }
            left = times;
            cells = read;
            if (unseen) {
                marks.hidden(number + 1, times);
            }
        }
    }

    private long times(String attribute, int most) throws XMLStreamException {
        String text = xml.getAttributeValue(OdsContent.TABLE, attribute);
        return text == null ? 1 : Math.max(1, count(text, most));
    }

    /** A count, as the file has it. */
    static int count(String text, int most) throws XMLStreamException {
        try {
            long count = Long.parseLong(text.strip());
            if (count >= 0 && count <= most) {
                return (int) count;
            }
        } catch (NumberFormatException e) {
            // said below
        }
        throw new XMLStreamException("it says " + text + " where a number of at most " + most + " belongs");
    }

    /** Reads a cell up to its end. */
    private OdsCell cell() throws XMLStreamException {
        String type = office("value-type");
        String formula = xml.getAttributeValue(OdsContent.TABLE, "formula");
        boolean error = "error".equals(extended("value-type"));
        String value = type == null
                ? null
                : switch (type) {
                    case "float", "percentage", "currency" -> office("value");
                    case "date" -> office("date-value");
                    case "time" -> office("time-value");
                    case "boolean" -> office("boolean-value");
                    default -> office("string-value");
                };
        String text = CellText.read(xml);
        if (error) {
            return OdsCell.error(text);
        }
        if (type == null) {
            // whoever wrote a formula and no type of its result has not computed it
            return formula != null
                    ? OdsCell.error("=" + formula)
                    : text.isEmpty() ? OdsCell.NOTHING : OdsCell.text(text);
        }
        if (value == null && !type.equals("string")) {
            return OdsCell.error(text);
        }
        return switch (type) {
            case "float", "percentage", "currency" -> OdsCell.number(value);
            case "date" -> OdsCell.date(value);
            case "time" -> OdsCell.time(value);
            case "boolean" -> OdsCell.truth(value);
            default -> OdsCell.text(value == null || formula != null && !text.isEmpty() ? text : value);
        };
    }

    private @Nullable String office(String name) {
        return xml.getAttributeValue(OdsInput.OFFICE, name);
    }

    /** An attribute of a spreadsheet program's own, in whatever namespace it has it. */
    private @Nullable String extended(String name) {
        for (int i = 0; i < xml.getAttributeCount(); i++) {
            String space = xml.getAttributeNamespace(i);
            if (xml.getAttributeLocalName(i).equals(name) && space != null && space.contains("calcext")) {
                return xml.getAttributeValue(i);
            }
        }
        return null;
    }

    /** Passes over an element that has just begun. */
    static void skip(XMLStreamReader xml) throws XMLStreamException {
        for (int depth = 1; depth > 0; ) {
            int event = xml.next();
            depth += event == XMLStreamConstants.START_ELEMENT ? 1 : event == XMLStreamConstants.END_ELEMENT ? -1 : 0;
        }
    }

    @Override
    public void close() {
        closing.run();
    }
}
