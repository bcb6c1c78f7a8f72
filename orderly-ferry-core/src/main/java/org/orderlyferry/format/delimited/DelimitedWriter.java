package org.orderlyferry.format.delimited;

import java.io.BufferedWriter;
import java.io.IOException;
import java.io.OutputStream;
import java.io.OutputStreamWriter;
import java.nio.charset.CharacterCodingException;
import java.util.Base64;
import java.util.List;
import org.orderlyferry.format.ValueStyle;
import org.orderlyferry.io.Narrow;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.problem.BadValueException;
import org.orderlyferry.problem.Origin;
import org.orderlyferry.problem.PlaceException;
import org.orderlyferry.record.RecordBatch;
import org.orderlyferry.record.RecordWriter;
import org.orderlyferry.record.Records;
import org.orderlyferry.record.text.InvalidValueException;

/** Writes records in dialects that RFC 4180 doesn't know. */
final class DelimitedWriter implements RecordWriter {

    private final BufferedWriter out;
    private final DelimitedDialect dialect;
    private final TableDefinition table;
    private final ValueStyle[] styles;
    private final String nullText;
    private final Narrow narrow;
    private boolean headed;

    DelimitedWriter(OutputStream out, DelimitedDialect dialect, List<ValueStyle> styles, TableDefinition table) {
        this.out = new BufferedWriter(
                new OutputStreamWriter(out, dialect.encoding().newEncoder()), 64 * 1024);
        this.dialect = dialect;
        this.table = table;
        this.nullText = dialect.nulls().get(0);
        this.narrow = new Narrow(dialect.encoding());
        this.styles = table.columns().stream()
                .map(c -> ValueStyle.changing(c.type(), styles).orElse(null))
                .toArray(ValueStyle[]::new);
    }

    @Override
    public void write(RecordBatch batch) {
        try {
            header();
            for (int row = 0; row < batch.rows(); row++) {
                for (int column = 0; column < batch.columns(); column++) {
                    if (column > 0) {
                        out.write(dialect.delimiter());
                    }
                    value(batch, row, column);
                }
                out.write(dialect.lineEnd().text());
            }
        } catch (IOException e) {
            throw failed(e);
        }
    }

    private void header() throws IOException {
        if (headed) {
            return;
        }
        headed = true;
        if (dialect.headerRows() > 0) {
            for (int i = 0; i < table.columns().size(); i++) {
                if (i > 0) {
                    out.write(dialect.delimiter());
                }
                String name = table.columns().get(i).name();
                text(name, i, new Origin(table.name().toString(), "the header", 0, false));
            }
            out.write(dialect.lineEnd().text());
        }
    }

    private void value(Records batch, int row, int column) throws IOException {
        ColumnDefinition definition = table.columns().get(column);
        if (batch.isNull(row, column)) {
            plain(nullText, column, batch.origin(row));
            return;
        }
        String text = definition.type().name().isBinary()
                ? Base64.getEncoder().encodeToString(batch.copy(row, column))
                : batch.text(row, column);
        if (styles[column] != null) {
            try {
                text = styles[column].write(text, definition.type());
            } catch (InvalidValueException e) {
                throw new BadValueException(batch.origin(row), definition.name(), text, e.getMessage());
            }
        }
        text(text, column, batch.origin(row));
    }

    private void text(String text, int column, Origin origin) throws IOException {
        narrow.mustHold(text, origin, table.columns().get(column).name());
        boolean special = dialect.nulls().contains(text)
                || text.isEmpty()
                || text.indexOf('\n') >= 0
                || text.indexOf('\r') >= 0
                || text.contains(dialect.delimiter().isEmpty() ? "\n" : dialect.delimiter())
                || dialect.quote() != 0 && text.indexOf(dialect.quote()) >= 0
                || dialect.escape() != 0 && text.indexOf(dialect.escape()) >= 0
                || !text.equals(text.strip())
                || !dialect.comment().isEmpty() && column == 0 && text.startsWith(dialect.comment())
                || text.charAt(0) == '\uFEFF';
        if (!special || !dialect.widths().isEmpty()) {
            mustBeHeld(text, column, special, origin);
            plain(text, column, origin);
        } else if (dialect.quote() != 0) {
            String quote = String.valueOf(dialect.quote());
            String inner = dialect.escape() == 0
                    ? text.replace(quote, quote + quote)
                    : escaped(text).replace(quote, dialect.escape() + quote);
            out.write(quote + inner + quote);
        } else {
            // without a quote, empty text and null are the same, as are blanks at the ends when they are trimmed
            if (dialect.nulls().contains(text) || !text.equals(dialect.trim().trimmed(text))) {
                throw bad(
                        text,
                        column,
                        origin,
                        "can't be told from " + (text.isBlank() ? "null" : "what is trimmed")
                                + " without quotes around it; set quoteChar, or another word for null");
            }
            out.write(escaped(text)
                    .replace("\n", "\\n")
                    .replace("\r", "\\r")
                    .replace(dialect.delimiter(), dialect.escape() + dialect.delimiter()));
        }
    }

    private String escaped(String text) {
        String escape = String.valueOf(dialect.escape());
        return text.replace(escape, escape + escape);
    }

    /** A fixed column has no quotes: what they would keep can't be held. */
    private void mustBeHeld(String text, int column, boolean special, Origin origin) {
        if (special && !dialect.widths().isEmpty()) {
            throw bad(
                    text,
                    column,
                    origin,
                    "can't be held by a column of fixed width: it would be read as something else");
        }
    }

    private void plain(String text, int column, Origin origin) throws IOException {
        if (dialect.widths().isEmpty()) {
            out.write(text);
            return;
        }
        int width = dialect.widths().get(column);
        int length = text.codePointCount(0, text.length());
        if (length > width) {
            throw bad(text, column, origin, "is longer than the " + width + " characters of its column");
        }
        out.write(text);
        out.write(" ".repeat(width - length));
    }

    private BadValueException bad(String text, int column, Origin origin, String why) {
        return new BadValueException(origin, table.columns().get(column).name(), text, why);
    }

    private PlaceException failed(IOException e) {
        String what = e instanceof CharacterCodingException
                ? "a character can't be written in " + dialect.encoding().name() + "; choose UTF-8"
                : "can't be written: " + e.getMessage();
        return new PlaceException("file of table " + table.name(), what, e);
    }

    @Override
    public void finish() {
        try {
            header();
            out.flush();
        } catch (IOException e) {
            throw failed(e);
        }
    }

    @Override
    public void close() {
        try {
            out.close();
        } catch (IOException e) {
            throw failed(e);
        }
    }
}
