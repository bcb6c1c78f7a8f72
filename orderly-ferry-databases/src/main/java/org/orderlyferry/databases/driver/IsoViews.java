package org.orderlyferry.databases.driver;

import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.BiFunction;
import java.util.regex.Pattern;
import org.orderlyferry.model.CheckConstraint;
import org.orderlyferry.model.Key;
import org.orderlyferry.model.LeftBehind;
import org.orderlyferry.model.TableName;

/**
 * What the views of ISO/IEC 9075-11 tell, in systems that have them, of what no driver does: checks, the rules of domains, the
 * order of a column's texts, the steps of counters, and that a table keeps its past. Each is asked for by itself, since few systems
 * have all of them.
 */
final class IsoViews {

    /** What some systems list among checks. */
    private static final Pattern NOT_NULL =
            Pattern.compile("(?is)\\(*\\s*(?:\"(?:[^\"]++|\"\")*+\"|[\\w$.]++)++\\s+IS\\s+NOT\\s+NULL\\s*\\)*");

    /** Some systems give the word as well. */
    private static final Pattern CHECK = Pattern.compile("(?is)^CHECK\\s*+(\\(.*\\))$");

    private final Connection connection;
    private final DriverDialect dialect;
    private final BiFunction<String, String, TableName> names;
    private List<Told> steps = List.of();

    /**
     * Of a connection.
     *
     * @param names the name of a table, from its schema's and its own
     */
    IsoViews(Connection connection, DriverDialect dialect, BiFunction<String, String, TableName> names) {
        this.connection = connection;
        this.dialect = dialect;
        this.names = names;
    }

    /** A column, and what is told of it. */
    private record Told(TableName table, String column, String what) {
        String name() {
            return table + "." + column;
        }
    }

    /** Nothing where the system doesn't tell; a system that has the columns and never fills them tells nothing either. */
    private Optional<List<Told>> told(String query) throws SQLException {
        List<Told> told = new ArrayList<>();
        try (Statement statement = connection.createStatement();
                ResultSet row = statement.executeQuery(query)) {
            while (row.next()) {
                TableName table = names.apply(row.getString(1), row.getString(2));
                if (!DriverCatalogue.isTheSystems(row.getString(1))) {
                    told.add(new Told(table, row.getString(3), row.getString(4)));
                }
            }
            return Optional.of(told);
        } catch (SQLException e) {
            if (dialect.isLost(e)) {
                throw e;
            }
            return Optional.empty();
        }
    }

    private static String columns(String what, String which) {
        return "SELECT c.TABLE_SCHEMA, c.TABLE_NAME, c.COLUMN_NAME, " + what
                + " FROM INFORMATION_SCHEMA.COLUMNS c WHERE " + which
                + " ORDER BY c.TABLE_SCHEMA, c.TABLE_NAME, c.ORDINAL_POSITION";
    }

    /** Where a column is of a domain that has rules. */
    private Optional<List<Told>> domains() throws SQLException {
        return told(columns(
                "c.DOMAIN_NAME",
                "EXISTS (SELECT 1 FROM INFORMATION_SCHEMA.DOMAIN_CONSTRAINTS d WHERE d.DOMAIN_SCHEMA = c.DOMAIN_SCHEMA"
                        + " AND d.DOMAIN_NAME = c.DOMAIN_NAME)"));
    }

    /** Where a column's texts are ordered or told apart otherwise than those of its character set are. */
    private Optional<List<Told>> collations() throws SQLException {
        return told(columns(
                "c.COLLATION_NAME",
                "c.COLLATION_NAME <> (SELECT MIN(s.DEFAULT_COLLATE_NAME) FROM INFORMATION_SCHEMA.CHARACTER_SETS s WHERE"
                        + " s.CHARACTER_SET_NAME = c.CHARACTER_SET_NAME)"));
    }

    private Optional<List<Told>> counters() throws SQLException {
        return told(columns("c.IDENTITY_INCREMENT", "c.IDENTITY_INCREMENT IS NOT NULL"));
    }

    private Optional<List<Told>> pasts() throws SQLException {
        return told("SELECT TABLE_SCHEMA, TABLE_NAME, PERIOD_NAME, PERIOD_NAME FROM INFORMATION_SCHEMA.PERIODS"
                + " WHERE PERIOD_NAME = 'SYSTEM_TIME' ORDER BY TABLE_SCHEMA, TABLE_NAME");
    }

    /** The steps of a table's counters, by column, so far as they are told. */
    Map<String, Long> steps(TableName table) throws SQLException {
        if (steps.stream().noneMatch(s -> s.table().equals(table))) {
            // all at once, since a view of all columns is gone through for each question
            steps = counters().orElse(List.of());
        }
        Map<String, Long> found = new LinkedHashMap<>();
        for (Told counter : steps) {
            if (counter.table().equals(table)) {
                try {
                    found.put(counter.column(), Long.parseLong(counter.what().strip()));
                } catch (NumberFormatException e) {
                    throw new SQLException(
                            "the step of the counter " + counter.name() + " is no number: " + counter.what(), e);
                }
            }
        }
        return found;
    }

    /** Unique keys, where the system has the views; not every driver tells of the indexes that are theirs. */
    List<Key> uniqueKeys(String schema, TableName table) throws SQLException {
        Map<String, List<String>> keys = new LinkedHashMap<>();
        try (PreparedStatement statement = connection.prepareStatement(
                "SELECT c.CONSTRAINT_NAME, k.COLUMN_NAME FROM INFORMATION_SCHEMA.TABLE_CONSTRAINTS c JOIN"
                        + " INFORMATION_SCHEMA.KEY_COLUMN_USAGE k ON k.CONSTRAINT_SCHEMA = c.CONSTRAINT_SCHEMA AND"
                        + " k.CONSTRAINT_NAME = c.CONSTRAINT_NAME AND k.TABLE_NAME = c.TABLE_NAME WHERE"
                        + " c.CONSTRAINT_TYPE = 'UNIQUE' AND c.TABLE_SCHEMA = ? AND c.TABLE_NAME = ?"
                        + " ORDER BY c.CONSTRAINT_NAME, k.ORDINAL_POSITION")) {
            statement.setString(1, schema);
            statement.setString(2, table.name());
            try (ResultSet row = statement.executeQuery()) {
                while (row.next()) {
                    keys.computeIfAbsent(row.getString(1), n -> new ArrayList<>())
                            .add(row.getString(2));
                }
            }
        } catch (SQLException e) {
            if (dialect.isLost(e)) {
                throw e;
            }
            return List.of();
        }
        return keys.entrySet().stream()
                .map(k -> new Key(DriverKeys.given(k.getKey()), k.getValue()))
                .toList();
    }

    /**
     * Checks, where the system has the views of ISO/IEC 9075-11; nothing where it hasn't.
     *
     * @param columns the table's, of which some systems list each that can't be null among checks
     */
    Optional<List<CheckConstraint>> checks(String schema, TableName table, List<String> columns) throws SQLException {
        List<CheckConstraint> checks = new ArrayList<>();
        try (PreparedStatement statement = connection.prepareStatement(
                "SELECT c.CONSTRAINT_NAME, k.CHECK_CLAUSE FROM INFORMATION_SCHEMA.TABLE_CONSTRAINTS c JOIN"
                        + " INFORMATION_SCHEMA.CHECK_CONSTRAINTS k ON k.CONSTRAINT_SCHEMA = c.CONSTRAINT_SCHEMA AND"
                        + " k.CONSTRAINT_NAME = c.CONSTRAINT_NAME WHERE c.CONSTRAINT_TYPE = 'CHECK' AND c.TABLE_SCHEMA = ?"
                        + " AND c.TABLE_NAME = ? ORDER BY c.CONSTRAINT_NAME")) {
            statement.setString(1, schema);
            statement.setString(2, table.name());
            try (ResultSet row = statement.executeQuery()) {
                while (row.next()) {
                    String clause = CHECK.matcher(row.getString(2).strip()).replaceFirst("$1");
                    boolean notNull = columns.stream().anyMatch(c -> clause.equalsIgnoreCase(c + " IS NOT NULL"));
                    if (!notNull && !NOT_NULL.matcher(clause).matches()) {
                        checks.add(new CheckConstraint(DriverKeys.given(row.getString(1)), clause, dialect.system()));
                    }
                }
            }
            return Optional.of(checks);
        } catch (SQLException e) {
            if (dialect.isLost(e)) {
                throw e;
            }
            return Optional.empty();
        }
    }

    /** What isn't carried of some tables; the views tell of views as well. */
    List<LeftBehind> leftBehind(List<TableName> tables) throws SQLException {
        List<LeftBehind> all = new ArrayList<>();
        domains().ifPresent(found -> found.stream()
                .filter(c -> tables.contains(c.table()))
                .forEach(c -> all.add(LeftBehind.of(
                        c.table(),
                        "domain",
                        c.column(),
                        "the rules of the domain " + c.what() + " aren't carried; its values are, as its type's"))));
        collations().ifPresent(found -> found.stream()
                .filter(c -> tables.contains(c.table()))
                .forEach(c -> all.add(LeftBehind.of(
                        c.table(), "collation", c.column(), "its texts are ordered and told apart by " + c.what()))));
        pasts().ifPresent(found -> found.forEach(c -> all.add(
                LeftBehind.of(c.table(), "history", "what its rows were before isn't carried; what they are is"))));
        return all;
    }

    /** Of what nothing is told. */
    List<String> unknown() throws SQLException {
        List<String> unknown = new ArrayList<>();
        if (checks("", new TableName("", "none"), List.of()).isEmpty()) {
            unknown.add("checks");
        }
        if (domains().isEmpty()) {
            unknown.add("domains' rules");
        }
        if (collations().isEmpty()) {
            unknown.add("columns' collations");
        }
        if (counters().isEmpty()) {
            unknown.add("the steps of counters");
        }
        return unknown;
    }
}
