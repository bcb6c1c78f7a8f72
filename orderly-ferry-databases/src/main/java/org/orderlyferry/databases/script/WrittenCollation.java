package org.orderlyferry.databases.script;

import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TypeName;

/** How texts are compared, as a script says it: of a column, or of a whole table in MariaDB. */
final class WrittenCollation {

    /** What we make columns with there, and says nothing special. */
    private static final String PLAIN = "utf8mb4_nopad_bin";

    /** MariaDB's character sets whose default isn't the general one. */
    private static final Map<String, String> DEFAULTS = Map.ofEntries(
            Map.entry("latin1", "latin1_swedish_ci"),
            Map.entry("dec8", "dec8_swedish_ci"),
            Map.entry("hp8", "hp8_english_ci"),
            Map.entry("swe7", "swe7_swedish_ci"),
            Map.entry("big5", "big5_chinese_ci"),
            Map.entry("gbk", "gbk_chinese_ci"),
            Map.entry("gb2312", "gb2312_chinese_ci"),
            Map.entry("sjis", "sjis_japanese_ci"),
            Map.entry("cp932", "cp932_japanese_ci"),
            Map.entry("ujis", "ujis_japanese_ci"),
            Map.entry("eucjpms", "eucjpms_japanese_ci"),
            Map.entry("euckr", "euckr_korean_ci"),
            Map.entry("tis620", "tis620_thai_ci"),
            Map.entry("binary", "binary"));

    /** Where the default schema's own names need no schema. */
    private static final Set<String> OWN_SCHEMAS = Set.of("pg_catalog", "sys", "public");

    private WrittenCollation() {}

    /** Reads the name behind COLLATE, in the words that the system's own catalogue has for it; empty for what is the default. */
    static String read(Tokens tokens, String system) {
        tokens.skip("=");
        int from = tokens.start();
        List<String> path = tokens.path();
        String written = tokens.text(from, tokens.end(tokens.at())).strip();
        String name = path.get(path.size() - 1);
        return switch (system) {
            case "MariaDB" -> name.toLowerCase(Locale.ROOT);
            case "SQLite" -> name.equalsIgnoreCase("BINARY") ? "" : name.toUpperCase(Locale.ROOT);
            case "PostgreSQL" ->
                name.equals("default")
                        ? ""
                        : path.size() > 1 && OWN_SCHEMAS.contains(path.get(0))
                                ? written.substring(written.indexOf('.') + 1).strip()
                                : written;
            default -> name;
        };
    }

    /** The collation that MariaDB takes for a character set of which no more is said. */
    static String ofSet(Tokens tokens) {
        tokens.skip("=");
        String set = tokens.next().text().toLowerCase(Locale.ROOT);
        String full = set.equals("utf8") ? "utf8mb3" : set;
        return DEFAULTS.getOrDefault(full, full + "_general_ci");
    }

    /** A table of MariaDB's whose texts are compared as it says, but for those that say so themselves. */
    static void ofTable(TableDefinition.Builder table, String collation) {
        table.columns(table.build().columns().stream()
                .map(c -> isCompared(c) ? settled(c, c.collation().isEmpty() ? collation : c.collation()) : c)
                .toList());
    }

    private static ColumnDefinition settled(ColumnDefinition column, String collation) {
        return column.toBuilder()
                .collation(collation.equals(PLAIN) ? "" : collation)
                .build();
    }

    /** Whether it is a text, which has a collation. */
    static boolean isCompared(ColumnDefinition column) {
        return column.type().name().isText() && column.type().name() != TypeName.JSON && !isNumber(column);
    }

    /** What travels as a text since no other system has it. */
    private static boolean isNumber(ColumnDefinition column) {
        String own = column.sourceType();
        return own.startsWith("bit") || own.startsWith("geometry") || own.startsWith("point");
    }
}
