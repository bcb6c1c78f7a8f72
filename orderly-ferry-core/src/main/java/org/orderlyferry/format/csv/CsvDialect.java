package org.orderlyferry.format.csv;

import java.nio.charset.Charset;
import java.nio.charset.StandardCharsets;
import org.jspecify.annotations.NullMarked;
import org.orderlyferry.format.FileSettings;
import org.orderlyferry.format.delimited.DelimitedFormat;
import org.orderlyferry.problem.UsageException;

/**
 * How a delimited file is written. {@link #RFC_4180} is what RFC 4180 says, in UTF-8.
 *
 * <p>A null is written as {@code nullText} without quotes; a text that happens to be the same is quoted. So null and
 * empty text stay apart: with the default, null is nothing at all and empty text is {@code ""}.
 *
 * @param delimiter what stands between values; one ASCII character
 * @param quote what stands around values that need it; one ASCII character
 * @param lineEnd what ends a record; reading takes any
 * @param encoding the file's character encoding
 * @param header whether the first record names the columns
 * @param nullText what stands for null
 */
@NullMarked
public record CsvDialect(
        char delimiter, char quote, LineEnd lineEnd, Charset encoding, boolean header, String nullText) {

    public static final CsvDialect RFC_4180 = new CsvDialect(',', '"', LineEnd.CRLF, StandardCharsets.UTF_8, true, "");

    public CsvDialect {
        oneAscii("delimiter", delimiter);
        oneAscii("quote", quote);
        if (delimiter == quote) {
            throw new UsageException("the delimiter and the quote can't both be " + delimiter);
        }
        if (!encoding.canEncode()) {
            throw new UsageException("nothing can be written in the encoding " + encoding);
        }
        for (int i = 0; i < nullText.length(); i++) {
            char c = nullText.charAt(i);
            if (c == delimiter || c == quote || c == '\r' || c == '\n') {
                throw new UsageException("the text for null can't hold the delimiter, the quote or a line end");
            }
        }
    }

    private static void oneAscii(String what, char c) {
        if (c >= 0x7F || c == '\r' || c == '\n' || c == 0) {
            throw new UsageException("the " + what + " is one ASCII character, and no line end");
        }
    }

    /** The same as settings of {@link DelimitedFormat}. */
    public FileSettings settings() {
        return FileSettings.NONE
                .with("delimiter", String.valueOf(delimiter))
                .with("quoteChar", String.valueOf(quote))
                .with("lineTerminators", lineEnd.name())
                .with("encoding", encoding.name())
                .with("header", String.valueOf(header))
                .with("null", nullText);
    }

    /** The same with another character between values. */
    public CsvDialect withDelimiter(char other) {
        return new CsvDialect(other, quote, lineEnd, encoding, header, nullText);
    }

    /** The same with another character around values. */
    public CsvDialect withQuote(char other) {
        return new CsvDialect(delimiter, other, lineEnd, encoding, header, nullText);
    }

    /** The same with another end of records, when written. */
    public CsvDialect withLineEnd(LineEnd other) {
        return new CsvDialect(delimiter, quote, other, encoding, header, nullText);
    }

    /** The same in another encoding. */
    public CsvDialect withEncoding(Charset other) {
        return new CsvDialect(delimiter, quote, lineEnd, other, header, nullText);
    }

    /** The same with a header record, or without one. */
    public CsvDialect withHeader(boolean other) {
        return new CsvDialect(delimiter, quote, lineEnd, encoding, other, nullText);
    }

    /** The same with another text for null. */
    public CsvDialect withNullText(String other) {
        return new CsvDialect(delimiter, quote, lineEnd, encoding, header, other);
    }
}
