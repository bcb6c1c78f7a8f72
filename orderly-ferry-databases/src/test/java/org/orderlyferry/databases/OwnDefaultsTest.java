package org.orderlyferry.databases;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.function.Function;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;
import org.orderlyferry.model.ColumnDefault;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.Places;
import org.orderlyferry.place.TableChoice;
import org.orderlyferry.place.TargetPlace;
import org.orderlyferry.testkit.servers.Databases;
import org.orderlyferry.testkit.servers.TestSystem;
import org.orderlyferry.work.Load;

/** Defaults that are expressions come as they are to another database of the same system. */
class OwnDefaultsTest {

    @TempDir
    Path folder;

    private record Defaults(String system, List<String> types, List<String> expressions) {
        static Defaults of(String system, String... typesAndExpressions) {
            List<String> types = new ArrayList<>();
            List<String> expressions = new ArrayList<>();
            for (int i = 0; i < typesAndExpressions.length; i += 2) {
                types.add(typesAndExpressions[i]);
                expressions.add(typesAndExpressions[i + 1]);
            }
            return new Defaults(system, types, expressions);
        }
    }

    static Stream<Defaults> defaults() {
        return Stream.of(
                Defaults.of(
                        "PostgreSQL",
                        "boolean",
                        "(NOT true)",
                        "boolean",
                        "(1 > 0 AND 'a' LIKE 'b%')",
                        "boolean",
                        "(NULL::text IS NULL)",
                        "boolean",
                        "(3 IN (1, 2, 3))",
                        "boolean",
                        "(2 BETWEEN 1 AND 3)",
                        "integer",
                        "nullif(3, 4)",
                        "integer",
                        "(1 << 4)",
                        "text",
                        "lpad('7', 3, '0')",
                        "text",
                        "CASE WHEN 1 > 0 THEN 'y' ELSE 'n' END",
                        "double precision",
                        "random()",
                        "date",
                        "(current_date + 30)",
                        "timestamp",
                        "(now() AT TIME ZONE 'utc')",
                        "timestamp",
                        "timezone('utc', now())",
                        "timestamptz",
                        "(('2031-04-09 07:30'::timestamp + interval '1 day') AT TIME ZONE 'Asia/Kathmandu')",
                        "uuid",
                        "gen_random_uuid()"),
                Defaults.of(
                        "H2",
                        "BOOLEAN",
                        "(NOT (1 > 0 AND CHAR_LENGTH('a') > 3))",
                        "INTEGER",
                        "(CHAR_LENGTH('moss') * 2)",
                        "UUID",
                        "RANDOM_UUID()"),
                Defaults.of(
                        "MariaDB",
                        "INT",
                        "(NOT (1 > 0 AND length('a') > 3))",
                        "INT",
                        "(nullif(3, 4))",
                        "VARCHAR(9)",
                        "(lpad('7', 3, '0'))",
                        "VARCHAR(40)",
                        "(uuid())"),
                Defaults.of(
                        "SQLite",
                        "INTEGER",
                        "(NOT ((1 > 0) AND (LENGTH('a') > 3)))",
                        "INTEGER",
                        "(NULLIF(3, 4))",
                        "TEXT",
                        "(UPPER('a') || 'b')"));
    }

    private static Map<String, ColumnDefault> read(Place place, String table) {
        return place.define(TableChoice.one(place, table)).columns().stream()
                .filter(c -> c.defaultValue().isPresent())
                .collect(Collectors.toMap(
                        ColumnDefinition::name, c -> c.defaultValue().orElseThrow()));
    }

    @ParameterizedTest
    @MethodSource("defaults")
    void comeAsTheyAre(Defaults defaults) throws Exception {
        Function<Integer, String> column = i -> "c" + i + " " + defaults.types().get(i) + " DEFAULT "
                + defaults.expressions().get(i);
        List<String> columns = new ArrayList<>(List.of("id INTEGER PRIMARY KEY"));
        for (int i = 0; i < defaults.types().size(); i++) {
            columns.add(column.apply(i));
        }
        String from = TestSystem.of(defaults.system()).fresh(folder);
        String to = TestSystem.of(defaults.system()).fresh(folder);
        Databases.run(from, "CREATE TABLE bed (" + String.join(", ", columns) + ")", "INSERT INTO bed (id) VALUES (1)");
        try (Place source = Places.open(from);
                TargetPlace target = Places.openTarget(to)) {
            assertThat(Load.from(source).into(target).rows()).isEqualTo(1);
            Map<String, ColumnDefault> all = read(source, "bed");
            assertThat(all).hasSize(defaults.types().size());
            assertThat(read(target, "bed")).isEqualTo(all);
        }
        Databases.run(to, "INSERT INTO bed (id) VALUES (2)");
    }

    /** Nothing is no default, whatever type stands behind it. */
    @ParameterizedTest
    @MethodSource("org.orderlyferry.testkit.servers.TestSystem#serverNames")
    void nothingIsNone(String system) throws Exception {
        String from = TestSystem.of(system).fresh(folder);
        String type = system.equals("PostgreSQL") ? "NULL::varchar(9)" : "NULL";
        Databases.run(from, "CREATE TABLE bed (id INTEGER PRIMARY KEY, a VARCHAR(9) DEFAULT " + type + ")");
        try (Place source = Places.open(from)) {
            assertThat(read(source, "bed")).isEmpty();
        }
    }
}
