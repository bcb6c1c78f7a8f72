package org.orderlyferry.databases.sqlserver;

import java.util.HexFormat;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import org.orderlyferry.databases.dialect.DefinitionSql;
import org.orderlyferry.databases.dialect.LiteralPieces;
import org.orderlyferry.databases.dialect.Scripting;
import org.orderlyferry.databases.dialect.TypeWords;
import org.orderlyferry.model.ColumnDefault;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.TableDefinition;

/**
 * Scripts for SQL Server, and those that its own tools write. Its shells look for lines and marks of their own in whatever
 * they send, so no text that is written here holds the end of a line, or what begins one of their variables.
 */
final class SqlServerScripting implements Scripting {

    /** A longer literal has a type that is cut off when it is joined to another. */
    private static final int PIECE = 2_000;

    /** What begins a variable of the shells, wherever it stands. */
    static final String VARIABLE = "$(";

    private static final LiteralPieces PIECES =
            new LiteralPieces(PIECE, VARIABLE, p -> "N" + DefinitionSql.string(p), c -> "NCHAR(" + c + ")");

    /** Records that a list of values can hold. */
    private static final int MOST_ROWS = 1_000;

    private static final TypeWords WORDS = TypeWords.of(
            "int: integer",
            "decimal: dec",
            "float: double precision",
            "char: character",
            "varchar: char varying, character varying",
            "nchar: national char, national character",
            "nvarchar: national char varying, national character varying",
            "ntext: national text",
            "varbinary: binary varying",
            "rowversion: timestamp");

    private final SqlServerSql system;

    SqlServerScripting(SqlServerSql system) {
        this.system = system;
    }

    @Override
    public Batches batches() {
        return Batches.GO;
    }

    /**
     * An error takes the transaction back, after which the shells go on with the next batch: what follows is not to be
     * done then. And a shell that takes the script's bytes for another encoding would bring other texts.
     */
    @Override
    public List<String> opening() {
        return List.of(
                "IF LEN(N'\u00fc') <> 1 OR UNICODE(N'\u00fc') <> 252 BEGIN RAISERROR(N'This script is in UTF-8, and is read as something"
                        + " else; sqlcmd takes it with -f 65001.', 16, 1); SET NOEXEC ON; END",
                "SET QUOTED_IDENTIFIER, ANSI_NULLS, ANSI_PADDING, XACT_ABORT ON",
                "BEGIN TRANSACTION");
    }

    @Override
    public List<String> closing() {
        return List.of("COMMIT TRANSACTION", "SET NOEXEC OFF");
    }

    @Override
    public String end(boolean inTransaction) {
        return ";\nGO" + (inTransaction ? "\nIF @@TRANCOUNT = 0 SET NOEXEC ON;\nGO" : "");
    }

    @Override
    public int mostRows() {
        return MOST_ROWS;
    }

    private static boolean counts(TableDefinition table) {
        return table.columns().stream().anyMatch(c -> c.identity().isPresent());
    }

    @Override
    public List<String> beforeRecords(TableDefinition table) {
        return counts(table) ? List.of("SET IDENTITY_INSERT " + system.quote(table.name()) + " ON") : List.of();
    }

    @Override
    public List<String> afterRecords(TableDefinition table) {
        return counts(table) ? List.of("SET IDENTITY_INSERT " + system.quote(table.name()) + " OFF") : List.of();
    }

    @Override
    public Optional<String> schema(String quoted) {
        return Optional.of("IF SCHEMA_ID("
                + parameter(quoted.substring(1, quoted.length() - 1).replace("]]", "]")) + ") IS NULL EXEC("
                + parameter("CREATE SCHEMA " + quoted) + ")");
    }

    @Override
    public String literal(ColumnDefinition column, String value) {
        return literal(column.type(), value);
    }

    static String literal(LogicalType type, String value) {
        return switch (type.name()) {
            case BOOLEAN -> value.equals("true") ? "1" : "0";
            case SMALLINT, INTEGER, BIGINT -> value;
            // numbers of several scales in one list would be brought to one, and rounded
            case DECIMAL, DATE, TIME, UUID -> "'" + value + "'";
            case REAL, DOUBLE -> value.indexOf('E') < 0 ? value + "E0" : value;
            case TIMESTAMP -> "'" + value + "'";
            case TIMESTAMP_WITH_TIME_ZONE -> "'" + value.replace("Z", "+00:00") + "'";
            default -> string(value);
        };
    }

    @Override
    public String bytes(byte[] value) {
        return "0x" + HexFormat.of().formatHex(value);
    }

    /** A text that stands where an expression can. */
    static String string(String text) {
        if (PIECES.isOne(text)) {
            return "N" + DefinitionSql.string(text);
        }
        return (text.length() > PIECE ? "CAST(N'' AS nvarchar(max)) + " : "") + String.join(" + ", PIECES.of(text));
    }

    /** A text as a procedure's argument, which can be no expression. */
    static String parameter(String text) {
        return "N" + DefinitionSql.string(text);
    }

    @Override
    public List<String> references(TableDefinition table) {
        return new DefinitionSql(system).references(table);
    }

    /** The counter goes on from here, whether there are records or not, in which cases the server counts otherwise. */
    @Override
    public List<String> counter(TableDefinition table, ColumnDefinition column, long next) {
        String name = parameter(system.quote(table.name()));
        long last = next - column.identity().orElseThrow().increment();
        return List.of("IF EXISTS (SELECT * FROM " + system.quote(table.name()) + ") DBCC CHECKIDENT (" + name
                + ", RESEED, " + last + ") ELSE DBCC CHECKIDENT (" + name + ", RESEED, " + next + ")");
    }

    @Override
    public List<String> marks() {
        return List.of("for SQL Server", "SET ANSI_NULLS ON", "SET IDENTITY_INSERT", "[dbo].");
    }

    @Override
    public List<String> signs() {
        return List.of(
                "\\[\\w+\\]\\.\\[\\w+\\]",
                "\\bIDENTITY\\s*\\(\\s*\\d+\\s*,",
                "\\b(NVARCHAR|UNIQUEIDENTIFIER|DATETIME2|SMALLDATETIME|ROWVERSION)\\b",
                "^\\s*GO\\s*$",
                "\\[\\w+\\]\\s+\\[\\w+\\]");
    }

    /** The words of a type, without the brackets and the schema that its tools put around them. */
    @Override
    public String ownType(String written) {
        String bare = written.replaceAll("\\[([^\\]]*)\\]", "$1")
                .replaceAll("\"([^\"]*)\"", "$1")
                .replaceFirst("(?i)^(sys|dbo)\\.", "");
        return WORDS.own(bare).toLowerCase(Locale.ROOT);
    }

    @Override
    public Optional<ColumnDefault> defaultValue(String sql, LogicalType type) {
        return SqlServerDefaults.read(sql, type);
    }
}
