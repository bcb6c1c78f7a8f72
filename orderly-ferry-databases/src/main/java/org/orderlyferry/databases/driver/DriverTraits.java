package org.orderlyferry.databases.driver;

import java.sql.Connection;
import java.sql.DatabaseMetaData;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.SQLFeatureNotSupportedException;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.orderlyferry.databases.dialect.ConnectedSql;
import org.orderlyferry.databases.dialect.NamingRules;

/**
 * What a driver says of its system ({@link DatabaseMetaData}).
 *
 * @param system the product's name
 * @param quote what stands around a name; empty where the system has no quotes
 * @param schema the one in which a name without a schema is looked up; empty where there are none
 * @param catalog the database; null where the driver knows of none
 * @param types what its types are called
 * @param naming which names it takes
 */
record DriverTraits(
        String system, String quote, String schema, String catalog, List<DriverType> types, NamingRules naming) {

    /** Asks a driver. */
    static DriverTraits of(Connection connection, Optional<ConnectedSql> known) throws SQLException {
        DatabaseMetaData data = connection.getMetaData();
        String quote = Optional.ofNullable(data.getIdentifierQuoteString())
                .map(String::strip)
                .orElse("");
        int longest = shortest(data.getMaxColumnNameLength(), data.getMaxTableNameLength());
        boolean schemas = data.supportsSchemasInDataManipulation();
        NamingRules naming = new NamingRules(
                longest,
                NamingRules.Unit.CHARACTERS,
                data.supportsMixedCaseQuotedIdentifiers(),
                schemas,
                NamingRules.Scope.SCHEMA,
                NamingRules.Scope.SCHEMA,
                NamingRules.Scope.SCHEMA,
                false,
                quote.isEmpty() ? DriverTraits::isPlain : c -> c >= ' ');
        return new DriverTraits(
                known.map(ConnectedSql::system).orElse(data.getDatabaseProductName()),
                quote,
                schemas ? Optional.ofNullable(schema(connection)).orElse("") : "",
                connection.getCatalog(),
                known.isPresent() ? KnownSystems.of(known.get()) : types(data),
                known.map(ConnectedSql::naming).orElse(naming));
    }

    private static boolean isPlain(int c) {
        return c == '_' || c < 128 && Character.isLetterOrDigit(c);
    }

    private static int shortest(int one, int other) {
        return one == 0 || other == 0 ? Math.max(one, other) : Math.min(one, other);
    }

    private static String schema(Connection connection) throws SQLException {
        try {
            return connection.getSchema();
        } catch (SQLFeatureNotSupportedException | AbstractMethodError e) {
            // a driver from before JDBC 4.1
            return null;
        }
    }

    private static List<DriverType> types(DatabaseMetaData data) throws SQLException {
        List<DriverType> types = new ArrayList<>();
        try (ResultSet row = data.getTypeInfo()) {
            while (row.next()) {
                types.add(new DriverType(
                        row.getString("TYPE_NAME"),
                        row.getInt("DATA_TYPE"),
                        row.getLong("PRECISION"),
                        Optional.ofNullable(row.getString("CREATE_PARAMS")).orElse("")));
            }
        } catch (SQLFeatureNotSupportedException e) {
            // read from all the same; nothing can be made there
            return List.of();
        }
        return types;
    }

    /** A name in quotes. */
    String quoted(String name) {
        return quote + name.replace(quote, quote + quote) + quote;
    }
}
