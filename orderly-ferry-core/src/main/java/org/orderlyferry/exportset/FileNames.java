package org.orderlyferry.exportset;

import java.text.Normalizer;
import java.util.Locale;
import org.orderlyferry.model.FreeNames;
import org.orderlyferry.model.TableName;

/**
 * Gives each table a file name of its own that every file system takes: letters and digits of any script stay, all else
 * becomes {@code _}, and names that differ only in case get a number.
 */
final class FileNames {

    private static final int LONGEST = 100;

    private final FreeNames free = new FreeNames(n -> n.toLowerCase(Locale.ROOT));

    /** A name for one of several files of a table, once all tables have names: no other table's, and always the same. */
    String part(String base, int number) {
        String name = String.format(Locale.ROOT, "%s-%04d", base, number);
        while (free.isTaken(name)) {
            name += "-";
        }
        return name;
    }

    String of(TableName table) {
        StringBuilder safe = new StringBuilder();
        Normalizer.normalize(table.toString(), Normalizer.Form.NFC)
                .codePoints()
                .limit(LONGEST)
                .map(c -> Character.isLetterOrDigit(c) || c == '-' || c == '.' ? c : '_')
                .forEach(safe::appendCodePoint);
        if (safe.charAt(0) == '.') {
            safe.setCharAt(0, '_');
        }
        return free.give(safe.toString(), number -> safe + "-" + number);
    }
}
