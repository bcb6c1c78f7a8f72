package org.orderlyferry.testkit.generated;

import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.Base64;
import java.util.List;
import java.util.Random;
import java.util.Set;
import java.util.UUID;
import java.util.stream.Collectors;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.testkit.doubles.ListedPlace;
import org.orderlyferry.testkit.herbarium.HostileTexts;

/**
 * Records for tables that {@link GeneratedTables} has made, which hold all of their keys, references and checks. The same
 * seed gives the same records. Not safe for use by several threads.
 */
public final class GeneratedRows {

    private final Random random;

    public GeneratedRows(long seed) {
        this.random = new Random(seed);
    }

    /** A place that holds these tables, each with so many records, or fewer where its key has no room for more. */
    public ListedPlace fill(List<TableDefinition> tables, int count) {
        ListedPlace place = new ListedPlace();
        for (TableDefinition table : tables) {
            Set<String> referring = table.foreignKeys().stream()
                    .flatMap(k -> k.columns().stream())
                    .collect(Collectors.toSet());
            Set<String> keys = table.uniqueKeys().stream()
                    .flatMap(k -> k.columns().stream())
                    .collect(Collectors.toSet());
            table.indexes().stream().filter(i -> i.unique()).forEach(i -> keys.addAll(i.columns()));
            table.primaryKey().ifPresent(k -> keys.addAll(k.columns()));
            int rows = table.columns().stream()
                    .filter(c -> keys.contains(c.name()))
                    .mapToInt(GeneratedRows::different)
                    .min()
                    .orElse(count);
            List<List<String>> records = new ArrayList<>();
            for (int i = 0; i < Math.min(count, rows); i++) {
                List<String> record = new ArrayList<>();
                for (ColumnDefinition column : table.columns()) {
                    record.add(
                            referring.contains(column.name()) && column.nullable()
                                    ? null
                                    : value(column, i, keys.contains(column.name())));
                }
                records.add(record);
            }
            place.with(table, records);
        }
        return place;
    }

    /** How many records can differ in a column. */
    private static int different(ColumnDefinition column) {
        if (column.enumeration().isPresent()) {
            return column.enumeration().get().values().size();
        }
        LogicalType type = column.type();
        return switch (type.name()) {
            case BOOLEAN -> 2;
            case DECIMAL -> type.size() - type.scale() > 3 ? Integer.MAX_VALUE : 0;
            case VARCHAR -> type.size() >= 4 ? Integer.MAX_VALUE : type.size() * 9;
            default -> column.generation().isPresent() ? 1 : Integer.MAX_VALUE;
        };
    }

    private String value(ColumnDefinition column, int number, boolean key) {
        if (column.generation().isPresent()) {
            return "3";
        }
        if (!key && column.nullable() && random.nextInt(5) == 0) {
            return null;
        }
        if (column.enumeration().isPresent()) {
            List<String> values = column.enumeration().get().values();
            return values.get(number % values.size());
        }
        LogicalType type = column.type();
        return switch (type.name()) {
            case BOOLEAN -> String.valueOf(number % 2 == 0);
            // above whatever a check asks for, where there is room
            case SMALLINT, INTEGER, BIGINT -> String.valueOf(100 + number);
            case DECIMAL -> decimal(type, number);
            case REAL, DOUBLE -> String.valueOf(number + 0.5);
            case CHARACTER -> "a".repeat(type.size());
            case VARCHAR -> key ? String.valueOf(type.size() >= 4 ? 1_000 + number : number + 1) : text(type.size());
            case CLOB -> text(400);
            case BINARY -> Base64.getEncoder().encodeToString(new byte[type.size()]);
            case VARBINARY, BLOB ->
                Base64.getEncoder()
                        .encodeToString(text(Math.max(1, type.size() / 4)).getBytes(StandardCharsets.UTF_8));
            case DATE -> java.time.LocalDate.of(2031, 1, 1).plusDays(number).toString();
            case TIME -> "09:30:00";
            case TIMESTAMP -> java.time.LocalDate.of(2031, 1, 1).plusDays(number) + "T09:30:00";
            case TIMESTAMP_WITH_TIME_ZONE -> "2031-01-01T09:30:00Z";
            case INTERVAL -> "P1DT" + (1 + number % 20) + "H";
            case UUID -> new UUID(0x4000L, 0x8000_0000_0000_0000L + number).toString();
            case JSON -> "{\"number\":" + number + "}";
            case XML -> "<leaf number=\"" + number + "\"/>";
            case ARRAY -> "[]";
        };
    }

    private static String decimal(LogicalType type, int number) {
        int digits = type.size() - type.scale();
        String whole = digits > 3 ? String.valueOf(100 + number) : digits > 0 ? "9" : "0";
        return type.scale() == 0 ? whole : whole + ".5" + "0".repeat(type.scale() - 1);
    }

    private String text(int longest) {
        List<String> fitting = HostileTexts.ALL.stream()
                // by the stricter of two ways to count
                .filter(t -> t.length() <= longest)
                .toList();
        return fitting.get(random.nextInt(fitting.size()));
    }
}
