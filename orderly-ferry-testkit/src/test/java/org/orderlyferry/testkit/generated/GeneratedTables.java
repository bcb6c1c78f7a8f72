package org.orderlyferry.testkit.generated;

import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.Random;
import java.util.Set;
import java.util.stream.IntStream;
import org.orderlyferry.model.CheckConstraint;
import org.orderlyferry.model.ColumnDefault;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.Deferrability;
import org.orderlyferry.model.Enumeration;
import org.orderlyferry.model.ForeignKey;
import org.orderlyferry.model.GenerationRule;
import org.orderlyferry.model.Identity;
import org.orderlyferry.model.IndexDefinition;
import org.orderlyferry.model.Key;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.ReferentialAction;
import org.orderlyferry.model.SqlText;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;
import org.orderlyferry.model.TypeName;
import org.orderlyferry.testkit.herbarium.HostileTexts;

/**
 * Tables with everything that a definition can hold, each thing now and then: odd names, every type, keys, references to
 * the tables before, checks, indexes. The same seed gives the same tables. Not safe for use by several threads.
 */
public final class GeneratedTables {

    private static final int MOST_COLUMNS = 7;
    private static final int LONGEST = 40;

    private final Random random;
    /** For what was added later, so that a seed's tables are otherwise what they were. */
    private final Random apart;

    private final Set<String> taken = new HashSet<>();

    public GeneratedTables(long seed) {
        this.random = new Random(seed);
        this.apart = new Random(~seed);
    }

    /** Some tables, each of which may refer to those before it and to itself. */
    public List<TableDefinition> some(int count) {
        List<TableDefinition> tables = new ArrayList<>();
        for (int i = 0; i < count; i++) {
            tables.add(table(tables));
        }
        return tables;
    }

    private TableDefinition table(List<TableDefinition> others) {
        TableDefinition.Builder table = TableDefinition.named(TableName.of(name(taken, "bed")));
        Set<String> names = new HashSet<>();
        List<ColumnDefinition> columns = new ArrayList<>();
        int count = 1 + random.nextInt(MOST_COLUMNS);
        for (int i = 0; i < count; i++) {
            columns.add(column(names, i == 0));
        }
        if (often()) {
            Key key = key(columns.subList(0, 1 + (count > 1 && seldom() ? 1 : 0)));
            columns.replaceAll(c -> key.columns().contains(c.name())
                    ? c.toBuilder().nullable(false).build()
                    : c);
            table.primaryKey(key);
        }
        references(table, names, columns, others);
        table.columns(columns);
        if (now()) {
            pick(columns, c -> isComparable(c.type())).ifPresent(c -> table.unique(key(List.of(c))));
        }
        if (now()) {
            // nine is what records have where there is no room for more
            pick(
                            columns,
                            c -> c.type().name().isExactNumber()
                                    && c.generation().isEmpty()
                                    && (c.type().name() != TypeName.DECIMAL
                                            || c.type().size() > c.type().scale()))
                    .ifPresent(c -> table.check(new CheckConstraint(
                            constraint("check"), quoted(c.name()) + " > " + random.nextInt(9), SqlText.ISO)));
        }
        if (now()) {
            pick(columns, c -> isComparable(c.type()))
                    .ifPresent(c -> table.index(new IndexDefinition(
                            constraint("index"),
                            seldom(),
                            List.of(new IndexDefinition.Part(c.name(), random.nextBoolean())))));
        }
        return table.comment(seldom() ? text() : "").build();
    }

    private void references(
            TableDefinition.Builder table,
            Set<String> names,
            List<ColumnDefinition> columns,
            List<TableDefinition> others) {
        for (TableDefinition other : others) {
            if (other.primaryKey().isEmpty() || !now()) {
                continue;
            }
            List<String> targets = other.primaryKey().get().columns();
            List<String> own = targets.stream()
                    .map(t -> {
                        ColumnDefinition column = ColumnDefinition.of(
                                name(names, "to"),
                                near(other.column(t).orElseThrow().type()));
                        columns.add(column);
                        return column.name();
                    })
                    .toList();
            table.foreignKey(new ForeignKey(
                    constraint("reference"),
                    own,
                    other.name(),
                    targets,
                    any(ReferentialAction.NO_ACTION, ReferentialAction.CASCADE, ReferentialAction.RESTRICT),
                    any(ReferentialAction.NO_ACTION, ReferentialAction.CASCADE, ReferentialAction.SET_NULL),
                    any(Deferrability.values())));
        }
    }

    /** What somebody gives to a column that refers to one of a type: often that one, and else more room, or less, or another. */
    private LogicalType near(LogicalType type) {
        return switch (apart.nextInt(12)) {
            case 0, 1 ->
                type.name().isExactNumber()
                        ? LogicalType.BIGINT
                        : type.name() == TypeName.VARCHAR ? LogicalType.varchar(type.size() + 7) : type;
            case 2 ->
                type.name().isExactNumber()
                        ? LogicalType.SMALLINT
                        : type.name() == TypeName.VARCHAR && type.size() > 1 ? LogicalType.varchar(1) : type;
            case 3 -> type.name().isText() ? LogicalType.INTEGER : LogicalType.varchar(30);
            case 4 -> LogicalType.BOOLEAN;
            default -> type;
        };
    }

    private ColumnDefinition column(Set<String> names, boolean first) {
        LogicalType type = first ? keyType() : type();
        ColumnDefinition.Builder column =
                ColumnDefinition.named(name(names, "c"), type).nullable(often()).comment(seldom() ? text() : "");
        if (first && type.name().isExactNumber() && type.name() != TypeName.DECIMAL && seldom()) {
            return column.nullable(false)
                    .identity(Optional.of(new Identity(random.nextBoolean(), 1, 1 + random.nextInt(5), 1)))
                    .build();
        }
        if (type.name() == TypeName.VARCHAR && seldom()) {
            return column.enumeration(Optional.of(new Enumeration("", List.of("wet", "dry", "it's"))))
                    .build();
        }
        if (type.name() == TypeName.INTEGER && !first && seldom()) {
            return column.generation(Optional.of(new GenerationRule(new SqlText("1 + 2", SqlText.ISO), true)))
                    .nullable(true)
                    .build();
        }
        if (now()) {
            literal(type).ifPresent(l -> column.defaultValue(Optional.of(new ColumnDefault.Literal(l))));
        } else if (type.name() == TypeName.TIMESTAMP && now()) {
            column.defaultValue(Optional.of(new ColumnDefault.Expression("CURRENT_TIMESTAMP", SqlText.ISO)));
        }
        return column.build();
    }

    private Optional<String> literal(LogicalType type) {
        return switch (type.name()) {
            case BOOLEAN -> Optional.of(String.valueOf(random.nextBoolean()));
            case SMALLINT, INTEGER, BIGINT -> Optional.of(String.valueOf(random.nextInt(100) - 50));
            case DATE -> Optional.of("2031-04-09");
            case VARCHAR -> Optional.of(text()).filter(t -> t.codePointCount(0, t.length()) <= type.size());
            default -> Optional.empty();
        };
    }

    private LogicalType keyType() {
        return any(
                LogicalType.SMALLINT,
                LogicalType.INTEGER,
                LogicalType.BIGINT,
                LogicalType.decimal(9, 0),
                LogicalType.decimal(18, 4),
                LogicalType.varchar(1 + random.nextInt(60)),
                LogicalType.DATE,
                LogicalType.UUID);
    }

    private LogicalType type() {
        TypeName name = any(TypeName.values());
        return switch (name) {
            case CHARACTER, VARCHAR, BINARY, VARBINARY -> LogicalType.of(name, 1 + random.nextInt(200));
            case DECIMAL -> {
                int precision = 1 + random.nextInt(30);
                yield LogicalType.decimal(precision, random.nextInt(Math.min(precision, 20) + 1));
            }
            case TIME, TIMESTAMP, TIMESTAMP_WITH_TIME_ZONE -> LogicalType.of(name, random.nextInt(7));
            case ARRAY -> LogicalType.arrayOf(any(LogicalType.INTEGER, LogicalType.CLOB, LogicalType.DATE));
            default -> LogicalType.of(name);
        };
    }

    private static boolean isComparable(LogicalType type) {
        return switch (type.name()) {
            case BOOLEAN, SMALLINT, INTEGER, BIGINT, DECIMAL, DATE, TIMESTAMP, UUID -> true;
            case VARCHAR -> type.size() <= 100;
            default -> false;
        };
    }

    private Key key(List<ColumnDefinition> columns) {
        return new Key(
                constraint("key"), columns.stream().map(ColumnDefinition::name).toList());
    }

    private String constraint(String what) {
        return random.nextInt(3) == 0 ? "" : name(taken, what);
    }

    /** A name that none of these is, in any case. */
    private String name(Set<String> others, String plain) {
        while (true) {
            String name = random.nextInt(3) > 0 ? plain + random.nextInt(1_000) : text();
            if (!name.isBlank() && others.add(name.strip().toLowerCase(Locale.ROOT))) {
                return name;
            }
        }
    }

    private String text() {
        if (random.nextBoolean()) {
            return HostileTexts.ALL.get(random.nextInt(HostileTexts.ALL.size()));
        }
        return IntStream.range(0, 1 + random.nextInt(LONGEST))
                .map(i -> any(' ', '.', '"', '\'', '`', '\\', '%', '/', 'a', 'B', '7', 'ü', '山', '\n'))
                .collect(StringBuilder::new, StringBuilder::appendCodePoint, StringBuilder::append)
                .toString();
    }

    private static String quoted(String name) {
        return '"' + name.replace("\"", "\"\"") + '"';
    }

    @SafeVarargs
    private <T> T any(T... values) {
        return values[random.nextInt(values.length)];
    }

    private <T> Optional<T> pick(List<T> from, java.util.function.Predicate<T> wanted) {
        List<T> fitting = from.stream().filter(wanted).toList();
        return fitting.isEmpty() ? Optional.empty() : Optional.of(fitting.get(random.nextInt(fitting.size())));
    }

    private boolean often() {
        return random.nextInt(4) > 0;
    }

    private boolean now() {
        return random.nextInt(3) == 0;
    }

    private boolean seldom() {
        return random.nextInt(6) == 0;
    }
}
