package org.orderlyferry.cli;

import java.util.LinkedHashMap;
import java.util.Map;
import java.util.Optional;
import org.orderlyferry.format.FileSettings;
import org.orderlyferry.format.csv.LineEnd;
import org.orderlyferry.problem.UsageException;
import picocli.CommandLine.Option;

/** What is told about a file's form: of delimited text in the words of W3C CSV on the Web. */
final class FileOptions {

    @Option(
            names = "--format",
            paramLabel = "NAME",
            description = "The format of a file, or of a set's files, by its usual ending: csv, json, jsonl …"
                    + " Default: a file's bytes and name tell; a set has csv.")
    private String format;

    @Option(
            names = "--setting",
            paramLabel = "NAME=VALUE",
            description = "Anything else about the form of a file; docs/formats.md has the names. May be given several"
                    + " times.")
    private Map<String, String> more = new LinkedHashMap<>();

    @Option(
            names = "--delimiter",
            paramLabel = "TEXT",
            description = "What stands between values; \\t for a tab. Default: a file tells it, a comma is written.")
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

    Optional<String> format() {
        return Optional.ofNullable(format);
    }

    FileSettings settings() {
        Map<String, String> settings = new LinkedHashMap<>(more);
        put(settings, "delimiter", delimiter);
        put(settings, "quoteChar", quoteChar);
        put(settings, "lineTerminators", lineTerminator == null ? null : lineTerminator.name());
        put(settings, "encoding", encoding);
        put(settings, "header", header == null ? null : header.toString());
        put(settings, "null", nullText);
        FileSettings all = new FileSettings(settings);
        if (quoteChar != null && quoteChar.codePointCount(0, quoteChar.length()) != 1 && !quoteChar.equals("none")) {
            throw new UsageException("--quote-char takes one character, or none, not '" + quoteChar + "'");
        }
        all.encoding("encoding", java.nio.charset.StandardCharsets.UTF_8);
        return all;
    }

    private static void put(Map<String, String> settings, String name, String value) {
        if (value != null) {
            settings.put(name, value);
        }
    }
}
