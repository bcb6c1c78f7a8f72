package org.orderlyferry.databases.driver;

import java.sql.Connection;
import java.sql.DatabaseMetaData;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.function.UnaryOperator;
import java.util.stream.Stream;
import org.orderlyferry.databases.dialect.Catalogue;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.GenerationRule;
import org.orderlyferry.model.Identity;
import org.orderlyferry.model.IndexDefinition;
import org.orderlyferry.model.Key;
import org.orderlyferry.model.LeftBehind;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.SqlText;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;
import org.orderlyferry.model.TypeName;

/** The definitions that a driver tells of. */
final class DriverCatalogue implements Catalogue {

    /** Kinds of what drivers list with the tables that holds nothing of its own, or nothing that lasts; views are told apart. */
    private static final Set<String> NO_TABLES = Set.of(
            "VIEW",
            "SYSTEM TABLE",
            "SYSTEM VIEW",
            "SYSTEM INDEX",
            "SYSTEM TOAST TABLE",
            "SYSTEM TOAST INDEX",
            "SYNONYM",
            "SYSTEM SYNONYM",
            "ALIAS",
            "INDEX",
            "PARTITIONED INDEX",
            "TEMPORARY INDEX",
            "SEQUENCE",
            "TEMPORARY SEQUENCE",
            "TYPE",
            "LOCAL TEMPORARY",
            "TEMPORARY TABLE",
            "TEMPORARY VIEW");

    private static final List<String> NAMED_LIKE_TABLES = List.of("VIEW", "MATERIALIZED VIEW", "SYNONYM", "SEQUENCE");

    private static final Set<String> KINDS = Set.of("TABLE", "BASE TABLE");

    /** Schemas of the systems' own, by the names that they have in several. */
    private static final Set<String> SYSTEM = Set.of(
            "INFORMATION_SCHEMA",
            "SYS",
            "SYSTEM",
            "SYSCAT",
            "SYSIBM",
            "SYSIBMADM",
            "SYSSTAT",
            "SYSTOOLS",
            "SYSPROC",
            "SYSFUN",
            "SYSPUBLIC",
            "NULLID",
            "SQLJ",
            "PG_CATALOG",
            "PG_TOAST",
            "SYSTEM_LOBS");

    private static final int MOST_FRACTION = 9;

    private final Connection connection;
    private final DriverDialect dialect;
    private final IsoViews views;

    /** Of the tables that were there when one was asked for that isn't among them. */
    private final Map<TableName, String> comments = new HashMap<>();

    DriverCatalogue(Connection connection, DriverDialect dialect) {
        this.connection = connection;
        this.dialect = dialect;
        this.views = new IsoViews(connection, dialect, this::name);
    }

    private DatabaseMetaData data() throws SQLException {
        return connection.getMetaData();
    }

    private String catalog() {
        return dialect.traits().catalog();
    }

    private String schema(TableName table) {
        String schema = table.schema().isEmpty() ? dialect.traits().schema() : table.schema();
        return schema.isEmpty() ? null : schema;
    }

    private TableName name(String schema, String table) {
        return new TableName(schema == null || schema.equals(dialect.traits().schema()) ? "" : schema, table);
    }

    @Override
    public List<TableName> tables() throws SQLException {
        return named(KINDS);
    }

    @Override
    public Map<TableName, String> otherNames() throws SQLException {
        Map<TableName, String> names = new LinkedHashMap<>();
        for (String kind : NAMED_LIKE_TABLES) {
            named(Set.of(kind)).forEach(n -> names.put(n, "a " + kind.toLowerCase(Locale.ROOT)));
        }
        return names;
    }

    /** What else the system has that a person may take for a table. */
    private Set<String> otherKinds() throws SQLException {
        Set<String> kinds = new TreeSet<>();
        try (ResultSet row = data().getTableTypes()) {
            while (row.next()) {
                kinds.add(row.getString(1).strip().toUpperCase(Locale.ROOT));
            }
        }
        kinds.removeAll(KINDS);
        kinds.removeAll(NO_TABLES);
        return kinds;
    }

    private List<TableName> named(Set<String> kinds) throws SQLException {
        Set<String> wanted = new TreeSet<>();
        try (ResultSet row = data().getTableTypes()) {
            while (row.next()) {
                if (kinds.contains(row.getString(1).strip().toUpperCase(Locale.ROOT))) {
                    wanted.add(row.getString(1));
                }
            }
        }
        List<TableName> tables = new ArrayList<>();
        if (wanted.isEmpty()) {
            return tables;
        }
        try (ResultSet row = data().getTables(catalog(), null, "%", wanted.toArray(String[]::new))) {
            while (row.next()) {
                String schema = row.getString("TABLE_SCHEM");
                if (!isTheSystems(schema)) {
                    tables.add(name(schema, row.getString("TABLE_NAME")));
                }
            }
        }
        return tables;
    }

    static boolean isTheSystems(String schema) {
        return schema != null && SYSTEM.contains(schema.toUpperCase(Locale.ROOT));
    }

    @Override
    public UnaryOperator<TableName> held() throws SQLException {
        if (data().supportsMixedCaseQuotedIdentifiers()) {
            return Catalogue.super.held();
        }
        List<TableName> there = tables();
        return name -> Catalogue.alike(there, name).orElse(name);
    }

    @Override
    public TableDefinition define(TableName table) throws SQLException {
        TableDefinition.Builder builder = TableDefinition.named(table).system(dialect.system());
        // by their numbers: not every driver gives them in order
        TreeMap<Integer, ColumnDefinition> columns = new TreeMap<>();
        Map<String, Long> steps = new LinkedHashMap<>();
        if (hasCounters(table)) {
            steps.putAll(views.steps(table));
        }
        eachColumn(table, row -> {
            // drivers that stream a row have this one first
            String value = row.getString("COLUMN_DEF");
            columns.put(row.getInt("ORDINAL_POSITION"), column(row, value, steps));
        });
        columns.values().forEach(builder::column);
        builder.comment(comment(table));
        keys(table).into(builder);
        TableDefinition told = builder.build();
        views.uniqueKeys(schema(table), table).stream()
                .filter(key -> !isTold(told, key))
                .forEach(builder::unique);
        views.checks(schema(table), table, told.columnNames()).ifPresent(all -> all.forEach(builder::check));
        return builder.build();
    }

    /** Whether a driver has told of a key already, by itself or as an index. */
    private static boolean isTold(TableDefinition table, Key key) {
        Set<String> columns = Set.copyOf(key.columns());
        return Stream.of(
                        table.primaryKey().stream().map(Key::columns),
                        table.uniqueKeys().stream().map(Key::columns),
                        table.indexes().stream().filter(IndexDefinition::unique).map(IndexDefinition::columns))
                .flatMap(c -> c)
                .anyMatch(c -> Set.copyOf(c).equals(columns));
    }

    DriverKeys keys(TableName table) throws SQLException {
        // asked each time, since a load adds keys while it looks at them
        Set<String> ofKeys = dialect.system().equals("Apache Derby") ? DerbyKeys.indexes(connection) : Set.of();
        return new DriverKeys(data(), catalog(), schema(table), table, this::name, ofKeys);
    }

    /** Takes a row of what a driver tells. */
    @FunctionalInterface
    private interface Row {
        void take(ResultSet row) throws SQLException;
    }

    /** A driver takes names as patterns, and not each knows how to have them as they are. */
    private void eachColumn(TableName table, Row taker) throws SQLException {
        String escape = Optional.ofNullable(data().getSearchStringEscape()).orElse("");
        boolean found = columns(pattern(schema(table), escape), pattern(table.name(), escape), table, taker);
        if (!found) {
            columns(schema(table), table.name(), table, taker);
        }
    }

    private static String pattern(String name, String escape) {
        return name == null || escape.isEmpty()
                ? name
                : name.replace(escape, escape + escape)
                        .replace("_", escape + "_")
                        .replace("%", escape + "%");
    }

    private boolean columns(String schema, String name, TableName table, Row taker) throws SQLException {
        boolean found = false;
        try (ResultSet row = data().getColumns(catalog(), schema, name, "%")) {
            while (row.next()) {
                String value = row.getString("COLUMN_DEF");
                boolean mine = table.name().equals(row.getString("TABLE_NAME"))
                        && table.equals(name(row.getString("TABLE_SCHEM"), table.name()));
                if (mine) {
                    found = true;
                    taker.take(row);
                }
            }
        }
        return found;
    }

    private ColumnDefinition column(ResultSet row, String value, Map<String, Long> steps) throws SQLException {
        int code = row.getInt("DATA_TYPE");
        String own = row.getString("TYPE_NAME");
        long size = row.getLong("COLUMN_SIZE");
        int scale = row.getInt("DECIMAL_DIGITS");
        LogicalType type = DriverTypes.logical(code, own, size, row.wasNull() ? -1 : scale);
        if (type.name().isTimed()) {
            type = timed(type.name(), row.wasNull() ? DriverTypes.fraction(type.name(), size) : scale);
        }
        ColumnDefinition.Builder column = ColumnDefinition.named(row.getString("COLUMN_NAME"), type)
                .nullable(row.getInt("NULLABLE") != DatabaseMetaData.columnNoNulls)
                .sourceType(written(own, type))
                .comment(Optional.ofNullable(row.getString("REMARKS")).orElse(""));
        if (isYes(row, "IS_GENERATEDCOLUMN") && value != null && !isYes(row, "IS_AUTOINCREMENT")) {
            String expression = value.replaceFirst("(?i)^\\s*GENERATED\\s+ALWAYS\\s+AS\\s*", "");
            column.generation(Optional.of(new GenerationRule(new SqlText(expression, dialect.system()), true)));
        } else if (isYes(row, "IS_AUTOINCREMENT")) {
            long step = steps.getOrDefault(row.getString("COLUMN_NAME"), 1L);
            column.identity(Optional.of(new Identity(false, 1, step, next(row, step))));
        } else {
            column.defaultValue(DriverDefaults.read(value, type, dialect.system()));
        }
        return column.build();
    }

    /** With no more digits than the system was found to hold at most: that says more than a driver that tells none. */
    private LogicalType timed(TypeName name, int told) {
        int most = dialect.trial().digits().getOrDefault(name, MOST_FRACTION);
        return LogicalType.of(name, told < 0 ? most : Math.min(told, most));
    }

    /** What a counter gives next: drivers don't tell, so it is what comes after the last value that is there. */
    private long next(ResultSet row, long step) throws SQLException {
        TableName table = name(row.getString("TABLE_SCHEM"), row.getString("TABLE_NAME"));
        try (Statement statement = connection.createStatement();
                ResultSet highest = statement.executeQuery("SELECT " + (step < 0 ? "MIN(" : "MAX(")
                        + dialect.quote(row.getString("COLUMN_NAME")) + ") FROM " + dialect.quote(table))) {
            return highest.next() ? highest.getLong(1) + step : 1;
        }
    }

    private boolean hasCounters(TableName table) throws SQLException {
        List<String> counters = new ArrayList<>();
        eachColumn(table, row -> {
            if (isYes(row, "IS_AUTOINCREMENT")) {
                counters.add(row.getString("COLUMN_NAME"));
            }
        });
        return !counters.isEmpty();
    }

    private String comment(TableName table) throws SQLException {
        if (!comments.containsKey(table)) {
            try (ResultSet row = data().getTables(catalog(), null, "%", null)) {
                while (row.next()) {
                    TableName name = name(row.getString("TABLE_SCHEM"), row.getString("TABLE_NAME"));
                    comments.put(
                            name, Optional.ofNullable(row.getString("REMARKS")).orElse(""));
                }
            }
        }
        return comments.getOrDefault(table, "");
    }

    private static boolean isYes(ResultSet row, String column) {
        try {
            return "YES".equalsIgnoreCase(row.getString(column));
        } catch (SQLException e) {
            // a driver from before JDBC 4.1 hasn't the column
            return false;
        }
    }

    /** The type as CREATE TABLE has it. */
    private String written(String own, LogicalType type) {
        if (type.name().isTimed()) {
            return dialect.driverTypes()
                    .holding(type)
                    .filter(t -> words(t).equals(words(own)))
                    .orElse(own);
        }
        if (own.contains("(") && !own.contains("()")) {
            return own;
        }
        boolean sized =
                type.isSized() && (type.name().isText() || type.name().isBinary() || type.name() == TypeName.DECIMAL);
        if (!sized) {
            return own.replace("()", "").replace("  ", " ");
        }
        String size = type.size() + (type.name() == TypeName.DECIMAL ? ", " + type.scale() : "");
        return new DriverType(own, 0, 0, "").with(size);
    }

    private static String words(String type) {
        return type.replaceAll("\\([^)]*\\)", "").toUpperCase(Locale.ROOT);
    }

    @Override
    public List<LeftBehind> leftBehind() throws SQLException {
        List<LeftBehind> all = new ArrayList<>();
        for (TableName view : named(Set.of("VIEW"))) {
            all.add(new LeftBehind(
                    "view", view.toString(), "its SQL is " + dialect.system() + "'s own; make it anew at the target"));
        }
        for (String kind : otherKinds()) {
            for (TableName table : named(Set.of(kind))) {
                all.add(new LeftBehind(
                        kind.toLowerCase(Locale.ROOT), table.toString(), "tables of this kind aren't read"));
            }
        }
        for (TableName table : tables()) {
            eachColumn(table, row -> {
                String rule = row.getString("COLUMN_DEF");
                if (rule == null && isYes(row, "IS_GENERATEDCOLUMN") && !isYes(row, "IS_AUTOINCREMENT")) {
                    all.add(LeftBehind.of(
                            table,
                            "generated column",
                            row.getString("COLUMN_NAME"),
                            "the driver doesn't tell how it is computed; its values are carried like others"));
                }
                if (DriverTypes.isCarriedAsText(
                        row.getInt("DATA_TYPE"), row.getString("TYPE_NAME"), row.getLong("COLUMN_SIZE"))) {
                    all.add(LeftBehind.of(
                            table,
                            "type",
                            row.getString("COLUMN_NAME"),
                            "values of " + row.getString("TYPE_NAME")
                                    + " are carried as text, as the driver writes them"));
                }
            });
        }
        all.addAll(views.leftBehind(tables()));
        List<String> unknown = views.unknown();
        unknown.add("triggers, routines, sequences and grants");
        all.add(new LeftBehind(
                "definition",
                dialect.system(),
                "its driver tells nothing of " + String.join(", ", unknown)
                        + "; whether there are any isn't known here"));
        return all;
    }
}
