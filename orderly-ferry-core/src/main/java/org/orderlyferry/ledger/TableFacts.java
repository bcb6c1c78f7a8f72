package org.orderlyferry.ledger;

import java.util.Collection;
import java.util.List;
import java.util.stream.Collectors;
import org.apiguardian.api.API;
import org.orderlyferry.model.TableName;

/**
 * Tables in the facts of a ledger's lines: no two have the same name there. Several stand one a line, and an end of a line
 * within a name as a backslash with a letter, as in JSON.
 */
@API(status = API.Status.INTERNAL)
public final class TableFacts {

    private TableFacts() {}

    /** The fact that is told of one table. */
    public static String of(String fact, TableName table) {
        return fact + table.text();
    }

    /** The fact that lists tables. */
    public static String names(Collection<TableName> tables) {
        return tables.stream()
                .map(t -> t.text().replace("\\", "\\\\").replace("\n", "\\n").replace("\r", "\\r"))
                .collect(Collectors.joining("\n"));
    }

    /** Those that {@link #names} lists. */
    public static List<TableName> named(String names) {
        return names.lines().map(TableFacts::unescaped).map(TableName::parse).toList();
    }

    private static String unescaped(String line) {
        StringBuilder text = new StringBuilder();
        for (int i = 0; i < line.length(); i++) {
            char c = line.charAt(i);
            if (c == '\\' && i + 1 < line.length()) {
                c = switch (line.charAt(++i)) {
                    case 'n' -> '\n';
                    case 'r' -> '\r';
                    default -> line.charAt(i);
                };
            }
            text.append(c);
        }
        return text.toString();
    }
}
