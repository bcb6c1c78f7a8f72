package org.orderlyferry.databases.driver;

import java.nio.charset.StandardCharsets;
import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.EnumMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.TypeName;

/**
 * How a system can be asked whether two values are the same to the last character, which its own {@code <>} doesn't tell everywhere:
 * blanks at the end may not count, and few compare large objects. Found out by asking it about values that are known.
 */
final class Differing {

    /** Where nothing tells, each is taken to differ: it is written again. */
    static final String UNKNOWN = "1 = 1";

    private static final String PLAIN = "%1$s <> %2$s";

    /** In the order in which they are tried. */
    private static final List<String> WAYS = List.of(
            PLAIN,
            "(%1$s <> %2$s OR OCTET_LENGTH(%1$s) <> OCTET_LENGTH(%2$s))",
            "(%1$s <> %2$s OR LENGTH(%1$s) <> LENGTH(%2$s))",
            "(CAST(%1$s AS varbinary(max)) <> CAST(%2$s AS varbinary(max)) OR DATALENGTH(%1$s) <> DATALENGTH(%2$s))");

    private static final int MANY = 40_000;
    private static final int SHORT = 40;

    private Differing() {}

    /** Two values, as SQL, that aren't null. */
    static String of(Map<TypeName, String> found, TypeName type, String one, String other) {
        TypeName as =
                switch (type) {
                    case CHARACTER -> TypeName.VARCHAR;
                    case BINARY -> TypeName.VARBINARY;
                    default -> type;
                };
        String way = found.getOrDefault(as, as.isText() || as.isBinary() ? UNKNOWN : PLAIN);
        return String.format(Locale.ROOT, way, one, other);
    }

    /**
     * What is right for texts and bytes.
     *
     * @param form how a value is cast and selected
     */
    static Map<TypeName, String> found(Connection connection, String form, DriverTypes types) {
        Map<TypeName, String> found = new EnumMap<>(TypeName.class);
        for (LogicalType type : List.of(
                LogicalType.varchar(SHORT),
                LogicalType.of(TypeName.VARBINARY, SHORT),
                LogicalType.CLOB,
                LogicalType.BLOB)) {
            types.holding(type)
                    .flatMap(own -> WAYS.stream()
                            .filter(way -> new Asking(connection, form, way, own, type).isRight())
                            .findFirst())
                    .ifPresent(way -> found.put(type.name(), way));
        }
        return found;
    }

    /** Asks for one way of comparing values of one type. */
    private record Asking(Connection connection, String form, String way, String own, LogicalType type) {

        boolean isRight() {
            boolean right = tells("a", "a", 0) && tells("a ", "a", 1) && tells("a\0", "a", 1) && tells("a", "A", 1);
            String many = "a".repeat(MANY);
            return right
                    && (type.isSized()
                            || tells(many, many, 0) && tells(many, many + "b", 1) && tells(many + "b", many + "c", 1));
        }

        private boolean tells(String one, String other, int expected) {
            String cast = "CAST(? AS " + own + ")";
            String differ = String.format(Locale.ROOT, way, cast, cast);
            String sql = form.replace("CAST(%s AS %s)", "CASE WHEN " + differ + " THEN 1 ELSE 0 END");
            try (PreparedStatement statement = connection.prepareStatement(sql)) {
                int places = (int) sql.chars().filter(c -> c == '?').count();
                for (int i = 1; i <= places; i++) {
                    bind(statement, i, i % 2 == 1 ? one : other);
                }
                try (ResultSet row = statement.executeQuery()) {
                    return row.next() && row.getInt(1) == expected;
                }
            } catch (SQLException | RuntimeException | AbstractMethodError e) {
                // whatever a driver does with what it hasn't: the answer is that this way isn't one
                return false;
            }
        }

        private void bind(PreparedStatement statement, int place, String value) throws SQLException {
            if (type.name().isBinary()) {
                statement.setBytes(place, value.getBytes(StandardCharsets.US_ASCII));
            } else {
                statement.setString(place, value);
            }
        }
    }
}
