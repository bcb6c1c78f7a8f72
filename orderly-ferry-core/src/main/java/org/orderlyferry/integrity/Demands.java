package org.orderlyferry.integrity;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.BiPredicate;
import java.util.regex.Pattern;
import java.util.stream.IntStream;
import java.util.stream.Stream;
import org.orderlyferry.integrity.Constraint.Columns;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.ForeignKey;
import org.orderlyferry.model.IndexDefinition;
import org.orderlyferry.model.Key;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.Expectation;
import org.orderlyferry.place.LoadMode;
import org.orderlyferry.place.LoadModes;
import org.orderlyferry.place.TargetPlace;
import org.orderlyferry.place.TextForms;
import org.orderlyferry.tally.ComparisonForm;

/**
 * What a target demands of records: the keys and references of tables that are there and stay, and, of those that are
 * made, the ones that would be made.
 */
final class Demands {

    /** Types of texts, in systems that have them, to which case makes no difference. */
    private static final Pattern LOOSE = Pattern.compile("(?i)ignorecase|citext");

    private final TargetPlace target;
    private final LoadModes modes;
    private final Set<TableName> there;
    /** By the tables' names at the target. */
    private final Map<TableName, Coming> coming = new LinkedHashMap<>();

    /**
     * A table on its way.
     *
     * @param source as it is where it comes from
     * @param named the same, with its columns named as the target names them
     * @param rules as it is at the target, or would be
     * @param stays whether its records come to those that are there
     */
    private record Coming(TableDefinition source, TableDefinition named, TableDefinition rules, boolean stays) {

        /** What columns of the target are called where they come from; empty where one of them doesn't come. */
        Optional<List<ColumnDefinition>> atSource(List<String> columns) {
            List<ColumnDefinition> found = new ArrayList<>();
            for (String column : columns) {
                int at = place(String::equals, column);
                at = at < 0 ? place(String::equalsIgnoreCase, column) : at;
                if (at < 0) {
                    return Optional.empty();
                }
                found.add(source.columns().get(at));
            }
            return Optional.of(found);
        }

        private int place(BiPredicate<String, String> same, String column) {
            List<String> names = named.columnNames();
            return IntStream.range(0, names.size())
                    .filter(i -> same.test(names.get(i), column))
                    .findFirst()
                    .orElse(-1);
        }
    }

    private Demands(TargetPlace target, LoadModes modes) {
        this.target = target;
        this.modes = modes;
        this.there = Set.copyOf(target.tables());
    }

    /**
     * What a target demands.
     *
     * @param tables as they come
     * @return nothing where the target keeps no definitions of its own
     */
    static List<Constraint> of(TargetPlace target, LoadModes modes, List<TableDefinition> tables) {
        Optional<Expectation> expected = target.expected(tables);
        return expected.isEmpty()
                ? List.of()
                : new Demands(target, modes).all(tables, expected.get().made());
    }

    private List<Constraint> all(List<TableDefinition> tables, Map<TableName, TableDefinition> made) {
        List<TableDefinition> named = target.named(tables);
        for (int i = 0; i < tables.size(); i++) {
            TableName name = named.get(i).name();
            LoadMode mode = modes.of(tables.get(i).name());
            boolean stays = there.contains(name) && (mode == LoadMode.APPEND || mode == LoadMode.MERGE);
            TableDefinition rules = stays
                    ? target.define(name)
                    : made.getOrDefault(tables.get(i).name(), named.get(i));
            coming.put(name, new Coming(tables.get(i), named.get(i), rules, stays));
        }
        List<Constraint> all = new ArrayList<>();
        for (Coming table : coming.values()) {
            keys(table.rules()).forEach(key -> unique(table, key).ifPresent(all::add));
            table.rules().foreignKeys().forEach(key -> reference(table, key).ifPresent(all::add));
        }
        return all;
    }

    private static List<List<String>> keys(TableDefinition table) {
        return Stream.of(
                        table.primaryKey().stream().map(Key::columns),
                        table.uniqueKeys().stream().map(Key::columns),
                        table.indexes().stream()
                                .filter(Demands::isPlainlyUnique)
                                .map(i -> i.parts().stream()
                                        .map(IndexDefinition.Part::column)
                                        .toList()))
                .flatMap(all -> all)
                .distinct()
                .toList();
    }

    private static boolean isPlainlyUnique(IndexDefinition index) {
        return index.unique()
                && index.predicate().isEmpty()
                && index.own().isEmpty()
                && index.parts().stream().allMatch(p -> p.expression().isEmpty() && p.prefix() == 0);
    }

    private Optional<Constraint> unique(Coming table, List<String> key) {
        return table.atSource(key).flatMap(columns -> forms(columns, columns(table.rules(), key))
                .map(forms -> unique(table, key, columns, forms)));
    }

    private Constraint unique(Coming table, List<String> key, List<ColumnDefinition> columns, Forms forms) {
        // what is merged takes the place of the record with its primary key, whatever that has in other keys
        boolean beside = table.stays() && modes.of(table.source().name()) == LoadMode.APPEND;
        return new Constraint.Unique(
                forms.of(table.source().name(), names(columns)),
                beside ? Optional.of(forms.of(table.rules().name(), key)) : Optional.empty());
    }

    private Optional<Constraint> reference(Coming table, ForeignKey key) {
        Optional<List<ColumnDefinition>> columns = table.atSource(key.columns());
        Coming parent = coming.get(key.target());
        boolean stays = there.contains(key.target()) && (parent == null || parent.stays());
        Optional<List<ColumnDefinition>> referred =
                parent == null ? Optional.empty() : parent.atSource(key.targetColumns());
        if (columns.isEmpty() || !stays && referred.isEmpty() || parent != null && referred.isEmpty()) {
            return Optional.empty();
        }
        TableDefinition held = parent == null ? target.define(key.target()) : parent.rules();
        List<ColumnDefinition> heldColumns = columns(held, key.targetColumns());
        Optional<Forms> forms = forms(columns.get(), heldColumns);
        // what comes of both tables must be in the same forms
        if (forms.isEmpty()
                || parent != null
                        && !forms.map(Forms::values)
                                .equals(forms(referred.get(), heldColumns).map(Forms::values))) {
            return Optional.empty();
        }
        return Optional.of(new Constraint.Reference(
                forms.get().of(table.source().name(), names(columns.get())),
                key.target(),
                referred.map(c -> forms.get().of(parent.source().name(), names(c))),
                stays ? Optional.of(forms.get().of(key.target(), key.targetColumns())) : Optional.empty()));
    }

    private static List<ColumnDefinition> columns(TableDefinition table, List<String> names) {
        return names.stream().map(n -> table.column(n).orElseThrow()).toList();
    }

    private static List<String> names(List<ColumnDefinition> columns) {
        return columns.stream().map(ColumnDefinition::name).toList();
    }

    /** In which forms values are held against others. */
    private record Forms(List<ComparisonForm> values, List<TextForms> texts) {

        Columns of(TableName table, List<String> columns) {
            return new Columns(table, columns, values, texts);
        }
    }

    /**
     * In which forms values that come are held against those that the target has or will have.
     *
     * @return empty where that doesn't tell whether they are equal to the target
     */
    private Optional<Forms> forms(List<ColumnDefinition> coming, List<ColumnDefinition> held) {
        List<ComparisonForm> forms = new ArrayList<>();
        List<TextForms> texts = new ArrayList<>();
        for (int i = 0; i < coming.size(); i++) {
            LogicalType one = coming.get(i).type();
            LogicalType other = held.get(i).type();
            boolean alike = one.name() == other.name()
                    || one.name().isExactNumber() && other.name().isExactNumber()
                    || one.name().isText() && other.name().isText();
            Optional<TextForms> text = texts(held.get(i));
            if (!alike || text.isEmpty()) {
                return Optional.empty();
            }
            forms.add(ComparisonForm.between(one, other));
            texts.add(text.get());
        }
        return Optional.of(new Forms(forms, texts));
    }

    /** Texts that differ may be the same to the target: in letters' case, or in accents. */
    private Optional<TextForms> texts(ColumnDefinition held) {
        return held.collation().isEmpty() && !LOOSE.matcher(held.sourceType()).find()
                ? Optional.of(TextForms.AS_THEY_ARE)
                : target.textForms(held);
    }
}
