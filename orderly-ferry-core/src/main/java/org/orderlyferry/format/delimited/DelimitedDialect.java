package org.orderlyferry.format.delimited;

import java.nio.charset.Charset;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.orderlyferry.format.FileSettings;
import org.orderlyferry.format.Setting;
import org.orderlyferry.format.ValueStyle;
import org.orderlyferry.format.csv.CsvDialect;
import org.orderlyferry.format.csv.LineEnd;
import org.orderlyferry.problem.UsageException;

/**
 * How text with delimiters, or with columns of fixed widths, is written, in the words of W3C CSV on the Web where it has
 * them. What {@link CsvDialect} can say is read and written by bytes; all else by {@link DelimitedReader} and
 * {@link DelimitedWriter}.
 *
 * @param delimiter one character or several
 * @param quote what stands around values that need it; 0 for nothing
 * @param escape what stands before a character that would mean something else; 0 where a quote is doubled instead
 * @param lineEnd what ends a record when written
 * @param encoding the character encoding
 * @param headerRows how many rows name the columns
 * @param named whether columns are found by their headings; else they stand in the order of the definition
 * @param skipRows how many lines stand before the header
 * @param skipColumns how many values of each row, from the first, are none of the table's
 * @param skipLastRows how many lines stand behind the last record
 * @param comment what a line begins with that holds no record; empty for nothing
 * @param trim which blanks around a value without quotes are no part of it
 * @param nulls what stands for null without quotes; the first is written
 * @param widths of fixed columns, in characters; empty where there is a delimiter
 */
record DelimitedDialect(
        String delimiter,
        char quote,
        char escape,
        LineEnd lineEnd,
        Charset encoding,
        int headerRows,
        boolean named,
        int skipRows,
        int skipColumns,
        int skipLastRows,
        String comment,
        Trim trim,
        List<String> nulls,
        List<Integer> widths) {

    static final List<Setting> SETTINGS = List.of(
            new Setting("delimiter", ",", "What stands between values: one character or several; \\t for a tab."),
            new Setting("quoteChar", "\"", "What stands around values; none for nothing."),
            new Setting("doubleQuote", "true", "Whether a quote in a value is doubled; if not, a \\ stands before it."),
            new Setting("lineTerminators", "CRLF", "CRLF, LF or CR, when written; reading takes any."),
            new Setting("encoding", "UTF-8", "Any that Java knows."),
            new Setting("header", "true", "Whether a row names the columns."),
            new Setting(
                    "headerRowCount",
                    "1",
                    "How many rows name the columns when read; a column's headings are put together."),
            new Setting(
                    "columnOrder",
                    "header",
                    "Whether columns are found by the header, or stand in the order of the description, when read."),
            new Setting("skipRows", "0", "How many lines stand before the header, when read."),
            new Setting("skipColumns", "0", "How many values at the start of each row are passed over, when read."),
            new Setting("skipLastRows", "0", "How many lines stand behind the last record, when read."),
            new Setting("commentPrefix", "", "What a line begins with that holds no record."),
            new Setting("trim", "false", "Whether blanks around a value are no part of it: true, false, start or end."),
            new Setting("null", "", "What stands for null; several words with | between them."),
            new Setting(
                    "boolean", "true|false", "The words for true and false; several with a comma, as in Y,yes|N,no."),
            new Setting("decimalChar", ".", "What stands before a number's fraction."),
            new Setting("groupChar", "", "What may stand between a number's digits."),
            new Setting("dateFormat", "yyyy-MM-dd", "How dates are written, such as dd.MM.yyyy."),
            new Setting("timeFormat", "HH:mm:ss", "How times of day are written."),
            new Setting("timestampFormat", "yyyy-MM-dd'T'HH:mm:ss", "How dates with a time of day are written."),
            new Setting("widths", "", "The widths of fixed columns, such as 8,20,3, instead of a delimiter."));

    DelimitedDialect {
        nulls = List.copyOf(nulls);
        widths = List.copyOf(widths);
        if (delimiter.isEmpty() && widths.isEmpty()) {
            throw new UsageException("the delimiter can't be empty");
        }
        if (delimiter.indexOf('\n') >= 0 || delimiter.indexOf('\r') >= 0) {
            throw new UsageException("the delimiter can't hold a line end");
        }
        if (quote != 0 && delimiter.indexOf(quote) >= 0) {
            throw new UsageException("the delimiter can't hold the quote");
        }
        if (widths.stream().anyMatch(w -> w < 1)) {
            throw new UsageException("a column is at least one character wide");
        }
    }

    static DelimitedDialect of(FileSettings settings) {
        String quote = settings.text("quoteChar", "\"");
        char quoteChar = quote.equals("none") ? 0 : one("quoteChar", quote);
        boolean doubled = settings.flag("doubleQuote", true) && quoteChar != 0;
        return new DelimitedDialect(
                settings.text("widths").isPresent()
                        ? ""
                        : settings.text("delimiter", ",").replace("\\t", "\t"),
                quoteChar,
                doubled ? 0 : '\\',
                lineEnd(settings.text("lineTerminators", "CRLF")),
                settings.encoding("encoding", StandardCharsets.UTF_8),
                settings.flag("header", true) ? settings.count("headerRowCount", 1) : 0,
                isNamed(settings.text("columnOrder", "header")),
                settings.count("skipRows", 0),
                settings.count("skipColumns", 0),
                settings.count("skipLastRows", 0),
                settings.text("commentPrefix", ""),
                settings.text("widths").isPresent() ? Trim.TRUE : Trim.of(settings.text("trim", "false")),
                settings.words("null", ""),
                widths(settings));
    }

    private static boolean isNamed(String order) {
        if (!order.equals("header") && !order.equals("description")) {
            throw new UsageException("columnOrder is header or description, not '" + order + "'");
        }
        return order.equals("header");
    }

    private static LineEnd lineEnd(String text) {
        for (LineEnd end : LineEnd.values()) {
            if (end.text().equals(text) || end.name().equals(text)) {
                return end;
            }
        }
        throw new UsageException("a line ends with CRLF, LF or CR, not with '" + text + "'");
    }

    private static List<Integer> widths(FileSettings settings) {
        List<Integer> widths = new ArrayList<>();
        Optional<String> text = settings.text("widths");
        if (text.isPresent()) {
            for (String width : text.get().split(",")) {
                try {
                    widths.add(Integer.parseInt(width.strip()));
                } catch (NumberFormatException e) {
                    throw new UsageException("widths are numbers with commas between them, not '" + text.get() + "'");
                }
            }
        }
        return widths;
    }

    private static char one(String what, String text) {
        if (text.length() != 1) {
            throw new UsageException(what + " is one character, not '" + text + "'");
        }
        return text.charAt(0);
    }

    /** How values of all columns are written. */
    static List<ValueStyle> styles(FileSettings settings) {
        ValueStyle base = ValueStyle.PLAIN
                .withDecimalChar(one("decimalChar", settings.text("decimalChar", ".")))
                .withGroupChar(settings.text("groupChar", ""));
        if (settings.text("boolean").isPresent()) {
            base = base.withTruth(settings.text("boolean").get());
        }
        List<ValueStyle> styles = new ArrayList<>(List.of(base));
        for (String name : List.of("dateFormat", "timeFormat", "timestampFormat")) {
            settings.text(name).ifPresent(p -> styles.add(ValueStyle.PLAIN.withPattern(p)));
        }
        return styles;
    }

    /** The same as a dialect that is read by bytes, if it can be said so. */
    Optional<CsvDialect> plain() {
        boolean simple = widths.isEmpty()
                && delimiter.length() == 1
                && isPlain(delimiter.charAt(0))
                && quote != 0
                && isPlain(quote)
                && escape == 0
                && headerRows <= 1
                && (named || headerRows == 0)
                && skipRows == 0
                && skipColumns == 0
                && skipLastRows == 0
                && comment.isEmpty()
                && trim == Trim.FALSE
                && nulls.size() == 1
                && nulls.get(0)
                        .chars()
                        .noneMatch(c -> c == delimiter.charAt(0) || c == quote || c == '\n' || c == '\r');
        return simple
                ? Optional.of(
                        new CsvDialect(delimiter.charAt(0), quote, lineEnd, encoding, headerRows > 0, nulls.get(0)))
                : Optional.empty();
    }

    private static boolean isPlain(char c) {
        return c > 0 && c < 0x7F;
    }
}
