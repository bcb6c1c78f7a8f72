package org.orderlyferry.databases.script;

import java.nio.charset.Charset;
import java.nio.charset.StandardCharsets;
import java.util.Locale;
import java.util.Optional;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.orderlyferry.databases.sql.EncodingNames;
import org.orderlyferry.format.FileSettings;
import org.orderlyferry.problem.UsageException;

/** The encoding that a script says it is in, by the names that systems have for it. */
final class ScriptEncoding {

    private static final Pattern TOLD =
            Pattern.compile("(?i)SET\\s+(?:client_encoding\\s*(?:=|TO)\\s*'([\\w-]+)'|NAMES\\s+'?([\\w-]+)'?)");

    private static final int MARK = 0xFEFF;
    private static final int TURNED_MARK = 0xFFFE;

    private ScriptEncoding() {}

    /** The beginning of a script as text; where it doesn't begin with the mark of UTF-16, each byte is a character. */
    static String text(byte[] head) {
        return new String(head, isMarked(head) ? StandardCharsets.UTF_16 : StandardCharsets.ISO_8859_1);
    }

    /** Whether there is the mark of UTF-16, which SQL Server's own tools write by default. */
    private static boolean isMarked(byte[] head) {
        int first = head.length < 2 ? 0 : (head[0] & 0xFF) << Byte.SIZE | head[1] & 0xFF;
        return first == MARK || first == TURNED_MARK;
    }

    /**
     * The encoding that is told, by a setting or by the script's beginning; UTF-8 where nothing is.
     *
     * @param head the beginning, as text
     * @param backslashes whether it is MariaDB's, whose latin1 is windows-1252
     */
    static Charset of(byte[] bytes, String head, FileSettings settings, boolean backslashes) {
        if (settings.text("encoding").isPresent()) {
            return settings.encoding("encoding", StandardCharsets.UTF_8);
        }
        if (isMarked(bytes)) {
            return StandardCharsets.UTF_16;
        }
        Matcher matcher = TOLD.matcher(head);
        if (!matcher.find()) {
            return StandardCharsets.UTF_8;
        }
        String told =
                Optional.ofNullable(matcher.group(1)).orElse(matcher.group(2)).toUpperCase(Locale.ROOT);
        return EncodingNames.find(backslashes && told.equals("LATIN1") ? "windows-1252" : told)
                .orElseThrow(() -> new UsageException("the script says that it is in " + told
                        + ", which isn't known here; the setting encoding says it"));
    }
}
