package org.orderlyferry.office.sheet;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Collectors;
import org.orderlyferry.model.ColumnDefault;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.ForeignKey;
import org.orderlyferry.model.Key;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;

/**
 * The sheet that says what the others hold: a line for each field, for people and to be read back.
 *
 * @param sheet its name; empty for none
 * @param tables those that it describes, each with its sheets
 */
record DefinitionsSheet(String sheet, Map<TableDefinition, List<String>> tables) {

    /** Where there is no such sheet. */
    static final DefinitionsSheet NONE = new DefinitionsSheet("", Map.of());

    static final String NAME = "Definitions";
    private static final List<String> HEADINGS = List.of(
            "sheet", "table", "field", "type", "may be empty", "primary key", "refers to", "default", "comment");
    private static final List<Integer> WIDTHS = List.of(22, 22, 24, 30, 12, 11, 34, 24, 40);

    static void write(SheetSink sink, Map<TableDefinition, List<String>> sheets) {
        for (Map.Entry<TableDefinition, List<String>> entry : sheets.entrySet()) {
            TableDefinition table = entry.getKey();
            for (ColumnDefinition column : table.columns()) {
                List<String> cells = cells(table, column, entry.getValue());
                for (int i = 0; i < cells.size(); i++) {
                    if (!cells.get(i).isEmpty()) {
                        sink.text(i, cells.get(i));
                    }
                }
                sink.endRow();
            }
        }
    }

    static List<String> headings() {
        return HEADINGS;
    }

    static List<Integer> widths() {
        return WIDTHS;
    }

    /** Whether it is that sheet, or one that it describes. */
    boolean isAbout(String other) {
        return other.equals(sheet) || tables.values().stream().anyMatch(s -> s.contains(other));
    }

    /** The one of a file. */
    static DefinitionsSheet of(SheetInput input) {
        for (String name : input.sheetNames()) {
            if (name.startsWith(NAME)) {
                try (SheetRows rows = input.rows(name)) {
                    Optional<Map<TableDefinition, List<String>>> read = read(rows, input.sheetNames());
                    if (read.isPresent()) {
                        return new DefinitionsSheet(name, read.get());
                    }
                } catch (IllegalArgumentException e) {
                    throw input.failed(e);
                }
            }
        }
        return NONE;
    }

    /** What is said of a column. */
    static List<String> cells(TableDefinition table, ColumnDefinition column, List<String> sheets) {
        int place = table.primaryKey()
                .map(k -> k.columns().indexOf(column.name()) + 1)
                .orElse(0);
        return List.of(
                String.join(", ", sheets),
                table.name().toString(),
                column.name(),
                column.type().toString(),
                column.nullable() ? "yes" : "no",
                place == 0 ? "" : Integer.toString(place),
                table.foreignKeys().stream()
                        .filter(k -> k.columns().contains(column.name()))
                        .map(k -> target(k, column.name()))
                        .collect(Collectors.joining(", ")),
                column.defaultValue()
                        .map(d -> d instanceof ColumnDefault.Literal literal
                                ? literal.text()
                                : ((ColumnDefault.Expression) d).text().sql())
                        .orElse(""),
                column.comment());
    }

    private static String target(ForeignKey key, String column) {
        return key.target() + "." + key.targetColumns().get(key.columns().indexOf(column));
    }

    /** What a line says. */
    private record Line(List<String> sheets, String table, ColumnDefinition column, int keyPlace) {}

    /** Reads the sheet; empty if it is another one. */
    private static Optional<Map<TableDefinition, List<String>>> read(SheetRows rows, List<String> names) {
        if (!rows.hasNext() || !HEADINGS.equals(texts(rows.next()))) {
            return Optional.empty();
        }
        Map<String, List<Line>> byTable = new LinkedHashMap<>();
        while (rows.hasNext()) {
            List<String> cells = texts(rows.next());
            if (!cells.get(1).isEmpty()) {
                Line line = line(cells, names);
                byTable.computeIfAbsent(line.table(), t -> new ArrayList<>()).add(line);
            }
        }
        Map<TableDefinition, List<String>> tables = new LinkedHashMap<>();
        byTable.forEach((name, lines) -> {
            TableDefinition.Builder table = TableDefinition.named(TableName.of(name))
                    .columns(lines.stream().map(Line::column).toList());
            List<String> key = lines.stream()
                    .filter(l -> l.keyPlace() > 0)
                    .sorted(java.util.Comparator.comparingInt(Line::keyPlace))
                    .map(l -> l.column().name())
                    .toList();
            if (!key.isEmpty()) {
                table.primaryKey(new Key("", key));
            }
            tables.put(table.build(), lines.get(0).sheets());
        });
        return Optional.of(tables);
    }

    private static Line line(List<String> cells, List<String> names) {
        ColumnDefinition column = ColumnDefinition.named(cells.get(2), LogicalType.parse(cells.get(3)))
                .nullable(!cells.get(4).equals("no"))
                .comment(cells.get(8))
                .build();
        return new Line(
                sheets(cells.get(0), names),
                cells.get(1),
                column,
                cells.get(5).isEmpty() ? 0 : Integer.parseInt(cells.get(5)));
    }

    /** The sheets that a cell tells of: a name may have the comma between two of them in it. */
    private static List<String> sheets(String told, List<String> names) {
        List<String> sheets = new ArrayList<>();
        String name = "";
        for (String part : told.split(", ", -1)) {
            name = name.isEmpty() ? part : name + ", " + part;
            if (names.contains(name)) {
                sheets.add(name);
                name = "";
            }
        }
        if (!name.isEmpty()) {
            sheets.add(name);
        }
        return sheets;
    }

    private static List<String> texts(SheetRow row) {
        List<String> texts = new ArrayList<>();
        for (int i = 0; i < HEADINGS.size(); i++) {
            CellKind kind = i < row.width() ? row.kind(i) : CellKind.NOTHING;
            texts.add(
                    switch (kind) {
                        case NOTHING -> "";
                        case ERROR -> row.raw(i);
                        default -> row.text(i, LogicalType.CLOB);
                    });
        }
        return texts;
    }
}
