package org.orderlyferry.cli;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.orderlyferry.model.Finding;
import org.orderlyferry.model.LeftBehind;

/**
 * A list of things under a heading. What is said of many tables or columns in the same words is said once, with the names of
 * all that it is true of: of a database with thousands of tables nobody reads thousands of sentences, and the one that
 * matters would be among them.
 */
final class Notes {

    /** From how many on they are said together: two stand side by side as well as in one line. */
    private static final int MANY = 3;

    /** How many names a person may look through; machines have them all. */
    private static final int NAMES = 50;

    /** How many characters are shown of one: expressions can be of any length, and --json has all of them. */
    private static final int LONGEST = 1_000;

    private final List<String> first = new ArrayList<>();
    private final List<String> names = new ArrayList<>();

    private Notes() {}

    /** Shows them on a console; nothing where there are none. */
    static void show(Console console, String heading, List<?> things) {
        if (things.isEmpty()) {
            return;
        }
        console.line("");
        console.line(console.style().warning(heading + " (" + Amounts.count(things.size()) + ")"));
        Map<Object, Notes> alike = new LinkedHashMap<>();
        for (Object thing : things) {
            alike.computeIfAbsent(said(thing), said -> new Notes()).add(thing);
        }
        alike.values().forEach(notes -> notes.show(console));
    }

    /** What is said, without what it is said of; whatever isn't said of a name is alike with nothing. */
    private static Object said(Object thing) {
        if (thing instanceof Finding finding) {
            return List.of(finding.code(), finding.text());
        }
        return thing instanceof LeftBehind left ? List.of(left.kind(), left.reason()) : new Object();
    }

    private static String name(Object thing) {
        if (thing instanceof Finding finding) {
            return finding.column().isEmpty() ? finding.table().toString() : finding.table() + "." + finding.column();
        }
        return thing instanceof LeftBehind left ? left.name() : "";
    }

    private void add(Object thing) {
        if (first.size() < MANY) {
            first.add(shortened(thing.toString()));
        }
        names.add(name(thing));
    }

    private static String shortened(String text) {
        return text.length() <= LONGEST
                ? text
                : text.substring(0, text.offsetByCodePoints(0, LONGEST / 2)) + " … and "
                        + Amounts.count(text.codePointCount(0, text.length()) - LONGEST / 2)
                        + " characters more; --json has all of it";
    }

    private void show(Console console) {
        if (names.size() < MANY) {
            first.forEach(text -> console.wrapped("  ", text));
            return;
        }
        console.wrapped("  ", first.get(0));
        int more = names.size() - 1;
        List<String> shown = names.subList(1, 1 + Math.min(more, NAMES));
        String rest = more > NAMES ? " … and " + Amounts.count(more - NAMES) + " others; --json names each" : "";
        console.wrapped("    ", "the same of " + Amounts.count(more) + " more: " + String.join(", ", shown) + rest);
    }
}
