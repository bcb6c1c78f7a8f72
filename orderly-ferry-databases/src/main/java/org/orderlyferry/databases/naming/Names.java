package org.orderlyferry.databases.naming;

import java.nio.charset.StandardCharsets;
import java.util.Locale;
import org.orderlyferry.databases.dialect.NamingRules;
import org.orderlyferry.model.FreeNames;

/**
 * Gives out names of one kind, each once. A character that can't stand in a name, or at its end, becomes {@code _}; a name that is too
 * long is cut; one that is taken gets {@code _2}, {@code _3} … at its end.
 */
final class Names {

    private final NamingRules rules;
    private final FreeNames free;

    Names(NamingRules rules) {
        this.rules = rules;
        this.free = new FreeNames(this::compared);
    }

    /** Keeps a name from being given out. */
    void take(String name) {
        free.take(name);
    }

    String give(String wanted) {
        StringBuilder allowed = new StringBuilder();
        wanted.codePoints().map(c -> rules.allowed().test(c) ? c : '_').forEach(allowed::appendCodePoint);
        if (rules.endsWrong(wanted)) {
            allowed.setCharAt(allowed.length() - 1, '_');
        }
        String never = rules.never();
        String whole =
                never.isEmpty() ? allowed.toString() : allowed.toString().replace(never, "_" + never.substring(1));
        return free.give(cut(whole, 0), number -> {
            String ending = "_" + number;
            return cut(whole, ending.length()) + ending;
        });
    }

    private String compared(String name) {
        return rules.caseMatters() ? name : name.toLowerCase(Locale.ROOT);
    }

    private String cut(String name, int room) {
        if (rules.longest() == 0) {
            return name;
        }
        StringBuilder kept = new StringBuilder();
        int used = room;
        for (int point : name.codePoints().toArray()) {
            String character = Character.toString(point);
            used += rules.unit() == NamingRules.Unit.BYTES ? character.getBytes(StandardCharsets.UTF_8).length : 1;
            if (used > rules.longest()) {
                break;
            }
            kept.append(character);
        }
        return kept.toString();
    }
}
