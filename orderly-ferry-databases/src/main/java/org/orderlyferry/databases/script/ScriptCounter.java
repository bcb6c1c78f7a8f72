package org.orderlyferry.databases.script;

import java.math.BigInteger;
import java.util.HashMap;
import java.util.Map;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.Identity;
import org.orderlyferry.model.TableDefinition;

/**
 * Counts, for one column, what a script's statements leave to the table's counter, as the server would: from the first
 * value on, and past whatever was given. Not safe for use by several threads.
 */
final class ScriptCounter {

    private final Identity identity;
    private BigInteger last;

    private ScriptCounter(Identity identity) {
        this.identity = identity;
    }

    /** The counters of a table's columns, by their names. */
    static Map<String, ScriptCounter> of(TableDefinition table) {
        Map<String, ScriptCounter> counters = new HashMap<>();
        for (ColumnDefinition column : table.columns()) {
            column.identity().ifPresent(i -> counters.put(column.name(), new ScriptCounter(i)));
        }
        return counters;
    }

    /** The value of a record that has none. */
    String next() {
        last = last == null ? BigInteger.valueOf(identity.start()) : last.add(BigInteger.valueOf(identity.increment()));
        return last.toString();
    }

    /** Takes a value that a record has; what is no whole number counts nothing. */
    void given(String text) {
        if (text.length() <= 20 && text.matches("-?\\d+")) {
            BigInteger value = new BigInteger(text);
            boolean further = last == null || value.compareTo(last) * Long.signum(identity.increment()) > 0;
            last = further ? value : last;
        }
    }
}
