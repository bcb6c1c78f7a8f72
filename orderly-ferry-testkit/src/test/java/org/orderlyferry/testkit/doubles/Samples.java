package org.orderlyferry.testkit.doubles;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.ForeignKey;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.ReferentialAction;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;
import org.orderlyferry.model.TypeName;
import org.orderlyferry.testkit.herbarium.HostileTexts;

/** Small tables of the herbarium's that contracts move about. */
public final class Samples {

    /** One column of each common type, and a key. */
    public static final TableDefinition LABEL = TableDefinition.named("label")
            .column(ColumnDefinition.named("id", LogicalType.INTEGER)
                    .nullable(false)
                    .build())
            .column("note", LogicalType.varchar(400))
            .column("size", LogicalType.decimal(12, 3))
            .column("many", LogicalType.BIGINT)
            .column("ratio", LogicalType.DOUBLE)
            .column("day", LogicalType.DATE)
            .column("at", LogicalType.of(TypeName.TIMESTAMP, 3))
            .column("dry", LogicalType.BOOLEAN)
            .column("scan", LogicalType.BLOB)
            .primaryKey("id")
            .build();

    /** Refers to labels. */
    public static final TableDefinition VISIT = TableDefinition.named("visit")
            .column(ColumnDefinition.named("no", LogicalType.BIGINT)
                    .nullable(false)
                    .build())
            .column("label", LogicalType.INTEGER)
            .column("who", LogicalType.varchar(40))
            .primaryKey("no")
            .foreignKey(new ForeignKey(
                    "visit_of_label",
                    List.of("label"),
                    LABEL.name(),
                    List.of("id"),
                    ReferentialAction.NO_ACTION,
                    ReferentialAction.NO_ACTION))
            .build();

    private static final List<List<String>> LABELS = List.of(
            Arrays.asList(
                    "1",
                    "moss, \"green\"",
                    "1.5",
                    "9223372036854775807",
                    "0.1",
                    "2031-04-09",
                    "2031-04-09T11:30:00.125",
                    "true",
                    "AAH/"),
            Arrays.asList("2", null, null, null, null, null, null, null, null),
            Arrays.asList(
                    "3",
                    "Über die Weiße Heide",
                    "-999999999.999",
                    "-9223372036854775808",
                    "1.0E100",
                    "1753-01-01",
                    "1999-12-31T23:59:59",
                    "false",
                    "ZmVybg=="),
            Arrays.asList(
                    "-4", "line\nfeed, it's", "0", "0", "-2.5", "2000-02-29", "2000-02-29T00:00:00.5", "true", "JyI7"),
            Arrays.asList(
                    "2147483647",
                    "  blanks  ",
                    "0.001",
                    "7",
                    "3.0",
                    "1970-01-01",
                    "1970-01-01T00:00:00.001",
                    "false",
                    "IA=="));

    private Samples() {}

    /** Five labels of no special hostility, and seven visits to three of them. */
    public static ListedPlace garden() {
        List<List<String>> visits = new ArrayList<>();
        for (int i = 1; i <= 7; i++) {
            visits.add(Arrays.asList(
                    Integer.toString(i * 10),
                    i == 4 ? null : List.of("1", "2", "3").get(i % 3),
                    "visitor " + i));
        }
        return new ListedPlace().with(LABEL, LABELS).with(VISIT, visits);
    }

    /** The labels alone. */
    public static ListedPlace labels() {
        return new ListedPlace().with(LABEL, LABELS);
    }

    /** Labels with more of the same in them, whose numbers count up. */
    public static ListedPlace labels(int count) {
        List<List<String>> rows = new ArrayList<>();
        for (int i = 1; i <= count; i++) {
            List<String> row = new ArrayList<>(LABELS.get(i % LABELS.size()));
            row.set(0, Integer.toString(i));
            rows.add(row);
        }
        return new ListedPlace().with(LABEL, rows);
    }

    /** A label for each hostile text. */
    public static List<List<String>> hostileLabels() {
        List<List<String>> rows = new ArrayList<>();
        for (String text : HostileTexts.ALL) {
            rows.add(Arrays.asList(Integer.toString(rows.size() + 1), text, null, null, null, null, null, null, null));
        }
        return rows;
    }

    /** A table of the same table's name with other records. */
    public static ListedPlace labels(List<List<String>> rows) {
        return new ListedPlace().with(LABEL, rows);
    }

    /** The name of the labels' table. */
    public static TableName label() {
        return LABEL.name();
    }
}
