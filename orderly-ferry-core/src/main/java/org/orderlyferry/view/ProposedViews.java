package org.orderlyferry.view;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Collectors;
import org.orderlyferry.model.LeftBehind;
import org.orderlyferry.place.DocumentView;
import org.orderlyferry.place.TargetPlace;
import org.orderlyferry.place.ViewColumn;
import org.orderlyferry.place.ViewStatements;
import org.orderlyferry.problem.PlaceException;

/** Views as they are proposed for a target, before its tables are loaded. Immutable. */
public final class ProposedViews {

    /** So many columns are counted by one query. */
    private static final int AT_ONCE = 100;

    private static final int MOST_NAMED = 5;
    private static final int LONGEST_REASON = 500;

    private final List<Proposed> all;

    ProposedViews(List<Proposed> all) {
        this.all = List.copyOf(all);
    }

    /** A view, and what it doesn't show. */
    record Proposed(DocumentView view, List<LeftBehind> leftBehind) {}

    /** The views. */
    public List<DocumentView> views() {
        return all.stream().map(Proposed::view).toList();
    }

    /** The statements that make the views. Nothing is changed. */
    public List<ViewStatements> statements(TargetPlace target) {
        return views().stream().map(target::statements).toList();
    }

    /**
     * Makes the views over tables that are loaded. Each column's values are counted through the very expression that shows them,
     * before its view is made: a column that shows another number of values than the source has, or that can't be read, is left out
     * and told. What can't be made is told, too, and is no error: the tables are there.
     *
     * @param whole whether all records of the source, and no others, are in the target's tables
     */
    public List<MadeView> make(TargetPlace target, boolean whole) {
        return all.stream().map(p -> make(target, p, whole)).toList();
    }

    private static MadeView make(TargetPlace target, Proposed proposed, boolean whole) {
        List<LeftBehind> left = new ArrayList<>(proposed.leftBehind());
        ViewStatements first = target.statements(proposed.view());
        Map<String, List<ViewColumn>> unshown = new LinkedHashMap<>();
        first.leftOut().forEach(c -> add(unshown, "no path of that name can be written in " + target.system(), c));
        List<ViewColumn> shown = new ArrayList<>();
        List<ViewColumn> all = first.view().columns();
        for (int i = 0; i < all.size(); i += AT_ONCE) {
            List<ViewColumn> some = all.subList(i, Math.min(all.size(), i + AT_ONCE));
            if (wrong(target, first.view(), some, whole).isEmpty()) {
                shown.addAll(some);
            } else {
                some.forEach(c -> wrong(target, first.view(), List.of(c), whole)
                        .ifPresentOrElse(r -> add(unshown, r, c), () -> shown.add(c)));
            }
        }
        unshown.forEach((reason, columns) -> left.add(missing(first.view(), columns, reason)));
        DocumentView view = first.view().with(shown);
        if (shown.isEmpty()) {
            left.add(new LeftBehind("view", view.name().toString(), "nothing of the documents can be shown"));
            return new MadeView(view, false, false, left);
        }
        try {
            target.execute(target.statements(view).create());
            return new MadeView(view, true, whole, left);
        } catch (PlaceException e) {
            left.add(new LeftBehind("view", view.name().toString(), "can't be made: " + said(e)));
            return new MadeView(view, false, false, left);
        }
    }

    /** What is wrong with columns as the target shows them; empty for nothing. */
    private static Optional<String> wrong(
            TargetPlace target, DocumentView view, List<ViewColumn> columns, boolean whole) {
        List<Long> counts;
        try {
            counts = target.count(view.with(columns));
        } catch (PlaceException e) {
            return Optional.of("can't be read: " + said(e));
        }
        for (int i = 0; whole && i < columns.size(); i++) {
            if (counts.get(i) != columns.get(i).values()) {
                return Optional.of("shows " + counts.get(i) + " values of "
                        + columns.get(i).values());
            }
        }
        return Optional.empty();
    }

    private static void add(Map<String, List<ViewColumn>> unshown, String reason, ViewColumn column) {
        unshown.computeIfAbsent(reason, r -> new ArrayList<>()).add(column);
    }

    /** Columns that aren't shown for one reason: where there are many, the first of them by name. */
    private static LeftBehind missing(DocumentView view, List<ViewColumn> columns, String reason) {
        String named = columns.stream().limit(MOST_NAMED).map(ViewColumn::name).collect(Collectors.joining(", "));
        int more = columns.size() - MOST_NAMED;
        return new LeftBehind(
                columns.size() == 1 ? "column" : "columns",
                view.name() + "." + named + (more > 0 ? " and " + more + " more" : ""),
                reason);
    }

    /** What the database says; a statement of a thousand columns isn't for people. */
    private static String said(PlaceException e) {
        String said = e.getCause() == null
                ? e.getMessage()
                : String.valueOf(e.getCause().getMessage());
        return said.length() > LONGEST_REASON ? said.substring(0, LONGEST_REASON) + "…" : said;
    }
}
