package org.orderlyferry.crossing;

import java.io.IOException;
import java.nio.charset.CharacterCodingException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.OptionalLong;
import java.util.Set;
import org.orderlyferry.io.Compression;
import org.orderlyferry.io.WrittenPath;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.Cut;
import org.orderlyferry.place.LoadMode;
import org.orderlyferry.place.OutOfRange;
import org.orderlyferry.problem.PlaceException;
import org.orderlyferry.problem.UsageException;
import org.orderlyferry.reconcile.ComparisonRule;
import org.orderlyferry.reconcile.Depth;

/** Reads a crossing out of its file. */
final class CrossingReader {

    /** The form that files of today have. */
    static final String FORM = "1";

    private final String file;
    private final Path folder;

    private CrossingReader(Path path) {
        this.file = path.toString();
        this.folder = path.toAbsolutePath().getParent();
    }

    static Crossing read(Path path) {
        return parse(path, text(path));
    }

    /** Reads what a file says, which needn't be there. */
    static Crossing parse(Path path, String text) {
        return new CrossingReader(path).crossing(YamlTree.read(path.toString(), text));
    }

    /** A file's text; it is UTF-8. */
    static String text(Path path) {
        try {
            return Files.readString(path);
        } catch (CharacterCodingException e) {
            throw YamlTree.at(path.toString(), 1, 1, "the file isn't UTF-8");
        } catch (IOException e) {
            throw new PlaceException(
                    path.toString(),
                    Files.exists(path)
                            ? "can't be read: " + e.getMessage()
                            : "there is no such file; ferry draft writes one",
                    e);
        }
    }

    private Crossing crossing(YamlValue.Mapping root) {
        YamlReading read = new YamlReading(file, root, "a crossing");
        String form = read.needed("crossing");
        if (!form.equals(FORM)) {
            throw read.wrong(
                    root.entries().get("crossing").value(),
                    "this is a crossing of the form " + form + "; the form known here is " + FORM);
        }
        List<CrossingTable> tables = tables(read);
        Crossing.Builder crossing = Crossing.between(address(read.needed("from")), address(read.needed("to")))
                .keep(path(read.text("keep").orElse("runs")))
                .onto(onto(read).orElse(LoadMode.CREATE))
                .sourceMoment(read.choice("source-moment", SourceMoment.class, SourceMoment.ONE))
                .lanes((int) Math.min(1000, read.number("lanes", 2, 1)))
                .sliceRows(read.number("slice-rows", Cut.DEFAULT_ROWS, 1))
                .sliceBytes(read.number("slice-bytes", Cut.DEFAULT_BYTES, 1))
                .pace(read.number("rows-per-second", 0, 0), read.number("bytes-per-second", 0, 0))
                .compress(read.choice("compress", Compression.class, Compression.NONE))
                .outOfRange(read.choice("out-of-range", OutOfRange.class, OutOfRange.REFUSE))
                .rejectsAllowed(read.number("rejects-allowed", 0, 0))
                .makeMissing(read.truth("make-missing", false))
                .proof(read.choice("proof", Depth.class, Depth.DIGESTS))
                .rules(rules(read, tables))
                .backup(read.truth("backup", true))
                .keepReplaced(read.truth("keep-replaced", false))
                .followDeletes(read.truth("follow-deletes", false))
                .before(statements(read, "before"))
                .after(statements(read, "after"))
                .tables(tables);
        read.value("arrivals").ifPresent(v -> crossing.arrivals(arrivals(v)));
        read.nothingElse();
        try {
            return crossing.build();
        } catch (UsageException e) {
            throw read.wrong(read.value("keep-replaced").orElse(root), e.getMessage());
        }
    }

    /** Relative paths begin where the file stands, so that a crossing says the same wherever it is run from. */
    private String address(String given) {
        return given.contains(":") && given.indexOf(':') > 1 ? given : WrittenPath.of(path(given));
    }

    private Path path(String given) {
        return WrittenPath.read(folder, given).normalize();
    }

    private static Optional<LoadMode> onto(YamlReading read) {
        return read.word("onto", List.of("refuse", "append", "replace", "merge"))
                .map(w -> w.equals("refuse") ? LoadMode.CREATE : LoadMode.valueOf(w.toUpperCase(Locale.ROOT)));
    }

    private static OwnChoices own(YamlReading table) {
        return new OwnChoices(
                onto(table),
                table.value("proof").map(v -> table.choice("proof", Depth.class, Depth.DIGESTS)),
                table.value("rejects-allowed").isPresent()
                        ? OptionalLong.of(table.number("rejects-allowed", 0, 0))
                        : OptionalLong.empty());
    }

    private List<ComparisonRule> rules(YamlReading read, List<CrossingTable> tables) {
        List<ComparisonRule> rules = new ArrayList<>();
        List<YamlValue> values = read.list("rules");
        List<String> texts = read.texts("rules");
        for (int i = 0; i < texts.size(); i++) {
            try {
                rules.add(ComparisonRule.parse(texts.get(i)));
            } catch (UsageException e) {
                throw read.wrong(values.get(i), e.getMessage());
            }
        }
        Depth depth = read.choice("proof", Depth.class, Depth.DIGESTS);
        if (!rules.isEmpty() && tables.stream().noneMatch(t -> t.own().proof().orElse(depth) == Depth.ROWS)) {
            throw read.wrong(values.get(0), "rules need a proof by rows, where what they make equal is counted");
        }
        return rules;
    }

    private List<TargetStatement> statements(YamlReading read, String key) {
        List<TargetStatement> all = new ArrayList<>();
        for (YamlValue value : read.list(key)) {
            YamlReading one = new YamlReading(file, value, "a statement");
            all.add(new TargetStatement(one.needed("run"), one.text("undo").orElse("")));
            one.nothingElse();
        }
        return all;
    }

    private Arrivals arrivals(YamlValue value) {
        YamlReading read = new YamlReading(file, value, "arrivals");
        Arrivals arrivals = new Arrivals(
                path(read.needed("folder")),
                read.needed("pattern"),
                Duration.ofSeconds(read.number("whole-after", 10, 0)),
                read.text("marker").orElse(""),
                read.number("fewest-rows", 0, 0),
                read.number("most-rows", 0, 0),
                read.text("taken").map(this::path).orElse(null),
                read.text("refused").map(this::path).orElse(null));
        read.nothingElse();
        return arrivals;
    }

    private List<CrossingTable> tables(YamlReading read) {
        YamlValue value = read.value("tables").orElseThrow(() -> read.wrong(read.mapping(), "there are no tables"));
        YamlReading tables = new YamlReading(file, value, "tables");
        List<CrossingTable> all = new ArrayList<>();
        Set<TableName> targets = new HashSet<>();
        for (YamlValue.Entry entry : tables.mapping().entries().values()) {
            YamlReading table = new YamlReading(file, entry.value(), "table " + entry.key());
            TableName name = tableName(entry.key(), entry.line(), entry.column());
            TableName to = table.value("to")
                    .map(v -> tableName(table.text("to").orElseThrow(), v.line(), v.column()))
                    .orElse(name);
            if (!targets.add(to)) {
                throw YamlTree.at(file, entry.line(), entry.column(), "two tables would be called " + to);
            }
            all.add(new CrossingTable(
                    name,
                    to,
                    table.text("where").orElse(""),
                    table.text("cut-by").orElse(""),
                    table.text("grows-by").orElse(""),
                    columns(table),
                    table.texts("skip"),
                    own(table)));
            table.nothingElse();
        }
        return all;
    }

    private TableName tableName(String text, int line, int column) {
        try {
            return TableName.parse(text);
        } catch (IllegalArgumentException e) {
            throw YamlTree.at(
                    file,
                    line,
                    column,
                    e.getMessage() + "; a name with a point or a quote in it stands in double quotes, as in \"a.b\"");
        }
    }

    private String name(YamlValue.Entry entry) {
        if (entry.key().isEmpty()) {
            throw YamlTree.at(file, entry.line(), entry.column(), "a name can't be empty");
        }
        return entry.key();
    }

    private List<CrossingColumn> columns(YamlReading table) {
        YamlValue value =
                table.value("columns").orElseThrow(() -> table.wrong(table.mapping(), "the table has no columns"));
        YamlReading columns = new YamlReading(file, value, "columns");
        List<CrossingColumn> all = new ArrayList<>();
        Set<String> targets = new HashSet<>();
        for (YamlValue.Entry entry : columns.mapping().entries().values()) {
            YamlReading column = new YamlReading(file, entry.value(), "column " + entry.key());
            String to = column.text("to").orElse(name(entry));
            String type = column.needed("type");
            try {
                LogicalType.parse(type);
            } catch (IllegalArgumentException | UsageException e) {
                throw column.wrong(column.value("type").orElseThrow(), e.getMessage());
            }
            if (!targets.add(to)) {
                throw YamlTree.at(file, entry.line(), entry.column(), "two columns would be called " + to);
            }
            all.add(new CrossingColumn(entry.key(), to, type));
            column.nothingElse();
        }
        return all;
    }
}
