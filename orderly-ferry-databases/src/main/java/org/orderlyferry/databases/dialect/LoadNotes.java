package org.orderlyferry.databases.dialect;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.orderlyferry.model.Finding;
import org.orderlyferry.model.FindingCode;
import org.orderlyferry.model.LeftBehind;
import org.orderlyferry.model.TableName;

/** Gathers what a load changes and what it can't take. */
public final class LoadNotes {

    private record Repeated(TableName table, String column, String text) {}

    private final List<Finding> findings = new ArrayList<>();
    private final List<LeftBehind> leftBehind = new ArrayList<>();
    private final Map<Repeated, Long> counts = new LinkedHashMap<>();
    private final Map<Repeated, String> examples = new LinkedHashMap<>();

    /** Something that a person should know about a column. */
    public synchronized void finding(FindingCode code, TableName table, String column, String text) {
        findings.add(new Finding(code, table, column, text));
    }

    /** Something that a person should know about the work. */
    public synchronized void finding(FindingCode code, String text) {
        findings.add(Finding.ofAll(code, text));
    }

    /** Something that happens to single values; it is told once, with how often it happened. */
    public synchronized void value(TableName table, String column, String text) {
        counts.merge(new Repeated(table, column, text), 1L, Long::sum);
    }

    /** Something that happens to single values; it is told once, with how often it happened and the first value. */
    public synchronized void value(TableName table, String column, String example, String text) {
        Repeated what = new Repeated(table, column, text);
        counts.merge(what, 1L, Long::sum);
        examples.putIfAbsent(what, example);
    }

    public synchronized void leftBehind(String kind, String name, String reason) {
        leftBehind.add(new LeftBehind(kind, name, reason));
    }

    /** All findings so far. */
    public synchronized List<Finding> findings() {
        List<Finding> all = new ArrayList<>(findings);
        counts.forEach((what, count) -> {
            String example = examples.get(what);
            String values = count + (count == 1 ? " value" : " values") + (example == null ? "" : ", " + example + ",");
            all.add(new Finding(FindingCode.VALUE_CHANGED, what.table(), what.column(), values + " " + what.text()));
        });
        return all;
    }

    /** All that the system can't take, so far. */
    public synchronized List<LeftBehind> leftBehind() {
        return List.copyOf(leftBehind);
    }
}
