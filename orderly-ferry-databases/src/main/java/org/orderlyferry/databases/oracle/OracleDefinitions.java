package org.orderlyferry.databases.oracle;

import java.math.BigDecimal;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.orderlyferry.databases.dialect.AskedDefinitions;
import org.orderlyferry.databases.dialect.CatalogueQuery;
import org.orderlyferry.model.CheckConstraint;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.Deferrability;
import org.orderlyferry.model.ForeignKey;
import org.orderlyferry.model.GenerationRule;
import org.orderlyferry.model.Identity;
import org.orderlyferry.model.IndexDefinition;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.ReferentialAction;
import org.orderlyferry.model.SqlText;

/**
 * The definitions of one table, or of all: the same questions to the catalogue's views, with or without its name. Texts of the old
 * type LONG stand last in a row and are read last, since reading anything behind one loses it.
 */
final class OracleDefinitions extends AskedDefinitions {

    /** Tables of users that hold records of their own: neither a view's, nor parts of other tables, nor gone ones. */
    static final String TABLES = " FROM SYS.ALL_TABLES t JOIN SYS.ALL_USERS u ON u.USERNAME = t.OWNER";

    static final String USERS =
            " WHERE u.ORACLE_MAINTAINED = 'N' AND t.TEMPORARY = 'N' AND t.NESTED = 'NO' AND t.SECONDARY = 'N'"
                    + " AND t.DROPPED = 'NO' AND (t.IOT_TYPE IS NULL OR t.IOT_TYPE = 'IOT') AND t.TABLE_NAME NOT LIKE 'MLOG$\\_%'"
                    + " ESCAPE '\\' AND t.TABLE_NAME NOT LIKE 'RUPD$\\_%' ESCAPE '\\' AND NOT EXISTS (SELECT 1 FROM SYS.ALL_MVIEWS m"
                    + " WHERE m.OWNER = t.OWNER AND m.CONTAINER_NAME = t.TABLE_NAME)";

    static final Tables ALL = new Tables("t.OWNER", "t.TABLE_NAME", TABLES, USERS);

    /** Columns that somebody has made; those that the system makes for its indexes aren't. */
    static final String COLUMNS = " JOIN SYS.ALL_TAB_COLS c ON c.OWNER = t.OWNER AND c.TABLE_NAME = t.TABLE_NAME"
            + " AND c.USER_GENERATED = 'YES'";

    /** What its driver gives as a value: objects aren't, nor are files that lie beside the database. */
    static final String READABLE = "(c.DATA_TYPE_OWNER IS NULL OR c.DATA_TYPE = 'XMLTYPE') AND c.DATA_TYPE <> 'BFILE'";

    private static final Pattern START = Pattern.compile("START WITH: (-?\\d{1,18})\\b");
    private static final Pattern NOT_NULL = Pattern.compile("(?is)\\s*\"[^\"]+\"\\s+IS\\s+NOT\\s+NULL\\s*");
    private static final Pattern COLUMN = Pattern.compile("\\s*\"([^\"]+)\"\\s*");

    private final Map<List<String>, Identity> counters = new HashMap<>();

    OracleDefinitions(CatalogueQuery query, String schema) {
        super(query, ALL, OracleSql.SYSTEM, schema);
    }

    @Override
    protected void ask() throws SQLException {
        each(
                "i.COLUMN_NAME, i.GENERATION_TYPE, i.IDENTITY_OPTIONS, q.INCREMENT_BY, q.LAST_NUMBER",
                " JOIN SYS.ALL_TAB_IDENTITY_COLS i ON i.OWNER = t.OWNER AND i.TABLE_NAME = t.TABLE_NAME"
                        + " JOIN SYS.ALL_SEQUENCES q ON q.SEQUENCE_OWNER = i.OWNER AND q.SEQUENCE_NAME = i.SEQUENCE_NAME",
                "",
                "",
                (draft, row) -> {
                    Matcher start = START.matcher(row.getString(5));
                    long step = row.getLong(6);
                    // a counter that has come to its end says so by a number that may be beyond ours
                    long next = row.getBigDecimal(7)
                            .min(BigDecimal.valueOf(Long.MAX_VALUE))
                            .max(BigDecimal.valueOf(Long.MIN_VALUE))
                            .longValue();
                    counters.put(
                            List.of(row.getString(1), row.getString(2), row.getString(3)),
                            new Identity(
                                    row.getString(4).equals("ALWAYS"),
                                    start.find() ? Long.parseLong(start.group(1)) : 1,
                                    step,
                                    next));
                });
        each(
                "c.COLUMN_NAME, c.DATA_TYPE, c.DATA_LENGTH, c.CHAR_LENGTH, c.DATA_PRECISION, c.DATA_SCALE, c.NULLABLE,"
                        + " c.VIRTUAL_COLUMN, m.COMMENTS, c.DATA_DEFAULT",
                COLUMNS + " LEFT JOIN SYS.ALL_COL_COMMENTS m ON m.OWNER = c.OWNER AND m.TABLE_NAME = c.TABLE_NAME"
                        + " AND m.COLUMN_NAME = c.COLUMN_NAME",
                " AND " + READABLE,
                // a hidden one has no number among those that are shown
                " ORDER BY t.OWNER, t.TABLE_NAME, c.COLUMN_ID NULLS LAST, c.INTERNAL_COLUMN_ID",
                (draft, row) -> draft.column(column(row)));
        each(
                "m.COMMENTS",
                " JOIN SYS.ALL_TAB_COMMENTS m ON m.OWNER = t.OWNER AND m.TABLE_NAME = t.TABLE_NAME",
                "",
                "",
                (draft, row) ->
                        draft.comment(Optional.ofNullable(row.getString(3)).orElse("")));
        constraints();
        indexes();
    }

    private ColumnDefinition column(ResultSet row) throws SQLException {
        String own = own(row);
        LogicalType type = OracleTypes.logical(own);
        boolean nullable = "Y".equals(row.getString(9));
        boolean computed = "YES".equals(row.getString(10));
        String comment = Optional.ofNullable(row.getString(11)).orElse("");
        Identity counter = counters.get(List.of(row.getString(1), row.getString(2), row.getString(3)));
        ColumnDefinition.Builder column = ColumnDefinition.named(row.getString(3), type)
                .nullable(nullable)
                .sourceType(own)
                .comment(comment);
        String value = row.getString(12);
        if (computed && value != null) {
            column.generation(Optional.of(new GenerationRule(new SqlText(value.strip(), OracleSql.SYSTEM), false)));
        } else if (counter != null) {
            column.identity(Optional.of(counter));
        } else if (value != null) {
            column.defaultValue(OracleDefaults.read(value, type));
        }
        return column.build();
    }

    /** A type as CREATE TABLE has it; what a length counts is always told, since a session's setting says it otherwise. */
    private static String own(ResultSet row) throws SQLException {
        String type = row.getString(4);
        int bytes = row.getInt(5);
        int characters = row.getInt(6);
        String precision = row.getString(7);
        String scale = row.getString(8);
        return switch (type) {
            case "NUMBER" ->
                precision == null
                        ? scale == null ? type : type + "(" + OracleTypes.MOST_DIGITS + "," + scale + ")"
                        : type + "(" + precision + (scale == null || scale.equals("0") ? "" : "," + scale) + ")";
            case "FLOAT" -> precision == null ? type : type + "(" + precision + ")";
            case "CHAR", "VARCHAR2" -> type + "(" + characters + " CHAR)";
            case "NCHAR", "NVARCHAR2" -> type + "(" + characters + ")";
            case "RAW" -> type + "(" + bytes + ")";
            default -> type;
        };
    }

    /** A rule's name where a person gave one; whether the system has made it up stands in the row behind it. */
    private static String given(ResultSet row) throws SQLException {
        return "GENERATED NAME".equals(row.getString(4)) ? "" : row.getString(3);
    }

    private void constraints() throws SQLException {
        String rules = " JOIN SYS.ALL_CONSTRAINTS k ON k.OWNER = t.OWNER AND k.TABLE_NAME = t.TABLE_NAME";
        String columns = " JOIN SYS.ALL_CONS_COLUMNS x ON x.OWNER = k.OWNER AND x.CONSTRAINT_NAME = k.CONSTRAINT_NAME";
        String held = " AND k.STATUS = 'ENABLED' AND k.VALIDATED = 'VALIDATED' AND k.CONSTRAINT_TYPE ";
        each(
                "k.CONSTRAINT_NAME, k.GENERATED, k.CONSTRAINT_TYPE, x.COLUMN_NAME",
                rules + columns,
                held + "IN ('P', 'U')",
                " ORDER BY k.CONSTRAINT_NAME, x.POSITION",
                (draft, row) -> {
                    if (row.getString(5).equals("P")) {
                        draft.primary(row.getString(3), given(row), row.getString(6));
                    } else {
                        draft.unique(row.getString(3), given(row), row.getString(6));
                    }
                });
        each(
                "k.CONSTRAINT_NAME, k.GENERATED, x.COLUMN_NAME, r.OWNER, r.TABLE_NAME, r.COLUMN_NAME, k.DELETE_RULE,"
                        + " k.DEFERRABLE, k.DEFERRED",
                rules + columns + " JOIN SYS.ALL_CONS_COLUMNS r ON r.OWNER = k.R_OWNER"
                        + " AND r.CONSTRAINT_NAME = k.R_CONSTRAINT_NAME AND r.POSITION = x.POSITION",
                held + "= 'R'",
                " ORDER BY k.CONSTRAINT_NAME, x.POSITION",
                (draft, row) -> draft.reference(
                        row.getString(3),
                        new ForeignKey(
                                given(row),
                                List.of(row.getString(5)),
                                name(row.getString(6), row.getString(7)),
                                List.of(row.getString(8)),
                                ReferentialAction.NO_ACTION,
                                ReferentialAction.ofSql(row.getString(9)),
                                waits(row.getString(10), row.getString(11)))));
        each(
                "k.CONSTRAINT_NAME, k.GENERATED, k.SEARCH_CONDITION",
                rules,
                held + "= 'C'",
                " ORDER BY k.CONSTRAINT_NAME",
                (draft, row) -> {
                    String name = given(row);
                    String condition = row.getString(5);
                    // that a column can't be null is listed among checks as well
                    if (condition != null && !NOT_NULL.matcher(condition).matches()) {
                        draft.check(new CheckConstraint(name, condition, OracleSql.SYSTEM));
                    }
                });
    }

    private static Deferrability waits(String deferrable, String deferred) {
        return !"DEFERRABLE".equals(deferrable)
                ? Deferrability.NOT_DEFERRABLE
                : "DEFERRED".equals(deferred) ? Deferrability.INITIALLY_DEFERRED : Deferrability.DEFERRABLE;
    }

    /** Those that no key has made; what counts down is an expression to the catalogue, even where it is a column. */
    private void indexes() throws SQLException {
        each(
                "i.INDEX_NAME, i.UNIQUENESS, x.COLUMN_NAME, x.DESCEND, e.COLUMN_EXPRESSION",
                " JOIN SYS.ALL_INDEXES i ON i.TABLE_OWNER = t.OWNER AND i.TABLE_NAME = t.TABLE_NAME"
                        + " JOIN SYS.ALL_IND_COLUMNS x ON x.INDEX_OWNER = i.OWNER AND x.INDEX_NAME = i.INDEX_NAME"
                        + " LEFT JOIN SYS.ALL_IND_EXPRESSIONS e ON e.INDEX_OWNER = i.OWNER AND e.INDEX_NAME = i.INDEX_NAME"
                        + " AND e.COLUMN_POSITION = x.COLUMN_POSITION",
                " AND i.INDEX_TYPE IN ('NORMAL', 'NORMAL/REV', 'FUNCTION-BASED NORMAL') AND i.STATUS <> 'UNUSABLE'"
                        + " AND NOT EXISTS (SELECT 1 FROM SYS.ALL_CONSTRAINTS k WHERE k.OWNER = t.OWNER AND"
                        + " k.TABLE_NAME = t.TABLE_NAME AND k.INDEX_NAME = i.INDEX_NAME AND k.CONSTRAINT_TYPE IN ('P', 'U'))",
                " ORDER BY i.INDEX_NAME, x.COLUMN_POSITION",
                (draft, row) -> {
                    String name = row.getString(3);
                    boolean unique = "UNIQUE".equals(row.getString(4));
                    String column = row.getString(5);
                    boolean down = "DESC".equals(row.getString(6));
                    draft.index(name, unique, part(column, row.getString(7), down), Optional.empty());
                });
    }

    private static IndexDefinition.Part part(String column, String expression, boolean down) {
        if (expression == null) {
            return new IndexDefinition.Part(column, down);
        }
        Matcher bare = COLUMN.matcher(expression);
        return bare.matches()
                ? new IndexDefinition.Part(bare.group(1), down)
                : IndexDefinition.Part.of(new SqlText(expression, OracleSql.SYSTEM), down);
    }
}
