package org.orderlyferry.crossing;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import org.orderlyferry.io.WrittenPath;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.LoadMode;

/** Writes a crossing's file: every choice, and beside it what speaks for it. */
final class CrossingWriter {

    private static final int REMARK_AT = 44;

    private final Crossing crossing;
    private final Remarks remarks;
    private final StringBuilder out = new StringBuilder();

    /**
     * What is said beside the choices.
     *
     * @param keys by the file's keys
     * @param tables by the tables' names at the source, above each
     * @param columns likewise, and by the columns' names
     * @param end at the file's end, a line each
     */
    record Remarks(
            Map<String, String> keys,
            Map<TableName, List<String>> tables,
            Map<TableName, Map<String, String>> columns,
            List<String> end) {

        static Remarks none() {
            return new Remarks(new LinkedHashMap<>(), new LinkedHashMap<>(), new LinkedHashMap<>(), new ArrayList<>());
        }
    }

    private CrossingWriter(Crossing crossing, Remarks remarks) {
        this.crossing = crossing;
        this.remarks = remarks;
    }

    /** The file's text. */
    static String write(Crossing crossing, Remarks remarks) {
        return new CrossingWriter(crossing, remarks).file();
    }

    private String file() {
        line("# What goes from where to where, and how. ferry check looks at it, ferry run does it.");
        line("");
        key("crossing", CrossingReader.FORM, "the form of this file");
        key("from", Yaml.text(crossing.from()), "");
        key("to", Yaml.text(crossing.to()), "");
        key(
                "keep",
                Yaml.text(WrittenPath.of(crossing.keep())),
                "the folder of its runs, each with its set, backup and ledger");
        line("");
        key(
                "onto",
                onto(crossing.onto()),
                "refuse, append, replace or merge, for tables that are there; one may say otherwise");
        key("backup", crossing.backup(), "whether tables of the target are kept before they change, for ferry undo");
        key(
                "keep-replaced",
                crossing.keepReplaced(),
                "whether PostgreSQL keeps tables that are replaced instead: undone in a moment, with room for both");
        key("make-missing", crossing.makeMissing(), "whether the target's database or schemas are made");
        key(
                "source-moment",
                YamlReading.word(crossing.sourceMoment()),
                "one for all tables, several if a run that goes on may read the rest later, or still: nobody writes");
        key("out-of-range", YamlReading.word(crossing.outOfRange()), "refuse or null, for values no other system has");
        key(
                "rejects-allowed",
                crossing.rejectsAllowed(),
                "how many records of the source may be left out, each kept with its reason");
        key(
                "follow-deletes",
                crossing.followDeletes(),
                "whether a catch-up takes out of the target what is gone at the source");
        key(
                "proof",
                YamlReading.word(crossing.proof()),
                "digests compare every value, counts only how many, rows tell which records differ");
        key(
                "rules",
                "["
                        + String.join(
                                ", ",
                                crossing.rules().stream()
                                        .map(r -> Yaml.text(r.shown()))
                                        .toList()) + "]",
                "for a proof by rows, what doesn't count: without=COLUMN, places=N, time-digits=N, zone=ZONE …");
        line("");
        key("lanes", crossing.lanes(), "how many slices move at once");
        key("slice-rows", crossing.sliceRows(), "about how many records a slice has");
        key("slice-bytes", crossing.sliceBytes(), "or about so many bytes of a table, where that is fewer records");
        key("rows-per-second", crossing.rowsPerSecond(), "0 for as many as go");
        key("bytes-per-second", crossing.bytesPerSecond(), "0 for as many as go");
        key("compress", YamlReading.word(crossing.compress()), "none, gzip or zstd, for the set's files");
        line("");
        statements("before", crossing.before(), "at the target before the load, each once: - { run: …, undo: … }");
        statements("after", crossing.after(), "at the target after the load, likewise");
        crossing.arrivals().ifPresent(this::arrivals);
        line("");
        line("tables:");
        crossing.tables().forEach(this::table);
        if (!remarks.end().isEmpty()) {
            line("");
            remarks.end().forEach(r -> line("# " + Yaml.comment(r)));
        }
        return out.toString();
    }

    private void arrivals(Arrivals arrivals) {
        line("");
        line("arrivals:");
        line("  folder: " + Yaml.text(arrivals.folder().toString()));
        line("  pattern: " + Yaml.text(arrivals.pattern()));
        line("  whole-after: " + arrivals.wholeAfter().toSeconds());
        line("  marker: " + Yaml.text(arrivals.marker()));
        line("  fewest-rows: " + arrivals.fewestRows());
        line("  most-rows: " + arrivals.mostRows());
        line("  taken: "
                + (arrivals.taken() == null
                        ? "\"\""
                        : Yaml.text(arrivals.taken().toString())));
        line("  refused: "
                + (arrivals.refused() == null
                        ? "\"\""
                        : Yaml.text(arrivals.refused().toString())));
    }

    /** What is done with tables that are there, as the file and the commands call it. */
    static String onto(LoadMode mode) {
        return mode == LoadMode.CREATE ? "refuse" : mode.name().toLowerCase(Locale.ROOT);
    }

    private void line(String text) {
        out.append(text).append('\n');
    }

    private void key(String key, Object value, String usual) {
        String remark = remarks.keys().getOrDefault(key, usual);
        line(remarked(key + ": " + value, remark));
    }

    private static String remarked(String text, String remark) {
        if (remark.isEmpty()) {
            return text;
        }
        return text + " ".repeat(Math.max(2, REMARK_AT - text.length())) + "# " + Yaml.comment(remark);
    }

    private void statements(String key, List<TargetStatement> all, String usual) {
        if (all.isEmpty()) {
            key(key, "[]", usual);
            return;
        }
        line(remarked(key + ":", remarks.keys().getOrDefault(key, usual)));
        for (TargetStatement statement : all) {
            line("  - run: " + Yaml.text(statement.sql()));
            line("    undo: " + Yaml.text(statement.undo()));
        }
    }

    private void table(CrossingTable table) {
        line("");
        lines(table, remarks).forEach(this::line);
    }

    /** One table's lines. */
    static List<String> lines(CrossingTable table, Remarks remarks) {
        List<String> lines = new ArrayList<>();
        remarks.tables().getOrDefault(table.name(), List.of()).forEach(r -> lines.add("  # " + Yaml.comment(r)));
        lines.add("  " + Yaml.text(table.name().text()) + ":");
        lines.add("    to: " + Yaml.text(table.to().text()));
        lines.add(remarked("    where: " + Yaml.text(table.where()), "a condition of SQL; all records without one"));
        lines.add(remarked(
                "    cut-by: " + Yaml.text(table.cutBy()), "a column; without one, its primary key or its blocks"));
        lines.add(remarked(
                "    grows-by: " + Yaml.text(table.growsBy()), "a column that grows with every change, for catch-up"));
        lines.add(remarked(
                "    skip: ["
                        + String.join(
                                ", ", table.skip().stream().map(Yaml::text).toList()) + "]",
                "columns that stay behind"));
        OwnChoices own = table.own();
        own.onto()
                .ifPresent(o -> lines.add(remarked("    onto: " + onto(o), "for this table, otherwise than for all")));
        own.proof()
                .ifPresent(p -> lines.add(remarked("    proof: " + YamlReading.word(p), "for this table, likewise")));
        own.rejectsAllowed()
                .ifPresent(r -> lines.add(remarked("    rejects-allowed: " + r, "of this table, beside those of all")));
        lines.add("    columns:");
        Map<String, String> said = remarks.columns().getOrDefault(table.name(), Map.of());
        int widest = table.columns().stream()
                .mapToInt(c -> Yaml.text(c.name()).length())
                .max()
                .orElse(0);
        int widestTo = table.columns().stream()
                .mapToInt(c -> Yaml.text(c.to()).length())
                .max()
                .orElse(0);
        for (CrossingColumn column : table.columns()) {
            lines.add(
                    column(column, Math.min(widest, 40), Math.min(widestTo, 40), said.getOrDefault(column.name(), "")));
        }
        return lines;
    }

    /** One column's line. */
    static String column(CrossingColumn column, int width, int widthTo, String remark) {
        String name = Yaml.text(column.name());
        String to = Yaml.text(column.to());
        String text = "      " + name + ":" + " ".repeat(Math.max(0, width - name.length())) + " { to: " + to + ","
                + " ".repeat(Math.max(0, widthTo - to.length())) + " type: " + Yaml.text(column.type()) + " }";
        return remark.isEmpty()
                ? text
                : text + " ".repeat(Math.max(2, 84 - text.length())) + "# " + Yaml.comment(remark);
    }
}
