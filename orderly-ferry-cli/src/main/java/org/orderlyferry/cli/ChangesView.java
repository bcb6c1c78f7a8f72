package org.orderlyferry.cli;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import org.orderlyferry.crossing.RunResult;
import org.orderlyferry.ledger.LedgerLine;

/** What a catch-up has found to have changed, table by table; of many tables, those in which something has. */
final class ChangesView {

    private static final String CHANGED = "changed ";
    private static final String GONE = "gone ";
    private static final String MERGED = "merged ";
    private static final String NONE = "0";

    private final Console console;

    ChangesView(Console console) {
        this.console = console;
    }

    /** A table's figures, as they are shown. */
    private record Row(String table, String inserted, String updated, String unchanged, String gone) {

        boolean isStill() {
            return inserted.equals(NONE) && updated.equals(NONE) && gone.equals(NONE);
        }
    }

    void show(RunResult result) {
        List<Row> rows = rows(result);
        if (rows.isEmpty()) {
            return;
        }
        boolean fold = rows.size() > ReconcileView.MOST_LISTED;
        List<Row> listed = rows.stream().filter(r -> !fold || !r.isStill()).toList();
        console.line("");
        TextTable table = new TextTable()
                .left("table")
                .right("new")
                .right("changed")
                .right("as they were")
                .right("gone");
        listed.forEach(r -> table.row(r.table(), r.inserted(), r.updated(), r.unchanged(), r.gone()));
        if (!listed.isEmpty()) {
            table.lines(console.style()).forEach(console::line);
        }
        int still = rows.size() - listed.size();
        if (still > 0) {
            String them = listed.isEmpty()
                    ? "nothing has changed in any of " + Amounts.count(still, "table")
                    : "and " + Amounts.count(still, "table") + " in which nothing has changed";
            console.line(console.style().faint("  " + them + "; the report lists them"));
        }
    }

    private static List<Row> rows(RunResult result) {
        Map<String, Row> rows = new TreeMap<>();
        Map<String, String> found = facts(result, LedgerLine.Step.EXPORT);
        found.forEach((fact, told) -> {
            if (fact.startsWith(CHANGED)) {
                String name = fact.substring(CHANGED.length());
                List<String> figures = figures(told);
                rows.put(name, new Row(name, figures.get(0), figures.get(1), figures.get(2), figures.get(3)));
            }
        });
        // where a column tells what has changed, the load finds out what of it is new, and the rest isn't read
        facts(result, LedgerLine.Step.LOAD).forEach((fact, told) -> {
            String name = fact.startsWith(MERGED) ? fact.substring(MERGED.length()) : "";
            if (!name.isEmpty() && !rows.containsKey(name)) {
                List<String> figures = figures(told);
                String gone = found.get(GONE + name);
                rows.put(
                        name,
                        new Row(
                                name,
                                figures.get(0),
                                figures.get(1),
                                "–",
                                gone == null ? "not looked for" : Amounts.count(Long.parseLong(gone))));
            }
        });
        return new ArrayList<>(rows.values());
    }

    private static Map<String, String> facts(RunResult result, LedgerLine.Step step) {
        Map<String, String> facts = new TreeMap<>();
        result.steps().stream()
                .filter(l -> l.what() == step && l.state() == LedgerLine.State.DONE)
                .forEach(l -> facts.putAll(l.facts()));
        return facts;
    }

    /** Those of a sentence such as {@code 3 new, 1 changed, 96 as they were, 0 gone}. */
    private static List<String> figures(String told) {
        List<String> figures = new ArrayList<>();
        for (String part : told.split(", ")) {
            String number = part.split(" ")[0];
            figures.add(Amounts.count(Long.parseLong(number)) + (part.endsWith("and kept") ? " (kept)" : ""));
        }
        return figures;
    }
}
