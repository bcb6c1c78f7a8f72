package org.orderlyferry.databases.oracle;

import java.util.HexFormat;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.stream.Collectors;
import org.orderlyferry.databases.dialect.DefinitionSql;
import org.orderlyferry.databases.dialect.LiteralPieces;
import org.orderlyferry.databases.dialect.Scripting;
import org.orderlyferry.databases.dialect.TypeWords;
import org.orderlyferry.model.ColumnDefault;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.TableDefinition;

/**
 * Scripts for Oracle, and those that its own tools write. Its shell takes a line of a slash, an empty one, and one that ends in a
 * semicolon or a hyphen for more than a part of a text, and has no long ones: so each value stands on a line of its own,
 * and no text that is written here holds the end of a line.
 */
final class OracleScripting implements Scripting {

    /** Characters of a literal, which may have four bytes each, of which 4,000 are too many. */
    private static final int PIECE = 900;

    private static final int LONGEST_NAME = 128;

    private static final TypeWords WORDS = TypeWords.of(
            "number: numeric, decimal, dec",
            "number(38): integer, int, smallint",
            "float(126): double precision, float",
            "float(63): real",
            "varchar2: varchar, char varying, character varying",
            "nvarchar2: nchar varying, national char varying, national character varying",
            "char: character",
            "nchar: national char, national character",
            "boolean: bool",
            "xmltype: sys.xmltype");

    private final OracleSql system;

    OracleScripting(OracleSql system) {
        this.system = system;
    }

    @Override
    public Batches batches() {
        return Batches.SLASH;
    }

    /** Settings are the shell's; the first error ends the script, and a script that is read in another encoding is one. */
    @Override
    public List<String> opening() {
        return List.of(
                "WHENEVER SQLERROR EXIT FAILURE ROLLBACK",
                "SET DEFINE OFF",
                "SET SQLBLANKLINES ON",
                "PROMPT This script is in UTF-8. Where NLS_LANG says another encoding, it ends at its first statement.",
                "SELECT 1 / CASE WHEN UNISTR('\\00fc') = '\u00fc' THEN 1 ELSE 0 END FROM DUAL");
    }

    /** Definitions end a transaction there, and so does the first that follows on records. */
    @Override
    public List<String> closing() {
        return List.of("COMMIT");
    }

    @Override
    public String separator() {
        return ",\n ";
    }

    @Override
    public int mostRows() {
        return 1;
    }

    /** A schema is a user there, whom no script makes by the way. */
    @Override
    public Optional<String> schema(String quoted) {
        return Optional.empty();
    }

    @Override
    public String folded(String name) {
        return name.toUpperCase(Locale.ROOT);
    }

    @Override
    public String literal(ColumnDefinition column, String value) {
        return literal(column.type(), value);
    }

    static String literal(LogicalType type, String value) {
        return switch (type.name()) {
            case BOOLEAN -> value.equals("true") ? "1" : "0";
            case SMALLINT, INTEGER, BIGINT, DECIMAL -> value;
            case REAL -> floating(value, "FLOAT", "f");
            case DOUBLE -> floating(value, "DOUBLE", "d");
            case DATE -> "DATE '" + value + "'";
            case TIMESTAMP -> "TIMESTAMP '" + value.replace('T', ' ') + "'";
            case TIMESTAMP_WITH_TIME_ZONE ->
                "TIMESTAMP '" + value.replace('T', ' ').replace("Z", " +00:00") + "'";
            default -> string(value, OracleTypes.sql(type).equals("CLOB"));
        };
    }

    private static String floating(String value, String type, String suffix) {
        return switch (value) {
            case "NaN" -> "BINARY_" + type + "_NAN";
            case "INF" -> "BINARY_" + type + "_INFINITY";
            case "-INF" -> "-BINARY_" + type + "_INFINITY";
            default -> value + suffix;
        };
    }

    /**
     * Bytes as a literal.
     *
     * @throws IllegalArgumentException if they are too many for one
     */
    @Override
    public String bytes(byte[] value) {
        return hexadecimal(value);
    }

    static String hexadecimal(byte[] value) {
        if (value.length > OracleTypes.LONGEST_BYTES) {
            throw new IllegalArgumentException(
                    "has " + value.length + " bytes; a script for Oracle can hold 2,000 of one value, and no more");
        }
        return "HEXTORAW('" + HexFormat.of().formatHex(value) + "')";
    }

    /** A text, its control characters by their numbers, in pieces that a literal can hold. */
    static String string(String text, boolean large) {
        List<String> pieces = new LiteralPieces(PIECE, "", DefinitionSql::string, c -> "CHR(" + c + ")").of(text);
        if (pieces.isEmpty()) {
            return DefinitionSql.string(text);
        }
        return pieces.stream()
                .map(p -> large && text.length() > PIECE ? "TO_CLOB(" + p + ")" : p)
                .collect(Collectors.joining(" ||\n  "));
    }

    @Override
    public List<String> references(TableDefinition table) {
        return new DefinitionSql(system).references(table);
    }

    @Override
    public List<String> counter(TableDefinition table, ColumnDefinition column, long next) {
        return List.of("ALTER TABLE " + system.quote(table.name()) + " MODIFY " + system.quote(column.name())
                + " GENERATED " + (column.identity().orElseThrow().always() ? "ALWAYS" : "BY DEFAULT")
                + " AS IDENTITY (START WITH " + next + " INCREMENT BY "
                + column.identity().orElseThrow().increment() + ")");
    }

    @Override
    public List<String> marks() {
        return List.of("for Oracle", "VARCHAR2", "SET DEFINE OFF", "REM INSERTING into", "--  DDL for Table");
    }

    @Override
    public List<String> signs() {
        return List.of(
                "\\bVARCHAR2\\b",
                "\\bNUMBER\\s*\\(",
                "\\bTO_(DATE|TIMESTAMP)\\s*\\(",
                "\\b(CLOB|RAW)\\s*\\(\\s*\\d+\\s+BYTE");
    }

    /** The words of a type, with lengths that say what they count. */
    @Override
    public String ownType(String written) {
        String bare = written.replaceAll("\"([^\"]{1," + LONGEST_NAME + "})\"", "$1")
                .replaceAll("(?i)\\s+(BYTE|CHAR)\\s*\\)", ")");
        return WORDS.own(bare).toUpperCase(Locale.ROOT);
    }

    /** A suffix says of what kind a number is. */
    @Override
    public String number(String written, LogicalType type) {
        return written.replaceFirst("(?<=[0-9.])[dDfF]$", "");
    }

    @Override
    public Optional<ColumnDefault> defaultValue(String sql, LogicalType type) {
        return OracleDefaults.read(sql, type);
    }
}
