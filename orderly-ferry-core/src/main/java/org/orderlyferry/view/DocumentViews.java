package org.orderlyferry.view;

import java.util.ArrayList;
import java.util.HashSet;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;
import org.apache.commons.text.similarity.LevenshteinDistance;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.LeftBehind;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;
import org.orderlyferry.model.TypeName;
import org.orderlyferry.place.DocumentView;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.Slice;
import org.orderlyferry.place.TableChoice;
import org.orderlyferry.place.TargetPlace;
import org.orderlyferry.place.ViewColumn;
import org.orderlyferry.problem.UsageException;
import org.orderlyferry.progress.StopSignal;
import org.orderlyferry.record.RecordBatch;
import org.orderlyferry.record.RecordReader;

/**
 * Views over tables that hold documents as JSON: for each of them one, {@code TABLE_fields}, that shows the table's other columns as
 * they are and what stands at paths inside of the documents as columns, named by the path ({@code place.hall}) and of the narrowest
 * type that has all values. The source is read once to find paths and types. Not safe for use by several threads.
 *
 * <pre>{@code
 * ProposedViews views = DocumentViews.over(set).propose(target);
 * Load.from(set).into(target);
 * List<MadeView> made = views.make(target, true);
 * }</pre>
 */
public final class DocumentViews {

    private static final String NAME_ENDING = "_fields";

    private final Place source;
    private final Set<String> wanted = new LinkedHashSet<>();
    private List<String> patterns = List.of();
    private StopSignal stop = new StopSignal();

    private DocumentViews(Place source) {
        this.source = source;
    }

    /** Views over all of a place's tables that have a column of JSON, once they are loaded elsewhere. */
    public static DocumentViews over(Place source) {
        return new DocumentViews(source);
    }

    /** Only over these tables; {@code *} in a name stands for any characters. */
    public DocumentViews tables(String... names) {
        patterns = List.of(names);
        return this;
    }

    /** Only these paths, as {@code place.hall}; all where none is named. */
    public DocumentViews paths(List<String> paths) {
        wanted.clear();
        wanted.addAll(paths);
        return this;
    }

    /** Stops the reading. */
    public DocumentViews stopSignal(StopSignal value) {
        stop = value;
        return this;
    }

    /**
     * Reads the documents, and says which views there would be. Nothing is changed.
     *
     * @throws UsageException if there are no documents, a path isn't found in them, or the target has a table of a view's name, or no
     *     such views at all
     */
    public ProposedViews propose(TargetPlace target) {
        List<ProposedViews.Proposed> all = proposed(target);
        List<TableName> there = target.tables();
        for (ProposedViews.Proposed one : all) {
            if (there.contains(one.view().name())) {
                throw new UsageException("the view " + one.view().name() + " can't be made: " + target.address()
                        + " has a table of that name");
            }
        }
        ProposedViews views = new ProposedViews(all);
        try {
            views.statements(target);
        } catch (UnsupportedOperationException e) {
            throw new UsageException("no views can be made in " + target.address() + ": " + e.getMessage());
        }
        return views;
    }

    private List<ProposedViews.Proposed> proposed(TargetPlace target) {
        List<TableDefinition> tables =
                source.tables().stream().map(source::define).toList();
        List<TableDefinition> named = target.named(tables);
        List<TableName> chosen = TableChoice.of(source, patterns);
        Found found = new Found(wanted);
        List<ProposedViews.Proposed> all = new ArrayList<>();
        for (int i = 0; i < tables.size(); i++) {
            Held held = new Held(tables.get(i), named.get(i));
            if (chosen.contains(held.table().name()) && !held.documents().isEmpty()) {
                proposed(held, target, found).ifPresent(all::add);
            }
        }
        found.missing().ifPresent(m -> {
            throw new UsageException("no document in " + source.address() + " has a value at " + m);
        });
        if (all.isEmpty()) {
            throw new UsageException("no table of " + source.address() + " has documents in a column of JSON");
        }
        return all;
    }

    private List<PathSurvey> surveys(Held held) {
        List<String> documents = held.documents();
        List<PathSurvey> surveys =
                documents.stream().map(d -> new PathSurvey(source.address())).toList();
        try (RecordReader reader = source.read(new Slice(held.table().name(), documents))) {
            RecordBatch batch = new RecordBatch();
            while (reader.read(batch)) {
                stop.check();
                for (int row = 0; row < batch.rows(); row++) {
                    for (int column = 0; column < documents.size(); column++) {
                        if (!batch.isNull(row, column)) {
                            surveys.get(column).add(batch.bytes(), batch.start(row, column), batch.end(row, column));
                        }
                    }
                }
            }
        }
        return surveys;
    }

    private Optional<ProposedViews.Proposed> proposed(Held held, TargetPlace target, Found found) {
        List<LeftBehind> left = new ArrayList<>();
        List<ViewColumn> columns = new ArrayList<>();
        Set<String> taken = new HashSet<>(held.plain());
        List<PathSurvey> surveys = surveys(held);
        for (int i = 0; i < surveys.size(); i++) {
            String document = held.documents().get(i);
            String at = held.named(document);
            surveys.get(i).forEach((path, stats) -> {
                String name = String.join(".", path);
                if (found.isWanted(name)) {
                    String free = name;
                    while (!taken.add(free)) {
                        free = document + "." + free;
                    }
                    columns.add(new ViewColumn(
                            free, at, path, stats.type(), stats.wrappers(), stats.isPlain(), stats.values()));
                }
            });
            if (surveys.get(i).isCut()) {
                left.add(new LeftBehind(
                        "paths",
                        held.table().name() + "." + document,
                        "there are more than " + PathSurvey.MOST_PATHS + "; those are looked at that came first"));
            }
        }
        List<String> pathless = held.documents().stream()
                .filter(d -> surveys.get(held.documents().indexOf(d)).isEmpty())
                .toList();
        return columns.isEmpty()
                ? Optional.empty()
                : Optional.of(new ProposedViews.Proposed(view(held, columns, pathless, target), left));
    }

    /** The view with names that the target takes. */
    private static DocumentView view(Held held, List<ViewColumn> columns, List<String> pathless, TargetPlace target) {
        TableName of = held.table().name();
        TableDefinition.Builder shape = TableDefinition.named(new TableName(of.schema(), of.name() + NAME_ENDING));
        columns.forEach(c -> shape.column(ColumnDefinition.of(c.name(), c.type())));
        TableDefinition shown = target.named(List.of(shape.build())).get(0);
        List<ViewColumn> renamed = new ArrayList<>();
        for (int i = 0; i < columns.size(); i++) {
            renamed.add(columns.get(i).named(shown.columns().get(i).name()));
        }
        TableName name =
                new TableName(held.named().name().schema(), shown.name().name());
        // what has nothing inside, such as lists, is shown as it is
        List<String> plain = held.table().columnNames().stream()
                .filter(c -> held.plain().contains(c) || pathless.contains(c))
                .map(held::named)
                .toList();
        return new DocumentView(name, held.named().name(), plain, renamed);
    }

    /** A table that has documents in it, and what it is called at the target. */
    private record Held(TableDefinition table, TableDefinition named) {

        private List<String> columns(boolean documents) {
            return table.columns().stream()
                    .filter(c -> c.type().name() == TypeName.JSON == documents)
                    .map(ColumnDefinition::name)
                    .toList();
        }

        List<String> documents() {
            return columns(true);
        }

        List<String> plain() {
            return columns(false);
        }

        String named(String column) {
            return named.columns().get(table.columnNames().indexOf(column)).name();
        }
    }

    /** Which paths there are, of those that were asked for. */
    private static final class Found {

        private final Set<String> wanted;
        private final Set<String> missing;
        private final Set<String> all = new TreeSet<>();

        Found(Set<String> wanted) {
            this.wanted = wanted;
            this.missing = new LinkedHashSet<>(wanted);
        }

        boolean isWanted(String path) {
            all.add(path);
            missing.remove(path);
            return wanted.isEmpty() || wanted.contains(path);
        }

        /** Says of a path that there is none. */
        Optional<String> missing() {
            LevenshteinDistance distance = LevenshteinDistance.getDefaultInstance();
            return missing.stream()
                    .findFirst()
                    .map(m -> m
                            + all.stream()
                                    .min((a, b) -> Integer.compare(distance.apply(a, m), distance.apply(b, m)))
                                    .map(n -> "; the nearest path is " + n)
                                    .orElse(""));
        }
    }
}
