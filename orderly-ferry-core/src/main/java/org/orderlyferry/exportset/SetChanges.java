package org.orderlyferry.exportset;

import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Set;
import org.orderlyferry.format.FileSettings;
import org.orderlyferry.format.FileSource;
import org.orderlyferry.format.Outline;
import org.orderlyferry.format.delimited.DelimitedFormat;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.Finding;
import org.orderlyferry.model.FindingCode;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;
import org.orderlyferry.problem.FerryException;
import org.orderlyferry.problem.Listed;
import org.orderlyferry.problem.PlaceException;
import org.orderlyferry.record.RecordBatch;
import org.orderlyferry.record.RecordReader;
import org.orderlyferry.record.text.InvalidValueException;
import org.orderlyferry.record.text.ValueText;
import org.orderlyferry.tally.Tally;
import org.orderlyferry.tally.TallyTaker;

/**
 * What is different about a set's delimited files since the set was made, as far as its tallies and definitions tell: in
 * the words of somebody who opened a file in another program and saved it.
 */
final class SetChanges {

    private static final int HEAD = 1024 * 1024;

    private final Bag bag;
    private final FileSettings made;
    private final DelimitedFormat format = new DelimitedFormat();
    private final List<Finding> findings = new ArrayList<>();

    SetChanges(Bag bag, FileSettings made) {
        this.bag = bag;
        this.made = made;
    }

    List<Finding> findings() {
        return findings;
    }

    /**
     * Looks at a table that has just one file.
     *
     * @param kept what was counted when the set was made
     */
    void look(TableDefinition table, String file, Tally kept) {
        FileSource source = new BagSource(bag, file);
        try {
            FileSettings now = settings(table, source, file);
            List<Outline> outline = format.outline(source, now);
            if (hasColumns(table, outline.get(0).table().columnNames())) {
                values(table, source, now, kept);
            }
        } catch (FerryException e) {
            findings.add(
                    Finding.of(FindingCode.SET_CHANGED, table.name(), "can't be read any more: " + e.getMessage()));
        }
    }

    private void find(TableName table, String column, String text) {
        findings.add(new Finding(FindingCode.SET_CHANGED, table, column, text));
    }

    /** How the file is written now; what of that is new is noted. */
    private FileSettings settings(TableDefinition table, FileSource source, String file) {
        byte[] head;
        try (InputStream in = Files.newInputStream(bag.inside(file))) {
            head = in.readNBytes(HEAD);
        } catch (IOException e) {
            throw new PlaceException(file, "can't be read: " + e.getMessage(), e);
        }
        FileSettings now = FileSettings.NONE
                .with("header", made.text("header", "true"))
                .with("null", made.text("null", ""))
                .with("quoteChar", made.text("quoteChar", "\""));
        boolean utf8 = made.text("encoding", "UTF-8").equals("UTF-8");
        if (utf8 && org.orderlyferry.record.text.Utf8.firstInvalid(head, 0, lastWhole(head)) >= 0) {
            now = now.with("encoding", "windows-1252");
            find(table.name(), "", "its file isn't in UTF-8 any more, but perhaps in windows-1252");
        } else if (!utf8) {
            now = now.with("encoding", made.text("encoding", "UTF-8"));
        }
        now = format.complete(source, now);
        String delimiter = made.text("delimiter", ",");
        if (!now.text("delimiter", ",").equals(delimiter)) {
            find(
                    table.name(),
                    "",
                    "values are separated by '" + now.text("delimiter", ",").replace("\t", "\\t") + "' instead of '"
                            + delimiter.replace("\t", "\\t") + "'");
        }
        lineEnds(table.name(), head);
        return now;
    }

    private static int lastWhole(byte[] head) {
        return head.length == HEAD ? org.orderlyferry.record.text.Utf8.lastWhole(head, 0, head.length) : head.length;
    }

    private void lineEnds(TableName table, byte[] head) {
        int end = 0;
        while (end < head.length && head[end] != '\n' && head[end] != '\r') {
            end++;
        }
        String found = end == head.length
                ? ""
                : head[end] == '\n' ? "LF" : end + 1 < head.length && head[end + 1] == '\n' ? "CRLF" : "CR";
        String was = made.text("lineTerminators", "CRLF");
        if (!found.isEmpty() && !found.equals(was)) {
            find(table, "", "lines end with " + found + " instead of " + was);
        }
    }

    private boolean hasColumns(TableDefinition table, List<String> names) {
        Set<String> missing = new LinkedHashSet<>(table.columnNames());
        missing.removeAll(names);
        Set<String> extra = new LinkedHashSet<>(names);
        extra.removeAll(table.columnNames());
        if (!missing.isEmpty()) {
            find(table.name(), "", "these columns are gone: " + Listed.of(missing));
        }
        if (!extra.isEmpty()) {
            find(table.name(), "", "these columns are new: " + Listed.of(extra));
        }
        return missing.isEmpty() && extra.isEmpty();
    }

    /** What was seen of one column. */
    private static final class Seen {
        private long invalid;
        private String firstInvalid = "";
        private String exponent = "";
        private String shortDigits = "";
        private boolean padded;
        private int shortestDigits = Integer.MAX_VALUE;
        private int longestDigits;
    }

    private void values(TableDefinition table, FileSource source, FileSettings now, Tally kept) {
        List<ColumnDefinition> columns = table.columns();
        TableDefinition texts = table.toBuilder()
                .columns(columns.stream().map(c -> c.withType(raw(c.type()))).toList())
                .build();
        Seen[] seen = columns.stream().map(c -> new Seen()).toArray(Seen[]::new);
        ValueText[] types = columns.stream().map(c -> ValueText.of(c.type())).toArray(ValueText[]::new);
        TallyTaker taker = TallyTaker.of(columns);
        List<String> broken = new ArrayList<>();
        RecordBatch batch = new RecordBatch();
        try (RecordReader reader =
                format.read(source, texts, texts.columnNames(), now, why -> broken.add(why.getMessage()))) {
            while (reader.read(batch)) {
                for (int row = 0; row < batch.rows(); row++) {
                    for (int column = 0; column < seen.length; column++) {
                        if (!batch.isNull(row, column)) {
                            see(batch, row, column, types[column], seen[column]);
                        }
                    }
                }
                taker.add(batch);
            }
        }
        if (!broken.isEmpty()) {
            find(
                    table.name(),
                    "",
                    (broken.size() == 1 ? "1 record isn't" : broken.size() + " records aren't")
                            + " whole any more; the first: " + broken.get(0));
        }
        tell(table, kept, taker.tally(), seen);
    }

    private static LogicalType raw(LogicalType type) {
        return type.name().isBinary() ? type : LogicalType.CLOB;
    }

    private static void see(RecordBatch batch, int row, int column, ValueText type, Seen seen) {
        if (type.type().name().isBinary()) {
            return;
        }
        String line = " in line " + batch.origin(row).line();
        if (type.type().name().isText()) {
            digits(batch.text(row, column), line, seen);
        }
        if (type.isProper(batch.bytes(), batch.start(row, column), batch.end(row, column))) {
            return;
        }
        String text = batch.text(row, column);
        try {
            batch.replace(row, column, type.toProper(text).getBytes(StandardCharsets.UTF_8));
        } catch (InvalidValueException e) {
            if (seen.invalid++ == 0) {
                seen.firstInvalid = "'" + text + "'" + line;
            }
            batch.replaceByNull(row, column);
        }
    }

    /** What a spreadsheet does to codes: it takes them for numbers. */
    private static void digits(String text, String line, Seen seen) {
        if (seen.exponent.isEmpty() && text.matches("\\d([.,]\\d+)?E\\+\\d+")) {
            seen.exponent = "'" + text + "'" + line;
        }
        if (!text.isEmpty() && text.chars().allMatch(c -> c >= '0' && c <= '9')) {
            seen.padded |= text.length() > 1 && text.charAt(0) == '0';
            if (text.length() < seen.shortestDigits) {
                seen.shortestDigits = text.length();
                seen.shortDigits = "'" + text + "'" + line;
            }
            seen.longestDigits = Math.max(seen.longestDigits, text.length());
        }
    }

    private void tell(TableDefinition table, Tally kept, Tally now, Seen[] seen) {
        if (kept.rows() != now.rows()) {
            find(table.name(), "", "has " + now.rows() + " records, and had " + kept.rows());
        }
        for (int i = 0; i < seen.length; i++) {
            String column = table.columns().get(i).name();
            LogicalType type = table.columns().get(i).type();
            boolean differs =
                    !kept.columns().get(i).digest().equals(now.columns().get(i).digest());
            if (!differs) {
                continue;
            }
            Seen its = seen[i];
            if (its.invalid > 0) {
                boolean dated = type.name().isTimed() || type.name() == org.orderlyferry.model.TypeName.DATE;
                find(
                        table.name(),
                        column,
                        its.invalid + " values are no " + type + " any more, the first " + its.firstInvalid
                                + (dated ? "; dates were written in another way" : ""));
            } else if (!its.exponent.isEmpty()) {
                find(table.name(), column, "lost digits: " + its.exponent);
            } else if (type.name().isText() && !its.padded && its.shortestDigits < its.longestDigits) {
                find(
                        table.name(),
                        column,
                        "differs, and seems to have lost zeros in front: no value has any, and some are shorter, such as "
                                + its.shortDigits);
            } else if (kept.rows() == now.rows()) {
                long nulls =
                        now.columns().get(i).nulls() - kept.columns().get(i).nulls();
                find(
                        table.name(),
                        column,
                        "has other values than before"
                                + (nulls == 0
                                        ? ""
                                        : ", and " + Math.abs(nulls) + (nulls > 0 ? " more" : " fewer") + " nulls"));
            }
        }
    }
}
