package org.orderlyferry.cli;

import java.nio.charset.Charset;
import java.nio.charset.IllegalCharsetNameException;
import java.nio.charset.UnsupportedCharsetException;
import org.orderlyferry.format.csv.CsvDialect;
import org.orderlyferry.format.csv.LineEnd;
import org.orderlyferry.problem.UsageException;
import picocli.CommandLine.Option;

/** How a delimited file is written, in the words of W3C CSV on the Web. */
final class FileOptions {

    @Option(
            names = "--delimiter",
            paramLabel = "CHAR",
            description = "What stands between values; \\t for a tab. Default: a comma.")
    private String delimiter;

    @Option(names = "--quote-char", paramLabel = "CHAR", description = "What stands around values. Default: \".")
    private String quoteChar;

    @Option(
            names = "--line-terminator",
            paramLabel = "CRLF|LF|CR",
            description = "What ends a record when written; reading takes any. Default: CRLF.")
    private LineEnd lineTerminator;

    @Option(names = "--encoding", paramLabel = "NAME", description = "Default: UTF-8.")
    private String encoding;

    @Option(
            names = "--header",
            arity = "1",
            paramLabel = "true|false",
            description = "Whether the first record names the columns. Default: true.")
    private Boolean header;

    @Option(
            names = "--null",
            paramLabel = "TEXT",
            description = "What stands for null; a text that is the same is quoted. Default: nothing at all.")
    private String nullText;

    CsvDialect dialect() {
        CsvDialect dialect = CsvDialect.RFC_4180;
        if (quoteChar != null) {
            dialect = dialect.withQuote(one("--quote-char", quoteChar));
        }
        if (delimiter != null) {
            dialect = dialect.withDelimiter(one("--delimiter", delimiter));
        }
        if (lineTerminator != null) {
            dialect = dialect.withLineEnd(lineTerminator);
        }
        if (encoding != null) {
            dialect = dialect.withEncoding(charset());
        }
        if (header != null) {
            dialect = dialect.withHeader(header);
        }
        return nullText == null ? dialect : dialect.withNullText(nullText);
    }

    private Charset charset() {
        try {
            return Charset.forName(encoding);
        } catch (IllegalCharsetNameException | UnsupportedCharsetException e) {
            throw new UsageException(
                    "there is no encoding " + encoding + "; UTF-8, UTF-16 and windows-1252 are some", e);
        }
    }

    private static char one(String option, String text) {
        String meant = text.equals("\\t") ? "\t" : text;
        if (meant.length() != 1) {
            throw new UsageException(option + " takes one character, not '" + text + "'");
        }
        return meant.charAt(0);
    }
}
