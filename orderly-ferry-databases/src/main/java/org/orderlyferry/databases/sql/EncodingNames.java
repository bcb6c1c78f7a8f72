package org.orderlyferry.databases.sql;

import java.nio.charset.Charset;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;

/** Character encodings by the names that systems have for them. */
public final class EncodingNames {

    /** Systems' names that Java doesn't have. */
    private static final Map<String, String> NAMES = Map.ofEntries(
            Map.entry("UTF8MB4", "UTF-8"),
            Map.entry("UTF8MB3", "UTF-8"),
            Map.entry("UTF8", "UTF-8"),
            Map.entry("SQL_ASCII", "UTF-8"),
            Map.entry("LATIN1", "ISO-8859-1"),
            Map.entry("LATIN2", "ISO-8859-2"),
            Map.entry("LATIN3", "ISO-8859-3"),
            Map.entry("LATIN4", "ISO-8859-4"),
            Map.entry("LATIN5", "ISO-8859-9"),
            Map.entry("LATIN7", "ISO-8859-13"),
            Map.entry("LATIN9", "ISO-8859-15"),
            Map.entry("LATIN10", "ISO-8859-16"),
            Map.entry("ISO_8859_5", "ISO-8859-5"),
            Map.entry("ISO_8859_6", "ISO-8859-6"),
            Map.entry("ISO_8859_7", "ISO-8859-7"),
            Map.entry("ISO_8859_8", "ISO-8859-8"),
            Map.entry("WIN866", "IBM866"),
            Map.entry("WIN874", "x-windows-874"),
            Map.entry("WIN1250", "windows-1250"),
            Map.entry("WIN1251", "windows-1251"),
            Map.entry("WIN1252", "windows-1252"),
            Map.entry("WIN1253", "windows-1253"),
            Map.entry("WIN1254", "windows-1254"),
            Map.entry("WIN1255", "windows-1255"),
            Map.entry("WIN1256", "windows-1256"),
            Map.entry("WIN1257", "windows-1257"),
            Map.entry("WIN1258", "windows-1258"),
            Map.entry("CP1250", "windows-1250"),
            Map.entry("CP1251", "windows-1251"),
            Map.entry("EUC_CN", "GB2312"),
            Map.entry("EUC_JP", "EUC-JP"),
            Map.entry("EUC_KR", "EUC-KR"),
            Map.entry("UHC", "x-windows-949"),
            Map.entry("KOI8R", "KOI8-R"),
            Map.entry("KOI8U", "KOI8-U"));

    private EncodingNames() {}

    /** The encoding of a system's name, in whatever case; nothing where Java has none. */
    public static Optional<Charset> find(String name) {
        String told = name.toUpperCase(Locale.ROOT);
        String java = NAMES.getOrDefault(told, told);
        return Charset.isSupported(java) ? Optional.of(Charset.forName(java)) : Optional.empty();
    }
}
