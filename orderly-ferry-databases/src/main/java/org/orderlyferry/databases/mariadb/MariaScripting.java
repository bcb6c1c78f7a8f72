package org.orderlyferry.databases.mariadb;

import java.util.List;
import java.util.Optional;
import java.util.regex.Pattern;
import org.orderlyferry.databases.dialect.DefinitionSql;
import org.orderlyferry.databases.dialect.Scripting;
import org.orderlyferry.databases.dialect.TypeWords;
import org.orderlyferry.model.ColumnDefault;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.TableDefinition;

/** Scripts for MariaDB, and those that its own tools write: a backslash in a string stands for something else. */
final class MariaScripting implements Scripting {

    private static final TypeWords WORDS = TypeWords.of(
            "varchar: character varying, char varying, varcharacter, varchar2, nvarchar, national varchar,"
                    + " national character varying, national char varying, nchar varchar, nchar varying",
            "char: character, nchar, national char, national character",
            "decimal: numeric, dec, fixed, number",
            "tinyint: int1",
            "smallint: int2",
            "mediumint: int3, middleint",
            "int: integer, int4",
            "bigint: int8",
            "bigint unsigned: serial",
            "float: float4",
            "double: double precision, real, float8",
            "longtext: clob",
            "mediumtext: long, long varchar, long varcharacter",
            "mediumblob: long varbinary",
            "varbinary: raw, char byte");

    /** What else travels as a text is no text there. */
    private static final Pattern COMPARED = Pattern.compile("(?:var)?char|(?:tiny|medium|long)?text|enum|set");

    private final MariaDialect dialect;

    MariaScripting(MariaDialect dialect) {
        this.dialect = dialect;
    }

    @Override
    public List<String> opening() {
        return List.of(
                "SET NAMES utf8mb4",
                "SET time_zone = '+00:00'",
                "SET sql_mode = 'STRICT_ALL_TABLES,NO_ENGINE_SUBSTITUTION,NO_AUTO_VALUE_ON_ZERO'",
                "SET foreign_key_checks = 0",
                "START TRANSACTION");
    }

    @Override
    public List<String> closing() {
        return List.of("COMMIT", "SET foreign_key_checks = 1");
    }

    /** Whoever runs the script has the server's usual mode, in which a backslash would take a string's end away. */
    @Override
    public String definition(String sql) {
        StringBuilder text = new StringBuilder();
        char quote = 0;
        for (int i = 0; i < sql.length(); i++) {
            char c = sql.charAt(i);
            if (quote == 0 && (c == '\'' || c == '`')) {
                quote = c;
            } else if (c == quote) {
                // a doubled one ends the quotes and opens them again
                quote = 0;
            } else if (c == '\\' && quote == '\'') {
                text.append(c);
            }
            text.append(c);
        }
        return text.toString();
    }

    @Override
    public String literal(ColumnDefinition column, String value) {
        return switch (column.type().name()) {
            case BOOLEAN -> value.equals("true") ? "1" : "0";
            case SMALLINT, INTEGER, BIGINT, DECIMAL, REAL, DOUBLE -> value;
            case TIMESTAMP, TIMESTAMP_WITH_TIME_ZONE ->
                "'" + value.replace('T', ' ').replace("Z", "") + "'";
            default -> string(value);
        };
    }

    private static String string(String text) {
        StringBuilder literal = new StringBuilder("'");
        for (int i = 0; i < text.length(); i++) {
            char c = text.charAt(i);
            switch (c) {
                case '\'' -> literal.append("''");
                case '\\' -> literal.append("\\\\");
                case '\n' -> literal.append("\\n");
                case '\r' -> literal.append("\\r");
                case 0 -> literal.append("\\0");
                case 26 -> literal.append("\\Z");
                default -> literal.append(c);
            }
        }
        return literal.append('\'').toString();
    }

    @Override
    public List<String> references(TableDefinition table) {
        return new DefinitionSql(dialect).references(table);
    }

    @Override
    public List<String> counter(TableDefinition table, ColumnDefinition column, long next) {
        return List.of("ALTER TABLE " + dialect.quote(table.name()) + " AUTO_INCREMENT = " + Math.max(1, next));
    }

    @Override
    public boolean hasBackslashes() {
        return true;
    }

    @Override
    public boolean countsNulls() {
        return true;
    }

    @Override
    public List<String> marks() {
        return List.of("MariaDB dump", "MySQL dump", "for MariaDB", "ENGINE=InnoDB");
    }

    @Override
    public List<String> signs() {
        return List.of(
                "`\\w+`",
                "\\bAUTO_INCREMENT\\b",
                "\\bENGINE\\s*=",
                "\\b(TINY|MEDIUM|LONG)(INT|TEXT|BLOB)\\b",
                "\\bUNSIGNED\\b",
                "(?<!\\bAS\\s{1,9})\\bENUM\\s*\\(",
                "\\bUNLOCK\\s+TABLES\\b",
                "\\bDEFAULT\\s+(CHARSET|CHARACTER\\s+SET)\\b");
    }

    @Override
    public String ownType(String written) {
        // how its texts compare stands behind a type in old words
        String own = WORDS.own(written).replaceFirst(" (binary|ascii|unicode|byte)$", "");
        if (own.matches("bool(ean)?")) {
            return "tinyint(1)";
        }
        return own.matches("float\\(\\d+\\)") && !TypeWords.isSingle(own) ? "double" : own;
    }

    @Override
    public String collation(List<String> path, String written) {
        return unlessOwn(CharacterSets.full(path.get(path.size() - 1)));
    }

    /** What we make columns with says nothing special. */
    private static String unlessOwn(String collation) {
        return collation.equals(MariaDefinitions.OWN_COLLATION) ? "" : collation;
    }

    @Override
    public String collationOfSet(String set) {
        return CharacterSets.collation(set);
    }

    @Override
    public String binaryCollation(String collation) {
        return CharacterSets.binary(collation);
    }

    @Override
    public boolean isCompared(String ownType) {
        return COMPARED.matcher(ownType).lookingAt();
    }

    @Override
    public Optional<ColumnDefault> defaultValue(String sql, LogicalType type) {
        return MariaDefaults.read(sql, type);
    }
}
