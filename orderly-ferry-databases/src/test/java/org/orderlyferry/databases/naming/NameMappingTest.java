package org.orderlyferry.databases.naming;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.ServiceLoader;
import java.util.Set;
import java.util.stream.Stream;
import net.jqwik.api.Arbitraries;
import net.jqwik.api.Arbitrary;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.Provide;
import org.junit.jupiter.api.Tag;
import org.junit.jupiter.api.Test;
import org.orderlyferry.databases.dialect.Dialect;
import org.orderlyferry.databases.dialect.NamingRules;
import org.orderlyferry.databases.dialect.SystemSql;
import org.orderlyferry.model.ForeignKey;
import org.orderlyferry.model.IndexDefinition;
import org.orderlyferry.model.Key;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.ReferentialAction;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;

/** Names of one system among those of another. */
@Tag("everywhere")
class NameMappingTest {

    private static Stream<SystemSql> dialects() {
        return Stream.concat(
                ServiceLoader.load(Dialect.class).stream().map(ServiceLoader.Provider::get),
                ServiceLoader.load(SystemSql.class).stream().map(ServiceLoader.Provider::get));
    }

    @Provide
    Arbitrary<List<String>> names() {
        return Arbitraries.oneOf(
                        Arbitraries.strings()
                                .withChars("aAbB \u00fc\u5c71\t\"'`.\u0130\u0131")
                                .ofMinLength(1)
                                .ofMaxLength(8),
                        Arbitraries.of("label", "LABEL", "Label", "label_2", "label ", "\uD83C\uDF3F", "x".repeat(200)),
                        Arbitraries.strings().ofMinLength(1).ofMaxLength(80).filter(t -> t.indexOf('\0') < 0))
                .list()
                .uniqueElements()
                .ofMinSize(1)
                .ofMaxSize(8);
    }

    private static void mustBeAllowed(NamingRules rules, String name) {
        assertThat(name.codePoints().allMatch(rules.allowed())).as(name).isTrue();
        if (rules.longest() > 0) {
            int length = rules.unit() == NamingRules.Unit.BYTES
                    ? name.getBytes(StandardCharsets.UTF_8).length
                    : name.codePointCount(0, name.length());
            assertThat(length).as(name).isLessThanOrEqualTo(rules.longest());
        }
    }

    private static String compared(NamingRules rules, String name) {
        return rules.caseMatters() ? name : name.toLowerCase(Locale.ROOT);
    }

    @Property(tries = 300, seed = "417")
    void whateverTablesAreCalledEachGetsANameOfItsOwnThatTheSystemTakes(@ForAll("names") List<String> names) {
        dialects().forEach(dialect -> {
            NamingRules rules = dialect.naming();
            List<TableDefinition> tables = names.stream()
                    .map(n -> TableDefinition.named(new TableName("", n))
                            .column("id", LogicalType.INTEGER)
                            .build())
                    .toList();
            NameMapping mapping = new NameMapping(rules, tables, List.of());
            Set<String> given = new HashSet<>();
            for (TableDefinition table : tables) {
                TableDefinition mapped = mapping.map(table);
                mustBeAllowed(rules, mapped.name().name());
                assertThat(given.add(compared(rules, mapped.name().name())))
                        .as(dialect.system() + " " + names)
                        .isTrue();
                assertThat(mapping.of(table.name())).contains(mapped.name());
            }
            // what is called otherwise is told
            long changed = tables.stream()
                    .filter(t -> !mapping.of(t.name()).orElseThrow().equals(t.name()))
                    .count();
            assertThat(mapping.findings()).hasSize((int) changed);
        });
    }

    @Property(tries = 300, seed = "417")
    void whateverColumnsAreCalledKeysAndReferencesFollowThem(@ForAll("names") List<String> names) {
        dialects().forEach(dialect -> {
            TableDefinition.Builder builder = TableDefinition.named("label");
            names.forEach(n -> builder.column(n, LogicalType.INTEGER));
            TableDefinition table = builder.primaryKey(names.toArray(String[]::new))
                    .foreignKey(new ForeignKey(
                            "self",
                            names,
                            TableName.of("label"),
                            names,
                            ReferentialAction.NO_ACTION,
                            ReferentialAction.NO_ACTION))
                    .build();
            TableDefinition mapped = new NameMapping(dialect.naming(), List.of(table), List.of()).map(table);
            Set<String> given = new HashSet<>();
            for (String name : mapped.columnNames()) {
                mustBeAllowed(dialect.naming(), name);
                assertThat(given.add(compared(dialect.naming(), name))).isTrue();
            }
            assertThat(mapped.primaryKey().orElseThrow().columns()).isEqualTo(mapped.columnNames());
            assertThat(mapped.foreignKeys().get(0).columns()).isEqualTo(mapped.columnNames());
            assertThat(mapped.foreignKeys().get(0).targetColumns()).isEqualTo(mapped.columnNames());
        });
    }

    @Test
    void schemasAreKeptOrBecomePartOfANameThatIsTaken() {
        TableDefinition one = TableDefinition.named(new TableName("old", "label"))
                .column("id", LogicalType.INTEGER)
                .build();
        TableDefinition other = TableDefinition.named(new TableName("new", "label"))
                .column("id", LogicalType.INTEGER)
                .build();
        dialects().forEach(dialect -> {
            NameMapping alone = new NameMapping(dialect.naming(), List.of(one), List.of());
            NameMapping both = new NameMapping(dialect.naming(), List.of(one, other), List.of());
            if (dialect.naming().schemas()) {
                assertThat(alone.of(one.name())).contains(one.name());
                assertThat(both.of(other.name())).contains(other.name());
            } else {
                assertThat(alone.of(one.name())).contains(TableName.of("label"));
                assertThat(both.of(one.name())).contains(TableName.of("old_label"));
                assertThat(both.of(other.name())).contains(TableName.of("new_label"));
            }
        });
    }

    @Test
    void indexesOfOneNameInTwoTablesAreToldApartWhereASchemaHasOneOfThem() {
        List<TableDefinition> tables = new ArrayList<>();
        for (String name : List.of("label", "visit")) {
            tables.add(TableDefinition.named(name)
                    .column("id", LogicalType.INTEGER)
                    .unique(new Key("by_id", List.of("id")))
                    .index(new IndexDefinition(
                            "fast",
                            false,
                            List.of(new IndexDefinition.Part("id", java.util.Optional.empty(), false, 0)),
                            java.util.Optional.empty(),
                            java.util.Optional.empty()))
                    .build());
        }
        dialects().forEach(dialect -> {
            NameMapping mapping = new NameMapping(dialect.naming(), tables, List.of());
            Set<String> given = new HashSet<>();
            boolean shared = dialect.naming().indexes() == NamingRules.Scope.SCHEMA;
            for (TableDefinition table : tables) {
                TableDefinition mapped = mapping.map(table);
                boolean fresh = given.add(mapped.indexes().get(0).name())
                        & given.add(mapped.uniqueKeys().get(0).name());
                assertThat(fresh || !shared).as(dialect.system()).isTrue();
            }
            assertThat(mapping.findings().isEmpty()).isEqualTo(!shared);
        });
    }
}
