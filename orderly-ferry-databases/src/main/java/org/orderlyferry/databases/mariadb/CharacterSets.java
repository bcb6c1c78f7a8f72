package org.orderlyferry.databases.mariadb;

import java.util.Locale;
import java.util.Map;
import java.util.regex.Pattern;

/** MariaDB's character sets, and how texts of theirs are compared if nothing else is said. */
final class CharacterSets {

    /** Those whose default isn't the general one. */
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

    private static final Pattern SHORT = Pattern.compile("^utf8(_|$)");
    private static final Pattern FULL = Pattern.compile("^utf8mb3(_|$)");

    private CharacterSets() {}

    static String collation(String set) {
        String full = full(set);
        return DEFAULTS.getOrDefault(full, full + "_general_ci");
    }

    /**
     * A set or a collation by its full name: servers have called that of three bytes {@code utf8} before they called it
     * {@code utf8mb3}, and their scripts do.
     */
    static String full(String name) {
        return SHORT.matcher(name.toLowerCase(Locale.ROOT)).replaceFirst("utf8mb3$1");
    }

    /** A collation by the name that older servers have for it. */
    static String older(String collation) {
        return FULL.matcher(collation).replaceFirst("utf8$1");
    }

    /** The collation by bytes of the set that another is of. */
    static String binary(String collation) {
        int end = collation.indexOf('_');
        return (end < 0 ? "utf8mb4" : collation.substring(0, end)) + "_bin";
    }
}
